"""Findings about what goes off, or comes back after a cut-off, only when somebody switches it."""

from collections.abc import Iterator

from ...design import with_draw
from ...draw import (
    comes_back,
    pointless,
)
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...words import counted
from ..register import mild_rule, rule

LEAST_SPARED_AH = 1.0
SLOW_MIN = 5.0


@mild_rule
def goes_off_by_hand(station: StationModel, report: Report) -> Iterator[Finding]:
    """Loads that count as off because what they need is not there, and that nobody has switched off
    yet."""
    gone = pointless(station.design)
    named = [load for load in station.design.draw.loads if load.id in gone]
    if not named or station.bank is None:
        return
    still = with_draw(
        station.design,
        loads=[
            load.model_copy(update={"needs": []}) if load.id in gone else load
            for load in station.design.draw.loads
        ],
    )
    month = station.hard_month
    left_on = station.tried(still)
    more_ah = float(left_on.draw.by_month[month - 1] - station.draw.by_month[month - 1])
    days, fewer = station.days_without_sun(month), left_on.days_without_sun(month)
    if more_ah < LEAST_SPARED_AH:
        return
    names = " and ".join(load.name for load in named)
    lasts = ""
    if days is not None and fewer is not None:
        now, then = (counted(value, "day", 1) for value in (days, fewer))
        lasts = f"; the battery then lasts {then} instead of {now}" if then != now else ""
    yield Finding(
        id="draw.switch_off",
        severity="mind",
        step="draw",
        sentence=f"Switch off {names}: left on, {'it takes' if len(named) == 1 else 'they take'} "
        f"{more_ah:.0f} Ah a "
        f"day for nothing{lasts}",
        why="What they need is missing then, so they count as off. But somebody must switch "
        "them off: write it on the card, or remove the need here so that they count as on.",
        pointer=f"/draw/loads/{station.design.draw.loads.index(named[0])}/needs",
    )


@rule
def comes_back_by_hand(station: StationModel, report: Report) -> Iterator[Finding]:
    """What is vital and comes back only when somebody switches it on, or only after a while."""
    design = station.design
    hands = [(row, load) for row in comes_back(design) for load in row.by_hand]
    if hands and design.brief.attended != "present":
        row, load = hands[0]
        waits = "" if load is row.load else f", and {row.load.name} waits for it"
        yield Finding(
            id=f"draw.by_hand.{load.id}",
            severity="fix",
            step="draw",
            sentence=(
                f"After a cut-off {load.name} comes back only when somebody switches it on{waits}"
            ),
            why="Nobody is on site, so it stays off until somebody comes; the weather years count "
            "it that way. Many radios have a setting for this, a jumper, or a relay that "
            "presses the button. Test it by opening the main switch.",
            pointer=f"/draw/loads/{design.draw.loads.index(load)}/restarts",
        )
    slowest = next(iter(comes_back(design)), None)
    if slowest is not None and slowest.minutes >= SLOW_MIN:
        steps = ", then ".join(f"{load.name} {load.ready_min or 0:g}" for load in slowest.chain)
        yield Finding(
            id="draw.comes_back",
            severity="mind",
            step="draw",
            sentence=(
                f"After a cut-off all that is vital is back in {slowest.minutes:.0f} minutes: "
                f"{steps}"
            ),
            why="Each waits for the one before it. What is out of service that long each time "
            "shows in no hour of the "
            "weather years; fewer cut-offs, or fewer things that wait for each other.",
            pointer=f"/draw/loads/{design.draw.loads.index(slowest.load)}/ready_min",
        )
