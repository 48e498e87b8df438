"""Loads that would be powered for nothing: what they need is what failed."""

from ..design import Design
from ..purposes import purpose_of

MAINS_KINDS = {"mains", "changeover", "bench_supply"}
"""Kinds of charger that are plugged into the mains."""


def has_plug(design: Design) -> bool:
    """Whether anything of the station is plugged into mains where it stands."""
    return any(
        charger.kind in MAINS_KINDS and not charger.at_home for charger in design.array.chargers
    )


def has_mains(design: Design) -> bool:
    """Whether there are mains at the station on an ordinary day: a house's, or those something is
    plugged into."""
    kind = purpose_of(design.brief.purpose)
    return kind.mains_normally and (not kind.mains_by_plug or has_plug(design))


def has_mains_when_judged(design: Design) -> bool:
    """Whether there are mains in what the design is judged by: in an outage they are what
    failed."""
    return purpose_of(design.brief.purpose).mains_when_judged and has_mains(design)


def pointless(design: Design, internet: bool = True) -> frozenset[str]:
    """Loads that would shed themselves: they need mains where mains are what failed, or an internet
    that is down."""
    mains = has_mains_when_judged(design)
    gone = {need for need, there in (("mains", mains), ("internet", internet)) if not there}
    return frozenset(
        load.id for load in design.draw.loads if load.tier != "vital" and gone & set(load.needs)
    )
