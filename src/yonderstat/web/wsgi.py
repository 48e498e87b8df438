"""What gunicorn loads: the application, its data read and kernels compiled before the workers part."""

from yonderstat.core import warm_up
from yonderstat.core.warming import SOMEWHERE
from yonderstat.formats import time_zone_at

from .app import create_app

app = create_app()
warm_up()
time_zone_at(SOMEWHERE.latitude_deg, SOMEWHERE.longitude_deg)
