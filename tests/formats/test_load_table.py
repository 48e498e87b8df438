"""The ledger as a table: out and in again, spreadsheets as people keep them, and faults by line."""

import io
import time
import zipfile

import pytest

from tests.samples import harrier_ridge, quay_street, with_loads
from yonderstat.formats import read_loads, write_loads
from yonderstat.formats.sheets import read_sheet, write_ods


@pytest.mark.parametrize("design", [harrier_ridge(), quay_street()])
def test_out_and_in_again(design: object) -> None:
    """What the table holds comes back; ids are new and figures are then typed in."""
    text = write_loads(design)  # type: ignore[arg-type]
    table = read_loads(text, {"inverter": 230.0}, [])
    assert table.faults == []
    assert table.had_heading
    again = write_loads(with_loads(design, *table.loads))  # type: ignore[arg-type]
    assert again == text


def test_a_spreadsheets_clipboard() -> None:
    table = read_loads(
        "Device\tRx\tTX A\tDuty %\tHours\nHF set\t1,6 A\t22\t6 %\t8\nRouter\t0.9\t\t\t24\n",
        {},
        ["load-1"],
    )
    assert table.columns == [
        "name",
        "receive_a",
        "transmit_a",
        "transmit_share_percent",
        "hours_per_day",
    ]
    assert [load.id for load in table.loads] == ["load-2", "load-3"]
    assert table.loads[0].transmit_share.value == pytest.approx(0.06)
    assert table.loads[0].receive_a.value == pytest.approx(1.6)
    assert table.loads[1].transmit_a is None


def test_without_a_heading_the_order_is_guessed() -> None:
    table = read_loads("Scanner;0,45;;;12\nBeacon;0,2;1,5;10;24", {}, [])
    assert not table.had_heading
    assert table.loads[1].transmit_a is not None
    assert [load.name for load in table.loads] == ["Scanner", "Beacon"]


@pytest.mark.parametrize(
    ("text", "line", "column", "words"),
    [
        ("name,receive_a\nHF,lots", 2, "receive_a", "“lots” isn't a number"),
        ("name,receive_a\nHF,1\nVHF,-2", 3, "receive_a", "at least 0"),
        ("name,tier\nHF,precious", 2, "tier", "must be one of"),
        ("name,rail\nHF,the moon", 2, "rail", "no supply line called"),
        ("name,quantity\nHF,1.5", 2, "quantity", "whole number"),
        ("name,receive_a\nHF,1e999", 2, "receive_a", "finite"),
        ("name,quantity\nHF,1e999", 2, "quantity", "finite"),
        ("", 1, "", "it is empty"),
        ("name\n" + "x\n" * 10_000, 202, "", "200 loads at most"),
    ],
)
def test_faults_name_line_and_column(text: str, line: int, column: str, words: str) -> None:
    fault = read_loads(text, {}, []).faults[0]
    assert (fault.line, fault.column) == (line, column)
    assert words in fault.message


def test_no_cell_is_a_formula_to_a_spreadsheet() -> None:
    design = quay_street()
    loads = [design.draw.loads[0].model_copy(update={"name": "=HYPERLINK(1)"})]
    text = write_loads(with_loads(design, *loads))
    assert "\n'=HYPERLINK" in text
    assert read_loads(text, {}, []).loads[0].name == "=HYPERLINK(1)"


@pytest.mark.parametrize(
    ("cell", "amps", "watts"),
    [("12 W", 1.0, 12.0), ("500 mA", 0.5, None), ("1,5A", 1.5, None), (".5", 0.5, None)],
)
def test_watts_in_a_column_of_amps_are_amps_at_the_rails_volts(
    cell: str, amps: float, watts: float | None
) -> None:
    load = read_loads(f"name;rx a\nRadio;{cell}\n", {}, [], 12.0).loads[0]
    assert load.receive_a.value == pytest.approx(amps)
    assert (load.receive_w.value if load.receive_w else None) == watts
    inverter = read_loads(
        "name,receive_a,rail\nScreen,46 W,inverter", {"inverter": 230.0}, [], 12.0
    ).loads[0]
    assert inverter.receive_a.value == pytest.approx(0.2)


@pytest.mark.parametrize("cell", ["12 Ah", "3 kg", "12 V", "12 W 3"])
def test_another_unit_in_a_column_of_amps_is_refused(cell: str) -> None:
    fault = read_loads(f"name,receive_a\nRadio,{cell}\n", {}, []).faults[0]
    assert (fault.line, fault.column) == (2, "receive_a")


@pytest.mark.parametrize(
    ("heading", "column"),
    [("Receiving A", "receive_a"), ("RX A", "receive_a"), ("TX A", "transmit_a"), ("Empfang (A)", "receive_a"),
     ("Courant", "receive_a"), ("Consumo recepción", "receive_a"), ("Zendstroom", "transmit_a"),
     ("Ore", "hours_per_day")],
)  # fmt: skip
def test_headings_as_people_write_them(heading: str, column: str) -> None:
    assert column in read_loads(f"name,{heading}\nRadio,1\n", {}, []).columns


def test_a_heading_nobody_knows_is_named_and_asked() -> None:
    """“Receiving A” became 0 A without a word."""
    table = read_loads("name,Zork,Notes\nRadio,1.5,\n", {}, [])
    assert table.unknown == ["Zork"]
    said = read_loads("name,Zork,Notes\nRadio,1.5,\n", {}, [], said=["name", "receive_a", None])
    assert said.unknown == []
    assert said.loads[0].receive_a.value == 1.5
    wrong = read_loads("name,Zork\nRadio,1.5\n", {}, [], said=["name", "nonsense"])
    assert "nothing a column can be" in wrong.faults[0].message


def test_a_cell_with_a_line_break_keeps_its_space() -> None:
    assert (
        read_loads('name,receive_a\n"HF radio\n100 W",1\n', {}, []).loads[0].name
        == "HF radio 100 W"
    )


def test_ten_thousand_blanks_cost_nothing() -> None:
    began = time.process_time()
    for cell in (" " * 10_000, " " * 10_000 + "a", "1" + " " * 10_000 + "b"):
        read_loads(f"name,receive_a\nRadio,{cell}\n", {}, [])
    assert time.process_time() - began < 1.0


def test_what_only_looks_like_a_number_stays_a_text() -> None:
    kept = [["0012", "12.5", "1e5", "-3", "007.5", "+49 1"]]
    data = write_ods("x", kept)
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        content = packed.read("content.xml").decode()
    assert content.count('office:value-type="float"') == 2
    assert read_sheet("x.ods", data)[0][0] == "0012"
