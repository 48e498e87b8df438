"""Sites that report themselves: what they say now, their alarms, their next days, and where they
are asked."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field, TypeAdapter, ValidationError
from sqlalchemy import Engine

from yonderstat.addresses import AddressError, address_of, web_address
from yonderstat.core.design import Design
from yonderstat.core.design.base import Name
from yonderstat.core.live import Forecast, title_of
from yonderstat.core.log import CHANNELS
from yonderstat.records import Alarm, Archive, Endpoint, LiveBook, LiveSite, Samples, Thinned

from .access import principal
from .actors import current_actor
from .api import Api, Body, model_fault
from .clocks import zone_of
from .problems import Problem

DOWN_AFTER = timedelta(seconds=15)
"""A reader that has not been heard of for so long is down."""
SPANS = {
    "day": timedelta(days=1),
    "week": timedelta(days=7),
    "month": timedelta(days=31),
    "year": timedelta(days=366),
    "decade": timedelta(days=3653),
}
MOST_POINTS = 400
FORECAST: TypeAdapter[Forecast] = TypeAdapter(Forecast)
Hour = Annotated[int, Field(ge=0, le=23)]


class NewEndpoint(Body):
    """A device that reports itself, and where it is asked."""

    name: Name
    kind: Literal["controller", "monitor"]
    protocol: Literal["sunspec", "telemetry", "mqtt"]
    host: Annotated[str, Field(min_length=1, max_length=253)]
    port: Annotated[int, Field(ge=1, le=65535)]
    unit: Annotated[int, Field(ge=0, le=247)] = 1
    topic: Annotated[str, Field(max_length=200, pattern=r"^[^#+\x00]*$")] = ""
    """Of the broker, for MQTT: one topic, without wildcards."""


class LiveSettings(Body):
    """How often a site is asked, and who is told of its alarms, and when not. Hours are of its own
    day."""

    interval_s: Annotated[float, Field(ge=1, le=3600)] = 60.0
    speed: Annotated[float, Field(ge=1, le=100_000)] = 1.0
    """How fast its clock runs: 1, but for a stand-in."""
    quiet_from_h: Hour | None = None
    quiet_to_h: Hour | None = None
    webhook: Annotated[str, Field(max_length=300)] = ""
    mail_to: Annotated[str, Field(max_length=200, pattern=r"^$|^[^@\s,;<>]+@[^@\s,;<>]+$")] = ""


class Acknowledgement(Body):
    """Who has seen an alarm."""

    who: Annotated[str, Field(max_length=40)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Now:
    """What a site said last; None is not measured there."""

    volts: float | None
    charge_a: float | None
    load_a: float | None
    charge_share: float | None
    box_c: float | None
    device_at: datetime
    """By the site's own clock."""
    heard_at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class AlarmView:
    """An alarm with its title."""

    id: UUID
    kind: str
    title: str
    severity: str
    words: str
    raised_at: datetime
    cleared_at: datetime | None
    acknowledged_at: datetime | None
    acknowledged_by: str


@dataclass(frozen=True, slots=True)
class ReaderView:
    """How the process that asks the devices is."""

    is_down: bool
    beat_at: datetime | None
    waiting: int
    """Readings that wait with it for the database."""


@dataclass(frozen=True, slots=True)
class LiveStrip:
    """A site that reports itself, in a line."""

    site_id: UUID
    design_id: UUID
    now: Now | None
    trend: list[float]
    """State of charge over the last three days."""
    alarms: list[AlarmView]


@dataclass(frozen=True, slots=True)
class LiveStrips:
    """Every site that reports itself, and how its reader is."""

    sites: list[LiveStrip]
    reader: ReaderView


@dataclass(frozen=True, slots=True, kw_only=True)
class LiveView:
    """A site's live page."""

    now: Now | None
    endpoints: list[Endpoint]
    alarms: list[AlarmView]
    settings: LiveSettings
    forecast: Forecast | None
    forecast_at: datetime | None
    reader: ReaderView


@dataclass(frozen=True, slots=True)
class LiveSeries:
    """A channel up to the newest moment, thinned for a picture."""

    channel: str
    series: Thinned


def _alarm(alarm: Alarm) -> AlarmView:
    names = Alarm.__dataclass_fields__
    return AlarmView(title=title_of(alarm.kind), **{name: getattr(alarm, name) for name in names})  # type: ignore[arg-type]


def _now(site: LiveSite) -> Now | None:
    if site.seen is None or site.device_at is None or site.heard_at is None:
        return None
    seen = {name: site.seen.get(name) for name in CHANNELS}
    return Now(device_at=site.device_at, heard_at=site.heard_at, **seen)


def _forecast(kept: dict[str, Any] | None) -> tuple[Forecast | None, datetime | None]:
    if kept is None:
        return None, None
    try:
        told = FORECAST.validate_python(kept["told"], strict=False)
    except ValidationError:
        # Kept by another version in another shape: the reader makes a new one within the hour.
        return None, None
    return told, datetime.fromtimestamp(kept["at_s"], UTC)


def _settings(site: LiveSite) -> LiveSettings:
    return LiveSettings(**{name: getattr(site, name) for name in LiveSettings.model_fields})


def live_api(archive: Archive, engine: Engine) -> Api:
    """The operations on sites that report themselves."""
    api, book, samples = Api(), LiveBook(engine), Samples(engine)

    def reader() -> ReaderView:
        state = book.reader()
        is_down = state.beat_at is None or datetime.now(UTC) - state.beat_at > DOWN_AFTER
        return ReaderView(is_down, state.beat_at, state.waiting)

    def strip(site: LiveSite, alarms: list[Alarm]) -> LiveStrip | None:
        head = book.design_head(site.site_id)
        if head is None:
            return None
        trend = [share for _, share in (site.seen or {}).get("trend", [])]
        return LiveStrip(
            site.site_id, head[0], _now(site), trend, [_alarm(item) for item in alarms]
        )

    def visible() -> list[LiveSite]:
        only = principal().readable_sites
        return [site for site, _ in book.watched() if only is None or site.site_id in only]

    @api.operation("GET", "/api/live", access="read", about="each site", answer=LiveStrips)
    def list_live() -> LiveStrips:
        """Every site that reports itself: what it said last, how its charge went, and its open
        alarms."""
        alarms = book.open_alarms()
        found = [strip(site, alarms.get(site.site_id, [])) for site in visible()]
        return LiveStrips([item for item in found if item is not None], reader())

    @api.operation("GET", "/api/designs/{design_id}/live", access="read", answer=LiveView)
    def read_live(design_id: UUID) -> LiveView:
        """What the design's site says now, its alarms, and its next ten days."""
        site_id = archive.site_of(design_id)
        site = book.site(site_id)
        forecast, at = _forecast(site.forecast)
        alarms = [_alarm(item) for item in book.alarms(site_id)]
        return LiveView(
            now=_now(site),
            endpoints=book.endpoints(site_id),
            alarms=alarms,
            settings=_settings(site),
            forecast=forecast,
            forecast_at=at,
            reader=reader(),
        )

    @api.operation(
        "GET",
        "/api/designs/{design_id}/live-series",
        access="read",
        query=("channel", "span"),
        answer=LiveSeries,
    )
    def read_live_series(design_id: UUID, channel: str, span: str) -> LiveSeries:
        """A channel of the last day, week, month, year or decade, by the site's own clock."""
        if channel not in CHANNELS:
            raise Problem(400, "bad-query", f"“channel” must be one of {', '.join(CHANNELS)}")
        if span not in SPANS:
            raise Problem(400, "bad-query", f"“span” must be one of {', '.join(SPANS)}")
        site_id = archive.site_of(design_id)
        last = book.site(site_id).device_at or samples.span(site_id).last
        if last is None:
            return LiveSeries(channel, Thinned([], [], [], []))
        stored = archive.design(design_id)
        # A design that cannot be read hides nothing of what its devices said.
        zone = zone_of(stored) if isinstance(stored.read, Design) else UTC
        return LiveSeries(
            channel, samples.thinned(site_id, channel, last - SPANS[span], last, MOST_POINTS, zone)
        )

    @api.operation(
        "POST", "/api/sites/{site_id}/endpoints", access="edit", body=NewEndpoint, answer=Endpoint
    )
    def add_endpoint(site_id: UUID, body: NewEndpoint) -> Endpoint:
        """A device to be asked from now on; it is only ever read."""
        try:
            address_of(body.host, body.port)
        except AddressError as error:
            raise model_fault("/host", str(error)) from None
        if body.protocol == "mqtt" and not body.topic:
            raise model_fault(
                "/topic",
                "is missing; type the topic the device publishes on, such as ridge/battery",
            )
        asked = (body.name, body.kind, body.protocol, body.host, body.port, body.unit, body.topic)
        return book.add_endpoint(site_id, *asked, actor=current_actor())

    @api.operation(
        "PUT", "/api/sites/{site_id}/live", access="edit", body=LiveSettings, answer=LiveSettings
    )
    def keep_live_settings(site_id: UUID, body: LiveSettings) -> LiveSettings:
        """How often a site is asked, and who is told of its alarms."""
        if body.webhook:
            try:
                web_address(body.webhook)
            except AddressError as error:
                raise model_fault("/webhook", str(error)) from None
        if (body.quiet_from_h is None) != (body.quiet_to_h is None):
            missing = "/quiet_from_h" if body.quiet_from_h is None else "/quiet_to_h"
            raise model_fault(missing, "is missing; give both ends of the quiet hours, or neither")
        return _settings(book.keep_settings(site_id, **body.model_dump()))

    @api.operation(
        "POST",
        "/api/alarms/{alarm_id}/acknowledge",
        access="edit",
        body=Acknowledgement,
        answer=AlarmView,
    )
    def acknowledge_alarm(alarm_id: UUID, body: Acknowledgement) -> AlarmView:
        """Somebody has seen an alarm; it stays open until it is over."""
        return _alarm(book.acknowledge(alarm_id, body.who.strip(), current_actor()))

    return api
