"""The climate of a site: one air, one cold, one heat, read by every step."""

from .explain import AIR_SOURCES, air_by_month, basis_in_words, extremes
from .grid import lapse_k_per_m, surface_year_c
from .here import Here, equator_azimuth_deg, here_of, relief_m
from .model import Climate, climate_at, climate_of, guessed_coldest_c, guessed_hottest_c, usual_year
from .zone import climate_zone

__all__ = [
    "AIR_SOURCES",
    "Climate",
    "Here",
    "air_by_month",
    "basis_in_words",
    "climate_at",
    "climate_of",
    "climate_zone",
    "equator_azimuth_deg",
    "extremes",
    "guessed_coldest_c",
    "guessed_hottest_c",
    "here_of",
    "lapse_k_per_m",
    "relief_m",
    "surface_year_c",
    "usual_year",
]
