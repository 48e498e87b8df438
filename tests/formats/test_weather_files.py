"""Weather files: every form read, gaps mended and told, anything worse refused whole with its
line."""

from collections.abc import Callable
from datetime import datetime, timedelta

import pytest

from tests.typical_years import GREENSBORO, MIAMI, text_of
from yonderstat.formats import MOST_CHARACTERS, WeatherFileError, read_weather_file

EPW_HEAD = [
    "LOCATION,Tarn Valley,-,NZL,made up,0,-43.10,171.60,12.0,700.0",
    *(f"HEADER {number}" for number in range(7)),
]


def epw_row(month: int, day: int, hour: int, w_m2: float, air_c: float = 8.0) -> str:
    diffuse_w_m2 = 0.2 * w_m2 if w_m2 < 1600 else 0
    weather = f"{air_c},5,70,93000,0,0,300,{w_m2},100,{diffuse_w_m2}"
    return f"2001,{month},{day},{hour},60,flags,{weather}"


def epw_year(change: Callable[[int, int, int, str], str | None] = lambda m, d, h, row: row) -> str:
    lengths = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
    rows = [
        change(month, day, hour, epw_row(month, day, hour, 500.0 if 9 <= hour <= 16 else 0.0))
        for month, length in enumerate(lengths, start=1)
        for day in range(1, length + 1)
        for hour in range(1, 25)
    ]
    return "\n".join([*EPW_HEAD, *(row for row in rows if row is not None)])


def test_an_epw_year_by_hand() -> None:
    """Eight hours of 500 W/m² are 4000 W·h/m², every day of the year."""
    record = read_weather_file("valley.epw", epw_year())
    assert (record.kind, record.form, record.name) == ("typical", "epw", "Tarn Valley")
    assert (record.latitude_deg, record.longitude_deg) == (-43.1, 171.6)
    assert record.day_wh_m2 == [4000] * 365
    assert record.warmth is not None
    assert record.warmth[6].mean_c == 8.0
    assert record.repairs == []
    assert record.elevation_m == 700.0
    assert record.hours is not None
    assert record.hours.utc_offset_h == 12.0
    assert record.hours.total_w_m2[:24] == [500 if 9 <= hour <= 16 else 0 for hour in range(1, 25)]
    assert record.hours.diffuse_w_m2 is not None
    assert record.hours.diffuse_w_m2[:24] == [
        100 if 9 <= hour <= 16 else 0 for hour in range(1, 25)
    ]


def test_hours_are_kept_of_the_newest_year_and_only_where_there_are_hours() -> None:
    """Two years by the hour keep 365 days of hours, the second year's; three-hourly and daily files
    keep none."""

    def log(step_h: int) -> str:
        start = datetime(2024, 1, 1)
        moments = [start + timedelta(hours=step_h * number) for number in range(731 * 24 // step_h)]
        rows = [
            f"{when:%Y-%m-%d %H:%M},{(when.year - 2023) * 100 if 9 <= when.hour < 15 else 0}"
            for when in moments
        ]
        return "\n".join(["time,ghi_w_m2", *rows])

    hourly = read_weather_file("log.csv", log(1)).hours
    assert hourly is not None
    assert (hourly.first_index, len(hourly.total_w_m2)) == (366, 365 * 24)
    assert set(hourly.total_w_m2) == {0, 200}
    assert (hourly.utc_offset_h, hourly.diffuse_w_m2) == (None, None)
    assert read_weather_file("log.csv", log(3)).hours is None


def test_few_missing_hours_are_filled_and_told() -> None:
    """Hour 12 missing on one day: filled between its neighbours, both 500."""

    def hole(month: int, day: int, hour: int, row: str) -> str | None:
        return row.replace(",500.0,", ",9999,") if (month, day, hour) == (3, 4, 12) else row

    record = read_weather_file("valley.epw", epw_year(hole))
    assert record.day_wh_m2 == [4000] * 365
    assert record.repairs == ["2001-03-04: 1 h missing, filled in from the hours around them"]


def test_a_day_with_a_long_gap_is_left_out() -> None:
    def hole(month: int, day: int, hour: int, row: str) -> str | None:
        return None if (month, day) == (3, 4) and hour < 14 else row

    record = read_weather_file("valley.epw", epw_year(hole))
    assert record.day_wh_m2[62] is None
    assert record.repairs == ["04 March: left out because of a gap"]


def test_nights_below_nothing_are_set_to_nothing() -> None:
    def offset(month: int, day: int, hour: int, row: str) -> str | None:
        return epw_row(month, day, hour, -8.0) if (month, day, hour) == (1, 2, 3) else row

    record = read_weather_file("valley.epw", epw_year(offset))
    assert record.repairs == ["line 35: -8 W/m² set to 0"]


def changed(line: int, old: str, new: str) -> str:
    lines = epw_year().split("\n")
    assert old in lines[line - 1]
    lines[line - 1] = lines[line - 1].replace(old, new)
    return "\n".join(lines)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (changed(20, ",500.0,", ",-900,"), r"line 20 has -900 W/m²"),
        (changed(20, ",500.0,", ",5000,"), r"line 20 has 5000 W/m²"),
        (changed(20, ",500.0,", ",much,"), r"line 20 has “much” as sunshine"),
        (changed(20, ",500.0,", ",nan,"), r"line 20 .*finite"),
        (changed(20, ",8.0,", ",800,"), r"line 20 has an air temperature of 800 °C"),
        (
            changed(20, "2001,1,1,12", "2001,13,1,12"),
            r"line 20 has a date that doesn't exist: year 2001, month 13",
        ),
        (changed(20, "2001,1,1,12", "2001,1,1,25"), r"line 20 has hour “25”"),
        (changed(20, "2001,1,1,12", "2001,1,1,9"), r"line 20 is out of order"),
        (changed(20, ",93000,0,0,300,500.0,100,100.0", ""), r"line 20 is too short"),
        (changed(1, "-43.10", "-143.10"), r"line 1 has no latitude"),
        ("\n".join(epw_year().split("\n")[:3000]), r"days missing or with gaps.*cut short"),
        ("LOCATION,a", "is empty"),
        ("", "is empty"),
        ("\n".join([*EPW_HEAD, "", ""]), "no rows"),
        ("x" * (MOST_CHARACTERS + 1), "3.5 MB"),
        ("time,wind\n2025-01-01,3\n2025-01-02,4\n", "must name the columns"),
        ("date,kwh_m2\n2025-01-01,3\n2025-01-01,4\n", "line 3 is out of order"),
        ("date,kwh_m2\n2025-01-01,3\n2025-02-30,4\n", "line 3 has “2025-02-30” as the time"),
        ("date,kwh_m2\n2025-01-01,300\n2025-01-02,4\n", "line 2 has 300 as a day's sunshine"),
        ("date,kwh_m2\n2025-01-01,3\n2025-01-02,4\n", "covers 2 days. At least 28"),
        ("date,ghi_w_m2\n2025-01-01,300\n2025-01-02,400\n", "one reading a day in W/m²"),
        ("date,kwh_m2\n1990-01-01,3\n2025-01-02,4\n", "20 years"),
        ("\x00\x01\x02\n\x00\n\x00\n", "must name the columns"),
        ("header\nDate (MM/DD/YYYY),Time\n01/01/1990,1:00\n", "line 1 is too short"),
    ],
)
def test_bad_files_are_refused_with_the_line(text: str, words: str) -> None:
    with pytest.raises(WeatherFileError, match=words):
        read_weather_file("valley.epw" if text.startswith("LOCATION") else "log.csv", text)


def test_a_dark_file_is_refused() -> None:
    text = epw_year(lambda month, day, hour, row: row.replace(",500.0,", ",0,"))
    with pytest.raises(WeatherFileError, match="no sunshine at all"):
        read_weather_file("valley.epw", text)


@pytest.mark.parametrize(
    "text",
    [
        "date,kwh_m2\n" + "".join(f"2025-06-{day:02},1.5\n" for day in range(1, 31)),
        "﻿Date;kWh_m2\n" + "".join(f"2025-06-{day:02};1,5\n" for day in range(1, 31)),
        "day\twh_m2\n" + "".join(f"2025-06-{day:02}\t1500\n" for day in range(1, 31)),
        "time,ghi_w_m2,air_c\n"
        + "".join(
            f"2025-06-{day:02} {hour:02}:{minute:02},{300 if 10 <= hour < 15 else 0},4\n"
            for day in range(1, 31)
            for hour in range(24)
            for minute in (0, 30)
        ),
    ],
)
def test_plain_records(text: str) -> None:
    """A month of 1.5 kW·h/m² a day: with commas, with decimal commas, in W·h, and in half-hours of
    watts."""
    record = read_weather_file("hut.csv", text)
    assert record.kind == "measured"
    assert record.first_day == "2025-06-01"
    assert record.day_wh_m2 == [1500] * 30


def test_a_leap_year_is_read() -> None:
    rows = text_of(GREENSBORO).splitlines()
    at = next(number for number, row in enumerate(rows) if row.startswith("03/01/"))
    year = rows[at - 1].split("/")[2][:4]
    extra = [f"02/29/{year}" + row[10:] for row in rows[at - 24 : at]]
    record = read_weather_file(GREENSBORO, "\n".join(rows[:at] + extra + rows[at:]))
    assert len(record.day_wh_m2) == 365
    assert any("29 February" in words for words in record.repairs)


def test_tmy2_has_no_place_without_its_heading() -> None:
    text = text_of(MIAMI)
    with pytest.raises(WeatherFileError, match="heading of a TMY2 file"):
        read_weather_file("x.tm2", "nonsense\n" + text.split("\n", 1)[1])
