"""The ledger as a table: out and in again, spreadsheets as people keep them, and faults by line."""

import pytest

from tests.samples import harrier_ridge, quay_street, with_loads
from yonderstat.formats import read_loads, write_loads


@pytest.mark.parametrize("design", [harrier_ridge(), quay_street()])
def test_out_and_in_again(design: object) -> None:
    """What the table holds comes back; ids are new and figures are then typed in."""
    text = write_loads(design)  # type: ignore[arg-type]
    table = read_loads(text, ["inverter"], [])
    assert table.faults == []
    assert table.had_heading
    again = write_loads(with_loads(design, *table.loads))  # type: ignore[arg-type]
    assert again == text


def test_a_spreadsheets_clipboard() -> None:
    table = read_loads(
        "Device\tRx\tTX A\tDuty %\tHours\nHF set\t1,6 A\t22\t6 %\t8\nRouter\t0.9\t\t\t24\n", [], ["load-1"]
    )
    assert table.columns == ["name", "receive_a", "transmit_a", "transmit_share_percent", "hours_per_day"]
    assert [load.id for load in table.loads] == ["load-2", "load-3"]
    assert table.loads[0].transmit_share.value == pytest.approx(0.06)
    assert table.loads[0].receive_a.value == pytest.approx(1.6)
    assert table.loads[1].transmit_a is None


def test_without_a_heading_the_order_is_guessed() -> None:
    table = read_loads("Scanner;0,45;;;12\nBeacon;0,2;1,5;10;24", [], [])
    assert not table.had_heading
    assert table.loads[1].transmit_a is not None
    assert [load.name for load in table.loads] == ["Scanner", "Beacon"]


@pytest.mark.parametrize(
    ("text", "line", "column", "words"),
    [
        ("name,receive_a\nHF,lots", 2, "receive_a", "“lots” is not a number"),
        ("name,receive_a\nHF,1\nVHF,-2", 3, "receive_a", "at least 0"),
        ("name,tier\nHF,precious", 2, "tier", "must be one of"),
        ("name,rail\nHF,the moon", 2, "rail", "not a rail"),
        ("name,quantity\nHF,1.5", 2, "quantity", "whole number"),
        ("name,receive_a\nHF,1e999", 2, "receive_a", "finite"),
        ("name,quantity\nHF,1e999", 2, "quantity", "not a number"),
        ("", 1, "", "nothing in it"),
        ("name\n" + "x\n" * 10_000, 202, "", "at most 200"),
    ],
)
def test_faults_name_line_and_column(text: str, line: int, column: str, words: str) -> None:
    fault = read_loads(text, [], []).faults[0]
    assert (fault.line, fault.column) == (line, column)
    assert words in fault.message


def test_no_cell_is_a_formula_to_a_spreadsheet() -> None:
    design = quay_street()
    loads = [design.draw.loads[0].model_copy(update={"name": "=HYPERLINK(1)"})]
    text = write_loads(with_loads(design, *loads))
    assert "\n'=HYPERLINK" in text
    assert read_loads(text, [], []).loads[0].name == "=HYPERLINK(1)"
