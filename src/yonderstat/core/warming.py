"""Reads the data and compiles the kernels before anybody waits for them."""

from .design import Place
from .evaluate import evaluate
from .proposals import starting_design
from .rehearse import MapAsk, Scene, rehearse, sizing_map, years_report

SOMEWHERE = Place(latitude_deg=-44.0, longitude_deg=171.0)
SMALL = MapAsk(steps=8, years=1)


def warm_up() -> None:
    """Judge, rehearse and map a small station of each sort, one that must last a spell and one that
    must stay up.

    Every kernel runs once for each kind of numbers it is ever given, so that none is compiled while
    somebody waits.
    """
    for kind, purpose in (("home", "standby"), ("unattended", "continuous")):
        design = starting_design(kind, purpose, SOMEWHERE)  # type: ignore[arg-type]
        evaluate(design)
        # Of one year only, the array of its hours lies as none does later.
        years_report(design, 2)
        sizing_map(design, SMALL)
    rehearse(design, Scene())
