"""What gunicorn loads: the application, its data read and kernels compiled before the workers
part."""

import gc
import os

from yonderstat.core import warm_up
from yonderstat.core.warming import SOMEWHERE
from yonderstat.formats import time_zone_at
from yonderstat.memory import give_back

from .app import create_app

WARM_VARIABLE = "YONDERSTAT_WARM"
"""0 leaves the first asker to wait: for tests that start often."""

app = create_app()
if os.environ.get(WARM_VARIABLE, "1") != "0":
    warm_up()
    time_zone_at(SOMEWHERE.latitude_deg, SOMEWHERE.longitude_deg)
    # What the warm-up worked out for its own stations is nobody's, and the pages it took are given
    # back before the workers part.
    give_back()
    # What every worker shares stays shared: the collector leaves its marks on nothing that was
    # there before they part.
    gc.freeze()
# Reports are many small things without rings among them, which go by themselves: to look for rings
# as often as is usual took a tenth of the time of an edit, and now and then a tenth of a second.
gc.set_threshold(50_000, 20, 20)
