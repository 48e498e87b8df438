"""Where the station stands."""

from typing import Annotated

from pydantic import Field

from .base import KnownMetres, Section


class Place(Section):
    latitude_deg: Annotated[float, Field(ge=-90, le=90)]
    longitude_deg: Annotated[float, Field(ge=-180, le=180)]
    elevation_m: KnownMetres | None = None
    """None looks it up in the packaged relief."""
