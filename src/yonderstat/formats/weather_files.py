"""A weather file as a record of days: gaps mended or told, negative nights set to nothing, anything
worse refused."""

from collections import Counter, defaultdict
from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import pairwise
from statistics import mean, pstdev
from typing import Any

from pydantic import ValidationError

from yonderstat.core.design import (
    KEPT_HOUR_DAYS,
    MAX_RECORD_DAYS,
    MonthWarmth,
    RecordForm,
    RecordHours,
    WeatherRecord,
    faults_of,
)

from .weather_rows import READERS, Reading, WeatherFileError, form_of

MOST_CHARACTERS = 3_500_000
MOST_REPAIRS = 30
FILLED_HOURS = 3.0
"""A day with more of its hours missing than this is a gap."""
TYPICAL_DAYS = 365
MOST_TYPICAL_GAPS = 15
FEWEST_MONTH_DAYS = 20
FEWEST_DAYS = 28
MOST_DAY_WH_M2 = 16_000
"""No day on Earth brings more on the flat."""
MEAN_C = (-80.0, 50.0)
"""No month's air is colder or hotter on the mean."""


@dataclass
class _Day:
    """Readings of one day while they are gathered."""

    line: int = 0
    """Where it begins in the file."""
    watts: list[tuple[float, float | None]] = field(default_factory=list)
    diffuse: list[tuple[float, float]] = field(default_factory=list)
    air_c: list[float] = field(default_factory=list)
    energy_wh_m2: float | None = None


class _Repairs:
    """What was mended, in words, the first of it line by line and the rest counted."""

    def __init__(self) -> None:
        self.words: list[str] = []
        self.more = 0

    def add(self, words: str) -> None:
        if len(self.words) < MOST_REPAIRS - 1:
            self.words.append(words)
        else:
            self.more += 1

    def all(self) -> list[str]:
        return [*self.words, f"and {self.more} more like these"] if self.more else self.words


def _gather(readings: list[Reading], repairs: _Repairs) -> dict[date, _Day]:
    days: dict[date, _Day] = defaultdict(_Day)
    for reading in readings:
        day = days[reading.day]
        day.line = day.line or reading.line
        if reading.whole_day:
            if day.energy_wh_m2 is not None:
                raise WeatherFileError(f"has {reading.day} twice", reading.line)
            day.energy_wh_m2 = reading.w_m2
        else:
            watts = reading.w_m2
            if watts is not None and watts < 0:
                if watts < -5:
                    repairs.add(f"line {reading.line}: {watts:g} W/m² set to 0")
                watts = 0.0
            day.watts.append((reading.hour, watts))
            if reading.diffuse_w_m2 is not None:
                day.diffuse.append((reading.hour, max(0.0, reading.diffuse_w_m2)))
        if reading.air_c is not None:
            day.air_c.append(reading.air_c)
    return days


def _in_order(readings: list[Reading], typical: bool) -> None:
    for before, after in pairwise(readings):
        if typical:
            # The months of a typical year come from different years; within one the calendar runs
            # on.
            first, second = ((item.day.month, item.day.day, item.hour) for item in (before, after))
            ordered = second > first
        else:
            ordered = (after.day, after.hour) > (before.day, before.hour)
        if not ordered:
            raise WeatherFileError(
                f"is out of order: {after.day} comes after {before.day}",
                after.line,
            )


def _step_h(readings: list[Reading]) -> float:
    """The usual time between two readings of one day [h]."""
    gaps = Counter(
        round(after.hour - before.hour, 4)
        for before, after in pairwise(readings)
        if after.day == before.day
    )
    if not gaps:
        raise WeatherFileError(
            "has one reading a day in W/m². Give the day's energy as “kwh_m2” instead"
        )
    step = gaps.most_common(1)[0][0]
    if not 1 / 60 - 0.001 <= step <= 3:
        raise WeatherFileError(
            f"has a reading every {step:g} h. Readings must be one minute to three hours apart"
        )
    return step


@dataclass(frozen=True, slots=True)
class _Filled:
    """A day without gaps: mean sunshine [W/m²] at every step of it."""

    watts: list[float]
    step_h: float

    @property
    def energy_wh_m2(self) -> int:
        return round(sum(self.watts) * self.step_h)


def _filled(day: _Day, when: date, step_h: float, repairs: _Repairs) -> _Filled | None:
    """A day's sunshine: missing readings filled in a straight line when few, else the day is a
    gap."""
    slots = round(24 / step_h)
    values: list[float | None] = [None] * slots
    for hour, watts in day.watts:
        values[min(slots - 1, int(hour / step_h + 1e-6))] = watts
    missing = [index for index, value in enumerate(values) if value is None]
    if len(missing) * step_h > FILLED_HOURS:
        return None
    known = [(index, value) for index, value in enumerate(values) if value is not None]
    for index in missing:
        before = max((item for item in known if item[0] < index), default=(index, 0.0))
        after = min((item for item in known if item[0] > index), default=(index, 0.0))
        span = after[0] - before[0]
        share = (index - before[0]) / span if span else 0.0
        values[index] = before[1] + (after[1] - before[1]) * share
    if missing:
        repairs.add(
            f"{when}: {len(missing) * step_h:g} h missing, filled in from the hours around them"
        )
    filled = _Filled([value or 0.0 for value in values], step_h)
    energy = filled.energy_wh_m2
    if energy > MOST_DAY_WH_M2:
        raise WeatherFileError(
            f"begins a day with {energy / 1000:.1f} kW·h/m². No day has more than "
            f"{MOST_DAY_WH_M2 / 1000:g}. Is the sunshine in another unit?",
            day.line,
        )
    return filled


def _by_hour(pairs: list[tuple[float, float]]) -> dict[int, float]:
    """Readings as means of the hours they fall in."""
    hours: dict[int, list[float]] = defaultdict(list)
    for hour, value in pairs:
        hours[min(23, int(hour + 1e-6))].append(value)
    return {hour: mean(values) for hour, values in hours.items()}


def _hours(
    first: date,
    values: list[int | None],
    filled: dict[date, _Filled | None],
    gathered: dict[date, _Day],
    utc_offset_h: float | None,
    typical: bool,
) -> RecordHours | None:
    """The hours of a record's newest year, as the shape of its days; None where its steps are
    longer than an hour."""
    start = max(0, len(values) - KEPT_HOUR_DAYS)
    days = [first + timedelta(days=start + number) for number in range(len(values) - start)]
    if typical:
        common = {(when.month, when.day): when for when in filled}
        days = [common.get((day.month, day.day), day) for day in days]
    total: list[int] = []
    diffuse: list[int | None] = []
    for when in days:
        day = filled.get(when)
        if day is not None and day.step_h > 1.0 + 1e-6:
            return None
        steps = (
            []
            if day is None
            else [(index * day.step_h, watts) for index, watts in enumerate(day.watts)]
        )
        means = _by_hour(steps)
        dome = {} if day is None else _by_hour(gathered[when].diffuse)
        total.extend(round(means.get(hour, 0.0)) for hour in range(24))
        # By day a missing diffuse is told by law of the hour's clearness; at night there is nothing
        # to tell.
        diffuse.extend(round(dome[hour]) if hour in dome else None for hour in range(24))
    return RecordHours(
        first_index=start,
        utc_offset_h=utc_offset_h,
        total_w_m2=total,
        diffuse_w_m2=diffuse if any(value is not None for value in diffuse) else None,
    )


def _warmth(days: dict[date, _Day]) -> list[MonthWarmth] | None:
    by_month: dict[int, list[list[float]]] = defaultdict(list)
    for when, day in days.items():
        if len(day.air_c) >= 8:
            by_month[when.month].append(day.air_c)
    if any(len(by_month[month]) < FEWEST_MONTH_DAYS for month in range(1, 13)):
        return None
    months = []
    for month in range(1, 13):
        means = [mean(day) for day in by_month[month]]
        swings = [max(day) - min(day) for day in by_month[month]]
        lowest = min(min(day) for day in by_month[month])
        if not MEAN_C[0] <= mean(means) <= MEAN_C[1]:
            name = date(2001, month, 1).strftime("%B")
            raise WeatherFileError(
                f"has an average of {mean(means):.0f} °C in {name}. It must be between "
                f"{MEAN_C[0]:g} and {MEAN_C[1]:g}. Is the temperature in another unit?"
            )
        months.append(
            MonthWarmth(
                mean_c=round(mean(means), 2),
                swing_k=min(40.0, round(mean(swings), 2)),
                spread_k=min(20.0, round(pstdev(means), 2)),
                lowest_c=round(lowest, 1),
            )
        )
    return months


def _typical(days: dict[date, int | None], repairs: _Repairs) -> list[int | None]:
    common: dict[tuple[int, int], int | None] = {}
    for when, energy in days.items():
        if (when.month, when.day) == (2, 29):
            repairs.add("29 February left out: a typical year has 365 days")
            continue
        common[(when.month, when.day)] = energy
    calendar = [date(2001, 1, 1) + timedelta(days=number) for number in range(TYPICAL_DAYS)]
    values = [common.get((day.month, day.day)) for day in calendar]
    gaps = [day for day, value in zip(calendar, values, strict=True) if value is None]
    if len(gaps) > MOST_TYPICAL_GAPS:
        raise WeatherFileError(
            f"has {len(gaps)} days missing or with gaps over {FILLED_HOURS:g} hours, the "
            f"first on {gaps[0]:%d %B}. Up to {MOST_TYPICAL_GAPS} are allowed in a typical "
            "year. Is the file cut short?"
        )
    for day in gaps:
        repairs.add(f"{day:%d %B}: left out because of a gap")
    return values


def _measured(days: dict[date, int | None]) -> tuple[date, list[int | None]]:
    first, last = min(days), max(days)
    length = (last - first).days + 1
    if length > MAX_RECORD_DAYS:
        raise WeatherFileError(
            f"covers {length} days. At most {MAX_RECORD_DAYS} (20 years) can be used"
        )
    if length < FEWEST_DAYS:
        raise WeatherFileError(
            f"covers {length} days. At least {FEWEST_DAYS} are needed to judge the sun"
        )
    values = [days.get(first + timedelta(days=number)) for number in range(length)]
    held: Counter[int] = Counter(when.month for when, value in days.items() if value is not None)
    if not any(count >= FEWEST_MONTH_DAYS for count in held.values()):
        raise WeatherFileError(
            f"has no month with {FEWEST_MONTH_DAYS} complete days. That is too little to "
            "judge the sun"
        )
    return first, values


def _plain(name: str) -> str:
    """A name as a design can hold it: one line, nothing that does not print."""
    printing = "".join(char if char.isprintable() else " " for char in name)
    return " ".join(printing.split())[:120].strip()


def _record(**parts: Any) -> WeatherRecord:
    try:
        return WeatherRecord(**parts)
    except ValidationError as error:
        fault = faults_of(error)[0]
        raise WeatherFileError(
            f"can't be used as weather data: {fault.pointer.strip('/')} {fault.message}"
        ) from None


def read_weather_file(name: str, text: str) -> WeatherRecord:
    """A weather file as a record of days.

    Parameters
    ----------
    name : str
        The file's name: its ending tells the form where the content does not.

    Raises
    ------
    WeatherFileError
        With the line and the reason; then nothing of the file is used.
    """
    if len(text) > MOST_CHARACTERS:
        raise WeatherFileError(
            f"is larger than {MOST_CHARACTERS / 1000000.0:g} MB. Use hourly or daily figures "
            "instead of one a minute"
        )
    lines = text.splitlines()
    if len(lines) < 3:
        raise WeatherFileError(
            "is empty. A weather file has a heading and one row for every hour or day"
        )
    form: RecordForm = form_of(name, text)
    header, rows = READERS[form](lines)
    readings = list(rows)
    if not readings:
        raise WeatherFileError("holds a heading but no rows")
    typical = form != "csv"
    _in_order(readings, typical)
    repairs = _Repairs()
    gathered = _gather(readings, repairs)
    filled: dict[date, _Filled | None] = {}
    if readings[0].whole_day:
        energy = {
            when: None if day.energy_wh_m2 is None else round(day.energy_wh_m2)
            for when, day in gathered.items()
        }
    else:
        step_h = _step_h(readings)
        filled = {when: _filled(day, when, step_h, repairs) for when, day in gathered.items()}
        energy = {when: None if day is None else day.energy_wh_m2 for when, day in filled.items()}
    first, values = (date(2001, 1, 1), _typical(energy, repairs)) if typical else _measured(energy)
    if not any(values):
        raise WeatherFileError("has no sunshine at all. Is it the right column?")
    return _record(
        kind="typical" if typical else "measured",
        form=form,
        name=_plain(name if form == "csv" else header.name) or "weather file",
        latitude_deg=None if header.latitude_deg is None else round(header.latitude_deg, 4),
        longitude_deg=None if header.longitude_deg is None else round(header.longitude_deg, 4),
        elevation_m=header.elevation_m,
        first_day=first.isoformat(),
        day_wh_m2=values,
        hours=_hours(first, values, filled, gathered, header.utc_offset_h, typical)
        if filled
        else None,
        warmth=_warmth(gathered),
        repairs=repairs.all(),
    )
