"""Tarn Valley Radio Society, which does not exist: its stations, built through the app's own doors."""

from typing import Any

from flask import Flask
from flask.testing import FlaskClient

from .beech_hut import BEECH_HUT
from .harrier_ridge import HARRIER_AS_BUILT, HARRIER_HEATED_LITHIUM
from .packhorse import PACKHORSE
from .patrol import PATROL_2
from .quay_street import QUAY_STREET
from .words import Json


class DemoRefusedError(RuntimeError):
    """A door of the app refused what the demo brought."""


def _send(client: FlaskClient, method: str, path: str, body: Any, headers: dict[str, str] | None = None) -> Json:
    response = client.open(path, method=method, json=body, headers=headers, base_url="http://127.0.0.1")
    if response.status_code >= 300:
        raise DemoRefusedError(f"{method} {path}: {response.status_code} {response.get_data(as_text=True)}")
    answer: Json = response.get_json()
    return answer


def build_demo_sites(app: Flask) -> int:
    """Build the demo sites; how many were built."""
    client = app.test_client()
    ridge = _send(client, "POST", "/api/sites", {"name": "Harrier Ridge repeater", "document": HARRIER_AS_BUILT})
    copy = {"copy_of": ridge["designs"][0]["id"]}
    second = _send(client, "POST", f"/api/sites/{ridge['id']}/designs", copy)
    at = {"If-Match": str(second["revision"])}
    _send(client, "PATCH", f"/api/designs/{second['id']}", HARRIER_HEATED_LITHIUM, at)
    others = {
        "Quay Street shack": QUAY_STREET,
        "The Packhorse": PACKHORSE,
        "Patrol 2": PATROL_2,
        "Beech Hut digipeater": BEECH_HUT,
    }
    for name, document in others.items():
        _send(client, "POST", "/api/sites", {"name": name, "document": document})
    return 1 + len(others)
