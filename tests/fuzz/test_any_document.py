"""Any valid document has a report, a rehearsal and a map: drawn from the JSON Schema, through every
door.

By default the same ones each time, so that a change is judged and not the dice; `YONDERSTAT_FUZZ`
draws so many others, and `./test fuzz` does.
"""

import os
import warnings
from zlib import crc32

from hypothesis import HealthCheck, given, settings
from tools.frozen import DOORS

from tests.doors import through
from tests.drawn_documents import designs
from yonderstat.core import evaluate
from yonderstat.core.design import Design

ASKED = os.environ.get("YONDERSTAT_FUZZ")
ROOMS = tuple(DOORS.values())
DRAWN = int(ASKED or "1000")


@settings(
    max_examples=DRAWN,
    deadline=None,
    database=None,
    derandomize=not ASKED,
    suppress_health_check=list(HealthCheck),
    print_blob=True,
)
@given(designs())
def test_any_document_opens_every_door(design: Design) -> None:
    """The report for each, and one of the other doors in turn."""
    with warnings.catch_warnings():
        # Extreme labels overflow on their way inside the libraries; what comes out is looked at.
        warnings.simplefilter("ignore", RuntimeWarning)
        through(design, evaluate)
        through(design, ROOMS[crc32(design.model_dump_json().encode()) % len(ROOMS)])
