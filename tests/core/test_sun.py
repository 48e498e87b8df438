"""The sun section: own figures, skyline, ground, snow, the map of tilts; and what it finds."""

import numpy as np
import pvlib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.samples import harrier_ridge, quay_street, with_string
from yonderstat.core import evaluate
from yonderstat.core.climate import Here
from yonderstat.core.design import (
    Design,
    HorizonPoint,
    InvalidDesignError,
    Place,
    Sun,
    design_from_document,
    document_of,
)
from yonderstat.core.sun import (
    STEP_H,
    Mounting,
    conditions_of,
    day_light,
    day_spread,
    horizon_elevation_deg,
    on_plane_kwh_m2,
    plane_hours,
    plane_sun,
    site_sun,
    sky_grid,
    tilt_map,
)

QUICK = settings(max_examples=25, deadline=None)
FULL = [HorizonPoint(azimuth_deg=0.0, elevation_deg=85.0)]
RIDGE = Here(-43.1, 171.6, 1480.0, 0.88)
ISLAND = Place(latitude_deg=21.3, longitude_deg=-157.8)


def under(design: Design, **sun: object) -> Design:
    return design.model_copy(update={"sun": design.sun.model_copy(update=sun)})


def hours(design: Design, month: int = 6) -> float:
    report = evaluate(design)
    return report.working[report.sun.planes[0].hours[month - 1]].number


@pytest.mark.parametrize("latitude", [-43.1, 0.0, 52.0, 68.0])
@pytest.mark.parametrize(
    ("tilt", "azimuth"), [(0.0, 0.0), (35.0, 180.0), (65.0, 20.0), (90.0, 90.0)]
)
def test_the_plane_is_pvlibs_hay_davies(latitude: float, tilt: float, azimuth: float) -> None:
    """[P] Hay & Davies as pvlib computes it, hour by hour, is the independent route; ours sums the
    same parts."""
    grid = sky_grid(latitude)
    day = grid.h0_kwh_m2[:, None] * np.array([[0.15, 0.45, 0.7]])
    light = day_light(grid, day)
    height = np.maximum(np.cos(grid.zenith_rad), 0.01745)[:, None, :]
    extra = grid.extra_w_m2[:, None, None]
    ring = light.direct  # beam + dhi · A / height, with A = beam / extra
    diffuse = np.zeros_like(ring)
    beam = np.zeros_like(ring)
    # Undo the split: sky = dhi · (1 − A), direct = beam · (1 + dhi / (extra · height)).
    for _ in range(60):
        beam = ring / (1.0 + diffuse / (extra * height))
        diffuse = light.sky / np.maximum(1.0 - beam / extra, 1e-9)
    zenith, sun_azimuth = np.degrees(grid.zenith_rad)[:, None, :], grid.azimuth_deg[:, None, :]
    sky = pvlib.irradiance.haydavies(
        tilt, azimuth, diffuse, beam, extra, solar_zenith=zenith, solar_azimuth=sun_azimuth
    )
    ground = pvlib.irradiance.get_ground_diffuse(tilt, light.total, 0.2)
    incidence = np.maximum(pvlib.irradiance.aoi_projection(tilt, azimuth, zenith, sun_azimuth), 0.0)
    theirs = (beam * incidence + np.asarray(sky) + ground).sum(axis=2) * 0.5 / 1000.0
    assert on_plane_kwh_m2(light, Mounting(tilt, azimuth), latitude) == pytest.approx(
        theirs, rel=2e-3, abs=2e-3
    )


@pytest.mark.parametrize("place", [(-43.1, 171.6), (60.2, 24.9), (35.0, 139.0)])
def test_the_map_is_the_plane(place: tuple[float, float]) -> None:
    """Each cell of the map equals the plane worked out by itself, and the best is the largest."""
    design = under(
        harrier_ridge(),
        horizon=[HorizonPoint(azimuth_deg=310.0, elevation_deg=30.0)],
        snow_days=[3.0] * 12,
    )
    design = design.model_copy(
        update={"place": Place(latitude_deg=place[0], longitude_deg=place[1])}
    )
    found = tilt_map(design, (6,))
    assert found is not None
    for row, column in ((0, 0), (9, 4), (13, 0), (18, 12)):
        string = {"tilt_deg": found.tilts_deg[row], "azimuth_deg": found.azimuths_deg[column]}
        assert hours(with_string(design, **string)) == pytest.approx(
            found.hours[row][column], rel=1e-6
        )
    assert found.best_hours == max(max(row) for row in found.hours)


def test_the_best_winter_plane_faces_the_equator_and_stands_steep() -> None:
    """[C] known of mid-latitudes; the direction is exact only without a skyline."""
    for latitude, longitude, month, towards in ((-43.1, 171.6, 6, 0.0), (48.0, 11.0, 12, 180.0)):
        design = under(harrier_ridge(), horizon=[]).model_copy(
            update={"place": Place(latitude_deg=latitude, longitude_deg=longitude)}
        )
        found = tilt_map(design, (month,))
        assert found is not None
        assert found.best_azimuth_deg == towards
        assert found.best_tilt_deg >= 55


@QUICK
@given(
    st.lists(st.tuples(st.floats(0, 359.9), st.floats(0, 85)), max_size=8),
    st.floats(0, 90),
    st.floats(0, 359),
)
def test_a_skyline_only_removes(
    points: list[tuple[float, float]], tilt: float, azimuth: float
) -> None:
    rising = sorted({round(a, 1): e for a, e in points if round(a, 1) < 360}.items())
    skyline = [HorizonPoint(azimuth_deg=a, elevation_deg=e) for a, e in rising]
    free, hidden = Sun(), Sun(horizon=skyline)
    suns = [plane_sun(RIDGE, conditions_of(sun), Mounting(tilt, azimuth)) for sun in (free, hidden)]
    assert suns[0] is not None
    assert suns[1] is not None
    assert np.all(suns[1].mean <= suns[0].mean + 1e-9)
    assert np.all(suns[1].mean >= 0)


def test_a_wall_all_round_leaves_only_the_sky() -> None:
    walled = hours(under(harrier_ridge(), horizon=FULL))
    assert 0 < walled < 0.6 * hours(harrier_ridge())


def test_horizon_closes_round_the_compass() -> None:
    points = ((10.0, 10.0), (350.0, 30.0))
    got = horizon_elevation_deg(points, np.array([0.0, 10.0, 350.0, 180.0]))
    assert got == pytest.approx([20.0, 10.0, 30.0, 20.0])


@settings(max_examples=10, deadline=None)
@given(st.floats(0, 0.9), st.floats(0, 0.9), st.floats(5, 90))
def test_brighter_ground_never_takes(one: float, two: float, tilt: float) -> None:
    dark, bright = sorted((one, two))
    base = with_string(harrier_ridge(), tilt_deg=tilt)
    assert hours(under(base, albedo=[dark] * 12)) <= hours(under(base, albedo=[bright] * 12)) + 1e-9


def test_snow_days_by_hand() -> None:
    """Fifteen of June's thirty days buried leave half."""
    assert hours(under(harrier_ridge(), snow_days=[15.0] * 12)) == pytest.approx(
        hours(harrier_ridge()) / 2
    )


def test_own_figures_are_taken_as_they_are() -> None:
    """On a flat panel the month's mean comes back, no allowance taken; also where no cell is
    near."""
    own = [3.0, 3.5, 4.0, 4.5, 5.0, 5.2, 5.1, 4.9, 4.5, 4.0, 3.4, 3.0]
    flat = under(with_string(quay_street(), tilt_deg=0.0), source="own", own_hours=own)
    island = flat.model_copy(update={"place": ISLAND})
    report = evaluate(island)
    got = [report.working[key].number for key in report.sun.planes[0].hours]
    assert got == pytest.approx(own, rel=0.04)
    assert report.sun.state == "known"
    assert "Your own" in report.sun.provenance


def test_an_island_without_a_cell_is_told_what_to_do() -> None:
    report = evaluate(quay_street().model_copy(update={"place": ISLAND}))
    finding = next(item for item in report.findings if item.id == "sun.no_cell")
    assert "Enter your own" in finding.why


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        (
            {
                "horizon": [
                    {"azimuth_deg": 90, "elevation_deg": 5},
                    {"azimuth_deg": 80, "elevation_deg": 5},
                ]
            },
            "in order",
        ),
        ({"horizon": [{"azimuth_deg": 90, "elevation_deg": 95}]}, "at most 85"),
        ({"source": "own"}, "there are none"),
        ({"own_hours": [1.0] * 11}, "at least 12"),
        ({"own_hours": [-1.0] * 12}, "at least 0"),
        ({"albedo": [2.0] * 12}, "at most 0.95"),
        ({"snow_days": [40.0] * 12}, "at most 31"),
    ],
)
def test_nonsense_is_refused_in_words(changes: dict[str, object], words: str) -> None:
    document = document_of(quay_street())
    document["sun"].update(changes)
    with pytest.raises(InvalidDesignError, match=words):
        design_from_document(document)


@pytest.mark.parametrize("latitude", [-89.9, -66.6, 0.0, 66.6, 71.0])
def test_polar_night_and_equator(latitude: float) -> None:
    """Own figures carry any latitude: no sun in polar night, never a negative or endless hour."""
    own = Sun(source="own", own_hours=[4.0] * 12)
    site = site_sun(Here(latitude, 25.0, 0.0), conditions_of(own))
    assert site is not None
    for month in range(1, 13):
        planes = plane_hours(
            site, month, np.array([0.0, 45.0, 90.0]), np.array([0.0, 90.0, 180.0, 270.0])
        )
        assert np.all(np.isfinite(planes))
        assert np.all(planes >= 0)
    if latitude == 71.0:
        assert plane_hours(site, 12, np.array([90.0]), np.array([180.0]))[0, 0] < 0.1


def test_date_line() -> None:
    """Either side of the date line the same cells speak."""
    east = evaluate(
        quay_street().model_copy(update={"place": Place(latitude_deg=66.5, longitude_deg=179.999)})
    )
    west = evaluate(
        quay_street().model_copy(update={"place": Place(latitude_deg=66.5, longitude_deg=-179.999)})
    )
    keys = east.sun.planes[0].hours
    assert [east.working[k].number for k in keys] == pytest.approx(
        [west.working[k].number for k in keys], abs=0.02
    )


@pytest.mark.parametrize(
    ("design", "key"),
    [
        (with_string(harrier_ridge(), azimuth_deg=180.0), "sun.away.hut-north-wall"),
        (with_string(harrier_ridge(), tilt_deg=0.0), "sun.flat.hut-north-wall"),
        (
            harrier_ridge().model_copy(
                update={"place": Place(latitude_deg=69.6, longitude_deg=18.9)}
            ),
            "sun.dark_month",
        ),
        (under(harrier_ridge(), horizon=FULL), "sun.skyline"),
        (with_string(harrier_ridge(), tilt_deg=20.0), "sun.snow.hut-north-wall"),
        (under(harrier_ridge(), allowance="central"), "sun.central"),
    ],
)
def test_findings(design: Design, key: str) -> None:
    finding = next((item for item in evaluate(design).findings if item.id == key), None)
    assert finding is not None
    assert key not in {item.id for item in evaluate(under(harrier_ridge(), horizon=[])).findings}
    for remedy in finding.remedies:
        from tests.core.test_findings import patched

        after = evaluate(patched(design, remedy.patch))
        assert key not in {item.id for item in after.findings}


@pytest.mark.parametrize(
    ("latitude", "longitude"), [(57.0, -4.0), (51.5, -0.1), (-23.5, -46.6), (19.1, 72.9)]
)
def test_the_allowance_takes_from_every_plane_what_it_says(
    latitude: float, longitude: float
) -> None:
    """12 % off the flat took 47 % off a steep plane in December at 57° N: lower clearness turned
    beam into diffuse."""
    whole, planned = Here(latitude, longitude, 50.0, 1.0), Here(latitude, longitude, 50.0, 0.88)
    for tilt_deg in (0.0, 40.0, 75.0):
        mounting = Mounting(tilt_deg, 180.0 if latitude > 0 else 0.0)
        before, after = (
            plane_sun(here, conditions_of(Sun()), mounting) for here in (whole, planned)
        )
        assert before is not None
        assert after is not None
        assert after.mean == pytest.approx(0.88 * before.mean)


@pytest.mark.parametrize("latitude", [60.0, 57.0, 51.0, 45.0, 35.0])
def test_the_clearest_day_trims_little_of_what_was_measured(latitude: float) -> None:
    """A tenth of January was cut off at 60° N by a sky that was never so hazy. [regression] what is
    cut off now."""
    here = Here(latitude, 25.0 if latitude > 59 else 0.0, 50.0, 1.0)
    site, spread = site_sun(here, conditions_of(Sun())), day_spread(here, conditions_of(Sun()))
    assert site is not None
    assert spread is not None
    day_kwh = site.light.total.sum(axis=2) * STEP_H / 1000.0
    for month in range(1, 13):
        flat = day_kwh[site.light.grid.month == month].mean() / (1.0 - Sun().soiling.value)
        assert flat > (0.93 if latitude >= 60.0 else 0.96) * spread.day_kwh_m2[month - 1].mean()
