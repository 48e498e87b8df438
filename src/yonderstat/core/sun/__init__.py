"""Step 4, Sun: an honest resource for the place, on the plane."""

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
from .tilted import PlaneSun, daily_diffuse_share, diffuse_profile, hour_profile, plane_kwh_m2, plane_sun

__all__ = [
    "REFERENCE_PLANE",
    "PlaneFigures",
    "PlaneSun",
    "Resource",
    "SkyGrid",
    "SunReport",
    "daily_diffuse_share",
    "declination_rad",
    "diffuse_profile",
    "equator_azimuth_deg",
    "extraterrestrial_kwh_m2",
    "hour_profile",
    "night_hours_by_month",
    "plane_kwh_m2",
    "plane_sun",
    "relief_m",
    "resource_at",
    "sky_grid",
    "sun_report",
    "sunset_hour_angle_rad",
]
