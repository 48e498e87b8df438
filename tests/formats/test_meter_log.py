"""Meters' records as people have them: languages, encodings, dates two ways, signed currents, line
ends, workbooks."""

import contextlib
import io
import subprocess
import sys
import time
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from openpyxl import Workbook

from yonderstat.formats import MeterLogError, preview, read_meter_log
from yonderstat.formats.meter_headings import guessed
from yonderstat.formats.meter_times import WRITTEN

AUCKLAND = ZoneInfo("Pacific/Auckland")


def read(
    text: str | bytes, columns: list[str | None] | None = None, dates: str = "", zone: object = UTC
) -> np.ndarray:
    data = text.encode() if isinstance(text, str) else text
    return read_meter_log("a.csv", data, columns or [], zone, dates).columns()  # type: ignore[arg-type]


def first_moment(text: str, dates: str = "") -> datetime:
    return datetime.fromtimestamp(read(f"Time,Volts\n{text},12.5\n", dates=dates)[0, 0], UTC)


@pytest.mark.parametrize(
    ("heading", "taken"),
    [
        (["Timestamp", "Battery V", "Charge A", "Load A"], ["time", "volts", "charge_a", "load_a"]),
        (["Date", "Time", "Current (A)", "Voltage (V)"], ["date", "clock", "net_a", "volts"]),
        (["Date", "Volts"], ["time", "volts"]),
        (["Datum", "Uhrzeit", "Batteriespannung [V]", "Ladestrom (A)", "Entladestrom (A)", "Ladezustand %"],
         ["date", "clock", "volts", "charge_a", "load_a", "charge_share"]),
        (["Zeitstempel", "Spannung", "Strom"], ["time", "volts", "net_a"]),
        (["Horodatage", "Tension batterie (V)", "Courant de charge (A)", "Consommation (A)", "État de charge"],
         ["time", "volts", "charge_a", "load_a", "charge_share"]),
        (["Fecha", "Hora", "Tensión (V)", "Corriente de carga (A)", "Consumo (A)", "Temperatura"],
         ["date", "clock", "volts", "charge_a", "load_a", "box_c"]),
        (["Data e ora", "Tensione batteria", "Corrente di carica (A)", "Corrente scarica (A)"],
         ["time", "volts", "charge_a", "load_a"]),
        (["Datum", "Tijd", "Spanning", "Laadstroom (A)", "Verbruik (A)", "Laadtoestand"],
         ["date", "clock", "volts", "charge_a", "load_a", "charge_share"]),
        (["Time", "PV Power (W)", "Consumed Ah", "SOC", "Temp"], ["time", None, None, "charge_share", "box_c"]),
    ],
)  # fmt: skip
def test_headings_in_six_languages(heading: list[str], taken: list[str | None]) -> None:
    assert guessed(heading) == taken


@pytest.mark.parametrize(
    ("text", "moment"),
    [
        ("2026-07-10 08:00", "2026-07-10T08:00"),
        ("2026-07-10T08:00:30.5Z", "2026-07-10T08:00:30.5"),
        ("2026/07/10 08:00", "2026-07-10T08:00"),
        ("25.07.2026 08:00:10", "2026-07-25T08:00:10"),
        ("10.07.2026 08:00", "2026-07-10T08:00"),
        ("07/25/2026 8:05 PM", "2026-07-25T20:05"),
        ("7/25/26 12:05 am", "2026-07-25T00:05"),
        ("1783670400", "2026-07-10T08:00"),
        ("1783670400000", "2026-07-10T08:00"),
        ("2026-07-10T20:00+12:00", "2026-07-10T08:00"),
    ],
)
def test_moments_as_they_are_written(text: str, moment: str) -> None:
    assert first_moment(text) == datetime.fromisoformat(moment).replace(tzinfo=UTC)


def test_the_order_of_a_date_is_the_whole_columns_and_never_a_rows() -> None:
    """The 13th proves it for all: row by row, the days up to the 12th would become months."""
    rows = "\n".join(f"{day:02d}/03/2026 12:00,12.{day}" for day in range(1, 29))
    days = [datetime.fromtimestamp(at, UTC) for at in read(f"Time,Volts\n{rows}\n")[:, 0]]
    assert [moment.day for moment in days] == list(range(1, 29))
    assert {moment.month for moment in days} == {3}
    american = "\n".join(f"03/{day:02d}/2026 12:00,12.{day}" for day in range(1, 29))
    assert np.array_equal(
        read(f"Time,Volts\n{american}\n")[:, 0], read(f"Time,Volts\n{rows}\n")[:, 0]
    )


def test_a_date_that_can_be_read_two_ways_is_asked_with_both() -> None:
    text = "Time,Volts\n03/04/2026 12:00,12.5\n04/04/2026 12:00,12.5\n"
    assert preview("a.csv", text.encode()).dates == ("3 April 2026", "4 March 2026")
    with pytest.raises(MeterLogError, match="3 April 2026 or 4 March 2026"):
        read(text)
    assert datetime.fromtimestamp(read(text, dates="day_first")[0, 0], UTC).month == 4
    assert datetime.fromtimestamp(read(text, dates="month_first")[0, 0], UTC).month == 3
    with pytest.raises(MeterLogError, match="day first"):
        read("Time,Volts\n25/04/2026,12.5\n", dates="month_first")


def test_a_column_that_contradicts_itself_is_refused_with_its_line() -> None:
    with pytest.raises(MeterLogError, match="line 3: “04/25/2026”; other lines have the day first"):
        read("Time,Volts\n25/04/2026,12.5\n04/25/2026,12.5\n")


def test_a_date_and_a_time_in_two_columns() -> None:
    found = read("Date,Volts,Time\n25.04.2026,12.5,08:00\n25.04.2026,12.4,08:01\n")
    assert np.diff(found[:, 0]) == pytest.approx([60.0])


def test_a_signed_net_current_becomes_charge_and_load() -> None:
    table = read_meter_log(
        "a.csv", b"Time,Current (A)\n2026-07-01 00:00,-3.5\n2026-07-01 00:01,2\n", [], UTC
    )
    assert table.columns()[:, 2].tolist() == [0.0, 2.0]
    assert table.columns()[:, 3].tolist() == [3.5, 0.0]
    assert any("net current" in note for note in table.notes)


@pytest.mark.parametrize(
    ("data", "volts"),
    [
        ("Time;Spannung\n2026-07-01 00:00;12,5\n".encode("utf-16"), 12.5),
        ("Time;Spannung\n2026-07-01 00:00;12,5\n".encode("utf-16-le"), 12.5),
        (b"Time,Volts\r2026-07-01 00:00,12.5\r2026-07-01 00:01,12.4\r", 12.5),
        (b"\xef\xbb\xbfTime\tVolts\r\n2026-07-01 00:00\t12.5 V\r\n", 12.5),
        (b"Time;mV\n2026-07-01 00:00;12.500,0\n", 12.5),
        ("Time;Volts;Temp °C\n2026-07-01 00:00;12,5;4\n".encode("cp1252"), 12.5),
    ],
)
def test_encodings_separators_and_line_ends(data: bytes, volts: float) -> None:
    assert read(data)[0, 1] == pytest.approx(volts)


def test_a_windows_text_is_said() -> None:
    data = "Time;Volts;Temp °C\n2026-07-01 00:00;12,5;4\n".encode("cp1252")
    assert any("Windows text" in note for note in read_meter_log("a.csv", data, [], UTC).notes)


def test_a_workbook_and_an_old_one() -> None:
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.append(["Date", "Time", "Voltage"])
    for minute in range(3):
        sheet.append([datetime(2026, 7, 1), f"08:0{minute}", 12.5])
    sink = io.BytesIO()
    book.save(sink)
    found = read_meter_log("a.xlsx", sink.getvalue(), [], UTC).columns()
    assert np.diff(found[:, 0]) == pytest.approx([60.0, 60.0])
    with pytest.raises(MeterLogError, match=r"old kind \(.xls\)"):
        read(b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + bytes(100))
    with pytest.raises(MeterLogError, match="no "):
        read(b"PK\x03\x04" + bytes(100))


def test_offsets_that_change_within_the_column_are_one_time() -> None:
    """The clocks went back between the two rows; each says its own offset."""
    found = read("Time,Volts\n2026-04-05T02:30:00+13:00,12.5\n2026-04-05T02:30:00+12:00,12.4\n")
    assert np.diff(found[:, 0]) == pytest.approx([3600.0])


def test_what_is_left_out_is_said() -> None:
    rows = "2026-04-05 01:30,12.5\n2026-04-05 02:30,12.5\n2026-04-05 03:30,12.5\n,\n"
    table = read_meter_log("a.csv", f"Time,Volts\n{rows}".encode(), [], AUCKLAND)
    assert table.rows == 2
    assert any("when clocks went back, this hour came twice" in note for note in table.notes)
    assert any("empty line" in note for note in table.notes)


@pytest.mark.parametrize("value", ["inf", "nan", "1" + "0" * 400, "1e999", "--5"])
def test_a_figure_that_is_none_is_refused_with_its_line(value: str) -> None:
    with pytest.raises(MeterLogError, match="line 3"):
        read(f"Time,Volts\n2026-07-01 00:00,12.5\n2026-07-01 00:01,{value}\n")


@pytest.mark.parametrize(
    "value", ["1969-12-31", "2101-01-01", "0001-01-01", "31/06/2026", "-5", "1e12", "noon"]
)
def test_a_moment_out_of_bounds_is_refused_with_its_line(value: str) -> None:
    with pytest.raises(MeterLogError, match="line 2"):
        read(f"Time,Volts\n{value},12.5\n")


def test_a_row_in_a_later_piece_has_its_own_line(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("yonderstat.formats.meter_files.PIECE_ROWS", 10)
    start = datetime(2026, 7, 1)
    rows = [f"{start + timedelta(minutes=number)},12.5" for number in range(35)]
    whole = read("Time,Volts\n" + "\n".join(rows))
    assert len(whole) == 35
    rows[27] = "2026-07-01 00:27,much"
    with pytest.raises(MeterLogError, match="line 29, column “Volts”"):
        read("Time,Volts\n" + "\n".join(rows))
    rows[27] = "2026-06-01 00:27,12.5"
    with pytest.raises(MeterLogError, match="line 29: the time jumps back"):
        read("Time,Volts\n" + "\n".join(rows))


@pytest.mark.parametrize("cell", [" " * 10_000, " " * 9_999 + "x", "1" * 10_000, "0/" * 5_000])
def test_no_cell_costs_more_than_its_length(cell: str) -> None:
    """10,000 blanks once cost seven seconds, by a pattern that tried every split of them."""
    began = time.process_time()
    for text in (
        f"Time,Volts\n2026-07-01,{cell}\n",
        f"Time,Volts\n{cell},12.5\n",
        f"{cell},Volts\n1,2\n",
    ):
        with contextlib.suppress(MeterLogError):
            read(text)
    WRITTEN.match(cell)
    assert time.process_time() - began < 1.0


READ_A_LARGE_ONE = """
import io, resource, sys, tempfile
from datetime import UTC
from yonderstat.formats import meter_reading, read_meter_log
read_meter_log("a.csv", b"Time,Volts\\n2026-07-01 00:00,12.5\\n", [], UTC)
with tempfile.TemporaryFile() as file:
    file.write(b"Time,Battery V,Charge A,Load A,Note\\n")
    start = 1_780_000_000
    for number in range(500_000):
        file.write(b"%d,12.%02d,1.5,0.9,%s\\n" % (start + 60 * number, number % 100, b"x" * 110))
    size = file.tell()
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    rows = sum(table.rows for table in meter_reading("a.csv", file, [], UTC).tables())
    after = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
print(size // 1_000_000, rows, (after - before) // 1000)
"""


def test_a_large_record_takes_little_memory_to_read() -> None:
    """70 MB, read in pieces: at most 150 MB more than before it."""
    done = subprocess.run(
        [sys.executable, "-c", READ_A_LARGE_ONE], capture_output=True, text=True, check=True
    )
    megabytes, rows, more_mb = map(int, done.stdout.split())
    assert megabytes > 65
    assert rows == 500_000
    assert more_mb < 150
