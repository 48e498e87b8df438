"""What Live says of the next days, worked out again: every weather year played on hour by hour from
what is left."""

from collections.abc import Iterator
from random import Random

import numpy as np

from tests.claims.again import _window
from yonderstat.core.design import Design
from yonderstat.core.draw import pointless
from yonderstat.core.live import forecast_of
from yonderstat.core.rehearse import hourly_loads, hourly_station
from yonderstat.core.rehearse.kernel import CHARGE, OUT_VITAL, OUTS, run_years
from yonderstat.core.station import StationModel

YEARS, HOURS = 5, 240
SURE = 1e-9


def _dark_after_h(design: Design, first: int, share: float) -> np.ndarray:  # type: ignore[type-arg]
    """Hours until the vital tier lacks something, by weather year; none within the forecast is
    infinite."""
    station = StationModel(design)
    hours = hourly_station(station, YEARS)
    assert hours is not None
    loads = hourly_loads(
        design, station.draw_at(design.draw.sized_on), pointless(design), all_year=True
    )
    found = np.full(YEARS, np.inf)
    for year in range(YEARS):
        played = _window(hours.hours._replace(load_a=loads), year, first, HOURS)
        at = (first + np.arange(HOURS)) % 8760
        # Live stays in the year it is in: after its last hour comes its first.
        played = played._replace(
            panels_a=hours.hours.panels_a[year, at][None, :],
            floor_ah=hours.hours.floor_ah[year, at][None, :],
            end_ah=hours.hours.end_ah[year, at][None, :],
            locked=hours.hours.locked[year, at][None, :],
            new_day=at % 24 == 0,
        )
        state, out = hours.start(), np.empty((1, HOURS, OUTS))
        state[CHARGE] = share * hours.rules.full_ah
        run_years(hours.rules, played, state, out)
        dark = np.flatnonzero(
            (out[0, :, OUT_VITAL] < played.load_a[:, 0] - SURE) & (played.load_a[:, 0] > 0.0)
        )
        if dark.size:
            found[year] = dark[0]
    return found


def troubles_of_live(design: Design, seed: int) -> Iterator[str]:
    """Whether figures and sentence of Live are those of the years, from an hour and a charge drawn
    by a seed."""
    station = StationModel(design)
    hours = hourly_station(station, YEARS)
    if hours is None or not design.draw.tempos:
        return
    chance = Random(seed)
    first, share = chance.randrange(8760), chance.choice((0.2, 0.5, 0.8, 1.0))
    told, found = forecast_of(hours, first, share), _dark_after_h(design, first, share)
    mine = next(item for item in told.tempos if item.tempo == design.draw.sized_on)
    said, dark = told.working[mine.dark_share].number, float(np.isfinite(found).mean())
    if abs(said - dark) > SURE:
        yield f"live: {said:.2f} of the years dark are said, and {dark:.2f} are so"
    middle = told.working[mine.middle_h].value
    again = float(np.quantile(found, 0.5, method="inverted_cdf"))
    if (middle is None) != (not np.isfinite(again)) or (
        middle is not None and abs(middle - again) > 0.5
    ):
        yield f"live: dark after {middle} h is said, and {again} is so"
    stays = told.sentence.startswith("It keeps power")
    if stays != (dark == 0.0):
        yield f"live: “{told.sentence}” and {dark:.2f} of the years are dark"
