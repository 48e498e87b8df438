"""The computation of the job: pure, total, and without any interface.

`evaluate(design)` is the way in; `propose` gives a first design for a new site.
"""

from .differences import Difference, differences
from .draw import usual_load, usual_rails
from .evaluate import FirstLook, evaluate, first_look, next_actions
from .firsts import Firsts, firsts
from .keeping import forget_places
from .proposals import propose
from .report import Report
from .summary import Summary, summary_of
from .warming import warm_up

__all__ = [
    "Difference",
    "FirstLook",
    "Firsts",
    "Report",
    "Summary",
    "differences",
    "evaluate",
    "first_look",
    "firsts",
    "forget_places",
    "next_actions",
    "propose",
    "summary_of",
    "usual_load",
    "usual_rails",
    "warm_up",
]
