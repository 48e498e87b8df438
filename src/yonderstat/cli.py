"""The command line: on a design file `evaluate`, `report`, `rehearse`, `map`; on what is kept
`archive`, `restore`."""

import argparse
import csv
import json
import os
import sys
from collections.abc import Callable, Iterable, Sequence
from dataclasses import asdict, replace
from datetime import UTC, datetime
from pathlib import Path

from procrastinate.exceptions import ConnectorException
from pydantic import TypeAdapter, ValidationError
from sqlalchemy.exc import OperationalError

from yonderstat.core import Report, evaluate
from yonderstat.core.design import Design, Fault, InvalidDesignError, design_from_json
from yonderstat.core.log import days_of, fit_of
from yonderstat.core.reader_units import ReaderUnits
from yonderstat.core.rehearse import (
    MapAsk,
    Scene,
    SceneReport,
    SizingMap,
    YearsReport,
    rehearse,
    sizing_map,
    years_report,
)
from yonderstat.core.station import StationModel
from yonderstat.core.words import plain
from yonderstat.demo import build_demo_sites
from yonderstat.formats import (
    ORDERS,
    ClubArchiveError,
    MeterLogError,
    Sheet,
    card_pdf,
    meter_reading,
    read_club,
    read_meter_log,
    report_pdf,
    sheet_pdf,
    write_club,
)
from yonderstat.jobs import run_worker, zone_of_design
from yonderstat.live_commands import STANDIN_PORT_VARIABLE, add_live_commands, run_live
from yonderstat.progress import tell_progress
from yonderstat.records import (
    Archive,
    NoInstallationError,
    Samples,
    club_record,
    database_url,
    load_towns,
    migrate,
    open_engine,
    restore_club,
)
from yonderstat.web import create_app

MAX_FILE_BYTES = 2_000_000
EXIT_BAD_FILE = 2
MOST_YEARS = 100


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
        too_big = Fault(
            "",
            (
                f"is larger than {MAX_FILE_BYTES // 1000000} MB; a design file has only a few "
                "thousand bytes"
            ),
        )
        raise InvalidDesignError([too_big])
    return design_from_json(text)


def evaluate_file(path: str) -> int:
    """Print the whole report on a design file as JSON; 2 and a list of faults if it cannot be
    read."""
    try:
        design = _design_in(path)
    except InvalidDesignError as error:
        return _fail(error.faults)
    told = TypeAdapter(Report).dump_json(evaluate(design), indent=2).decode()
    sys.stdout.buffer.write(plain(told).encode() + b"\n")
    return 0


def _scene(start: str, days: int, sky: str) -> Scene:
    try:
        month, day = (int(part) for part in start.split("-"))
        return Scene.model_validate({"month": month, "day": day, "days": days, "sky": sky})
    except ValidationError as error:
        faults = [
            Fault("/" + "/".join(map(str, item["loc"])), item["msg"]) for item in error.errors()
        ]
        raise InvalidDesignError(faults) from None
    except ValueError:
        raise InvalidDesignError(
            [Fault("/start", f"{start!r} isn't a month and day; write it like 07-10")]
        ) from None


CANNOT = Fault("", "can't be simulated: it needs a place with sun data and a battery")
HOUR_COLUMNS = (
    "sun_w_m2",
    "source_a",
    "wanted_a",
    "vital",
    "useful",
    "comfort",
    "charge_share",
    "reserve_ah",
    "bus_v",
)


def _write_rows(to: str, header: list[str], rows: Iterable[Sequence[object]]) -> None:
    """Write a CSV table; a file that cannot be written is an `InvalidDesignError`."""
    try:
        with Path(to).open("w", newline="", encoding="utf-8") as file:
            table = csv.writer(file)
            table.writerow(header)
            table.writerows(rows)
    except OSError as error:
        raise InvalidDesignError(
            [Fault("/hours", f"cannot write {to}: {error.strerror}")]
        ) from None


def _hour_rows(report: SceneReport) -> Iterable[Sequence[object]]:
    for number, hour in enumerate(report.hours):
        figures = [hour.sun_w_m2, hour.source_a, hour.wanted_a, *hour.served, hour.charge_share]
        yield [number, *(f"{value:.4f}" for value in (*figures, hour.reserve_ah, hour.bus_v))]


def _years_summary(report: YearsReport) -> dict[str, object]:
    """Weather years in a few figures; shares by month run January to December."""

    def value(key: str | None) -> float | None:
        return None if key is None else report.working[key].value

    return {
        "years": report.years,
        "sentence": report.sentence,
        "served_vital": value(report.share),
        "served_vital_low": value(report.low),
        "served_vital_high": value(report.high),
        "dark_hours_a_year": value(report.dark_h),
        "recharge_h": value(report.recharge_h),
        "served_by_month": {
            tier: [value(key) for key in keys] for tier, keys in report.served.items()
        },
        "carry_days": list(report.lengths_d),
        "carry_by_start_month": [[value(key) for key in row] for row in report.carry],
    }


def rehearse_file(
    path: str, scene: tuple[str, int, str], years: int | None, hours_to: str | None
) -> int:
    """Play an outage on a design file: a summary as JSON, and the hours as CSV if a file for them
    is named.

    Parameters
    ----------
    path : str
        A design file, as JSON.
    scene : tuple[str, int, str]
        Where it starts: month, hour or season as it was typed, and for how many days.
    years : int or None
        How many weather years, where not the usual number.
    hours_to : str or None
        A file for the hours as CSV.
    """
    try:
        design, played = _design_in(path), _scene(*scene)
        if years is not None and not 1 <= years <= MOST_YEARS:
            raise InvalidDesignError(
                [Fault("/years", f"{years} isn't possible; choose 1 to {MOST_YEARS} years")]
            )
        report = rehearse(design, played)
        if report is None:
            raise InvalidDesignError([CANNOT])
        if hours_to:
            _write_rows(hours_to, ["hour", *HOUR_COLUMNS], _hour_rows(report))
    except InvalidDesignError as error:
        return _fail(error.faults)
    figures = report.working
    summary: dict[str, object] = {
        "sentence": report.sentence,
        "dark_hours": figures[report.dark_hours].value,
        "left_share": figures[report.left_share].value,
        "drawn_ah": figures[report.drawn_ah].value,
        "brought_ah": figures[report.brought_ah].value,
        "lowest_v": figures[report.lowest_v].value,
        "lowest_set_v": figures[report.lowest_set_v].value if report.lowest_set_v else None,
        "events": [asdict(event) for event in report.events],
        "mitigations": [
            {"label": saver.label, "effect": saver.effect} for saver in report.mitigations
        ],
    }
    if years is not None:
        whole = years_report(design, years)
        summary["years"] = _years_summary(whole) if whole else None
    print(plain(json.dumps(summary, ensure_ascii=False, indent=2)))
    return 0


def _map_rows(found: SizingMap) -> Iterable[Sequence[object]]:
    for row, amp_hours in enumerate(found.amp_hours):
        for column, watts in enumerate(found.watts):
            yield [
                f"{watts:.1f}",
                f"{amp_hours:.1f}",
                f"{found.served[row][column]:.6f}",
                f"{found.cost[row][column]:.4f}",
                f"{found.kg[row]:.1f}",
                int(found.allowed[row][column]),
            ]


def map_file(path: str, ask: dict[str, object]) -> int:
    """The sizing map of a design file as CSV; what it comes to is said on the error stream."""
    try:
        design = _design_in(path)
        found = sizing_map(design, MapAsk.model_validate(ask))
        if found is None:
            raise InvalidDesignError(
                [Fault("", f"{CANNOT.message}, and at least one panel string")]
            )
    except ValidationError as error:
        return _fail(
            [Fault("/" + "/".join(map(str, item["loc"])), item["msg"]) for item in error.errors()]
        )
    except InvalidDesignError as error:
        return _fail(error.faults)
    table = csv.writer(sys.stdout)
    table.writerow(
        [
            "watts",
            "amp_hours",
            found.share_of.removeprefix("the ").replace(" ", "_"),
            "cost",
            "bank_kg",
            "allowed",
        ]
    )
    table.writerows(_map_rows(found))
    print(plain(found.sentence), file=sys.stderr)
    return 0


def report_file(path: str, to: str | None, kind: str, sheet: Sheet, formulas: bool) -> int:
    """A paper of a design file as PDF, into the file named; without one the report as JSON.

    Parameters
    ----------
    to : str or None
        The PDF to write.
    kind : str
        Which paper.
    sheet : Sheet
        How it is set.
    formulas : bool
        Whether the report tells every figure with its formula.
    """
    if to is None:
        return evaluate_file(path)
    try:
        design = _design_in(path)
        report = evaluate(design)
        sheet = replace(sheet, stamp=design.name)
        if kind == "report":
            years = years_report(design)
            data = report_pdf(design.name, design, report, sheet, years, formulas)
        elif kind == "card":
            data = card_pdf(design.name, design, report, sheet)
        else:
            data = sheet_pdf(kind, design.name, design, report, sheet)
        Path(to).write_bytes(data)
    except OSError as error:
        return _fail([Fault("/pdf", f"cannot write {to}: {error.strerror}")])
    except InvalidDesignError as error:
        return _fail(error.faults)
    return 0


def fit_file(path: str, log: str) -> int:
    """A meter's record against a design file: which input of the plan is most likely wrong, as
    JSON."""
    try:
        design = _design_in(path)
        zone = zone_of_design(design)
        table = read_meter_log(log, Path(log).read_bytes(), [], zone)
    except OSError as error:
        return _fail([Fault("", f"cannot read {log}: {error.strerror}")])
    except MeterLogError as error:
        return _fail([Fault("", f"{log}: {error}")])
    except InvalidDesignError as error:
        return _fail(error.faults)
    found = fit_of(days_of(table.record(zone)), StationModel(design))
    if found is None:
        return _fail([Fault("", f"{log} has nothing we can compare with the plan")])
    told = {
        "days": found.days,
        "words": found.words,
        "explanations": [
            {"id": item.id, "likelihood": item.likelihood, "size": item.size, "words": item.words}
            for item in found.explanations
        ],
        "compared": [asdict(item) for item in found.compared],
        "notes": list(table.notes),
    }
    print(json.dumps(told, ensure_ascii=False, indent=2))
    return 0


def log_file(path: str, site: str, dates: str) -> int:
    """A meter's record into a site's log; what is there already is not kept twice.

    Parameters
    ----------
    site : str
        The name or the id of a site of this installation.
    dates : str
        How days and months stand in a date, where the file does not show it.
    """
    engine = open_engine(database_url())
    archive = Archive(engine)
    named = [item for item in archive.sites()[0] if item.name == site or str(item.id) == site]
    if len(named) != 1:
        return _fail(
            [
                Fault(
                    "/site",
                    f"{len(named)} sites match “{site}”; give the full name of one, or its id",
                )
            ]
        )
    zone = zone_of_design(archive.design(named[0].shown.id).design)
    try:
        with Path(path).open("rb") as file:
            reading = meter_reading(path, file, [], zone, dates)
            new, _ = Samples(engine).add(named[0].id, reading.tables(), Path(path).name)
    except OSError as error:
        return _fail([Fault("", f"cannot read {path}: {error.strerror}")])
    except MeterLogError as error:
        return _fail([Fault("", f"{path}: {error}")])
    print(
        json.dumps(
            {"rows": reading.rows, "new": new, "notes": list(reading.notes)}, ensure_ascii=False
        )
    )
    return 0


def archive_to(path: str) -> int:
    """All that is kept, as one zip file of JSON and CSV."""
    club = club_record(open_engine(database_url()))
    try:
        Path(path).write_bytes(write_club(club, datetime.now(UTC)))
    except OSError as error:
        return _fail([Fault("", f"cannot write {path}: {error.strerror}")])
    print(f"{len(club.sites)} sites, {sum(len(site.designs) for site in club.sites)} designs.")
    return 0


def restore_from(path: str) -> int:
    """Bring a club's file in beside what is kept; 2 and what is wrong if it is damaged, and nothing
    comes in."""
    try:
        done = restore_club(open_engine(database_url()), read_club(Path(path).read_bytes()))
    except OSError as error:
        return _fail([Fault("", f"cannot read {path}: {error.strerror}")])
    except ClubArchiveError as error:
        return _fail([Fault("", f"{path} {fault}") for fault in error.faults])
    print(json.dumps(asdict(done), indent=2))
    return 0


def print_schema() -> int:
    """Print the JSON Schema of the design document."""
    print(json.dumps(Design.model_json_schema(), ensure_ascii=False, indent=2))
    return 0


def bring_up_to_date() -> int:
    """Bring the database to the newest schema and fill its gazetteer."""
    tell_progress("Bringing the database up to date")
    migrate(database_url())
    load_towns(open_engine(database_url()))
    return 0


DEMO, BEGUN, COMPLETE = "demo", "begun", "complete"


def build_demo(first_migrate: bool) -> int:
    """Build the demo sites in an empty database, or go on with those that were cut short; through a
    user's doors."""
    if first_migrate:
        bring_up_to_date()
    archive = Archive(open_engine(database_url()))
    ours = archive.marked(DEMO, BEGUN) and not archive.marked(DEMO, COMPLETE)
    if archive.was_ever_used() and not ours:
        print("Demo: this database already has sites, so nothing was added.")
        return 0
    archive.mark(DEMO, BEGUN)
    port = os.environ.get(STANDIN_PORT_VARIABLE, "")
    built = build_demo_sites(create_app(), standin_port=int(port) if port else None)
    archive.mark(DEMO, COMPLETE)
    print(f"Demo: {built} sites built.")
    return 0


EXIT_NO_DATABASE, EXIT_OUR_FAULT, EXIT_INTERRUPTED = 3, 70, 130
TRACE_VARIABLE = "YONDERSTAT_TRACE"
Command = Callable[[argparse.Namespace], int]


def _map(chosen: argparse.Namespace) -> int:
    ask = {
        "steps": chosen.steps,
        "years": chosen.years,
        "tilt_deg": chosen.tilt,
        "controller": chosen.controller,
    }
    return map_file(chosen.file, ask)


def _work(chosen: argparse.Namespace) -> int:
    run_worker(database_url())
    return 0


COMMANDS: dict[str, Command] = {
    "evaluate": lambda chosen: evaluate_file(chosen.file),
    "rehearse": lambda chosen: rehearse_file(
        chosen.file, (chosen.start, chosen.days, chosen.sky), chosen.years, chosen.hours
    ),
    "map": _map,
    "report": lambda chosen: report_file(
        chosen.file,
        chosen.pdf,
        chosen.kind,
        Sheet(
            paper=chosen.paper,
            units=ReaderUnits(feet=chosen.units == "feet", fahrenheit=chosen.fahrenheit),
        ),
        chosen.formulas,
    ),
    "fit": lambda chosen: fit_file(chosen.file, chosen.log),
    "log": lambda chosen: log_file(chosen.file, chosen.site, chosen.dates),
    "archive": lambda chosen: archive_to(chosen.file),
    "restore": lambda chosen: restore_from(chosen.file),
    "worker": _work,
    "poll": run_live,
    "standin": run_live,
    "schema": lambda chosen: print_schema(),
    "demo": lambda chosen: build_demo(chosen.migrate),
    "migrate": lambda chosen: bring_up_to_date(),
}


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="yonderstat", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    one = commands.add_parser("evaluate", help="print the report of a design file as JSON")
    one.add_argument("file")
    play = commands.add_parser(
        "rehearse", help="run an outage on a design file: summary as JSON, hours as CSV"
    )
    play.add_argument("file")
    play.add_argument("--start", default="06-15", help="month and day, such as 07-10")
    play.add_argument("--days", type=int, default=3)
    play.add_argument(
        "--sky", choices=["typical", "poor", "worst", "record", "none"], default="typical"
    )
    play.add_argument("--years", type=int, help="also simulate this many weather years")
    play.add_argument("--hours", help="write the hours to this CSV file")
    sizes = commands.add_parser("map", help="how well each size of panels and battery does, as CSV")
    sizes.add_argument("file")
    sizes.add_argument(
        "--steps", type=int, default=24, help="number of sizes along each axis, 8 to 40"
    )
    sizes.add_argument("--years", type=int, default=10)
    sizes.add_argument("--tilt", type=float, help="set every panel string to this tilt")
    sizes.add_argument("--controller", choices=["pwm", "mppt"])
    told = commands.add_parser(
        "report", help="the report of a design file as JSON, or a printable paper as PDF"
    )
    told.add_argument("file")
    told.add_argument("--pdf", help="write a PDF to this file")
    told.add_argument(
        "--kind", choices=["report", "card", "parts", "schedule", "labels"], default="report"
    )
    told.add_argument("--paper", choices=["a4", "letter"], default="a4")
    told.add_argument(
        "--units", choices=["metric", "feet"], default="metric", help="feet, pounds and gauges"
    )
    told.add_argument("--fahrenheit", action="store_true", help="temperatures in °F")
    told.add_argument(
        "--formulas", action="store_true", help="every figure of the report with its formula"
    )
    fitted = commands.add_parser(
        "fit", help="compare a meter's log with a design file and say what is wrong in the plan"
    )
    fitted.add_argument("file")
    fitted.add_argument("log")
    logged = commands.add_parser("log", help="load a meter's log into the log of a site")
    logged.add_argument("file")
    logged.add_argument("--site", required=True, help="the site's name or id")
    orders = [order for order in ORDERS if order]
    logged.add_argument(
        "--dates", choices=orders, default="", help="where the file's dates leave it open"
    )
    commands.add_parser(
        "archive", help="save all sites, readings and club stores as one zip file"
    ).add_argument("file")
    commands.add_parser(
        "restore", help="add the content of such a file to what is stored here"
    ).add_argument("file")
    commands.add_parser("worker", help="calculate the sizing maps people request, until stopped")
    add_live_commands(commands)
    commands.add_parser("schema", help="print the JSON Schema of the design document")
    commands.add_parser("migrate", help="update the database to the newest schema")
    demo = commands.add_parser("demo", help="build the demo sites in an empty database")
    demo.add_argument(
        "--migrate", action="store_true", help="bring the database to the newest schema first"
    )
    return parser


def main(argv: list[str] | None = None) -> int:
    """Run one command; the exit code says whether it worked, and a person's mistake is one
    sentence."""
    chosen = _parser().parse_args(argv)
    try:
        return COMMANDS[chosen.command](chosen)
    except NoInstallationError as error:
        return _refuse(f"Cannot {chosen.command}: {error}.", EXIT_NO_DATABASE)
    except (OperationalError, ConnectorException) as error:
        why = str(error.__cause__ or error).strip().splitlines()[-1]
        return _refuse(
            f"The database does not answer ({why}). ./start --status tells whether the app runs.",
            EXIT_NO_DATABASE,
        )
    except BrokenPipeError:
        # Whoever read what we print has read enough.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except OSError as error:
        return _refuse(
            f"Cannot {chosen.command}: {error.strerror or error}: {error.filename or ''}",
            EXIT_BAD_FILE,
        )
    except KeyboardInterrupt:
        return EXIT_INTERRUPTED
    except Exception as error:
        if os.environ.get(TRACE_VARIABLE):
            raise
        words = f"{type(error).__name__}: {error}".splitlines()[0][:300]
        told = (
            f"A fault of the program, not yours: {words}. {TRACE_VARIABLE}=1 before the "
            "command shows where."
        )
        return _refuse(told, EXIT_OUR_FAULT)


def _refuse(words: str, code: int) -> int:
    print(words, file=sys.stderr)
    return code


if __name__ == "__main__":
    sys.exit(main())
