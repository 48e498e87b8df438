"""Step 4, Sun: an honest resource for the place, on the plane."""

from .conditions import Conditions, conditions_of, horizon_elevation_deg, own_days
from .explore import TiltMap, plane_hours, tilt_map
from .geometry import (
    SkyGrid,
    declination_rad,
    extraterrestrial_kwh_m2,
    night_hours_by_month,
    sky_grid,
    sunset_hour_angle_rad,
)
from .report import REFERENCE_PLANE, PlaneFigures, SunReport, equator_azimuth_deg, relief_m, sun_report
from .resource import Resource, resource_at
from .tilted import (
    DayLight,
    PlaneSun,
    SiteSun,
    daily_diffuse_share,
    day_light,
    diffuse_profile,
    hour_profile,
    on_plane_kwh_m2,
    plane_sun,
    site_sun,
)

__all__ = [
    "REFERENCE_PLANE",
    "Conditions",
    "DayLight",
    "PlaneFigures",
    "PlaneSun",
    "Resource",
    "SiteSun",
    "SkyGrid",
    "SunReport",
    "TiltMap",
    "conditions_of",
    "daily_diffuse_share",
    "day_light",
    "declination_rad",
    "diffuse_profile",
    "equator_azimuth_deg",
    "extraterrestrial_kwh_m2",
    "horizon_elevation_deg",
    "hour_profile",
    "night_hours_by_month",
    "on_plane_kwh_m2",
    "own_days",
    "plane_hours",
    "plane_sun",
    "relief_m",
    "resource_at",
    "site_sun",
    "sky_grid",
    "sun_report",
    "sunset_hour_angle_rad",
    "tilt_map",
]
