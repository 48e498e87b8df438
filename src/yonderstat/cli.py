"""The command line: `yonderstat evaluate FILE`, `schema`, `demo`, `migrate`."""

import argparse
import json
import sys
from dataclasses import asdict
from pathlib import Path

from pydantic import TypeAdapter

from yonderstat.core import Report, evaluate
from yonderstat.core.design import Design, Fault, InvalidDesignError, design_from_json

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


def migrate_database() -> int:
    """Bring the database to the newest schema."""
    from yonderstat.records import database_url, migrate

    migrate(database_url())
    return 0


def build_demo() -> int:
    """Build the demo sites if there are none, through the same doors as a user."""
    from yonderstat.demo import build_demo_if_empty
    from yonderstat.web import create_app

    built = build_demo_if_empty(create_app())
    print(f"demo: {built} sites built" if built else "demo: sites are there already, nothing done")
    return 0


def main(argv: list[str] | None = None) -> int:
    """Run one command; the exit code says whether it worked."""
    parser = argparse.ArgumentParser(prog="yonderstat", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    one = commands.add_parser("evaluate", help="print the report on a design file as JSON")
    one.add_argument("file")
    commands.add_parser("schema", help="print the JSON Schema of the design document")
    commands.add_parser("migrate", help="bring the database to the newest schema")
    commands.add_parser("demo", help="build the demo sites in an empty database")
    chosen = parser.parse_args(argv)
    if chosen.command == "evaluate":
        return evaluate_file(chosen.file)
    return {"schema": print_schema, "migrate": migrate_database, "demo": build_demo}[chosen.command]()


if __name__ == "__main__":
    sys.exit(main())
