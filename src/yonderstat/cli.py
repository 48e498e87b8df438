"""The command line: `yonderstat evaluate FILE`, `schema`, `demo`, `migrate`."""

import argparse
import json
import sys
from dataclasses import asdict
from pathlib import Path

from pydantic import TypeAdapter

from yonderstat.core import Report, evaluate
from yonderstat.core.design import Design, Fault, InvalidDesignError, design_from_json
from yonderstat.demo import build_demo_sites
from yonderstat.records import Archive, database_url, load_towns, migrate, open_engine
from yonderstat.web import create_app

MAX_FILE_BYTES = 2_000_000
EXIT_BAD_FILE = 2


def _fail(faults: list[Fault]) -> int:
    print(json.dumps([asdict(fault) for fault in faults], ensure_ascii=False, indent=2))
    return EXIT_BAD_FILE


def evaluate_file(path: str) -> int:
    """Print the whole report on a design file as JSON; 2 and a list of faults if it cannot be read."""
    try:
        with Path(path).open("rb") as file:
            text = file.read(MAX_FILE_BYTES + 1)
    except OSError as error:
        return _fail([Fault("", f"cannot read {path}: {error.strerror}")])
    if len(text) > MAX_FILE_BYTES:
        return _fail([Fault("", f"is over {MAX_FILE_BYTES // 1_000_000} MB; a design is a few thousand bytes")])
    try:
        design = design_from_json(text)
    except InvalidDesignError as error:
        return _fail(error.faults)
    sys.stdout.buffer.write(TypeAdapter(Report).dump_json(evaluate(design), indent=2) + b"\n")
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
    commands.add_parser("schema", help="print the JSON Schema of the design document")
    commands.add_parser("migrate", help="bring the database to the newest schema")
    demo = commands.add_parser("demo", help="build the demo sites in an empty database")
    demo.add_argument("--migrate", action="store_true", help="bring the database to the newest schema first")
    chosen = parser.parse_args(argv)
    if chosen.command == "evaluate":
        return evaluate_file(chosen.file)
    if chosen.command == "schema":
        return print_schema()
    if chosen.command == "demo":
        return build_demo(chosen.migrate)
    return bring_up_to_date()


if __name__ == "__main__":
    sys.exit(main())
