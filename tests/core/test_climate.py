"""The one climate of a site: air, cold and heat that every step reads."""

import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.samples import harrier_ridge, load, quay_street, with_loads
from yonderstat.core import evaluate
from yonderstat.core.calendar import when_in_words
from yonderstat.core.climate import (
    Here,
    climate_at,
    climate_of,
    climate_zone,
    guessed_coldest_c,
    guessed_hottest_c,
    surface_year_c,
)
from yonderstat.core.design import Brief, Design, KnownCelsius, Place, Thermostat
from yonderstat.core.draw import station_draw

QUICK = settings(max_examples=20, deadline=None)


def at(design: Design, latitude_deg: float, longitude_deg: float, **brief: object) -> Design:
    place = Place(latitude_deg=latitude_deg, longitude_deg=longitude_deg)
    return design.model_copy(
        update={"place": place, "brief": design.brief.model_copy(update=brief)}
    )


@pytest.mark.parametrize(
    ("place", "zone"),
    [
        ((-3.1, -60.0), "Af"),
        ((24.1, 32.9), "BWh"),
        ((52.5, 13.4), "Cfb"),
        ((65.0, -148.0), "D"),
        ((71.0, -40.0), "E"),
    ],
)
def test_climate_zones(place: tuple[float, float], zone: str) -> None:
    """[P] Köppen-Geiger as every atlas has it: Manaus, Aswan, Berlin, inner Alaska, the ice of
    Greenland."""
    assert climate_zone(*place).startswith(zone[: len(zone)])


@QUICK
@given(st.floats(-90, 90), st.floats(-180, 180), st.floats(-450, 9000))
def test_the_air_is_known_everywhere(latitude: float, longitude: float, height: float) -> None:
    climate = climate_at(Here(latitude, longitude, height), Brief(), None)
    assert climate.basis == "grid"
    assert np.all(np.abs(climate.mean_c) < 110)
    assert climate.coldest_c < climate.mean_c.min()
    assert climate.hottest_c > climate.mean_c.max()


@QUICK
@given(st.floats(-89, 89), st.floats(-179, 179), st.floats(0, 3000), st.floats(1, 1000))
def test_higher_is_colder_by_the_standard_atmosphere(
    latitude: float, longitude: float, low: float, rise: float
) -> None:
    """[P] 6.5 K a kilometre."""
    fall = surface_year_c(latitude, longitude, low) - surface_year_c(
        latitude, longitude, low + rise
    )
    assert fall == pytest.approx(np.full(12, 0.0065 * rise))


def test_the_date_line_is_no_seam() -> None:
    here, there = surface_year_c(52.0, 180.0, 0.0), surface_year_c(52.0, -180.0, 0.0)
    assert here == pytest.approx(there)
    assert surface_year_c(52.0, 179.9, 0.0) == pytest.approx(here, abs=1.0)


def test_draw_sun_and_store_stand_in_one_air() -> None:
    """July was −10 °C in Draw and +2.9 in Sun: the thermostat, the report and the bank read one
    climate now."""
    fan = load("fan", 1.0).model_copy(
        update={"thermostat": Thermostat(when="below", at_c=KnownCelsius(value=3.0))}
    )
    design = with_loads(harrier_ridge(), fan)
    climate, report = climate_of(design), evaluate(design)
    assert report.weather is not None
    shown = [report.working[key].number for key in report.weather.air_c]
    assert shown == pytest.approx(list(climate.mean_c))
    assert station_draw(design.draw, 12.0, climate).loads[0].on_share == pytest.approx(
        1.0 - climate.share_above(3.0)
    )


def test_a_thermostat_runs_on_the_share_of_days_past_it() -> None:
    """Definition: at the hour's own mean half of the days are warmer; far past it all or none
    are."""
    climate = climate_of(harrier_ridge())
    hour = climate.hourly_c()
    assert climate.share_above(float(hour[6, 15]))[6, 15] == pytest.approx(0.5)
    assert climate.share_above(-80.0).min() == pytest.approx(1.0)
    assert climate.share_above(80.0).max() == pytest.approx(0.0)
    assert hour[:, 15].min() > hour[:, 3].min()


@pytest.mark.parametrize(
    ("low", "high", "coldest", "hottest"),
    [(-16.0, 20.0, -40.0, 33.0), (5.0, 17.0, -10.0, 30.0), (24.0, 27.0, 13.0, 48.0)],
)
def test_the_extremes_are_guessed_on_the_safe_side(
    low: float, high: float, coldest: float, hottest: float
) -> None:
    """[C] coldest month less min(24, 9 + half the range); warmest and 13 K, 21 where the year
    hardly changes."""
    year = np.linspace(low, high, 12)
    assert guessed_coldest_c(year) == pytest.approx(coldest)
    assert guessed_hottest_c(year) == pytest.approx(hottest)


@pytest.mark.parametrize(
    ("months", "words"),
    [
        ([6, 7, 8], "from June to August"),
        ([5, 6], "in May and June"),
        ([12, 1, 2], "from December to February"),
        ([4, 5, 6, 10], "from April to June and in October"),
        (range(1, 13), "in every month"),
        (range(2, 13), "in every month but January"),
        ([1, 3, 5], "in January, March and May"),
    ],
)
def test_when_something_is_so(months: list[int], words: str) -> None:
    assert when_in_words(list(months)) == words


def test_a_typed_extreme_takes_the_guesss_place_and_a_proposal_types_none() -> None:
    silent = at(quay_street(), 49.9, -97.1, coldest_c=None, hottest_c=None)
    report = evaluate(silent)
    assert report.weather is not None
    cold = report.working[report.weather.cold_c]
    assert cold.number < -35.0
    assert cold.inputs[0].origin == "default"
    typed = at(quay_street(), 49.9, -97.1, coldest_c=KnownCelsius(value=-31.0, basis="stated"))
    told = evaluate(typed)
    assert told.working["weather.cold_c"].number == -31.0
    assert told.working["weather.cold_c"].inputs[0].origin == "stated"


def test_without_a_place_the_brief_is_all_there_is() -> None:
    design = Design(brief=Brief(coldest_c=KnownCelsius(value=-20.0, basis="stated")))
    climate = climate_of(design)
    assert (climate.basis, climate.coldest_c, climate.hottest_c) == ("brief", -20.0, 32.0)
    assert climate.hourly_c().min() == pytest.approx(-20.0, abs=0.2)
    assert climate.hourly_c().max() == pytest.approx(32.0, abs=0.2)


def test_many_may_be_the_first_to_ask_for_a_zone() -> None:
    """The raster is decoded on the first look: threads that look at once must not fall over each
    other."""
    code = (
        "from concurrent.futures import ThreadPoolExecutor as Pool; from "
        "yonderstat.core.climate import climate_zone\n"
        "print(len(set(Pool(8).map(lambda n: climate_zone(-43.1, 171.6), range(8)))))"
    )
    told = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
    assert told.stdout == "1\n", told.stderr
