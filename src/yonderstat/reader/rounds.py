"""A round at a site: every device asked, one moment made of it, what it raises, and what the next days look like."""

import asyncio
import json
import logging
import time
from collections import OrderedDict
from dataclasses import asdict, dataclass, fields
from datetime import UTC, datetime, timedelta, tzinfo
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from pydantic import TypeAdapter

from yonderstat.addresses import AddressError, address_of
from yonderstat.core.calendar import hour_of_year
from yonderstat.core.design import Design
from yonderstat.core.live import (
    Expected,
    Forecast,
    Moment,
    Watching,
    expected_of,
    forecast_of,
    next_moment,
    silence,
    silence_limit_s,
)
from yonderstat.core.rehearse import HourlyStation, hourly_station
from yonderstat.core.station import StationModel
from yonderstat.memory import give_back
from yonderstat.records import Archive, Asked, Endpoint, LiveBook, LiveSite, Taken, Telling, UnreadableDesignError

from .sunspec import SunSpecReader
from .telemetry import read_telemetry
from .told import DeviceError, Told, checked, merged

LOG = logging.getLogger(__name__)
Json = dict[str, Any]
YEARS = 10
STATIONS = 4
"""So many stations are kept hour by hour; each takes some megabytes."""
FORECAST_EVERY_S = 3600.0
"""By the site's clock."""
NEAR_S = 900.0
FORECAST: TypeAdapter[Forecast] = TypeAdapter(Forecast)


@dataclass(frozen=True, slots=True)
class Round:
    """What one round at a site heard, before anything is made of it."""

    site_id: UUID
    asked_s: float
    told: dict[str, Json]
    """By device."""
    trouble: dict[str, str]

    def as_json(self) -> Json:
        """As it waits on disk."""
        return {**asdict(self), "site_id": str(self.site_id)}

    @classmethod
    def from_json(cls, row: Json) -> "Round":
        """As it waited on disk."""
        return cls(UUID(row["site_id"]), float(row["asked_s"]), row["told"], row["trouble"])


class Asking:
    """Asks devices."""

    def __init__(self) -> None:
        self._sunspec = SunSpecReader()

    async def _ask(self, endpoint: Endpoint) -> Told:
        try:
            address = await asyncio.to_thread(address_of, endpoint.host, endpoint.port)
        except AddressError as error:
            raise DeviceError(str(error)) from None
        if endpoint.protocol == "telemetry":
            return checked(await read_telemetry(address, endpoint.port))
        return checked(await self._sunspec.read(address, endpoint.port, endpoint.unit))

    async def round_at(self, site_id: UUID, endpoints: list[Endpoint]) -> Round:
        """Ask every device of a site at once."""
        answers = await asyncio.gather(*(self._ask(one) for one in endpoints), return_exceptions=True)
        told, trouble = {}, {}
        for endpoint, answer in zip(endpoints, answers, strict=True):
            if isinstance(answer, Told):
                known = {field.name: getattr(answer, field.name) for field in fields(answer)}
                told[str(endpoint.id)] = {name: value for name, value in known.items() if value is not None}
            elif isinstance(answer, DeviceError):
                trouble[str(endpoint.id)] = str(answer)
            else:
                raise answer
        return Round(site_id, time.time(), told, trouble)


@dataclass(frozen=True, slots=True)
class Held:
    """What a site is held to, at a revision of its design; nothing where it cannot be rehearsed."""

    design_id: UUID
    revision: int
    zone: tzinfo
    expected: Expected | None


def local(at_s: float, zone: tzinfo) -> datetime:
    """A moment by the site's clock."""
    return datetime.fromtimestamp(at_s, zone)


class Judging:
    """Makes of a round what is kept of it."""

    def __init__(self, archive: Archive, book: LiveBook) -> None:
        self._archive, self._book = archive, book
        self._began_s = time.time()
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

    def _held_to(self, site_id: UUID) -> Held | None:
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

    def _forecast(self, site_id: UUID, held: Held, at: datetime, share: float) -> Forecast | None:
        if held.expected is None:
            return None
        known = self._stations.get(site_id)
        if known is None:
            design = self._design(held.design_id)
            known = self._station(site_id, design) if design else None
        return None if known is None else forecast_of(known, hour_of_year(at), share)

    def taken(self, round_: Round) -> Taken | None:
        """What a round comes to; None where nobody watches the site any more."""
        site = self._book.site(round_.site_id)
        endpoints = {str(one.id): one for one in self._book.endpoints(round_.site_id)}
        held = self._held_to(round_.site_id)
        if not endpoints or held is None:
            return None
        told = [Told(**row) for key, row in _monitors_first(round_.told, endpoints)]
        watching = self._remembered(site)
        at_s, clock_off_s = _reckoned(merged(told).device_s if told else None, site, round_.asked_s)
        watching, events = self._silence(watching, site, endpoints, round_, at_s)
        forecast, values = None, {}
        if told:
            whole = merged(told)
            values = {name: getattr(whole, name) for name in VALUES}
            at = local(at_s, held.zone)
            kept = site.forecast
            due = kept is None or at_s - float(kept["at_s"]) >= FORECAST_EVERY_S or at_s < float(kept["at_s"])
            if whole.charge_share is not None and due:
                found = self._forecast(round_.site_id, held, at, whole.charge_share)
                if found is not None:
                    forecast = kept = _as_json(found, at_s)
            if held.expected is not None:
                soon = _soon(kept)
                hour = at.hour + at.minute / 60.0
                moment = Moment(at_s=at_s, month=at.month, hour=hour, clock_off_s=clock_off_s, **values, **soon)
                watching, more = next_moment(watching, moment, held.expected)
                events += more
        asked_at = datetime.fromtimestamp(round_.asked_s, UTC)
        is_grave = any(event.severity == "stop" and event.what != "still" for event in events)
        return Taken(
            site_id=round_.site_id,
            asked_at=asked_at,
            asked=tuple(Asked(UUID(key), round_.trouble.get(key, "")) for key in (*round_.told, *round_.trouble)),
            device_at=datetime.fromtimestamp(at_s, UTC) if told else None,
            values=values,
            trend=_trend(site, at_s, values.get("charge_share")),
            watching=watching.as_json(),
            forecast=forecast,
            events=tuple(events),
            tellings=tellings_of(site, held.zone, asked_at, is_grave),
        )

    def _remembered(self, site: LiveSite) -> Watching:
        """What is remembered of a site; of another program nothing but the alarms that are open."""
        try:
            return Watching.from_json(site.watching or {})
        except ValueError:
            LOG.warning("what was remembered of site %s cannot be read; it begins anew", site.site_id)
            alarms = self._book.alarms(site.site_id)
            return Watching(open={alarm.kind: alarm.severity for alarm in alarms if alarm.cleared_at is None})

    def _silence(
        self, was: Watching, site: LiveSite, endpoints: dict[str, Endpoint], round_: Round, at_s: float
    ) -> tuple[Watching, list[Any]]:
        """The device that has been silent longest speaks for the site."""
        longest, who = 0.0, ""
        for key, endpoint in endpoints.items():
            since_s = (endpoint.heard_at or endpoint.added_at).timestamp()
            # What nobody asked for while the reader was down was not silence.
            silent_s = 0.0 if key in round_.told else round_.asked_s - max(since_s, self._began_s)
            if silent_s > longest:
                longest, who = silent_s, endpoint.name
        return silence(was, longest, site.interval_s, at_s, who)


VALUES = ("volts", "charge_a", "load_a", "charge_share", "box_c")


def _monitors_first(told: dict[str, Json], endpoints: dict[str, Endpoint]) -> list[tuple[str, Json]]:
    """A monitor knows its bank better than a controller does."""
    rows = [(key, row) for key, row in told.items() if key in endpoints]
    return sorted(rows, key=lambda row: endpoints[row[0]].kind != "monitor")


def _reckoned(device_s: float | None, site: LiveSite, now_s: float) -> tuple[float, float | None]:
    """When a moment was by the site's clock, and how far its device's clock is off; None where it tells none.

    A clock that is off is not believed: its readings are kept by our own, run on at the site's speed.
    """
    last_s = site.device_at.timestamp() if site.device_at else None
    if site.speed == 1.0 or last_s is None or site.heard_at is None:
        ours = now_s
    else:
        ours = min(now_s, last_s + site.speed * max(0.0, now_s - site.heard_at.timestamp()))
    if device_s is None:
        return ours, None
    if site.speed == 1.0:
        off_s = device_s - now_s
    else:
        # A stand-in's clock may run as it likes, but not back, and not ahead of ours.
        off_s = device_s - now_s if device_s > now_s + 1.0 else min(0.0, device_s - last_s) if last_s else 0.0
    return (device_s, off_s) if abs(off_s) <= NEAR_S else (ours, off_s)


TREND_S, TREND_POINTS = 7200.0, 36
"""A point every two hours, over three days, by the site's clock."""


def _trend(site: LiveSite, at_s: float, share: float | None) -> list[tuple[float, float]]:
    """The state of charge of the last days for a small picture, with the newest at its end."""
    known = [(float(moment), float(value)) for moment, value in (site.seen or {}).get("trend", [])]
    if share is None:
        return known
    if len(known) > 1 and known[-1][0] - known[-2][0] < TREND_S:
        known.pop()
    return [*(row for row in known if 0.0 < at_s - row[0] <= TREND_S * TREND_POINTS), (at_s, round(share, 4))]


def _as_json(forecast: Forecast, at_s: float) -> Json:
    told = json.loads(FORECAST.dump_json(forecast), parse_float=lambda text: round(float(text), 4))
    return {"at_s": at_s, "told": told}


def _soon(kept: Json | None) -> Json:
    if kept is None:
        return {}
    told = kept["told"]
    working, key = told["working"], told["soon_dark_h"]
    share = working[told["soon_dark_share"]]["value"]
    return {"dark_share": share, "dark_in_h": working[key]["value"] if key else None}


def is_quiet(site: LiveSite, hour: int) -> bool:
    """Whether nobody is to be told at an hour of the site's day, but of what is grave."""
    first, last = site.quiet_from_h, site.quiet_to_h
    if first is None or last is None or first == last:
        return False
    return first <= hour < last if first < last else hour >= first or hour < last


def tellings_of(site: LiveSite, zone: tzinfo, now: datetime, is_grave: bool) -> tuple[Telling, ...]:
    """Who is told, and when: in quiet hours what is not grave waits until they are over."""
    due = here = now.astimezone(zone)
    if not is_grave and is_quiet(site, here.hour):
        due = here.replace(minute=0, second=0, microsecond=0)
        while is_quiet(site, due.hour):
            due += timedelta(hours=1)
    ways = (("webhook", site.webhook), ("mail", site.mail_to))
    return tuple(Telling(way, goes_to, due.astimezone(UTC)) for way, goes_to in ways if goes_to)


__all__ = ["Asking", "Judging", "Round", "silence_limit_s"]
