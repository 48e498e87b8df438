"""Mountings, shade, weather files in a design, bad weather; and what is found about them."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_sun import RIDGE, hours, under
from tests.samples import harrier_ridge, quay_street, with_string
from tests.typical_years import ALL, GREENSBORO, text_of
from yonderstat.core import evaluate
from yonderstat.core.climate import Here
from yonderstat.core.design import Design, KnownShare, Place, Sun, WeatherRecord
from yonderstat.core.sun import (
    Mounting,
    conditions_of,
    day_light,
    day_spread,
    mounting_of,
    on_plane_w_m2,
    plane_sun,
    recorded_days,
    sky_grid,
    sun_tracks,
)
from yonderstat.core.weather import (
    buried_days,
    hourly_on_plane_w_m2,
    years_of_light,
)
from yonderstat.core.weather.explain import longest_run, poorest_run
from yonderstat.formats import read_weather_file

QUICK = settings(max_examples=20, deadline=None)
LATITUDES = st.floats(-75, 75)


def at(design: Design, latitude: float, longitude: float) -> Design:
    return design.model_copy(
        update={"place": Place(latitude_deg=latitude, longitude_deg=longitude)}
    )


def with_file(design: Design, name: str = GREENSBORO, **changes: Any) -> Design:
    record = read_weather_file(name, text_of(name)).model_copy(update=changes)
    return under(design, source="record", record=record)


def found(design: Design, key: str) -> Any:
    return next((item for item in evaluate(design).findings if item.id == key), None)


@QUICK
@given(LATITUDES, st.floats(0, 90), st.floats(0, 359.9), st.floats(0, 1))
def test_a_tracker_is_never_below_what_it_tracks_from(
    latitude: float, tilt: float, azimuth: float, clearness: float
) -> None:
    """At every half-hour: a rotator against any direction at its tilt, two axes against any plane
    at all."""
    grid = sky_grid(latitude)
    light = day_light(grid, (grid.h0_kwh_m2 * 0.75 * clearness)[:, None])
    fixed, rotator, two_axis = (
        on_plane_w_m2(light, Mounting(tilt, azimuth, mount), latitude)  # type: ignore[arg-type]
        for mount in ("fixed", "rotator", "two_axis")
    )
    assert np.all(rotator >= fixed - 1e-6)
    assert np.all(two_axis >= rotator - 1e-6)


@QUICK
@given(st.floats(30, 65), st.booleans(), st.floats(30, 70))
def test_turning_by_hand_comes_close_to_following(north: float, south: bool, tilt: float) -> None:
    """Outside the tropics, over bright days: never above a rotator, and twelve turns come close."""
    latitude = -north if south else north
    grid = sky_grid(latitude)
    light = day_light(grid, (grid.h0_kwh_m2 * 0.6)[:, None])
    turned = [
        on_plane_w_m2(light, Mounting(tilt, 0.0, "reaimed", aims), latitude).sum()
        for aims in (2, 3, 6, 12)
    ]
    rotator = on_plane_w_m2(light, Mounting(tilt, 0.0, "rotator"), latitude).sum()
    assert all(value <= rotator + 1e-6 for value in turned)
    assert turned[-1] >= 0.97 * rotator


def test_flat_ignores_the_tilt() -> None:
    flat = with_string(harrier_ridge(), mount="flat", tilt_deg=65.0)
    assert hours(flat) == pytest.approx(hours(with_string(harrier_ridge(), tilt_deg=0.0)))
    assert mounting_of(flat.array.strings[0]).tilt_deg == 0.0


@pytest.mark.parametrize("latitude", [-78.0, 0.0, 51.0, 70.0])
def test_zero_sky_gives_zero_power(latitude: float) -> None:
    grid = sky_grid(latitude)
    light = day_light(grid, np.zeros((grid.month.size, 1)))
    for mount in ("fixed", "rotator", "two_axis", "reaimed"):
        assert np.all(on_plane_w_m2(light, Mounting(40.0, 180.0, mount), latitude) == 0.0)


def test_shade_and_dust_take_their_share() -> None:
    """A morning fully shaded leaves the afternoon of a north wall: half, as it looks at noon; dust
    takes its share."""
    clean = under(harrier_ridge(), horizon=[], soiling=KnownShare(value=0.0))
    no_morning = under(clean, shade_morning=[1.0] * 12)
    assert hours(no_morning) == pytest.approx(hours(clean) / 2, rel=0.01)
    assert hours(under(no_morning, shade_afternoon=[1.0] * 12)) == 0.0
    assert hours(under(clean, soiling=KnownShare(value=0.2))) == pytest.approx(0.8 * hours(clean))


@QUICK
@given(
    st.lists(st.floats(0, 1), min_size=12, max_size=12),
    st.lists(st.floats(0, 1), min_size=12, max_size=12),
)
def test_shade_only_removes(morning: list[float], afternoon: list[float]) -> None:
    free, shaded = Sun(), Sun(shade_morning=morning, shade_afternoon=afternoon)
    suns = [plane_sun(RIDGE, conditions_of(sun), Mounting(60.0, 20.0)) for sun in (free, shaded)]
    assert suns[0] is not None
    assert suns[1] is not None
    assert np.all(suns[1].mean <= suns[0].mean + 1e-9)


def test_a_file_speaks_for_its_months_and_the_cell_for_the_rest() -> None:
    """Two months of a log are taken as they are; the other ten keep the reanalysis and its
    allowance."""
    record = WeatherRecord(
        kind="measured",
        form="csv",
        name="ridge log",
        first_day="2024-06-01",
        day_wh_m2=[1500] * 30 + [1800] * 31,
    )
    conditions = conditions_of(Sun(source="record", record=record))
    spread, plain = day_spread(RIDGE, conditions), day_spread(RIDGE, conditions_of(Sun()))
    assert spread is not None
    assert plain is not None
    assert [month for month in range(1, 13) if spread.recorded[month - 1]] == [6, 7]
    assert spread.day_kwh_m2[5].mean() == pytest.approx(1.5, rel=0.02)
    assert spread.planned_share[[5, 6, 7]] == pytest.approx([1.0, 1.0, RIDGE.allowance])
    assert spread.day_kwh_m2[0] == pytest.approx(plain.day_kwh_m2[0])
    assert day_spread(Here(21.3, -157.8, 10.0), conditions) is None


def test_leap_years_and_gaps_in_a_record() -> None:
    """29 February counts as the 28th, days after it keep their place, a gap is left out."""
    from yonderstat.core.sun import RecordedDays

    months, days, values = recorded_days(RecordedDays("2024-02-27", (10, 20, 30, None, 40)))
    assert list(months) == [2, 2, 2, 3]
    assert list(days) == [58, 59, 59, 61]
    assert list(values) == pytest.approx([0.01, 0.02, 0.03, 0.04])


def test_the_verdict_moves_with_the_file() -> None:
    """A typical year brought in for its own place: its name, its distance and no allowance in the
    report."""
    report = evaluate(with_file(at(quay_street(), 36.1, -79.95)))
    assert "GREENSBORO" in report.sun.provenance
    assert report.working[report.sun.record_km or ""].number < 1.0
    assert report.working["sun.allowance"].value == 1.0
    assert report.weather is not None
    assert "weather file" in report.weather.air_basis
    assert report.working[report.weather.air_c[0]].value == pytest.approx(0.33, abs=0.01)


def test_bad_weather_is_worse_than_typical_and_the_same_each_time() -> None:
    one, two = evaluate(harrier_ridge()), evaluate(harrier_ridge())
    assert one.weather == two.weather
    weather = one.weather
    assert weather is not None
    typical, poor, worst = (
        one.working[key or ""].number
        for key in (weather.typical_h, weather.poor_h, weather.worst_h)
    )
    assert worst <= poor <= typical
    runs = [one.working[run.hours].number for run in weather.runs]
    assert runs == sorted(runs)
    assert runs[-1] <= worst
    mean = one.working[one.sun.planes[0].hours[weather.month - 1]].number
    assert typical == pytest.approx(mean, rel=0.05)


def test_runs_by_hand() -> None:
    days = np.array([[3.0, 1.0], [1.0, 1.0], [1.0, 5.0], [4.0, 0.0]])
    assert poorest_run(days, 2) == 1.0
    assert poorest_run(days, 4) == pytest.approx(7 / 4)
    assert longest_run(days <= 1.0) == 2
    assert longest_run(days > 9.0) == 0


def test_snow_buries_as_many_days_as_asked() -> None:
    buried = buried_days((10.0, 0.0, 2.5, *(0.0,) * 8, 40.0), 400, 3)
    assert np.all(buried[:31].sum(axis=0) == 10)
    assert not buried[31:59].any()
    assert buried[59:90].sum(axis=0).mean() == pytest.approx(2.5, abs=0.1)
    assert np.all(buried[334:].sum(axis=0) == 31)
    sky = years_of_light(RIDGE, conditions_of(Sun(snow_days=[31.0] + [0.0] * 11)), None, 2, 1)
    assert sky is not None
    assert hourly_on_plane_w_m2(sky, Mounting(60.0, 0.0))[:, :31].sum() == 0.0


@pytest.mark.parametrize("latitude", [-89.9, -66.5, 0.0, 71.0])
def test_years_anywhere_are_finite_and_dark_at_night(latitude: float) -> None:
    sun = Sun(source="own", own_hours=[4.0] * 12)
    sky = years_of_light(Here(latitude, 179.99, 0.0), conditions_of(sun), None, 2, 1)
    assert sky is not None
    light = hourly_on_plane_w_m2(sky, Mounting(60.0, 0.0, "two_axis"))
    assert np.all(np.isfinite(light))
    assert light.min() >= 0.0
    if latitude == 0.0:
        assert light[:, :, [0, 23]].max() == 0.0


def test_the_suns_way() -> None:
    """Geometry: the noon height is 90° − |φ − δ|; no track in polar night."""
    june = sun_tracks(-43.1, (6,))[0]
    assert max(june.elevation_deg) == pytest.approx(90 - 43.1 - 23.1, abs=0.3)
    assert len(sun_tracks(78.0, (12,))[0].azimuth_deg) == 0


@pytest.mark.parametrize(
    ("design", "key", "severity"),
    [
        (under(harrier_ridge(), shade_afternoon=[0.6] * 12), "sun.shade.hut-north-wall", "mind"),
        (at(quay_street(), 62.0, -6.8), "sun.far_cell", "mind"),
        (with_file(quay_street()), "sun.file_elsewhere", "stop"),
        (with_file(at(quay_street(), 38.5, -79.95)), "sun.file_elsewhere", "fix"),
        (with_file(at(quay_street(), 36.7, -79.95)), "sun.file_elsewhere", "mind"),
        (with_file(at(quay_street(), 36.1, -79.95), elevation_m=1900.0), "sun.file_height", "mind"),
        (
            with_file(at(quay_street(), 36.1, -79.95), repairs=["line 9: mended"]),
            "sun.file_mended",
            "mind",
        ),
        (
            with_file(at(quay_street(), 36.1, -79.95), day_wh_m2=[3000] * 60, hours=None),
            "sun.file_short",
            "mind",
        ),
        (
            with_file(at(quay_street(), 36.1, -79.95), day_wh_m2=[9000] * 365),
            "sun.file_unlike",
            "mind",
        ),
    ],
)
def test_findings(design: Design, key: str, severity: str) -> None:
    finding = found(design, key)
    assert finding is not None
    assert finding.severity == severity
    assert found(with_file(at(quay_street(), 36.1, -79.95)), key) is None
    assert found(harrier_ridge(), key) is None


def test_a_part_of_a_year_is_not_held_against_the_reanalysis() -> None:
    part = with_file(at(quay_street(), 36.1, -79.95), day_wh_m2=[9000] * 60, hours=None)
    assert found(part, "sun.file_short") is not None
    assert found(part, "sun.file_unlike") is None


@pytest.mark.parametrize("name", ALL)
def test_a_file_of_the_place_itself_raises_nothing_grave(name: str) -> None:
    record = read_weather_file(name, text_of(name))
    home = at(
        with_string(quay_street(), azimuth_deg=180.0),
        record.latitude_deg or 0,
        record.longitude_deg or 0,
    )
    keys = {
        item.id
        for item in evaluate(with_file(home, name)).findings
        if item.severity in {"stop", "fix"}
    }
    assert not {key for key in keys if key.startswith("sun.file")}


@pytest.mark.parametrize("aims", [3, 5, 11])
@pytest.mark.parametrize("latitude", [-60.0, -43.6, -33.0, 33.0, 43.6, 60.0])
def test_turning_by_hand_beats_standing_still_on_either_side_of_the_equator(
    aims: int, latitude: float
) -> None:
    """With an odd number of turns the middle one is at noon to the dot: it must face the equator,
    not the pole."""
    grid = sky_grid(latitude)
    light = day_light(grid, (grid.h0_kwh_m2 * 0.6)[:, None])
    still = on_plane_w_m2(light, Mounting(45.0, 180.0 if latitude > 0 else 0.0), latitude)
    turned = on_plane_w_m2(light, Mounting(45.0, 0.0, "reaimed", aims), latitude)
    assert turned.sum() > still.sum()
    noon = np.argmin(np.abs(grid.hour_angle_rad), axis=1)
    days = np.arange(noon.size)
    assert np.all(turned[days, 0, noon] >= 0.9 * still[days, 0, noon])


@pytest.mark.parametrize(
    "place", [(52.5, 15.0), (51.0, 20.0), (48.0, 12.0), (50.0, 15.0), (39.0, -105.0)]
)
def test_an_inland_town_on_a_grid_line_does_not_lie_in_the_sea(place: tuple[float, float]) -> None:
    """Corners of no weight were counted as sea: every town on a grid line was told so."""
    assert found(at(quay_street(), *place), "sun.far_cell") is None
