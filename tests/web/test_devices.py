"""A site's own place, and what reports from it."""

from typing import Any

import pytest
from flask.testing import FlaskClient

from yonderstat.demo.quay_street import QUAY_STREET

METER = {"name": "Shunt", "kind": "meter", "channels": [{"quantity": "volts", "unit": "V"}]}
HILL = {"latitude_deg": -43.1, "longitude_deg": 171.6, "time_zone": "Pacific/Auckland"}


@pytest.fixture
def site_id(client: FlaskClient) -> str:
    return str(
        client.post("/api/sites", json={"name": "Hill", "document": QUAY_STREET}).get_json()["id"]
    )


def devices(client: FlaskClient, site_id: str) -> Any:
    return client.get(f"/api/sites/{site_id}/devices").get_json()


def test_a_device_is_added_listed_and_taken_away(client: FlaskClient, site_id: str) -> None:
    amps = {"quantity": "amps", "unit": "A"}
    made = client.post(
        f"/api/sites/{site_id}/devices", json={**METER, "channels": [*METER["channels"], amps]}
    )
    assert made.status_code == 200
    found = devices(client, site_id)
    assert [item["quantity"] for item in found[0]["channels"]] == ["amps", "volts"]
    path = f"/api/devices/{found[0]['id']}"
    assert client.delete(path, headers={"Content-Type": "application/json"}).status_code == 204
    assert devices(client, site_id) == []
    assert client.delete(path, headers={"Content-Type": "application/json"}).status_code == 404


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"kind": "toaster"}, "/kind"),
        ({"channels": []}, "/channels"),
        ({"channels": METER["channels"] * 2}, "/channels"),
        ({"name": " "}, "/name"),
    ],
)
def test_a_bad_device_is_refused_and_nothing_kept(
    client: FlaskClient, site_id: str, change: dict[str, Any], pointer: str
) -> None:
    answer = client.post(f"/api/sites/{site_id}/devices", json={**METER, **change})
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"].startswith(pointer)
    assert devices(client, site_id) == []


def test_a_site_has_a_place_and_a_zone_of_its_own_once_it_is_given_them(
    client: FlaskClient, site_id: str
) -> None:
    path = f"/api/sites/{site_id}"
    assert client.get(path).get_json()["place"] is None
    told = client.patch(path, json={"place": HILL}).get_json()
    assert (told["name"], told["place"]["time_zone"]) == ("Hill", "Pacific/Auckland")
    assert client.patch(path, json={"name": "Ridge"}).get_json()["place"]["latitude_deg"] == -43.1
    assert client.patch(path, json={"place": None}).get_json()["place"] is None
    bad = client.patch(path, json={"place": {**HILL, "time_zone": "Mars/Olympus"}})
    assert bad.status_code == 422
    assert client.patch(path, json={"name": None}).status_code == 422


def test_devices_of_no_site_are_not_there(client: FlaskClient) -> None:
    nowhere = "/api/sites/00000000-0000-0000-0000-000000000000/devices"
    assert client.get(nowhere).status_code == 404
    assert client.post(nowhere, json=METER).status_code == 404
