"""Findings about the place, the loads, and what the verdict rests on."""

from collections.abc import Iterator

from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...working import Key, resting_on_defaults
from ..register import mild_rule, rule


@rule
def no_location(station: StationModel, report: Report) -> Iterator[Finding]:
    """No place: no sun can be worked out."""
    if station.design.place is None:
        yield Finding(
            id="brief.no_place",
            severity="stop",
            step="brief",
            sentence="There is no location",
            why="Sun, night and cold all follow from the place. A grid locator is enough.",
            pointer="/place",
        )


@rule
def no_near_cell(station: StationModel, report: Report) -> Iterator[Finding]:
    """A place the packaged resource does not reach."""
    if report.sun.state == "no_cell":
        yield Finding(
            id="sun.no_cell",
            severity="stop",
            step="sun",
            sentence="The packaged sun data does not reach this place",
            why="It covers land and near coasts; the nearest cell is more than 200 km away, too "
            "far to stand for it. "
            "Give twelve monthly sun-hours of your own in Sun.",
            pointer="/sun/own_hours",
        )


@rule
def no_loads(station: StationModel, report: Report) -> Iterator[Finding]:
    """Nothing to power."""
    if not station.design.draw.loads:
        yield Finding(
            id="draw.none",
            severity="stop",
            step="draw",
            sentence="There are no loads",
            why=(
                "Everything is sized from what the station draws: start with the radio's "
                "receive current."
            ),
            pointer="/draw/loads",
        )


def _verdict_keys(report: Report) -> list[Key]:
    keys = [report.draw.daily_ah, report.draw.peak_a, report.asked_days]
    if report.store:
        keys.append(report.store.days_without_sun)
    keys += [cell.share for cell in report.verdict.months if cell.share]
    return keys


@mild_rule
def rests_on_defaults(station: StationModel, report: Report) -> Iterator[Finding]:
    """Which of our own guesses the verdict hangs on."""
    guesses = resting_on_defaults(report.working, _verdict_keys(report))
    if not guesses:
        return
    names = [guess.label for guess in guesses[:4]]
    more = f" and {len(guesses) - 4} more" if len(guesses) > 4 else ""
    count = "one figure" if len(guesses) == 1 else f"{len(guesses)} figures"
    yield Finding(
        id="brief.defaults",
        severity="mind",
        step="brief",
        sentence=f"The verdict rests on {count} nobody has checked",
        why=(
            f"Our defaults stand in for: {'; '.join(names)}{more}. Measure or read the label, "
            "and say so."
        ),
        pointer=guesses[0].pointer,
    )
