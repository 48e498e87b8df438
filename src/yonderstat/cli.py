"""The command line: `yonderstat evaluate FILE`, `rehearse FILE`, `schema`, `demo`, `migrate`."""

import argparse
import csv
import json
import sys
from dataclasses import asdict
from pathlib import Path

from pydantic import TypeAdapter, ValidationError

from yonderstat.core import Report, evaluate
from yonderstat.core.design import Design, Fault, InvalidDesignError, design_from_json
from yonderstat.core.rehearse import Scene, rehearse
from yonderstat.demo import build_demo_sites
from yonderstat.records import Archive, database_url, load_towns, migrate, open_engine
from yonderstat.web import create_app

MAX_FILE_BYTES = 2_000_000
EXIT_BAD_FILE = 2


def _fail(faults: list[Fault]) -> int:
    print(json.dumps([asdict(fault) for fault in faults], ensure_ascii=False, indent=2))
    return EXIT_BAD_FILE


def _design_in(path: str) -> Design:
    """The design in a file; what is wrong with it as `InvalidDesignError`."""
    try:
        with Path(path).open("rb") as file:
            text = file.read(MAX_FILE_BYTES + 1)
    except OSError as error:
        raise InvalidDesignError([Fault("", f"cannot read {path}: {error.strerror}")]) from None
    if len(text) > MAX_FILE_BYTES:
        too_big = Fault("", f"is over {MAX_FILE_BYTES // 1_000_000} MB; a design is a few thousand bytes")
        raise InvalidDesignError([too_big])
    return design_from_json(text)


def evaluate_file(path: str) -> int:
    """Print the whole report on a design file as JSON; 2 and a list of faults if it cannot be read."""
    try:
        design = _design_in(path)
    except InvalidDesignError as error:
        return _fail(error.faults)
    sys.stdout.buffer.write(TypeAdapter(Report).dump_json(evaluate(design), indent=2) + b"\n")
    return 0


def _scene(start: str, days: int, sky: str) -> Scene:
    try:
        month, day = (int(part) for part in start.split("-"))
        return Scene.model_validate({"month": month, "day": day, "days": days, "sky": sky})
    except ValidationError as error:
        faults = [Fault("/" + "/".join(map(str, item["loc"])), item["msg"]) for item in error.errors()]
        raise InvalidDesignError(faults) from None
    except ValueError:
        raise InvalidDesignError([Fault("/start", f"{start!r} is not a month and a day, such as 07-10")]) from None


def rehearse_file(path: str, scene: tuple[str, int, str], hours_to: str | None) -> int:
    """Play an outage on a design file: a summary as JSON, and the hours as CSV if a file for them is named."""
    try:
        design, played = _design_in(path), _scene(*scene)
    except InvalidDesignError as error:
        return _fail(error.faults)
    report = rehearse(design, played)
    if report is None:
        return _fail([Fault("", "cannot be rehearsed: it needs a place with sun data, and a bank")])
    if hours_to:
        with Path(hours_to).open("w", newline="", encoding="utf-8") as file:
            table = csv.writer(file)
            table.writerow(["hour", "sun_w_m2", "source_a", "wanted_a", "vital", "useful", "comfort", "charge_share"])
            for number, hour in enumerate(report.hours):
                figures = [hour.sun_w_m2, hour.source_a, hour.wanted_a, *hour.served, hour.charge_share]
                table.writerow([number, *(f"{value:.4f}" for value in figures)])
    summary = {
        "sentence": report.sentence,
        "dark_hours": report.dark_hours,
        "left_share": report.left_share,
        "drawn_ah": report.drawn_ah,
        "brought_ah": report.brought_ah,
        "events": [asdict(event) for event in report.events],
    }
    print(json.dumps(summary, ensure_ascii=False, indent=2))
    return 0


def print_schema() -> int:
    """Print the JSON Schema of the design document."""
    print(json.dumps(Design.model_json_schema(), ensure_ascii=False, indent=2))
    return 0


def bring_up_to_date() -> int:
    """Bring the database to the newest schema and fill its gazetteer."""
    migrate(database_url())
    load_towns(open_engine(database_url()))
    return 0


def build_demo(first_migrate: bool) -> int:
    """Build the demo sites if there are none, through the same doors as a user."""
    if first_migrate:
        bring_up_to_date()
    if Archive(open_engine(database_url())).sites():
        print("Demo: sites are there already, nothing done.")
    else:
        print(f"Demo: {build_demo_sites(create_app())} sites built.")
    return 0


def main(argv: list[str] | None = None) -> int:
    """Run one command; the exit code says whether it worked."""
    parser = argparse.ArgumentParser(prog="yonderstat", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    one = commands.add_parser("evaluate", help="print the report on a design file as JSON")
    one.add_argument("file")
    play = commands.add_parser("rehearse", help="play an outage on a design file: summary as JSON, hours as CSV")
    play.add_argument("file")
    play.add_argument("--start", default="06-15", help="month and day, such as 07-10")
    play.add_argument("--days", type=int, default=3)
    play.add_argument("--sky", choices=["typical", "poor", "worst", "none"], default="typical")
    play.add_argument("--hours", help="write the hours to this CSV file")
    commands.add_parser("schema", help="print the JSON Schema of the design document")
    commands.add_parser("migrate", help="bring the database to the newest schema")
    demo = commands.add_parser("demo", help="build the demo sites in an empty database")
    demo.add_argument("--migrate", action="store_true", help="bring the database to the newest schema first")
    chosen = parser.parse_args(argv)
    if chosen.command == "evaluate":
        return evaluate_file(chosen.file)
    if chosen.command == "rehearse":
        return rehearse_file(chosen.file, (chosen.start, chosen.days, chosen.sky), chosen.hours)
    if chosen.command == "schema":
        return print_schema()
    if chosen.command == "demo":
        return build_demo(chosen.migrate)
    return bring_up_to_date()


if __name__ == "__main__":
    sys.exit(main())
