"""Reads the data and compiles the kernels before anybody waits for them."""

import sys
from functools import _lru_cache_wrapper

from .design import Place
from .evaluate import evaluate
from .propose import propose
from .rehearse import MapAsk, Scene, rehearse, sizing_map, years_report

SOMEWHERE = Place(latitude_deg=-44.0, longitude_deg=171.0)
SMALL = MapAsk(steps=8, years=1)


def forget_places() -> None:
    """Let go of what is kept of places for a next look: weather, sun and hours of the last few. Data stay.

    For processes that judge now and then and live long; a server that is asked all the time keeps it.
    """
    for name, module in list(sys.modules.items()):
        if name.startswith(__package__ or "."):
            for item in vars(module).values():
                if isinstance(item, _lru_cache_wrapper) and item.cache_parameters()["maxsize"] is not None:
                    item.cache_clear()


def warm_up() -> None:
    """Judge, rehearse and map a small station of each sort, one that must last a spell and one that must stay up.

    Every kernel runs once for each kind of numbers it is ever given, so that none is compiled while somebody waits.
    """
    for kind, purpose in (("home", "standby"), ("unattended", "continuous")):
        design = propose(kind, purpose, SOMEWHERE)  # type: ignore[arg-type]
        evaluate(design)
        # Of one year only, the array of its hours lies as none does later.
        years_report(design, 2)
        sizing_map(design, SMALL)
    rehearse(design, Scene())
