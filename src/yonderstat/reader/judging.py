"""What a round comes to: one moment of a site, what it raises and clears, and the next days."""

import logging
import time
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from yonderstat.core.live import AlarmEvent, Moment, Watching, next_moment, silence
from yonderstat.core.log import CHANNELS
from yonderstat.records import Archive, Asked, Endpoint, LiveBook, LiveSite, Taken

from .held import Held, Plans, is_due, soon_of
from .rounds import Round
from .telling import tellings_of
from .told import Told, merged

LOG = logging.getLogger(__name__)
Json = dict[str, Any]
MOST_ROUNDS = 2.0
NEAR_S = 900.0
"""A clock that is off by more is wrong."""
TREND_S, TREND_POINTS = 7200.0, 36
"""A point every two hours, over three days, by the site's clock."""


class Judging:
    """Makes of a round what is kept of it."""

    def __init__(self, archive: Archive, book: LiveBook) -> None:
        self._book, self._plans = book, Plans(archive, book)
        self._began_s = time.time()

    def taken(self, round_: Round) -> Taken | None:
        """What a round comes to; None where nobody watches the site any more."""
        site = self._book.site(round_.site_id)
        endpoints = {str(one.id): one for one in self._book.endpoints(round_.site_id)}
        held = self._plans.of(round_.site_id)
        if not endpoints or held is None:
            return None
        told = merged([Told(**row) for _, row in _monitors_first(round_.told, endpoints)])
        at_s, clock_off_s = _reckoned(told.device_s, site, round_.asked_s)
        watching, events = self._silence(self._remembered(site), site, endpoints, round_, at_s)
        values: dict[str, float | None] = {}
        forecast = None
        if round_.told:
            values = {name: getattr(told, name) for name in CHANNELS}
            forecast = self._forecast(site, held, at_s, told.charge_share)
            moment = _moment(at_s, held, clock_off_s, values, forecast or site.forecast)
            if held.expected is not None:
                watching, more = next_moment(watching, moment, held.expected)
                events += more
        asked_at = datetime.fromtimestamp(round_.asked_s, UTC)
        is_grave = any(event.severity == "stop" and event.what != "still" for event in events)
        return Taken(
            site_id=round_.site_id,
            asked_at=asked_at,
            asked=tuple(
                Asked(UUID(key), round_.trouble.get(key, ""))
                for key in (*round_.told, *round_.trouble)
            ),
            device_at=datetime.fromtimestamp(at_s, UTC) if round_.told else None,
            values=values,
            trend=_trend(site, at_s, values.get("charge_share")),
            watching=watching.as_json(),
            forecast=forecast,
            events=tuple(events),
            tellings=tellings_of(site, held.zone, asked_at, is_grave),
        )

    def _forecast(
        self, site: LiveSite, held: Held, at_s: float, share: float | None
    ) -> Json | None:
        """A new forecast, once an hour."""
        if share is None or not is_due(site.forecast, at_s):
            return None
        return self._plans.forecast(
            site.site_id, held, datetime.fromtimestamp(at_s, held.zone), share
        )

    def _remembered(self, site: LiveSite) -> Watching:
        """What is remembered of a site; of another program nothing but the alarms that are open."""
        try:
            return Watching.from_json(site.watching or {})
        except ValueError:
            LOG.warning(
                "what was remembered of site %s cannot be read; it begins anew", site.site_id
            )
            alarms = self._book.alarms(site.site_id)
            return Watching(
                open={alarm.kind: alarm.severity for alarm in alarms if alarm.cleared_at is None}
            )

    def _silence(
        self,
        was: Watching,
        site: LiveSite,
        endpoints: dict[str, Endpoint],
        round_: Round,
        at_s: float,
    ) -> tuple[Watching, list[AlarmEvent]]:
        """The device that has been silent longest speaks for the site."""
        longest, who = 0.0, ""
        for key, endpoint in endpoints.items():
            since_s = (endpoint.heard_at or endpoint.added_at).timestamp()
            # What nobody asked for while the reader was down was not silence.
            silent_s = 0.0 if key in round_.told else round_.asked_s - max(since_s, self._began_s)
            if silent_s > longest:
                longest, who = silent_s, endpoint.name
        return silence(was, longest, site.interval_s, at_s, who)


def _moment(
    at_s: float, held: Held, clock_off_s: float | None, values: Json, forecast: Json | None
) -> Moment:
    at = datetime.fromtimestamp(at_s, held.zone)
    hour = at.hour + at.minute / 60.0
    return Moment(
        at_s=at_s, month=at.month, hour=hour, clock_off_s=clock_off_s, **values, **soon_of(forecast)
    )


def _monitors_first(
    told: dict[str, Json], endpoints: dict[str, Endpoint]
) -> list[tuple[str, Json]]:
    """A monitor knows its bank better than a controller does."""
    rows = [(key, row) for key, row in told.items() if key in endpoints]
    return sorted(rows, key=lambda row: endpoints[row[0]].kind != "monitor")


def _reckoned(device_s: float | None, site: LiveSite, now_s: float) -> tuple[float, float | None]:
    """When a moment was by the site's clock, and how far its device's clock is off; None where it
    tells none.

    A clock that is off is not believed: its readings are kept by our own, run on at the site's
    speed.
    """
    last_s = site.device_at.timestamp() if site.device_at else None
    if site.speed == 1.0 or last_s is None or site.heard_at is None:
        ours = now_s
    else:
        # A stand-in stands still while it does not run: what is reckoned goes no further than a
        # round or two.
        run_s = min(max(0.0, now_s - site.heard_at.timestamp()), MOST_ROUNDS * site.interval_s)
        ours = min(now_s, last_s + site.speed * run_s)
    if device_s is None:
        return ours, None
    if site.speed == 1.0:
        off_s = device_s - now_s
    else:
        # A stand-in's clock may run as it likes, but not back, and not ahead of ours.
        off_s = (
            device_s - now_s
            if device_s > now_s + 1.0
            else min(0.0, device_s - last_s)
            if last_s
            else 0.0
        )
    return (device_s, off_s) if abs(off_s) <= NEAR_S else (ours, off_s)


def _trend(site: LiveSite, at_s: float, share: float | None) -> list[tuple[float, float]]:
    """The state of charge of the last days for a small picture, with the newest at its end."""
    known = [(float(moment), float(value)) for moment, value in (site.seen or {}).get("trend", [])]
    if share is None:
        return known
    if len(known) > 1 and known[-1][0] - known[-2][0] < TREND_S:
        known.pop()
    return [
        *(row for row in known if 0.0 < at_s - row[0] <= TREND_S * TREND_POINTS),
        (at_s, round(share, 4)),
    ]
