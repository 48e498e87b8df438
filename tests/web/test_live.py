"""Sites that report themselves, over the API: what they say, their alarms, who is told, and what is
refused."""

import threading
import time
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import pytest
from flask.testing import FlaskClient

from tests.web.sites import new_design
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.reader import Judging, Round
from yonderstat.records import Archive, LiveBook, open_engine
from yonderstat.web import live_events

MONITOR = {
    "name": "Monitor",
    "kind": "monitor",
    "protocol": "telemetry",
    "host": "127.0.0.1",
    "port": 9000,
}
FINE = {"volts": 12.8, "charge_a": 3.0, "load_a": 1.4, "charge_share": 0.9, "box_c": 4.0}


@pytest.fixture
def archive(client: FlaskClient) -> Iterator[Archive]:
    """The records the client's app keeps."""
    engine = open_engine(client.application.config["DATABASE_URL"])
    yield Archive(engine)
    engine.dispose()


@pytest.fixture
def ridge(client: FlaskClient) -> tuple[str, str]:
    """A design, and its site."""
    key = new_design(client, HARRIER_AS_BUILT)
    return key, client.get(f"/api/designs/{key}").get_json()["site_id"]


def hear(archive: Archive, site: str, hours_ago: float, **bent: Any) -> None:
    """What the reader would keep of a round."""
    book = LiveBook(archive._engine)
    (device,) = book.endpoints(UUID(site))
    at_s = (datetime.now(UTC) - timedelta(hours=hours_ago)).timestamp()
    judging = Judging(archive, book)
    judging._began_s = 0.0
    taken = judging.taken(
        Round(UUID(site), at_s, {str(device.id): {**FINE, "device_s": at_s, **bent}}, {})
    )
    assert taken is not None
    book.take(taken)


def test_a_device_is_added_heard_and_shown(
    client: FlaskClient, archive: Archive, ridge: tuple[str, str]
) -> None:
    key, site = ridge
    empty = client.get(f"/api/designs/{key}/live").get_json()
    assert (empty["now"], empty["endpoints"], empty["alarms"], empty["forecast"]) == (
        None,
        [],
        [],
        None,
    )
    assert empty["reader"]["is_down"]
    added = client.post(f"/api/sites/{site}/endpoints", json=MONITOR).get_json()
    assert (added["host"], added["port"], added["unit"]) == ("127.0.0.1", 9000, 1)
    for hours_ago in (3.0, 2.0, 1.0):
        hear(archive, site, hours_ago)
    LiveBook(archive._engine).beat("reader", 0)
    live = client.get(f"/api/designs/{key}/live").get_json()
    assert live["now"]["volts"] == 12.8
    assert not live["reader"]["is_down"]
    forecast = live["forecast"]
    assert len(forecast["charge"]["middle"]) == forecast["hours"] == 240
    assert all(
        row["dark_share"] in forecast["working"] for row in (*forecast["tempos"], *forecast["shed"])
    )
    (strip,) = client.get("/api/live").get_json()["sites"]
    assert strip["site_id"] == site
    assert strip["trend"] == [0.9, 0.9]
    series = client.get(f"/api/designs/{key}/live-series?channel=volts&span=day").get_json()[
        "series"
    ]
    assert len(series["at"]) == 3
    client.delete(f"/api/devices/{added['id']}", headers={"Content-Type": "application/json"})
    assert client.get("/api/live").get_json()["sites"] == []


def test_an_alarm_is_shown_seen_and_over(
    client: FlaskClient, archive: Archive, ridge: tuple[str, str]
) -> None:
    key, site = ridge
    client.post(f"/api/sites/{site}/endpoints", json=MONITOR)
    hear(archive, site, 5.0, volts=16.6)
    (alarm,) = client.get(f"/api/designs/{key}/live").get_json()["alarms"]
    assert (alarm["kind"], alarm["severity"], alarm["acknowledged_at"]) == (
        "regulation",
        "stop",
        None,
    )
    assert alarm["title"] == "Charging voltage too high"
    seen = client.post(
        f"/api/alarms/{alarm['id']}/acknowledge", json={"who": " QY3RIM "}
    ).get_json()
    assert seen["acknowledged_by"] == "QY3RIM"
    hear(archive, site, 3.0, volts=13.0)
    hear(archive, site, 1.0, volts=13.1)
    (over,) = client.get(f"/api/designs/{key}/live").get_json()["alarms"]
    assert over["cleared_at"] is not None
    assert client.get("/api/live").get_json()["sites"][0]["alarms"] == []


def test_who_is_told_is_kept(client: FlaskClient, ridge: tuple[str, str]) -> None:
    key, site = ridge
    settings = {
        "interval_s": 30.0,
        "speed": 1.0,
        "quiet_from_h": 22,
        "quiet_to_h": 7,
        "webhook": "http://127.0.0.1:8080/a",
        "mail_to": "keeper@club.example",
    }
    assert client.put(f"/api/sites/{site}/live", json=settings).get_json() == settings
    assert client.get(f"/api/designs/{key}/live").get_json()["settings"] == settings


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"host": "11.22.33.44"}, "/host"),
        ({"host": "169.254.169.254"}, "/host"),
        ({"host": "no such host"}, "/host"),
        ({"port": 0}, "/port"),
        ({"port": 70_000}, "/port"),
        ({"protocol": "telnet"}, "/protocol"),
        ({"unit": 300}, "/unit"),
        ({"protocol": "mqtt"}, "/topic"),
        ({"protocol": "mqtt", "topic": "ridge/#"}, "/topic"),
        ({"name": ""}, "/name"),
    ],
)
def test_a_device_that_may_not_be_asked_is_refused_beside_its_field(
    client: FlaskClient, ridge: tuple[str, str], change: dict[str, Any], pointer: str
) -> None:
    answer = client.post(f"/api/sites/{ridge[1]}/endpoints", json=MONITOR | change)
    assert answer.status_code == 422
    assert [fault["pointer"] for fault in answer.get_json()["faults"]] == [pointer]
    assert client.get(f"/api/designs/{ridge[0]}/live").get_json()["endpoints"] == []


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"webhook": "http://11.22.33.44/"}, "/webhook"),
        ({"webhook": "file:///etc/passwd"}, "/webhook"),
        ({"mail_to": "nobody"}, "/mail_to"),
        ({"mail_to": "a@b.example\nBcc: c@d.example"}, "/mail_to"),
        ({"quiet_from_h": 22}, "/quiet_to_h"),
        ({"quiet_from_h": 24, "quiet_to_h": 7}, "/quiet_from_h"),
        ({"interval_s": 0.0}, "/interval_s"),
        ({"interval_s": "often"}, "/interval_s"),
    ],
)
def test_settings_that_cannot_be_are_refused_beside_their_field(
    client: FlaskClient, ridge: tuple[str, str], change: dict[str, Any], pointer: str
) -> None:
    answer = client.put(f"/api/sites/{ridge[1]}/live", json=change)
    assert answer.status_code == 422
    assert [fault["pointer"] for fault in answer.get_json()["faults"]] == [pointer]


@pytest.mark.parametrize(
    "query", ["channel=amps&span=day", "channel=volts&span=century", "channel=volts"]
)
def test_a_series_that_is_none_is_refused(
    client: FlaskClient, ridge: tuple[str, str], query: str
) -> None:
    assert client.get(f"/api/designs/{ridge[0]}/live-series?{query}").status_code == 400


def test_unknown_sites_and_alarms_are_not_found(client: FlaskClient) -> None:
    nobody = UUID(int=7)
    assert client.post(f"/api/sites/{nobody}/endpoints", json=MONITOR).status_code == 404
    assert client.put(f"/api/sites/{nobody}/live", json={}).status_code == 404
    assert client.post(f"/api/alarms/{nobody}/acknowledge", json={}).status_code == 404
    assert client.get(f"/api/designs/{nobody}/live").status_code == 404


def test_what_changes_is_told_to_who_waits(
    client: FlaskClient, ridge: tuple[str, str], monkeypatch: pytest.MonkeyPatch
) -> None:
    _, site = ridge
    monkeypatch.setattr(live_events, "WAIT_S", 0.2)
    # The first to ask begins the listening.
    first = client.get("/api/live/events")
    assert first.mimetype == "text/event-stream"
    last = next(line for line in first.text.splitlines() if line.startswith("id: "))[4:]

    def change() -> None:
        time.sleep(0.5)
        client.application.test_client().post(f"/api/sites/{site}/endpoints", json=MONITOR)

    monkeypatch.setattr(live_events, "WAIT_S", 60.0)
    threading.Thread(target=change).start()
    began = time.monotonic()
    heard = client.get("/api/live/events", headers={"Last-Event-ID": last})
    assert f"data: {site}" in heard.text
    assert time.monotonic() - began < 50.0
    monkeypatch.setattr(live_events, "WAIT_S", 0.2)
    assert (
        "data: "
        not in client.get("/api/live/events", headers={"Last-Event-ID": str(10**15 - 1)}).text
    )
