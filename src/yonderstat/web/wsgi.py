"""What gunicorn loads: the application, its data read and kernels compiled before the workers part."""

from yonderstat.core import evaluate, propose
from yonderstat.core.design import Place
from yonderstat.core.rehearse import MapAsk, sizing_map, years_report
from yonderstat.formats import time_zone_at

from .app import create_app

WARM_UP = Place(latitude_deg=-44.0, longitude_deg=171.0)

app = create_app()
evaluate(propose("home", "standby", WARM_UP))
years_report(propose("home", "standby", WARM_UP), 1)
sizing_map(propose("home", "standby", WARM_UP), MapAsk(steps=8, years=1))
sizing_map(propose("unattended", "continuous", WARM_UP), MapAsk(steps=8, years=1))
time_zone_at(WARM_UP.latitude_deg, WARM_UP.longitude_deg)
