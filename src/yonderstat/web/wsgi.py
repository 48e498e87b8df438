"""What gunicorn loads: the application, with the sun data read before the workers part, so that they share it."""

from yonderstat.core import evaluate, propose
from yonderstat.core.design import Place

from .app import create_app

WARM_UP = Place(latitude_deg=-44.0, longitude_deg=171.0)

app = create_app()
evaluate(propose("home", "standby", WARM_UP))
