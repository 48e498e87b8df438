"""Tarn Valley Radio Society, which does not exist: its stations, built through the app's own
doors."""

from collections.abc import Sequence
from contextlib import suppress
from typing import Any

from flask import Flask
from flask.testing import FlaskClient

from yonderstat.progress import tell_progress

from .beech_hut import BEECH_HUT
from .ferry_road import FERRY_ROAD
from .harrier_log import harrier_record
from .harrier_ridge import HARRIER_AS_BUILT, HARRIER_HEATED_LITHIUM, HARRIER_STAYS_UP
from .packhorse import PACKHORSE, PACKHORSE_LITHIUM
from .patrol import PATROL_2
from .quay_street import QUAY_STREET
from .shelf import SHELF
from .standins import INTERVAL_S, SPEED, endpoints_of
from .words import Json


class DemoRefusedError(RuntimeError):
    """A door of the app refused what the demo brought."""


class PutAwayError(RuntimeError):
    """What the demo would go on with was put away by somebody."""


def _asked(client: FlaskClient, method: str, path: str, **words: Any) -> Any:
    response = client.open(path, method=method, base_url="http://127.0.0.1", **words)
    if response.status_code == 404:
        raise PutAwayError(path)
    if response.status_code >= 300:
        raise DemoRefusedError(
            f"{method} {path}: {response.status_code} {response.get_data(as_text=True)}"
        )
    return response.get_json()


def _create(client: FlaskClient, path: str, body: Any, key: str) -> Json:
    """Make something once: under its key it is not made again."""
    made: Json = _asked(
        client, "POST", path, json=body, headers={"Idempotency-Key": f"demo: {key}"}
    )
    return made


READINGS = {
    "The Packhorse": (
        ("2026-06-12T08:00:00+12:00", "12.41 rest 8h"),
        ("2026-06-13T18:30:00+12:00", "11.6 at 21 A"),
        ("2026-06-14T09:00:00+12:00", "HF radio dropped out on every long over last night"),
        ("2026-06-20T16:00:00+12:00", "test 71 Ah"),
        ("2026-06-21T09:00:00+12:00", "in 31 Ah out 22"),
    ),
    "Quay Street shack": (
        ("2026-07-02T07:30:00+12:00", "13.32 rest 6h"),
        ("2026-07-04T19:00:00+12:00", "test 97 Ah"),
    ),
}
"""What was read at a site, and when."""


RIDGE = "Harrier Ridge repeater"


DESIGNS = {
    RIDGE: (HARRIER_AS_BUILT, HARRIER_HEATED_LITHIUM, HARRIER_STAYS_UP),
    "Quay Street shack": (QUAY_STREET,),
    "The Packhorse": (PACKHORSE, PACKHORSE_LITHIUM),
    "Patrol 2": (PATROL_2,),
    "Beech Hut digipeater": (BEECH_HUT,),
    "Ferry Road shack": (FERRY_ROAD,),
}
"""The design as built of each site, and what is changed in copies of it, one after the other."""
UPKEEP = (("terminals", "2026-03-14"), ("glass", "2026-10-03"), ("capacity", "2025-10-20"))


def build_demo_sites(app: Flask, with_record: bool = True, standin_port: int | None = None) -> int:
    """Build the demo sites; how many there are. Two years of a monitor's record take a second more.

    With the port of stand-ins two of the sites report themselves. One that was cut short goes on
    from what is missing: each step finds what it made before, and a site that somebody put away
    stays away.

    Parameters
    ----------
    with_record : bool
        Whether two years of a monitor's record are made.
    standin_port : int or None
        Where the stand-ins of its devices listen; None without any.
    """
    client = app.test_client()
    reporting = {} if standin_port is None else endpoints_of(standin_port)
    for number, (name, documents) in enumerate(DESIGNS.items(), 1):
        tell_progress(f"Building the demo: site {number} of {len(DESIGNS)}, {name}")
        with suppress(PutAwayError):
            _build_site(client, name, documents, reporting.get(name, ()))
            if name == RIDGE:
                _keep_ridge(client, name, with_record)
    if _asked(client, "GET", "/api/shelf")["revision"] == 0:
        patch = [{"op": "add", "path": "/parts/-", "value": part} for part in SHELF]
        _asked(client, "PATCH", "/api/shelf", json=patch, headers={"If-Match": "0"})
    return len(DESIGNS)


def _build_site(
    client: FlaskClient, name: str, documents: tuple[Any, ...], endpoints: Sequence[Any]
) -> None:
    document, *changes = documents
    site = _create(client, "/api/sites", {"name": name, "document": document}, name)
    latest = first = site["designs"][0]["id"]
    for number, change in enumerate(changes, 2):
        copy = _create(
            client,
            f"/api/sites/{site['id']}/designs",
            {"copy_of": latest},
            f"{name}, design {number}",
        )
        latest = copy["id"]
        if copy["revision"] == 1:
            _asked(
                client, "PATCH", f"/api/designs/{latest}", json=change, headers={"If-Match": "1"}
            )
    if endpoints:
        live = f"/api/sites/{site['id']}"
        known = {
            one["name"] for one in _asked(client, "GET", f"/api/designs/{first}/live")["endpoints"]
        }
        for endpoint in endpoints:
            if endpoint["name"] not in known:
                _asked(client, "POST", f"{live}/endpoints", json=endpoint)
        _asked(client, "PUT", f"{live}/live", json={"interval_s": INTERVAL_S, "speed": SPEED})
    for taken_at, said in READINGS.get(name, ()):
        body = {"said": said, "who": "QY3KOW", "taken_at": taken_at}
        _create(client, f"/api/designs/{first}/log", body, taken_at)


def _keep_ridge(client: FlaskClient, name: str, with_record: bool) -> None:
    """Two years of the ridge's record, and the upkeep done there."""
    sites = _asked(client, "GET", "/api/sites")
    first = next(site["designs"][0]["id"] for site in sites if site["name"] == name)
    if with_record:
        octets = {"data": harrier_record().encode(), "content_type": "application/octet-stream"}
        _asked(client, "POST", f"/api/designs/{first}/record?name=monitor.csv", **octets)
    done = {item["task"] for item in _asked(client, "GET", f"/api/designs/{first}/upkeep")["done"]}
    for task, done_on in UPKEEP:
        if task not in done:
            body = {"task": task, "done_on": done_on, "who": "QY3RIM"}
            _asked(client, "POST", f"/api/designs/{first}/upkeep", json=body)
