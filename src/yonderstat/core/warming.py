"""Reads the data and compiles the kernels before anybody waits for them."""

from .design import Place
from .evaluate import evaluate
from .propose import propose
from .rehearse import MapAsk, sizing_map, years_report

SOMEWHERE = Place(latitude_deg=-44.0, longitude_deg=171.0)
SMALL = MapAsk(steps=8, years=1)


def warm_up() -> None:
    """Judge, rehearse and map a small station of each sort, one that must last a spell and one that must stay up."""
    for kind, purpose in (("home", "standby"), ("unattended", "continuous")):
        design = propose(kind, purpose, SOMEWHERE)  # type: ignore[arg-type]
        evaluate(design)
        years_report(design, 1)
        sizing_map(design, SMALL)
