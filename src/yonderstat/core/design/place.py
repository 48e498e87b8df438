"""Where the station stands."""

from typing import Annotated
from zoneinfo import ZoneInfo

from pydantic import AfterValidator, Field

from .base import KnownMetres, Section


def _known_zone(name: str) -> str:
    try:
        ZoneInfo(name)
    except (ValueError, OSError, KeyError):
        raise ValueError(
            f"is {name[:40]!r}; it must be a time zone's name, such as Pacific/Auckland"
        ) from None
    return name


class Place(Section):
    latitude_deg: Annotated[float, Field(ge=-90, le=90)]
    longitude_deg: Annotated[float, Field(ge=-180, le=180)]
    elevation_m: KnownMetres | None = None
    """None looks it up in the packaged relief."""
    time_zone: Annotated[str, Field(max_length=60), AfterValidator(_known_zone)] | None = None
    """IANA name, for hours by the clock; None keeps time by the sun."""
