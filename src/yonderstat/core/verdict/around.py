"""What is round the bank: the main plane's sun, and the air."""

from ..climate import climate_of, here_of
from ..design import Design
from ..store import Surroundings
from ..sun import (
    PlaneFigures,
    SunReport,
)
from ..working import Key, Workings


def main_plane(design: Design, sun: SunReport) -> PlaneFigures | None:
    """The plane with the most label watts on it; the reference plane where there are no strings."""
    if not sun.planes:
        return None
    watts = {string.id: string.module.watts.value * string.series * string.parallel for string in design.array.strings}
    return max(sun.planes, key=lambda plane: watts.get(plane.string_id, 0.0))


def surroundings(
    design: Design, air_c: tuple[Key, ...], plane: PlaneFigures | None, workings: Workings
) -> Surroundings | None:
    """Air and sun round the bank by month; None without a place.

    Parameters
    ----------
    air_c : tuple of Key
        Mean air by month.
    plane : PlaneFigures or None
        The main plane.
    """
    here = here_of(design)
    if here is None or not air_c:
        return None
    hours = [workings[key].number for key in plane.hours] if plane else [0.0] * 12
    return Surroundings(
        tuple(workings[key] for key in air_c),
        tuple(float(value) for value in climate_of(design).spread_k),
        tuple(1000.0 * value / 24.0 for value in hours),
    )
