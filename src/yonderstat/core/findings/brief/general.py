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
            sentence="No location yet",
            why="Sun, night length and cold all depend on the location. A grid locator is enough.",
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
            sentence="The built-in sun data does not cover this place",
            why="The data covers land and nearby coasts. The nearest data point is more than 200 "
            "km away, too far to use. Enter your own sun-hours for each month in Sun.",
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
            sentence="No loads yet",
            why=(
                "Panels and battery are sized from what the station uses. Start with the radio's "
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
        sentence=f"This verdict rests on {count} that we guessed",
        why=(
            f"These are our guesses: {'; '.join(names)}{more}. Measure each one, or read "
            "its label, and enter it."
        ),
        pointer=guesses[0].pointer,
    )
