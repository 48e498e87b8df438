"""What a site is held to: its design as built, hour by hour, kept for the few that were looked at
last."""

import json
from collections import OrderedDict
from dataclasses import dataclass
from datetime import UTC, datetime, tzinfo
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from pydantic import TypeAdapter

from yonderstat.core.calendar import hour_of_year
from yonderstat.core.design import Design
from yonderstat.core.live import Expected, Forecast, expected_of, forecast_of
from yonderstat.core.rehearse import HourlyStation, hourly_station
from yonderstat.core.station import StationModel
from yonderstat.memory import give_back
from yonderstat.records import Archive, LiveBook, UnreadableDesignError

Json = dict[str, Any]
YEARS = 10
STATIONS = 4
"""So many stations are kept hour by hour; each takes some megabytes."""
FORECAST_EVERY_S = 3600.0
"""By the site's clock."""
FORECAST: TypeAdapter[Forecast] = TypeAdapter(Forecast)


@dataclass(frozen=True, slots=True)
class Held:
    """What a site is held to, at a revision of its design; nothing where it cannot be rehearsed."""

    design_id: UUID
    revision: int
    zone: tzinfo
    expected: Expected | None


class Plans:
    """The designs of sites as plans to hold them to."""

    def __init__(self, archive: Archive, book: LiveBook) -> None:
        self._archive, self._book = archive, book
        self._held: dict[UUID, Held] = {}
        self._stations: OrderedDict[UUID, HourlyStation | None] = OrderedDict()

    def _design(self, design_id: UUID) -> Design | None:
        try:
            return self._archive.design(design_id).design
        except UnreadableDesignError:
            return None

    def _station(self, site_id: UUID, design: Design) -> HourlyStation | None:
        if site_id not in self._stations:
            self._stations[site_id] = hourly_station(StationModel(design), YEARS)
            give_back()
            if len(self._stations) > STATIONS:
                self._stations.popitem(last=False)
        self._stations.move_to_end(site_id)
        return self._stations[site_id]

    def of(self, site_id: UUID) -> Held | None:
        """What a site is held to now; None where it has no design."""
        head = self._book.design_head(site_id)
        if head is None:
            return None
        known = self._held.get(site_id)
        if known is not None and (known.design_id, known.revision) == head:
            return known
        design = self._design(head[0])
        self._stations.pop(site_id, None)
        station = self._station(site_id, design) if design else None
        place = design.place if design else None
        zone = ZoneInfo(place.time_zone) if place is not None and place.time_zone else UTC
        found = Held(*head, zone, expected_of(station) if station else None)
        self._held[site_id] = found
        return found

    def forecast(self, site_id: UUID, held: Held, at: datetime, share: float) -> Json | None:
        """The next days from a state of charge, as it is kept; None where the design cannot be
        rehearsed.

        Parameters
        ----------
        held : Held
            The station of a site, kept between rounds.
        at : datetime
            From when.
        share : float
            State of charge, 0 to 1.
        """
        if held.expected is None:
            return None
        known = self._stations.get(site_id)
        if known is None:
            design = self._design(held.design_id)
            known = self._station(site_id, design) if design else None
        if known is None:
            return None
        found = FORECAST.dump_json(forecast_of(known, hour_of_year(at), share))
        told = json.loads(found, parse_float=lambda text: round(float(text), 4))
        return {"at_s": at.timestamp(), "told": told}


def is_due(kept: Json | None, at_s: float) -> bool:
    """Whether it is time for a new forecast."""
    return (
        kept is None or at_s - float(kept["at_s"]) >= FORECAST_EVERY_S or at_s < float(kept["at_s"])
    )


def soon_of(kept: Json | None) -> Json:
    """How soon a kept forecast has it dark."""
    if kept is None:
        return {}
    told = kept["told"]
    working, key = told["working"], told["soon_dark_h"]
    share = working[told["soon_dark_share"]]["value"]
    return {"dark_share": share, "dark_in_h": working[key]["value"] if key else None}
