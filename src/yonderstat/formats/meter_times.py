"""Moments in a meter's record: how they are written is decided once for the whole column, never row
by row."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import tzinfo

import numpy as np
import pandas as pd

from yonderstat.core.bounds import FIRST_MOMENT, FIRST_YEAR, LAST_MOMENT, LAST_YEAR

from .meter_files import MeterLogError

ISO = re.compile(r"\d{4}-\d{1,2}-\d{1,2}([T ].*)?$")
WRITTEN = re.compile(
    r"(?P<one>\d{1,4})(?P<sign>[./-])(?P<two>\d{1,2})(?P=sign)(?P<three>\d{1,4})"
    r"(?:,?[ T]+(?P<clock>\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?)(?: ?(?P<half>[AaPp]\.?[Mm]\.?))?)?$"
)
EPOCH = re.compile(r"\d{9,13}(\.\d+)?$")
DAY_FIRST, MONTH_FIRST = "day_first", "month_first"
ORDERS = ("", DAY_FIRST, MONTH_FIRST)
MONTHS = (
    "January", "February", "March", "April", "May", "June",
    "July", "August", "September", "October", "November", "December",
)  # fmt: skip
UNKNOWN = "isn't a time; write one such as 2026-07-10 08:00"


@dataclass(frozen=True, slots=True)
class Writing:
    """How the moments of a column are written."""

    kind: str
    """iso, epoch, epoch_ms, or written: with a day and a month in figures."""
    order: str = ""
    """Of written ones: year_first, day_first, month_first; empty where the column leaves it
    open."""
    example: str = ""


def writing_of(
    columns: Iterable[tuple[int, pd.Series]], asked: str = "", heading: str = ""
) -> Writing:
    """How all moments of a column are written, by looking at every one of them.

    Parameters
    ----------
    columns : iterable of (int, Series)
        The column's texts, piece by piece, each with the number of its first line.
    asked : str
        What a person said where the column leaves it open: `day_first` or `month_first`.
    heading : str
        Of the column, for what is said of it.

    Raises
    ------
    MeterLogError
        Where the column contradicts itself, or what was said of it; the line is named.
    """
    kind, order, example = "", "", ""
    for first_line, texts in columns:
        plain = texts.str.strip()
        filled = plain[plain != ""]
        if filled.empty:
            continue
        example = example or str(filled.iloc[0])
        where = f"line {first_line + int(filled.index[0] - texts.index[0])}, column “{heading}”"
        kind = kind or _kind_of(str(filled.iloc[0]), where)
        if kind != "written":
            return Writing(kind, "", example)
        parts = filled.str.extract(r"^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})")
        bad = parts[0].isna()
        if bad.any():
            row = int(bad.to_numpy().argmax())
            line = first_line + int(filled.index[row] - texts.index[0])
            raise MeterLogError(
                f"line {line}, column “{heading}”: “{filled.iloc[row][:40]}” {UNKNOWN}"
            )
        if "." in example:
            # Where a day is parted from its month by a dot it stands first. [C]
            order = DAY_FIRST
        one, two = parts[0].astype(int).to_numpy(), parts[1].astype(int).to_numpy()
        if (one > 31).all():
            return Writing(kind, "year_first", example)
        for values, says in ((one, DAY_FIRST), (two, MONTH_FIRST)):
            proof = values > 12
            if proof.any():
                row = int(proof.argmax())
                line = first_line + int(filled.index[row] - texts.index[0])
                if order and order != says:
                    other = "the day first" if order == DAY_FIRST else "the month first"
                    raise MeterLogError(
                        f"line {line}: “{filled.iloc[row][:40]}”; other lines have {other}"
                    )
                order = says
    if asked and order and asked != order:
        raise MeterLogError(
            f"the dates cannot be read as said: they have {order.replace('_', ' ')}"
        )
    return Writing(kind or "iso", order or asked, example)


def _kind_of(text: str, where: str) -> str:
    if EPOCH.match(text):
        return "epoch_ms" if float(text) > 1e11 else "epoch"
    if ISO.match(text):
        return "iso"
    if WRITTEN.match(text):
        return "written"
    raise MeterLogError(f"{where}: “{text[:40]}” {UNKNOWN}")


def both_readings(example: str) -> tuple[str, str]:
    """A date that can be read two ways, in words: with the day first, and with the month first."""
    found = WRITTEN.match(example)
    if found is None:
        return "", ""
    one, two, year = int(found["one"]), int(found["two"]), found["three"]
    if not (1 <= one <= 12 and 1 <= two <= 12):
        return "", ""
    return f"{one} {MONTHS[two - 1]} {year}", f"{two} {MONTHS[one - 1]} {year}"


def moments_of(
    texts: pd.Series, heading: str, writing: Writing, zone: tzinfo, first_line: int
) -> pd.Series:
    """A piece of a column as moments in UTC; NaT where the clock had the hour twice.

    Parameters
    ----------
    texts : pd.Series
        A piece of the column.
    heading : str
        Of the column, for what is said of a fault.
    writing : Writing
        How the column writes a moment.
    zone : tzinfo
        Whose clock it follows.
    first_line : int
        Of the piece, in the file.

    Raises
    ------
    MeterLogError
        At the first that is none, or lies outside the years that are kept; line and column are
        named.
    """
    plain = texts.str.strip()

    def fault(row: int, why: str) -> MeterLogError:
        return MeterLogError(
            f"line {first_line + row}, column “{heading}”: “{str(texts.iloc[row])[:40]}” {why}"
        )

    if writing.kind.startswith("epoch"):
        seconds = pd.to_numeric(plain, errors="coerce").to_numpy(dtype=float)
        seconds = seconds / (1000.0 if writing.kind == "epoch_ms" else 1.0)
        outside = ~((seconds >= FIRST_MOMENT.timestamp()) & (seconds < LAST_MOMENT.timestamp()))
        if outside.any():
            raise fault(
                int(outside.argmax()), f"lies outside the years {FIRST_YEAR} to {LAST_YEAR}"
            )
        return pd.Series(
            pd.to_datetime(np.round(seconds * 1e3).astype("int64"), unit="ms", utc=True),
            index=texts.index,
        )
    told = _iso(plain) if writing.kind == "iso" else _written(plain, writing)
    lost = told.isna()
    if lost.any():
        raise fault(int(lost.to_numpy().argmax()), UNKNOWN)
    years = told.dt.year
    outside = ((years < FIRST_YEAR) | (years > LAST_YEAR)).to_numpy()
    if outside.any():
        row = int(outside.argmax())
        raise fault(row, f"lies outside the years {FIRST_YEAR} to {LAST_YEAR}")
    if told.dt.tz is None:
        told = told.dt.tz_localize(zone, ambiguous="NaT", nonexistent="shift_forward")
    return pd.Series(told.dt.tz_convert("UTC"))


def _iso(plain: pd.Series) -> pd.Series:
    """Moments by ISO 8601; with offsets, which may change within the column, at once in UTC."""
    try:
        # The usual column: all alike, with one offset or none.
        return pd.Series(pd.to_datetime(plain, format="ISO8601"))
    except (ValueError, TypeError, OverflowError):
        pass
    has_offset = plain.str.contains(
        r"[T ]\d{1,2}:\d{2}.*(?:Z|[+-]\d{2}(?::?\d{2})?)$", case=False, regex=True
    )
    if has_offset.any():
        plain = plain.where(has_offset)
    return pd.Series(
        pd.to_datetime(plain, format="ISO8601", errors="coerce", utc=bool(has_offset.any()))
    )


def _written(plain: pd.Series, writing: Writing) -> pd.Series:
    """Moments written with figures for day and month."""
    parts = plain.str.extract(WRITTEN.pattern, flags=re.IGNORECASE).astype(object)
    year, month, day = {
        "year_first": ("one", "two", "three"),
        MONTH_FIRST: ("three", "one", "two"),
    }.get(writing.order, ("three", "two", "one"))
    written = parts["one"].notna()
    years = pd.to_numeric(parts[year], errors="coerce")
    years = years.where(years > 99, years + 2000)
    days = pd.DataFrame(
        {"year": years, "month": pd.to_numeric(parts[month]), "day": pd.to_numeric(parts[day])},
        index=plain.index,
    )
    told = pd.to_datetime(days, errors="coerce")
    clock = (
        parts["clock"]
        .where(parts["clock"].notna(), "00:00")
        .astype(str)
        .str.replace(",", ".", regex=False)
    )
    pieces = clock.str.split(":", expand=True).reindex(columns=[0, 1, 2]).astype(object)
    pieces = pieces.where(pieces.notna(), "0")
    hours, minutes, seconds = (pd.to_numeric(pieces[place], errors="coerce") for place in range(3))
    half = parts["half"].where(parts["half"].notna(), "").astype(str).str.lower().str[:1]
    hours = hours.where(half == "", hours % 12 + 12 * (half == "p"))
    whole = told + pd.to_timedelta(hours * 3600 + minutes * 60 + seconds, unit="s")
    return whole.where(written & (hours < 24) & (minutes < 60) & (seconds < 60))
