"""The command line: reports on standard output, faults as JSON, exit codes."""

import json
from pathlib import Path

import pytest

from yonderstat.cli import main
from yonderstat.demo.quay_street import QUAY_STREET


def test_evaluate_prints_the_whole_report(tmp_path: Path, capfdbinary: pytest.CaptureFixture[bytes]) -> None:
    file = tmp_path / "quay.yonderstat.json"
    file.write_text(json.dumps(QUAY_STREET))
    assert main(["evaluate", str(file)]) == 0
    report = json.loads(capfdbinary.readouterr().out)
    assert {"verdict", "draw", "store", "sun", "array", "findings", "working"} <= set(report)


@pytest.mark.parametrize(
    ("text", "pointer"),
    [
        ("{", ""),
        ("{}", ""),
        (json.dumps(QUAY_STREET | {"place": {"latitude_deg": 95, "longitude_deg": 0}}), "/place/latitude_deg"),
    ],
)
def test_a_bad_file_is_2_and_a_list(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], text: str, pointer: str
) -> None:
    file = tmp_path / "bad.json"
    file.write_text(text)
    assert main(["evaluate", str(file)]) == 2
    faults = json.loads(capsys.readouterr().out)
    assert faults[0]["pointer"] == pointer
    assert faults[0]["message"]


def test_no_such_file(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    assert main(["evaluate", str(tmp_path / "none.json")]) == 2
    assert "cannot read" in json.loads(capsys.readouterr().out)[0]["message"]


def test_a_huge_file_is_refused_unread(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "huge.json"
    with file.open("wb") as sink:
        sink.truncate(50_000_000)
    assert main(["evaluate", str(file)]) == 2
    assert "MB" in json.loads(capsys.readouterr().out)[0]["message"]


def test_the_schema_is_that_of_a_design(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["schema"]) == 0
    schema = json.loads(capsys.readouterr().out)
    assert schema["properties"]["format"]["const"] == "yonderstat-design"
    assert schema["additionalProperties"] is False


def test_rehearse_plays_an_outage(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Quay Street's three July days: a summary on standard output, 72 hours in the table."""
    file, hours = tmp_path / "quay.yonderstat.json", tmp_path / "hours.csv"
    file.write_text(json.dumps(QUAY_STREET))
    assert main(["rehearse", str(file), "--start", "07-10", "--days", "3", "--hours", str(hours)]) == 0
    summary = json.loads(capsys.readouterr().out)
    assert summary["sentence"].startswith("Dark after")
    rows = hours.read_text().splitlines()
    assert len(rows) == 73
    assert rows[0].startswith("hour,sun_w_m2")


@pytest.mark.parametrize("more", [["--start", "July"], ["--start", "13-01"], ["--days", "400"]])
def test_a_scene_that_cannot_be_is_2(tmp_path: Path, capsys: pytest.CaptureFixture[str], more: list[str]) -> None:
    file = tmp_path / "quay.yonderstat.json"
    file.write_text(json.dumps(QUAY_STREET))
    assert main(["rehearse", str(file), *more]) == 2
    assert json.loads(capsys.readouterr().out)[0]["message"]


def test_weather_years_and_the_map(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """`--years` adds shares by month; `map` prints a row a size and says the answer on the error stream."""
    file = tmp_path / "quay.yonderstat.json"
    file.write_text(json.dumps(QUAY_STREET))
    assert main(["rehearse", str(file), "--years", "2"]) == 0
    years = json.loads(capsys.readouterr().out)["years"]
    assert years["years"] == 2
    assert len(years["served_by_month"]["vital"]) == 12
    assert main(["map", str(file), "--steps", "8", "--years", "1"]) == 0
    told = capsys.readouterr()
    rows = told.out.splitlines()
    sizes = [row.split(",")[:2] for row in rows[1:]]
    assert len(sizes) == len({watts for watts, _ in sizes}) * len({amp_hours for _, amp_hours in sizes}) > 16
    assert rows[0] == "watts,amp_hours,chance_to_carry_the_spell,cost,bank_kg,allowed"
    assert "cheapest" in told.err


@pytest.mark.parametrize(
    "words", [["map", "--steps", "4"], ["rehearse", "--years", "0"], ["rehearse", "--hours", "/nowhere/x"]]
)
def test_a_map_or_years_that_cannot_be_are_2(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], words: list[str]
) -> None:
    file = tmp_path / "quay.yonderstat.json"
    file.write_text(json.dumps(QUAY_STREET))
    assert main([words[0], str(file), *words[1:]]) == 2
    assert json.loads(capsys.readouterr().out)[0]["message"]
