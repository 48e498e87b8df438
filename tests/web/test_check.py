"""Check a reading by the API: what is understood, what is refused, and that nothing is kept."""

from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.web.sites import new_design
from yonderstat.demo.quay_street import QUAY_STREET

Json = dict[str, Any]
EVENING = {"month": 6, "hour": 20, "sky": "night", "charge": "half", "keyed": ""}


@pytest.fixture
def address(client: FlaskClient) -> str:
    return f"/api/designs/{new_design(client, QUAY_STREET)}/check"


def asked(client: FlaskClient, address: str, *readings: Json, **more: Any) -> Any:
    return client.post(address, json={"readings": list(readings), "moment": EVENING, **more})


def test_a_station_says_where_it_can_be_measured(client: FlaskClient, address: str) -> None:
    start = client.get(address).get_json()
    ids = {item["id"] for item in start["points"]}
    assert {"battery", "volts:main", "volts:load-hf-set", "open:shed-roof"} <= ids
    assert all(item["caution"] and item["minutes"] > 0 for item in start["points"])
    assert start["runs"][0]["end"] == "HF radio, 100 W"
    assert start["moment"]["month"] in range(1, 13)


def test_readings_lead_to_a_cause_and_the_next_measurement(
    client: FlaskClient, address: str
) -> None:
    keyed = {**EVENING, "keyed": "hf-set"}
    found = client.post(
        address,
        json={
            "readings": [
                {"text": "12.42 at the fuse block, transmitting"},
                {"point": "volts:load-hf-set", "value": 10.35, "moment": keyed},
            ],
            "moment": keyed,
            "symptom": "shuts_off",
            "of": "hf-set",
        },
    ).get_json()
    assert [item["fits"] for item in found["readings"]] == ["fits", "low"]
    told = found["diagnosis"]
    assert {cause["kind"] for cause in told["causes"][:2]} == {"joint", "holder"}
    assert told["next"]["point"]["id"] == "across:load-hf-set"
    foreseen = {one["cause"]: one for one in told["next"]["foreseen"]}
    assert foreseen["holder:load-hf-set"]["low"] > foreseen["joint:load-hf-set"]["high"]


def test_nothing_is_kept(client: FlaskClient, address: str) -> None:
    asked(client, address, {"text": "12.9 battery"})
    log = client.get(address.replace("/check", "/log")).get_json()
    assert log["total"] == 0


@pytest.mark.parametrize(
    ("reading", "pointer", "said"),
    [
        ({"text": "nothing to see"}, "/readings/0/text", "say something like"),
        ({"text": "5 A open"}, "/readings/0/text", "amps"),
        ({"point": "volts:nowhere", "value": 1.0}, "/readings/0/point", "no place"),
        ({"point": "battery"}, "/readings/0/value", "is missing"),
        ({"point": "battery", "value": 1e9}, "/readings/0/value", "10000"),
        (
            {"text": "12 V battery", "moment": {**EVENING, "keyed": "x"}},
            "/readings/0/moment/keyed",
            "no load",
        ),
        (
            {"text": "12 V battery", "moment": {**EVENING, "hour": 31}},
            "/readings/0/moment/hour",
            "23",
        ),
        ({"text": "x" * 300}, "/readings/0/text", "200"),
    ],
)
def test_what_cannot_be_read_says_where_and_why(
    client: FlaskClient, address: str, reading: Json, pointer: str, said: str
) -> None:
    answer = asked(client, address, reading)
    assert answer.status_code == 422
    (fault,) = answer.get_json()["faults"]
    assert fault["pointer"] == pointer
    assert said in fault["message"]


def test_a_symptom_nobody_knows_is_refused(client: FlaskClient, address: str) -> None:
    answer = asked(client, address, symptom="haunted")
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] == "/symptom"


def test_without_a_battery_there_is_nothing_to_measure_at(client: FlaskClient) -> None:
    bare = {**QUAY_STREET, "store": {**QUAY_STREET["store"], "bank": None}}
    address = f"/api/designs/{new_design(client, bare)}/check"
    for answer in (client.get(address), asked(client, address)):
        assert answer.status_code == 409
        assert "no battery" in answer.get_json()["title"]


def test_at_most_so_many_readings_at_once(client: FlaskClient, address: str) -> None:
    many = [{"text": "12.9 battery"}] * 25
    assert asked(client, address, *many).status_code == 422
    assert asked(client, address, *many[:24]).status_code == 200
