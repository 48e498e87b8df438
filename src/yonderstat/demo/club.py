"""Tarn Valley Radio Society, which does not exist: its stations, built through the app's own doors."""

from typing import Any

from flask import Flask
from flask.testing import FlaskClient

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


def _send(client: FlaskClient, method: str, path: str, body: Any, headers: dict[str, str] | None = None) -> Json:
    response = client.open(path, method=method, json=body, headers=headers, base_url="http://127.0.0.1")
    if response.status_code >= 300:
        raise DemoRefusedError(f"{method} {path}: {response.status_code} {response.get_data(as_text=True)}")
    answer: Json = response.get_json()
    return answer


READINGS = {
    "The Packhorse": (
        ("2026-06-12T08:00:00+12:00", "12.41 rest 8h"),
        ("2026-06-13T18:30:00+12:00", "11.6 at 21 A"),
        ("2026-06-14T09:00:00+12:00", "HF set dropped out on every long over last night"),
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


def build_demo_sites(app: Flask, with_record: bool = True, standin_port: int | None = None) -> int:
    """Build the demo sites; how many were built. Two years of a monitor's record take a second more.

    With the port of stand-ins two of the sites report themselves.
    """
    client = app.test_client()
    first: dict[str, str] = {}
    reporting = {} if standin_port is None else endpoints_of(standin_port)
    built = {
        RIDGE: (HARRIER_AS_BUILT, HARRIER_HEATED_LITHIUM, HARRIER_STAYS_UP),
        "Quay Street shack": (QUAY_STREET,),
        "The Packhorse": (PACKHORSE, PACKHORSE_LITHIUM),
        "Patrol 2": (PATROL_2,),
        "Beech Hut digipeater": (BEECH_HUT,),
        "Ferry Road shack": (FERRY_ROAD,),
    }
    for name, (document, *changes) in built.items():
        site = _send(client, "POST", "/api/sites", {"name": name, "document": document})
        latest = first[name] = site["designs"][0]["id"]
        for change in changes:
            # Each is a copy of the one before it, changed.
            copy = _send(client, "POST", f"/api/sites/{site['id']}/designs", {"copy_of": latest})
            latest = copy["id"]
            _send(client, "PATCH", f"/api/designs/{latest}", change, {"If-Match": str(copy["revision"])})
        for endpoint in reporting.get(name, ()):
            _send(client, "POST", f"/api/sites/{site['id']}/endpoints", endpoint)
        if name in reporting:
            watched = {"interval_s": INTERVAL_S, "speed": SPEED}
            _send(client, "PUT", f"/api/sites/{site['id']}/live", watched)
        for taken_at, said in READINGS.get(name, ()):
            body = {"said": said, "who": "QY3KOW", "taken_at": taken_at}
            _send(client, "POST", f"/api/designs/{site['designs'][0]['id']}/log", body)
    patch = [{"op": "add", "path": "/parts/-", "value": part} for part in SHELF]
    _send(client, "PATCH", "/api/shelf", patch, {"If-Match": "0"})
    if with_record:
        _bring(client, f"/api/designs/{first[RIDGE]}/record?name=monitor.csv", harrier_record())
    for task, done_on in (("terminals", "2026-03-14"), ("glass", "2026-10-03"), ("capacity", "2025-10-20")):
        body = {"task": task, "done_on": done_on, "who": "QY3RIM"}
        _send(client, "POST", f"/api/designs/{first[RIDGE]}/upkeep", body)
    return len(built)


def _bring(client: FlaskClient, path: str, text: str) -> None:
    octets = "application/octet-stream"
    response = client.post(path, data=text.encode(), content_type=octets, base_url="http://127.0.0.1")
    if response.status_code >= 300:
        raise DemoRefusedError(f"{path}: {response.status_code} {response.get_data(as_text=True)}")
