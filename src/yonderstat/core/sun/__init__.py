"""Step 4, Sun: an honest resource for the place, on the plane."""

from .conditions import Conditions, RecordedDays, conditions_of, horizon_elevation_deg, recorded
from .explain import SunReport, sun_report
from .explore import TiltMap, plane_hours, tilt_map
from .file_days import DayShapes, day_shapes, hours_alike
from .geometry import (
    STEP_H,
    SkyGrid,
    declination_rad,
    extraterrestrial_kwh_m2,
    night_hours_by_month,
    noon_sun_deg,
    sky_grid,
    sunset_hour_angle_rad,
)
from .light import (
    DayLight,
    chosen_days,
    daily_diffuse_share,
    day_light,
    diffuse_profile,
    hour_profile,
)
from .mounting import Mounting, mounting_of, on_plane_kwh_m2, on_plane_w_m2
from .path import SunTrack, sun_tracks
from .planes import MOUNT_WORDS, REFERENCE_PLANE, Plane, PlaneFigures, planes_of
from .resource import Resource, equal_parts, great_circle_km, resource_at
from .site import PlaneSun, SiteSun, light_under, plane_sun, possible_days, site_sun
from .spread import DaySpread, day_spread, recorded_days

__all__ = [
    "MOUNT_WORDS",
    "REFERENCE_PLANE",
    "STEP_H",
    "Conditions",
    "DayLight",
    "DayShapes",
    "DaySpread",
    "Mounting",
    "Plane",
    "PlaneFigures",
    "PlaneSun",
    "RecordedDays",
    "Resource",
    "SiteSun",
    "SkyGrid",
    "SunReport",
    "SunTrack",
    "TiltMap",
    "chosen_days",
    "conditions_of",
    "daily_diffuse_share",
    "day_light",
    "day_shapes",
    "day_spread",
    "declination_rad",
    "diffuse_profile",
    "equal_parts",
    "extraterrestrial_kwh_m2",
    "great_circle_km",
    "horizon_elevation_deg",
    "hour_profile",
    "hours_alike",
    "light_under",
    "mounting_of",
    "night_hours_by_month",
    "noon_sun_deg",
    "on_plane_kwh_m2",
    "on_plane_w_m2",
    "plane_hours",
    "plane_sun",
    "planes_of",
    "possible_days",
    "recorded",
    "recorded_days",
    "resource_at",
    "site_sun",
    "sky_grid",
    "sun_report",
    "sun_tracks",
    "sunset_hour_angle_rad",
    "tilt_map",
]
