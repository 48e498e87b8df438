"""Loads that would be powered for nothing: what they need is what failed."""

from ..design import Design
from ..purposes import purpose_of


def pointless(design: Design, internet: bool = True) -> frozenset[str]:
    """Loads that would shed themselves: they need mains where mains are what failed, or an internet that is down."""
    mains = purpose_of(design.brief.purpose).mains_when_judged
    gone = {need for need, there in (("mains", mains), ("internet", internet)) if not there}
    return frozenset(load.id for load in design.draw.loads if load.tier != "vital" and gone & set(load.needs))
