"""The sun against published numbers and against the typical-year files that ship inside pvlib."""

import os
from pathlib import Path

import numpy as np
import pandas as pd
import pvlib
import pytest

from yonderstat.core.data import rows_by
from yonderstat.core.sun import (
    Mounting,
    daily_diffuse_share,
    day_light,
    declination_rad,
    diffuse_profile,
    extraterrestrial_kwh_m2,
    hour_profile,
    night_hours_by_month,
    on_plane_kwh_m2,
    on_plane_w_m2,
    resource_at,
    sky_grid,
    sunset_hour_angle_rad,
)

DATA = Path(os.path.dirname(pvlib.__file__)) / "data"
MJ_PER_KWH = 3.6


def test_solar_position_algorithm() -> None:
    """[P] Reda & Andreas 2004, NREL SPA, the worked example; shows that pvlib is wired as we
    think."""
    when = pd.DatetimeIndex(["2003-10-17 12:30:30-07:00"])
    position = pvlib.solarposition.spa_python(
        when, 39.742476, -105.1786, altitude=1830.14, pressure=82000, temperature=11, delta_t=67
    )
    assert position["apparent_zenith"].iloc[0] == pytest.approx(50.11162, abs=1e-4)
    assert position["azimuth"].iloc[0] == pytest.approx(194.34024, abs=1e-4)


def test_extraterrestrial_day() -> None:
    """[P] Duffie & Beckman, example 1.10.1: 43° N, 15 April → 33.8 MJ/m², sunset hour angle 98.9°.

    The book uses Cooper's declination and 1367 W/m²; ours are Spencer's and 1361, which moves it by
    under 1 %.
    """
    day = np.array([105.0])
    latitude = np.radians(43.0)
    assert extraterrestrial_kwh_m2(latitude, day)[0] * MJ_PER_KWH == pytest.approx(33.8, rel=0.01)
    sunset = np.degrees(sunset_hour_angle_rad(latitude, declination_rad(day)))[0]
    assert sunset == pytest.approx(98.9, abs=0.4)


def test_incidence_on_a_tilted_plane() -> None:
    """[P] Duffie & Beckman, example 1.6.1: 43° N, 13 February 10:30 solar, 45° tilt, 15° west of
    south → 35°.

    The book's declination is −14° by Cooper's formula; the same is put in here.
    """
    declination, hour_angle, latitude = np.radians(-14.0), np.radians(-22.5), np.radians(43.0)
    zenith = pvlib.solarposition.solar_zenith_analytical(latitude, hour_angle, declination)
    azimuth = pvlib.solarposition.solar_azimuth_analytical(
        latitude, hour_angle, declination, zenith
    )
    incidence = pvlib.irradiance.aoi(45.0, 180.0 + 15.0, np.degrees(zenith), np.degrees(azimuth))
    assert incidence == pytest.approx(35.0, abs=0.5)


@pytest.mark.parametrize(
    ("name", "reader"), [("723170TYA.CSV", "tmy3"), ("703165TY.csv", "tmy3"), ("12839.tm2", "tmy2")]
)
def test_monthly_resource_against_typical_years(name: str, reader: str) -> None:
    """[P] Greensboro, Sand Point and Miami typical years, in pvlib's data folder.

    With the central allowance a month of the 3° cell may read high by two log standard deviations
    of the measured spread (exp(2 · 0.135) = 1.31); low is the safe side and high-latitude midwinter
    is known to read low, so the floor is 0.68. The year's mean must land within a tenth.
    """
    if reader == "tmy3":
        hours, place = pvlib.iotools.read_tmy3(DATA / name, map_variables=True)
        ghi = hours["ghi"]
    else:
        hours, place = pvlib.iotools.read_tmy2(DATA / name)
        ghi = hours["GHI"]
    days = np.array([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
    measured = ghi.groupby(ghi.index.month).sum().to_numpy() / 1000 / days
    resource = resource_at(place["latitude"], place["longitude"])
    assert resource is not None
    central = float(rows_by("allowances", "allowance")["central"]["factor"])
    ratio = resource.day_kwh_m2.mean(axis=1) * central / measured
    assert ratio.max() <= 1.31
    assert ratio.min() >= 0.68
    assert (resource.day_kwh_m2.mean() * central) == pytest.approx(np.average(measured), rel=0.10)


def test_open_sea_is_refused_and_land_is_not() -> None:
    """[measured] Honolulu, Azores, Bermuda and the Falklands have no cell near enough; continents
    do."""
    for latitude, longitude in ((21.3, -157.8), (37.7, -25.7), (32.3, -64.8), (-51.7, -57.9)):
        assert resource_at(latitude, longitude) is None
    for latitude, longitude in ((-43.1, 171.6), (60.2, 24.9), (0.0, 37.0), (35.0, 139.0)):
        assert resource_at(latitude, longitude) is not None


def test_daily_erbs_by_hand() -> None:
    """[P] Erbs, Klein & Duffie 1982, daily form, by hand at K_T 0.5: 0.6593 (short days 0.6582)."""
    k = 0.5
    winter = 1.0 - 0.2727 * k + 2.4495 * k**2 - 11.9514 * k**3 + 9.3879 * k**4
    summer = 1.0 + 0.2832 * k - 2.5557 * k**2 + 0.8448 * k**3
    got = daily_diffuse_share(np.array([k, k, 0.0, 1.0]), np.radians([70.0, 100.0, 90.0, 90.0]))
    assert got == pytest.approx([winter, summer, 1.0, 0.175])


@pytest.mark.parametrize("latitude", [-78.0, -43.1, 0.0, 43.0, 65.0, 89.0])
def test_hour_profiles_sum_to_one_while_there_is_a_day(latitude: float) -> None:
    """Definition: a day's shares sum to 1, or to 0 in polar night."""
    grid = sky_grid(latitude)
    for profile in (hour_profile, diffuse_profile):
        sums = profile(grid.hour_angle_rad, grid.sunset_rad).sum(axis=1)
        assert sums[grid.sunset_rad > 0.1] == pytest.approx(1.0)
        assert sums[grid.sunset_rad == 0] == pytest.approx(0.0)


@pytest.mark.parametrize("latitude", [-43.1, 0.0, 52.0])
def test_a_flat_plane_gets_what_falls_on_the_flat(latitude: float) -> None:
    """Closed form: at tilt 0 the plane's sum is the horizontal sum (beam capped near the horizon
    costs under 2 %)."""
    grid = sky_grid(latitude)
    day = grid.h0_kwh_m2[:, None] * np.array([[0.2, 0.5, 0.7]])
    assert on_plane_kwh_m2(day_light(grid, day), Mounting(0.0, 180.0), latitude) == pytest.approx(
        day, rel=0.02
    )


def test_nights_at_the_equator_and_beyond_the_circle() -> None:
    """Geometry: 12 h at the equator all year; at 75° a winter night does not end, a summer one does
    not begin."""
    assert night_hours_by_month(0.0) == pytest.approx(np.full(12, 12.0))
    north = night_hours_by_month(75.0)
    assert north[11] == 24.0
    assert north[5] == 0.0
    assert night_hours_by_month(-75.0)[5] == 24.0


@pytest.mark.parametrize(("latitude_deg", "tilt_deg"), [(57.0, 60.0), (-43.0, 35.0), (1.0, 10.0)])
def test_glass_takes_its_part(latitude_deg: float, tilt_deg: float) -> None:
    """[pvlib] the physical model hour by hour: De Soto's for the beam, Marion's integrals for dome
    and ground.

    Some 3 % of a year, more where the sun stands low over a flat plane.
    """
    days = np.arange(1.0, 366.0)
    grid = sky_grid(latitude_deg, (np.ones(365, dtype=np.int64), days))
    light = day_light(grid, 0.5 * extraterrestrial_kwh_m2(np.radians(latitude_deg), days)[:, None])
    mounting = Mounting(tilt_deg, 180.0 if latitude_deg > 0 else 0.0)
    bare = on_plane_w_m2(light, mounting, latitude_deg)
    glazed = on_plane_w_m2(light, mounting, latitude_deg, glass=True)
    lost = 1.0 - glazed.sum() / bare.sum()
    assert 0.02 < lost < 0.06
    day, noon = 200, glazed.shape[2] // 2
    zenith, azimuth = np.degrees(grid.zenith_rad[day, noon]), grid.azimuth_deg[day, noon]
    angle = pvlib.irradiance.aoi(tilt_deg, mounting.azimuth_deg, zenith, azimuth)
    beam = light.direct[day, 0, noon] * np.cos(np.radians(angle)) * pvlib.iam.physical(angle)
    parts = pvlib.iam.marion_diffuse("physical", tilt_deg)
    open_sky = (1.0 + np.cos(np.radians(tilt_deg))) / 2.0
    sky = light.sky[day, 0, noon] * open_sky * parts["sky"]
    ground = light.total[day, 0, noon] * light.albedo[day] * (1.0 - open_sky) * parts["ground"]
    assert glazed[day, 0, noon] == pytest.approx(beam + sky + ground)


def test_glass_takes_most_at_grazing_light() -> None:
    """A flat panel in a northern winter loses more than one that looks into the low sun."""
    grid = sky_grid(60.0, (np.array([12]), np.array([355.0])))
    light = day_light(grid, np.full((1, 1), 0.5))
    losses = []
    for tilt_deg in (0.0, 80.0):
        mounting = Mounting(tilt_deg, 180.0)
        whole = on_plane_w_m2(light, mounting, 60.0).sum()
        losses.append(1.0 - on_plane_w_m2(light, mounting, 60.0, glass=True).sum() / whole)
    assert losses[0] > 2.0 * losses[1] > 0.0
