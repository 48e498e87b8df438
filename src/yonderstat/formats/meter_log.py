"""Records of chargers, monitors and shunts: CSV or ODS in any order of columns, guessed by headings, shown first."""

import csv
import io
import re
from dataclasses import dataclass
from datetime import tzinfo

import numpy as np
import pandas as pd

from yonderstat.core.log import CHANNELS, Record

from .sheets import SheetError, read_sheet

MOST_METER_ROWS, MOST_METER_COLUMNS, SHOWN_ROWS = 600_000, 60, 5
BACK_S = 3700
"""A clock may be put back by an hour; further back is a fault."""
LIMITS: dict[str, tuple[float, float, str]] = {
    "volts": (0.0, 1000.0, "volts"),
    "charge_a": (-2000.0, 2000.0, "amps"),
    "load_a": (-2000.0, 2000.0, "amps"),
    "charge_share": (0.0, 1.001, "a share"),
    "box_c": (-70.0, 120.0, "degrees"),
}
Guess = str | None
GUESSES: tuple[tuple[str, str], ...] = (
    ("time", r"^(date.?time|time.?stamp|date|time|when|utc|zeit|epoch)"),
    ("charge_share", r"(soc|state of charge|charge.?%|charge_share)"),
    ("charge_a", r"(charg\w*|solar|pv|array|in(put)?)\W*(a\b|amp|curr)|charge_a"),
    ("load_a", r"(load|out(put)?|draw|discharge)\W*(a\b|amp|curr)|load_a"),
    ("box_c", r"(box|temp|°c|°f)"),
    ("volts", r"(batt\w*\W*m?v|bank\W*m?v|volt|\bm?v\b)"),
)
UNITS = {"mv": 1e-3, "ma": 1e-3, "%": 1e-2}


@dataclass(frozen=True, slots=True)
class MeterColumn:
    """A column of the file: what it is called, and what it is taken for; nothing where it is left out."""

    heading: str
    taken_for: str | None


@dataclass(frozen=True, slots=True)
class MeterPreview:
    """A file looked at: its columns as guessed, its first rows, and what stands in the way."""

    columns: tuple[MeterColumn, ...]
    rows: tuple[tuple[str, ...], ...]
    total: int
    trouble: str


class MeterLogError(ValueError):
    """The file is refused whole; the message names line and column."""


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
        columns = {name: self.frame[name].to_numpy(dtype=float) for name in ("volts", "charge_a", "load_a")}
        known = {name: values if np.isfinite(values).any() else None for name, values in columns.items()}
        return Record(local.astype("int64").to_numpy(dtype=float), **known)

    def as_csv(self) -> str:
        """As PostgreSQL copies it in."""
        told = self.frame.copy()
        told["at"] = told["at"].dt.as_unit("ms").astype("int64") / 1000.0
        return str(told.to_csv(index=False, header=False, na_rep="", float_format="%.12g"))


def _read_rows(name: str, data: bytes) -> tuple[list[str], pd.DataFrame]:
    """Heading and rows as texts."""
    if data[:4] == b"PK\x03\x04" or name.lower().endswith(".ods"):
        try:
            rows = read_sheet(name, data)
        except SheetError as error:
            raise MeterLogError(str(error)) from None
        width = max(len(row) for row in rows)
        whole = [row + [""] * (width - len(row)) for row in rows]
        return whole[0], pd.DataFrame(whole[1:], dtype=str)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise MeterLogError(f"{name}: line {line} is no UTF-8 text; save it as plain text") from None
    first = text.split("\n", 1)[0]
    separator = max(";\t,", key=first.count)
    heading = next(csv.reader(io.StringIO(first), delimiter=separator), [])
    if len(heading) > MOST_METER_COLUMNS:
        raise MeterLogError(f"{name}: line 1 has {len(heading)} columns; at most {MOST_METER_COLUMNS}")
    try:
        frame = pd.read_csv(
            io.StringIO(text),
            sep=separator,
            dtype=str,
            keep_default_na=False,
            header=None,
            skiprows=1,
            names=list(range(len(heading))),
            nrows=MOST_METER_ROWS + 1,
            index_col=False,
        )
    except (pd.errors.ParserError, pd.errors.EmptyDataError, ValueError) as error:
        raise MeterLogError(f"{name} is no table: {str(error)[:200]}") from None
    return [cell.strip() for cell in heading], frame.fillna("")


def guessed(heading: list[str]) -> list[str | None]:
    """What each column is, by its heading; each thing once."""
    taken: set[str] = set()
    found: list[str | None] = []
    for cell in heading:
        match = next(
            (name for name, form in GUESSES if name not in taken and re.search(form, cell, re.IGNORECASE)), None
        )
        if match is not None:
            taken.add(match)
        found.append(match)
    return found


def preview(name: str, data: bytes) -> MeterPreview:
    """A file looked at before it is brought in.

    Raises
    ------
    MeterLogError
        Where it is no table.
    """
    heading, frame = _read_rows(name, data)
    columns = tuple(MeterColumn(cell, what) for cell, what in zip(heading, guessed(heading), strict=True))
    shown = tuple(tuple(str(cell)[:60] for cell in row) for row in frame.head(SHOWN_ROWS).to_numpy())
    taken = {column.taken_for for column in columns}
    trouble = ""
    if "time" not in taken:
        trouble = "No column looks like the time: say which it is."
    elif not taken & set(CHANNELS):
        trouble = "No column looks like volts or amps: say which are."
    return MeterPreview(columns, shown, len(frame), trouble)


def _numbers(texts: pd.Series, heading: str, channel: str) -> pd.Series:
    """A column of texts as figures in our unit; the first that is none is a fault with its line."""
    plain = texts.str.strip()
    if plain.str.contains(",", regex=False).any() and not plain.str.contains(".", regex=False).any():
        plain = plain.str.replace(",", ".", regex=False)
    plain = plain.str.replace(r"\s*(v|a|%|°?c|ma|mv)$", "", regex=True, case=False)
    values = pd.to_numeric(plain, errors="coerce")
    bad = values.isna() & (plain != "")
    if bad.any():
        row = int(bad.to_numpy().argmax())
        raise MeterLogError(f"line {row + 2}, column “{heading}”: “{texts.iloc[row][:40]}” is no number")
    lowered = heading.lower()
    for unit, factor in UNITS.items():
        if re.search(rf"[\W_]{re.escape(unit)}\W*$", lowered):
            values = values * factor
    if channel == "box_c" and re.search(r"°?f\W*$", lowered):
        values = (values - 32.0) / 1.8
    if channel == "charge_share" and values.max() > 1.5:
        values = values / 100.0
    low, high, what = LIMITS[channel]
    beyond = (values < low) | (values > high)
    if beyond.any():
        row = int(beyond.to_numpy().argmax())
        said = f"line {row + 2}, column “{heading}”: {values.iloc[row]:g}"
        raise MeterLogError(f"{said} is no {what} a station has; amp-hours or another unit, perhaps")
    return values


def _times(texts: pd.Series, heading: str, zone: tzinfo) -> pd.Series:
    plain = texts.str.strip()
    numbers = pd.to_numeric(plain, errors="coerce")
    if numbers.notna().all() and (numbers > 1e8).all():
        seconds = numbers / 1000.0 if numbers.iloc[0] > 1e11 else numbers
        return pd.to_datetime(seconds, unit="s", utc=True)
    for day_first in (False, True):
        try:
            told = pd.to_datetime(plain, format="ISO8601" if not day_first else "mixed", dayfirst=day_first)
            break
        except (ValueError, TypeError):
            continue
    else:
        parsed = pd.to_datetime(plain, errors="coerce", format="mixed", dayfirst=True)
        row = int(parsed.isna().to_numpy().argmax())
        said = f"line {row + 2}, column “{heading}”: “{texts.iloc[row][:40]}”"
        raise MeterLogError(f"{said} is no time, such as 2026-07-10 08:00")
    if told.dt.tz is not None:
        return told.dt.tz_convert("UTC")
    return told.dt.tz_localize(zone, ambiguous="NaT", nonexistent="shift_forward").dt.tz_convert("UTC")


def _checked_times(at: pd.Series, notes: list[str]) -> pd.Series:
    """Which rows are kept; a clock that jumps back further than an hour is a fault."""
    hidden = at.isna()
    if hidden.any():
        notes.append(f"{int(hidden.sum())} rows fall in an hour the clock had twice, and are left out")
    steps = at.dropna().diff().dt.total_seconds()
    back = steps < -BACK_S
    if back.any():
        line = int(back[back].index[0]) + 2
        raise MeterLogError(f"line {line}: the clock jumps back by {-steps[back].iloc[0] / 3600.0:.1f} hours")
    twice = at.duplicated() & ~hidden
    if twice.any():
        notes.append(f"{int(twice.sum())} rows repeat a moment, and the first of each is kept")
    gaps = int((steps > 2 * 3600).sum())
    if gaps:
        notes.append(f"{gaps} gaps of over two hours")
    return ~hidden & ~twice


def read_meter_log(name: str, data: bytes, columns: list[str | None], zone: tzinfo) -> MeterTable:
    """A record read with what each column is taken for.

    Parameters
    ----------
    columns : list of str or None
        By column: `time`, one of `CHANNELS`, or None for what is left out; empty takes the guess.
    zone : tzinfo
        The site's clock, for times without a zone.

    Raises
    ------
    MeterLogError
        With line and column: nothing of it is taken.
    """
    heading, frame = _read_rows(name, data)
    taken = columns or guessed(heading)
    if len(taken) != len(heading):
        raise MeterLogError(f"{name} has {len(heading)} columns, and {len(taken)} are named")
    unknown = [what for what in taken if what is not None and what != "time" and what not in CHANNELS]
    if unknown:
        raise MeterLogError(f"“{unknown[0]}” is nothing a column can be")
    named = [what for what in taken if what is not None]
    if len(set(named)) != len(named):
        raise MeterLogError("two columns are taken for the same thing")
    if "time" not in named or len(named) < 2:
        raise MeterLogError("say which column is the time, and which are volts or amps")
    if not len(frame):
        raise MeterLogError(f"{name} holds a heading and no rows")
    if len(frame) > MOST_METER_ROWS:
        raise MeterLogError(f"{name} has over {MOST_METER_ROWS} rows; split it")
    notes: list[str] = []
    place = taken.index("time")
    at = _times(frame[place], heading[place], zone)
    keep = _checked_times(at, notes)
    found = {"at": at[keep]}
    for channel in CHANNELS:
        if channel in taken:
            place = taken.index(channel)
            found[channel] = _numbers(frame[place], heading[place], channel)[keep]
        else:
            found[channel] = pd.Series(float("nan"), index=at[keep].index)
    return MeterTable(pd.DataFrame(found).sort_values("at"), tuple(notes))
