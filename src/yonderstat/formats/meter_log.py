"""Records of chargers, monitors and shunts: columns in any order, guessed by heading, shown first,
read in pieces."""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime, tzinfo
from io import BytesIO
from typing import BinaryIO

import numpy as np
import pandas as pd
from numpy.typing import NDArray

from yonderstat.core.log import CHANNELS, Record
from yonderstat.core.words import counted

from .meter_files import MeterFile, MeterLogError, open_meter_file
from .meter_headings import CLOCK, DATE, MOMENT, NET, guessed
from .meter_times import ORDERS, Writing, both_readings, moments_of, writing_of
from .sheets import SheetError

SHOWN_ROWS = 5
BACK_S = 3700
"""A clock may be put back by an hour; further back is a fault."""
GAP_S = 2 * 3600
RECORD_LIMITS: dict[str, tuple[float, float, str]] = {
    "volts": (0.0, 1000.0, "volts"),
    "charge_a": (-2000.0, 2000.0, "amps"),
    "load_a": (-2000.0, 2000.0, "amps"),
    "charge_share": (0.0, 1.001, "a share"),
    "box_c": (-70.0, 120.0, "degrees"),
}
READ_AS = {NET: "charge_a"}
"""Whose limits a column has that is no channel itself."""
KINDS = (MOMENT, DATE, CLOCK, NET, *CHANNELS)
"""What a column can be."""
UNITS = {"mv": 1e-3, "ma": 1e-3, "%": 1e-2}
GoOn = Callable[[float], bool]
"""Told the rows read; it answers whether to go on."""


class StoppedError(RuntimeError):
    """Reading was stopped from outside."""


@dataclass(frozen=True, slots=True)
class MeterColumn:
    """A column of the file: what it is called, and what it is taken for; nothing where it is left
    out."""

    heading: str
    taken_for: str | None


@dataclass(frozen=True, slots=True)
class MeterPreview:
    """A file looked at: its columns as guessed, its first rows, and what stands in the way."""

    columns: tuple[MeterColumn, ...]
    rows: tuple[tuple[str, ...], ...]
    total: int
    trouble: str
    dates: tuple[str, ...] = ()
    """Where the dates can be read two ways, both: with the day first, and with the month first."""


@dataclass(frozen=True, slots=True)
class MeterTable:
    """A record read: times in UTC and the channels it has, and what was noticed on the way."""

    frame: pd.DataFrame
    notes: tuple[str, ...]

    @property
    def rows(self) -> int:
        """How many."""
        return len(self.frame)

    def record(self, zone: tzinfo) -> Record:
        """As the fit reads it, by the site's own clock."""
        local = self.frame["at"].dt.tz_convert(zone).dt.tz_localize(None).astype("datetime64[s]")
        columns = {
            name: self.frame[name].to_numpy(dtype=float) for name in ("volts", "charge_a", "load_a")
        }
        known = {
            name: values if np.isfinite(values).any() else None for name, values in columns.items()
        }
        return Record(local.astype("int64").to_numpy(dtype=float), **known)

    def columns(self) -> NDArray[np.float64]:
        """Seconds since 1970 and the channels, a row a moment; NaN where nothing was read."""
        at_s = self.frame["at"].dt.as_unit("ms").astype("int64").to_numpy() / 1000.0
        return np.column_stack(
            [at_s, *(self.frame[name].to_numpy(dtype=float) for name in CHANNELS)]
        )


def preview(name: str, data: bytes) -> MeterPreview:
    """A file, or its beginning, looked at before it is brought in.

    Raises
    ------
    MeterLogError
        Where it is no table.
    """
    opened = open_meter_file(name, BytesIO(data))
    taken = guessed(opened.heading)
    columns = tuple(
        MeterColumn(cell, what) for cell, what in zip(opened.heading, taken, strict=True)
    )
    _, frame = next(opened.pieces(), (2, pd.DataFrame(columns=range(len(taken)))))
    shown = tuple(
        tuple(str(cell)[:60] for cell in row) for row in frame.head(SHOWN_ROWS).to_numpy()
    )
    trouble = ""
    dates: tuple[str, ...] = ()
    if MOMENT not in taken and not {DATE, CLOCK} <= set(taken):
        trouble = "We couldn't find the time column. Choose it below."
    elif not set(taken) & {*CHANNELS, NET}:
        trouble = "We couldn't find a volts or amps column. Choose one below."
    else:
        # The last row of a beginning may be cut short.
        texts = _moment_texts(frame.iloc[: max(len(frame) - 1, 1)], taken)
        try:
            writing = writing_of([(2, texts)])
        except MeterLogError as error:
            trouble = str(error)
        else:
            if writing.kind == "written" and not writing.order:
                dates = both_readings(writing.example)
    return MeterPreview(columns, shown, len(frame), trouble, dates)


def _moment_texts(frame: pd.DataFrame, taken: list[str | None]) -> pd.Series:
    """The column of moments; the day and the time of day together where they stand apart."""
    if MOMENT in taken:
        return frame[taken.index(MOMENT)]
    day, clock = frame[taken.index(DATE)].str.strip(), frame[taken.index(CLOCK)].str.strip()
    # A spreadsheet keeps a day as its midnight.
    return day.str.replace(r" 00:00:00$", "", regex=True) + " " + clock


def _as_texts(texts: pd.Series) -> pd.Series:
    """Figures as our own: a decimal comma, signs for thousands, a unit behind."""
    plain = texts.str.strip()
    has_comma, has_dot = plain.str.contains(",", regex=False), plain.str.contains(".", regex=False)
    if (has_comma & has_dot).any():
        both = plain[has_comma & has_dot].iloc[0]
        comma_last = both.rfind(",") > both.rfind(".")
        plain = plain.str.replace("." if comma_last else ",", "", regex=False)
        plain = plain.str.replace(",", ".", regex=False)
    elif has_comma.any():
        plain = plain.str.replace(",", ".", regex=False)
    return plain.str.replace(r" ?(v|a|%|°?c|ma|mv)$", "", regex=True, case=False).str.strip()


def _numbers(texts: pd.Series, heading: str, channel: str, first_line: int) -> pd.Series:
    """A column of texts as figures in our unit; the first that is none is a fault with its line."""
    values = pd.to_numeric(texts, errors="coerce")
    if values.isna().any():
        plain = _as_texts(texts)
        values = pd.to_numeric(plain, errors="coerce")
        bad = values.isna() & (plain != "")
        if bad.any():
            row = int(bad.to_numpy().argmax())
            raise MeterLogError(
                f"line {row + first_line}, column “{heading}”: “{texts.iloc[row][:40]}” isn't "
                "a number"
            )
    lowered = heading.lower()
    for unit, factor in UNITS.items():
        if re.search(rf"(^|[\W_]){re.escape(unit)}\W*$", lowered):
            values = values * factor
    if channel == "box_c" and re.search(r"°?f\W*$", lowered):
        values = (values - 32.0) / 1.8
    low, high, what = RECORD_LIMITS[READ_AS.get(channel, channel)]
    if channel == "charge_share" and values.max() > 1.5:
        values = values / 100.0
    # An infinite figure is beyond as well.
    beyond = (values < low) | (values > high)
    if beyond.any():
        row = int(beyond.to_numpy().argmax())
        said = f"line {row + first_line}, column “{heading}”: {values.iloc[row]:g}"
        raise MeterLogError(f"{said} can't be {what}. Is this column amp-hours, or another unit?")
    return values


def _chosen(opened: MeterFile, columns: list[str | None]) -> list[str | None]:
    """What each column is taken for: as said, or else as guessed."""
    taken = columns or guessed(opened.heading)
    if len(taken) != len(opened.heading):
        raise MeterLogError(
            f"{opened.name} has {len(opened.heading)} columns, but you named {len(taken)}"
        )
    named = [what for what in taken if what is not None]
    unknown = [what for what in named if what not in KINDS]
    if unknown:
        raise MeterLogError(f"a column can't be “{unknown[0][:40]}”")
    if len(set(named)) != len(named):
        raise MeterLogError("two columns have the same meaning; choose one")
    if NET in named and {"charge_a", "load_a"} & set(named):
        raise MeterLogError(
            "there is a net current as well as a charging or load current: leave one of them out"
        )
    if not (MOMENT in named or {DATE, CLOCK} <= set(named)) or not set(named) & {*CHANNELS, NET}:
        raise MeterLogError("choose the time column and at least one volts or amps column")
    return taken


class MeterReading:
    """A record on its way in, a piece at a time; what was noticed stands in `notes` once all of it
    was read."""

    def __init__(
        self, opened: MeterFile, columns: list[str | None], zone: tzinfo, dates: str = ""
    ) -> None:
        if dates not in ORDERS:
            raise MeterLogError(f"dates are read as {' or '.join(ORDERS[1:])}, not “{dates[:20]}”")
        self._opened, self._zone = opened, zone
        self._taken = _chosen(opened, columns)
        self._writing = self._written(dates)
        self._last: datetime | None = None
        self._hidden = self._twice = self._gaps = self._empty = 0
        self.rows = 0
        """Rows that are kept."""
        self.first: datetime | None = None
        self.last: datetime | None = None

    def _written(self, dates: str) -> Writing:
        opened, taken = self._opened, self._taken
        heading = opened.heading[taken.index(MOMENT if MOMENT in taken else DATE)]
        columns = ((line, _moment_texts(piece, taken)) for line, piece in opened.pieces())
        writing = writing_of(columns, dates, heading)
        if writing.kind == "written" and not writing.order:
            first, second = both_readings(writing.example)
            raise MeterLogError(
                f"dates such as “{writing.example[:20]}” can be {first} or {second}: say "
                "whether the day or the month comes first"
            )
        return writing

    def tables(self, go_on: GoOn = lambda rows: True) -> Iterator[MeterTable]:
        """Its pieces, each checked.

        Raises
        ------
        MeterLogError
            With line and column: nothing of it is to be taken.
        StoppedError
            If `go_on` says so.
        """
        read = 0
        for first_line, piece in self._opened.pieces():
            read += len(piece)
            table = self._table(piece, first_line)
            if table.rows:
                yield table
            if not go_on(read):
                raise StoppedError
        if not read:
            raise MeterLogError(f"{self._opened.name} has a heading but no rows")

    def _table(self, piece: pd.DataFrame, first_line: int) -> MeterTable:
        piece = piece.reset_index(drop=True)
        texts = _moment_texts(piece, self._taken)
        blank = texts.str.strip() == ""
        self._empty += int(blank.sum())
        heading = self._opened.heading[self._taken.index(MOMENT if MOMENT in self._taken else DATE)]
        if blank.any():
            # Lines of nothing at all are left; one with figures and no moment is a fault.
            lost = blank & (piece != "").any(axis=1)
            if lost.any():
                line = first_line + int(lost.to_numpy().argmax())
                raise MeterLogError(
                    f"line {line}, column “{heading}” is empty; every row needs its time"
                )
        at = pd.Series(pd.NaT, index=piece.index, dtype="datetime64[ns, UTC]")
        filled = ~blank
        if filled.any():
            # The numbers of lines stay those of the file.
            at[filled] = self._moments(texts, filled, heading, first_line).astype(
                "datetime64[ns, UTC]"
            )
        keep = self._kept(at, filled, first_line)
        found = {"at": at[keep]} | {
            name: values[keep] for name, values in self._figures(piece, first_line).items()
        }
        frame = pd.DataFrame(found)
        if len(frame):
            low, high = frame["at"].min().to_pydatetime(), frame["at"].max().to_pydatetime()
            self.first = low if self.first is None else min(self.first, low)
            self.last = high if self.last is None else max(self.last, high)
        self.rows += len(frame)
        return MeterTable(frame, ())

    def _moments(
        self, texts: pd.Series, filled: pd.Series, heading: str, first_line: int
    ) -> pd.Series:
        if filled.all():
            return moments_of(texts, heading, self._writing, self._zone, first_line)
        whole = texts.where(filled, texts[filled].iloc[0])
        return moments_of(whole, heading, self._writing, self._zone, first_line)[filled]

    def _kept(self, at: pd.Series, filled: pd.Series, first_line: int) -> pd.Series:
        """Which rows are kept; a clock that jumps back further than an hour is a fault."""
        hidden = at.isna() & filled
        known = at.dropna()
        if self._last is not None:
            known = pd.concat([pd.Series([pd.Timestamp(self._last)], index=[-1]), known])
        steps = known.diff().dt.total_seconds()
        back = steps < -BACK_S
        if back.any():
            line = int(back[back].index[0]) + first_line
            raise MeterLogError(
                f"line {line}: the time jumps back by {-steps[back].iloc[0] / 3600.0:.1f} hours"
            )
        twice = at.duplicated() & ~hidden & filled
        if self._last is not None:
            twice |= at == pd.Timestamp(self._last)
        self._hidden, self._twice = self._hidden + int(hidden.sum()), self._twice + int(twice.sum())
        self._gaps += int((steps > GAP_S).sum())
        if len(known):
            self._last = known.iloc[-1].to_pydatetime()
        return filled & ~hidden & ~twice

    def _figures(self, piece: pd.DataFrame, first_line: int) -> dict[str, pd.Series]:
        found: dict[str, pd.Series] = {}
        nothing = pd.Series(float("nan"), index=piece.index)
        for channel in (NET, *CHANNELS):
            if channel in self._taken:
                place = self._taken.index(channel)
                found[channel] = _numbers(
                    piece[place], self._opened.heading[place], channel, first_line
                )
        if NET in found:
            net = found.pop(NET)
            found["charge_a"], found["load_a"] = net.clip(lower=0.0), (-net).clip(lower=0.0)
        return {channel: found.get(channel, nothing) for channel in CHANNELS}

    @property
    def notes(self) -> tuple[str, ...]:
        """What was noticed, and what is left out."""
        found = list(self._opened.notes)
        if self._writing.kind == "written" and self._writing.order != "year_first":
            which = both_readings(self._writing.example)[
                0 if self._writing.order == "day_first" else 1
            ]
            said = f", so that “{self._writing.example[:20]}” is {which}" if which else ""
            found.append(f"Dates are read with the {self._writing.order.split('_')[0]} first{said}")
        if NET in self._taken:
            found.append(
                "A net current: what flows into the battery counts as charging, what flows "
                "out as load; what the "
                "loads took while the sun charged is not in it"
            )
        for count, what, words in (
            (self._hidden, "row", " left out: when clocks went back, this hour came twice"),
            (self._twice, "repeated time", " left out; we keep the first row of each"),
            (self._empty, "empty line", " left out"),
            (self._gaps, "gap", " of more than two hours"),
        ):
            if count:
                found.append(counted(count, what) + words)
        return tuple(found)


def meter_reading(
    name: str, file: BinaryIO, columns: list[str | None], zone: tzinfo, dates: str = ""
) -> MeterReading:
    """A record to be read piece by piece; see `read_meter_log`.

    Parameters
    ----------
    name : str
        Of the file, which tells its form.
    columns : list of str or None
        What each column is; None for one left out. Guessed where it is not said.
    zone : tzinfo
        Whose clock the file follows, where it does not say.
    dates : str
        How days and months stand in a date, where the file does not show it.
    """
    try:
        return MeterReading(open_meter_file(name, file), columns, zone, dates)
    except SheetError as error:
        raise MeterLogError(str(error)) from None


def read_meter_log(
    name: str, data: bytes, columns: list[str | None], zone: tzinfo, dates: str = ""
) -> MeterTable:
    """A record read whole, with what each column is taken for.

    Parameters
    ----------
    columns : list of str or None
        By column: one of `KINDS`, or None for what is left out; empty takes the guess.
    zone : tzinfo
        The site's clock, for times without a zone.
    dates : str
        `day_first` or `month_first`, where the file leaves it open.

    Raises
    ------
    MeterLogError
        With line and column: nothing of it is taken.
    """
    reading = meter_reading(name, BytesIO(data), columns, zone, dates)
    frames = [table.frame for table in reading.tables()]
    if not frames:
        raise MeterLogError(f"{name} has no row with a known time")
    return MeterTable(pd.concat(frames).sort_values("at"), reading.notes)
