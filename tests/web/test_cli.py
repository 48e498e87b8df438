"""The command line: reports on standard output, faults as JSON, exit codes."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from pypdf import PdfReader

from yonderstat.cli import main
from yonderstat.core.design import design_from_document
from yonderstat.demo.harrier_log import UNCOUNTED_A, harrier_record
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.records import Archive


def test_evaluate_prints_the_whole_report(
    tmp_path: Path, capfdbinary: pytest.CaptureFixture[bytes]
) -> None:
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
        (
            json.dumps(QUAY_STREET | {"place": {"latitude_deg": 95, "longitude_deg": 0}}),
            "/place/latitude_deg",
        ),
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
    assert (
        main(["rehearse", str(file), "--start", "07-10", "--days", "3", "--hours", str(hours)]) == 0
    )
    summary = json.loads(capsys.readouterr().out)
    assert summary["sentence"].startswith("Loses power after")
    rows = hours.read_text().splitlines()
    assert len(rows) == 73
    assert rows[0].startswith("hour,sun_w_m2")


@pytest.mark.parametrize("more", [["--start", "July"], ["--start", "13-01"], ["--days", "400"]])
def test_a_scene_that_cannot_be_is_2(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], more: list[str]
) -> None:
    file = tmp_path / "quay.yonderstat.json"
    file.write_text(json.dumps(QUAY_STREET))
    assert main(["rehearse", str(file), *more]) == 2
    assert json.loads(capsys.readouterr().out)[0]["message"]


def test_weather_years_and_the_map(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """`--years` adds shares by month; `map` prints a row a size and says the answer on the error
    stream."""
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
    assert (
        len(sizes)
        == len({watts for watts, _ in sizes}) * len({amp_hours for _, amp_hours in sizes})
        > 16
    )
    assert rows[0] == "watts,amp_hours,outages,cost,bank_kg,allowed"
    assert "Cheapest" in told.err


@pytest.mark.parametrize(
    "words",
    [["map", "--steps", "4"], ["rehearse", "--years", "0"], ["rehearse", "--hours", "/nowhere/x"]],
)
def test_a_map_or_years_that_cannot_be_are_2(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], words: list[str]
) -> None:
    file = tmp_path / "quay.yonderstat.json"
    file.write_text(json.dumps(QUAY_STREET))
    assert main([words[0], str(file), *words[1:]]) == 2
    assert json.loads(capsys.readouterr().out)[0]["message"]


def test_a_paper_is_written_as_pdf(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file, to = tmp_path / "quay.json", tmp_path / "out.pdf"
    file.write_text(json.dumps(QUAY_STREET))
    for kind in ("card", "schedule", "labels", "parts"):
        assert (
            main(["report", str(file), "--pdf", str(to), "--kind", kind, "--paper", "letter"]) == 0
        )
        reader = PdfReader(to)
        assert "Fuse" in "".join(page.extract_text() for page in reader.pages) or kind == "parts"
    ways = ["--units", "feet", "--fahrenheit", "--formulas"]
    assert main(["report", str(file), "--pdf", str(to), *ways]) == 0
    told = "".join(page.extract_text() for page in PdfReader(to).pages)
    assert "13.1 ft" in told
    assert "How each figure was worked out" in told
    assert main(["report", str(file), "--pdf", str(tmp_path / "none" / "out.pdf")]) == 2
    assert "cannot write" in json.loads(capsys.readouterr().out)[0]["message"]


def test_the_club_goes_into_a_file_and_back(
    archive: Archive,
    url: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    monkeypatch.setenv("YONDERSTAT_DATABASE_URL", url)
    archive.add_site("Here", design_from_document(QUAY_STREET))
    to = tmp_path / "club.zip"
    assert main(["archive", str(to)]) == 0
    assert "1 sites, 1 designs." in capsys.readouterr().out
    assert main(["restore", str(to)]) == 0
    assert json.loads(capsys.readouterr().out)["sites_added"] == 0
    to.write_bytes(to.read_bytes()[:300])
    assert main(["restore", str(to)]) == 2
    assert "isn't a complete zip file" in json.loads(capsys.readouterr().out)[0]["message"]


def test_a_meters_record_is_fitted_and_logged(
    archive: Archive,
    url: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    """The demo's own record: its planted fault is named, and it is kept once."""
    monkeypatch.setenv("YONDERSTAT_DATABASE_URL", url)
    design, log = tmp_path / "ridge.json", tmp_path / "monitor.csv"
    design.write_text(json.dumps(HARRIER_AS_BUILT))
    log.write_text(harrier_record())
    assert main(["fit", str(design), str(log)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["explanations"][0]["id"] == "uncounted"
    assert told["explanations"][0]["size"] == pytest.approx(UNCOUNTED_A, abs=0.08)
    archive.add_site("Ridge", design_from_document(HARRIER_AS_BUILT))
    assert main(["log", str(log), "--site", "Ridge"]) == 0
    first = json.loads(capsys.readouterr().out)
    assert first["new"] == first["rows"] > 17_000
    assert main(["log", str(log), "--site", "Ridge"]) == 0
    assert json.loads(capsys.readouterr().out)["new"] == 0
    assert main(["log", str(log), "--site", "Nowhere"]) == 2
    log.write_text("time,volts\n2026-07-10,abc\n")
    assert main(["fit", str(design), str(log)]) == 2


NEEDS_THE_DATABASE = (
    ["archive", "club.zip"],
    ["log", "x.csv", "--site", "y"],
    ["restore", "club.zip"],
    ["migrate"],
)


@pytest.mark.parametrize("words", NEEDS_THE_DATABASE, ids=lambda words: words[0])
def test_without_an_installation_it_says_what_to_do(
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
    words: list[str],
) -> None:
    monkeypatch.delenv("YONDERSTAT_DATABASE_URL", raising=False)
    monkeypatch.setenv("YONDERSTAT_WORK", str(tmp_path))
    assert main(words) == 3
    told = capsys.readouterr().err
    assert "run ./start first" in told
    assert told.count("\n") == 1


def test_the_installation_of_this_checkout_is_found(
    archive: Archive,
    url: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    """The database that ./start made is named in its state file; nobody has to set a variable."""
    monkeypatch.delenv("YONDERSTAT_DATABASE_URL", raising=False)
    monkeypatch.setenv("YONDERSTAT_WORK", str(tmp_path))
    state = {"database_password": "any", "database_port": 1, "database_role": "app"}
    (tmp_path / "state.json").write_text(json.dumps(state))
    assert main(["archive", str(tmp_path / "club.zip")]) == 3
    assert "does not answer" in capsys.readouterr().err
    port = int(url.split(":")[-1].split("/")[0])
    (tmp_path / "state.json").write_text(json.dumps(state | {"database_port": port}))
    # The test's database has another name than an installation's: an empty one answers that its
    # tables are missing.
    assert main(["archive", str(tmp_path / "club.zip")]) != 3
    (tmp_path / "state.json").write_text("{")
    assert main(["archive", str(tmp_path / "club.zip")]) == 3
    assert "mends it" in capsys.readouterr().err


def test_no_mistake_shows_a_traceback(tmp_path: Path) -> None:
    """As a person runs it: exit code and one line, for files that are not there, folders, and odd
    arguments."""
    environment = {
        key: value for key, value in os.environ.items() if not key.startswith("YONDERSTAT")
    }
    environment["YONDERSTAT_WORK"] = str(tmp_path)
    for words in (
        ["fit", "none.json", "none.csv"],
        ["restore", str(tmp_path)],
        ["standin", "--fault", "panel_lost", "--port", "1"],
        ["poll"],
    ):
        command = [sys.executable, "-m", "yonderstat.cli", *words]
        done = subprocess.run(
            command, env=environment, cwd=tmp_path, capture_output=True, text=True, check=False
        )
        assert done.returncode in {2, 3}, words
        assert "Traceback" not in done.stderr + done.stdout
        assert done.stderr + done.stdout


def test_a_fault_of_the_program_is_one_line(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    def broken() -> int:
        raise ValueError("x")

    monkeypatch.setattr("yonderstat.cli.print_schema", broken)
    assert main(["schema"]) == 70
    assert capsys.readouterr().err.startswith("A fault of the program, not yours: ValueError: x.")
