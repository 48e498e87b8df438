"""A meter's record read in a process of its own: looked through first, or brought in, with
progress, to be stopped."""

from datetime import UTC, tzinfo
from typing import Any, BinaryIO
from zoneinfo import ZoneInfo

from sqlalchemy import Engine

from yonderstat.core.design import Design
from yonderstat.core.rehearse import CancelledError
from yonderstat.formats import MeterLogError, MeterReading, StoppedError, meter_reading
from yonderstat.records import Run, Samples, Uploads

from .going import GoOn

RECORD_IMPORT = "record_import"


def zone_of_design(design: Design) -> tzinfo:
    """The time zone of a design's place; UTC where it has none."""
    place = design.place
    return ZoneInfo(place.time_zone) if place is not None and place.time_zone else UTC


def bring_in(engine: Engine, run: Run, design: Design, site_id: Any, go_on: GoOn) -> dict[str, Any]:
    """Read the file of a run; with `store` all of it comes in, or nothing. What is wrong with it is
    a result too.

    Parameters
    ----------
    run : Run
        The run whose file it is.
    site_id : Any
        Where it goes.
    go_on : GoOn
        Told how far it is; says whether to go on.
    """
    ask, uploads = run.ask, Uploads(engine)
    with uploads.opened(run.id) as file:
        size = file.seek(0, 2)
        try:
            columns = [word or None for word in ask["columns"]]
            reading = meter_reading(
                ask["name"], file, columns, zone_of_design(design), ask["dates"]
            )
            told = _read(engine, reading, run, site_id, _far(file, size, go_on))
        except StoppedError:
            raise CancelledError from None
        except MeterLogError as error:
            return {"refused": str(error)}
    if ask["store"]:
        uploads.drop(run.id)
    return told


def _far(file: BinaryIO, size: int, go_on: GoOn) -> GoOn:
    # What is left after the last row, the writing, takes about a tenth.
    return lambda rows: go_on(0.9 * min(1.0, file.tell() / max(size, 1)))


def _read(
    engine: Engine, reading: MeterReading, run: Run, site_id: Any, go_on: GoOn
) -> dict[str, Any]:
    ask, new, import_id = run.ask, None, None
    if ask["store"]:
        new, import_id = Samples(engine).add(site_id, reading.tables(go_on), ask["name"], run.actor)
    else:
        for _ in reading.tables(go_on):
            pass
    return {
        "refused": "",
        "rows": reading.rows,
        "new": new,
        "import_id": import_id,
        "notes": list(reading.notes),
        "first": reading.first.isoformat() if reading.first else None,
        "last": reading.last.isoformat() if reading.last else None,
    }
