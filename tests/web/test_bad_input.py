"""Bad input: a 4xx problem document that points at the fault; nothing stored, no 500."""

import json
from typing import Any

import pytest
from flask.testing import FlaskClient

Json = dict[str, Any]


@pytest.fixture
def design(client: FlaskClient) -> Json:
    site = client.post("/api/sites", json={"name": "Test"}).get_json()
    answer: Json = client.get(f"/api/designs/{site['designs'][0]['id']}").get_json()
    return answer


def send(client: FlaskClient, design: Json, body: bytes | str, **headers: str) -> Any:
    words = {"If-Match": "1", "Content-Type": "application/json"} | {
        name.replace("_", "-"): text for name, text in headers.items()
    }
    return client.patch(f"/api/designs/{design['id']}", data=body, headers=words)


def replace(path: str, value: Any, op: str = "replace") -> str:
    return json.dumps([{"op": op, "path": path, "value": value}])


LOAD = {"id": "x", "name": "x", "receive_a": {"value": 1}}


@pytest.mark.parametrize(
    ("body", "status", "pointer"),
    [
        (replace("/draw/loads/0/receive_a/value", -5), 422, "/draw/loads/0/receive_a/value"),
        (replace("/draw/loads/0/receive_a/value", 1e12), 422, "/draw/loads/0/receive_a/value"),
        (
            replace("/draw/loads/0/receive_a/value", "12 parsecs"),
            422,
            "/draw/loads/0/receive_a/value",
        ),
        (replace("/draw/loads/0/name", "a\u0000b"), 422, "/draw/loads/0/name"),
        (replace("/draw/loads/0/name", "\ud800"), 422, "/0/value"),
        (replace("/place", {"latitude_deg": 95, "longitude_deg": 0}), 422, "/place/latitude_deg"),
        (replace("/colour", "blue", "add"), 422, "/colour"),
        (replace("/draw/loads/99/name", "x"), 422, "/draw/loads/99/name"),
        (replace("/draw/loads/-1/name", "x"), 422, "/draw/loads/-1/name"),
        (replace("draw", "x"), 422, "draw"),
        (replace("", []), 422, ""),
        (replace("", None), 422, ""),
        (
            replace("/draw/loads", [LOAD | {"id": f"l{n}"} for n in range(10_000)]),
            422,
            "/draw/loads",
        ),
        (json.dumps([{"op": "spin", "path": "/name"}]), 422, "/0/op"),
        (json.dumps([{"op": "move", "path": "/name"}]), 422, "/name"),
        (json.dumps([{"op": "replace", "path": "/name"}]), 422, "/name"),
        ("[]", 422, ""),
        ("{}", 422, ""),
        ("null", 422, ""),
        ('[{"op":"replace","path":"/sun","value":NaN}]', 400, None),
        ('[{"op":"replace","op":"add","path":"/sun","value":1}]', 400, None),
        ("[" * 50_000, 400, None),
        (b"\xff\xfe", 400, None),
        ("", 400, None),
    ],
)
def test_refused_with_a_pointer_and_nothing_stored(
    client: FlaskClient, design: Json, body: bytes | str, status: int, pointer: str | None
) -> None:
    answer = send(client, design, body)
    assert answer.status_code == status, answer.get_data(as_text=True)[:500]
    assert answer.mimetype == "application/problem+json"
    if pointer is not None:
        assert pointer in [fault["pointer"] for fault in answer.get_json()["faults"]]
    after = client.get(f"/api/designs/{design['id']}").get_json()
    assert after["document"] == design["document"]
    assert after["revision"] == 1


def test_a_failed_test_operation_is_a_conflict(client: FlaskClient, design: Json) -> None:
    assert send(client, design, replace("/name", "not this", "test")).status_code == 409


@pytest.mark.parametrize(
    ("revision", "status"), [("", 400), ("abc", 400), ("-1", 400), ("9" * 30, 400), ("7", 412)]
)
def test_the_revision_must_be_the_newest(
    client: FlaskClient, design: Json, revision: str, status: int
) -> None:
    assert send(client, design, replace("/name", "x"), If_Match=revision).status_code == status


def test_the_revision_must_be_said(client: FlaskClient, design: Json) -> None:
    assert client.patch(f"/api/designs/{design['id']}", json=[]).status_code in {422, 428}
    path = f"/api/designs/{design['id']}/undo"
    assert client.post(path, json={}).status_code == 428


@pytest.mark.parametrize(
    "body",
    [
        {"name": ""},
        {"name": "x" * 121},
        {"name": 7},
        {"name": "x", "kind": "castle"},
        {"name": "x", "place": {"latitude_deg": 95, "longitude_deg": 0}},
        {"name": "x", "document": {}},
        {"name": "x", "colour": "blue"},
        [],
    ],
)
def test_a_bad_site_is_not_made(client: FlaskClient, body: Any) -> None:
    answer = client.post("/api/sites", json=body)
    assert answer.status_code == 422
    assert answer.get_json()["faults"]
    assert client.get("/api/sites").get_json() == []


def test_twenty_megabytes_are_refused(client: FlaskClient, design: Json) -> None:
    answer = send(client, design, b"[" + b" " * 20_000_000 + b"]")
    assert answer.status_code == 413
    assert answer.mimetype == "application/problem+json"


@pytest.mark.parametrize("query", ["", "?text=a&text=b", "?text="])
def test_a_place_needs_one_text(client: FlaskClient, query: str) -> None:
    assert client.get(f"/api/place{query}").status_code in {400, 422}


def test_a_bad_create_key(client: FlaskClient) -> None:
    assert (
        client.post(
            "/api/sites", json={"name": "x"}, headers={"Idempotency-Key": "k" * 300}
        ).status_code
        == 400
    )


def test_an_unforeseen_error_tells_nothing(
    client: FlaskClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("yonderstat.web.catalogue.read_place", lambda text: 1 / 0)
    answer = client.get("/api/place?text=RE56")
    assert answer.status_code == 500
    assert "division" not in answer.get_data(as_text=True)
