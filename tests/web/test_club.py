"""The whole club as one file: into an empty database the same, into a full one nothing twice,
damaged refused."""

import io
import json
import zipfile
from typing import Any
from xml.etree import ElementTree

import pytest
from flask.testing import FlaskClient

from tests.conftest import create_database
from tests.web.sites import new_design
from tests.web.test_shelf import BATTERY, put_on
from yonderstat.demo import build_demo_sites
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.web import create_app

KINDS = ("sites_added", "designs_added", "designs_beside", "readings_added", "shelf_parts_added")


def bring(client: FlaskClient, data: bytes) -> Any:
    return client.post(
        "/api/club?name=club.zip", data=data, content_type="application/octet-stream"
    )


def members(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        return {name: packed.read(name) for name in packed.namelist() if name != "manifest.json"}


def packed(files: dict[str, bytes]) -> bytes:
    sink = io.BytesIO()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as out:
        for name, data in files.items():
            out.writestr(name, data)
    return sink.getvalue()


@pytest.fixture
def other(cluster: Any, template: str, request: pytest.FixtureRequest) -> FlaskClient:
    """A client of a second, empty installation."""
    return create_app(
        create_database(cluster, f"club-{abs(hash(request.node.name))}", template)
    ).test_client()


def call(client: FlaskClient, method: str, path: str, **words: Any) -> Any:
    return client.open(path, method=method, base_url="http://127.0.0.1", **words)


def test_the_demo_goes_into_an_empty_database_the_same(
    client: FlaskClient, other: FlaskClient
) -> None:
    build_demo_sites(client.application)
    data = client.get("/api/club.zip").data
    done = call(
        other, "POST", "/api/club", data=data, content_type="application/octet-stream"
    ).get_json()
    assert done["sites_added"] == 6
    again = call(other, "GET", "/api/club.zip").data
    assert members(again) == members(data)
    second = call(
        other, "POST", "/api/club", data=data, content_type="application/octet-stream"
    ).get_json()
    assert [second[kind] for kind in KINDS] == [0, 0, 0, 0, 0]
    assert second["words"] == "All of it was here already."
    assert members(call(other, "GET", "/api/club.zip").data) == members(data)


def test_undo_still_works_after_the_move(client: FlaskClient, other: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    patch = [{"op": "replace", "path": "/name", "value": "Renamed"}]
    client.patch(f"/api/designs/{key}", json=patch, headers={"If-Match": "1"})
    data = client.get("/api/club.zip").data
    call(other, "POST", "/api/club", data=data, content_type="application/octet-stream")
    undone = call(
        other, "POST", f"/api/designs/{key}/undo", json={}, headers={"If-Match": "2"}
    ).get_json()
    assert undone["document"]["name"] == QUAY_STREET["name"]


def test_a_design_that_went_on_takes_what_it_lacks_and_one_that_parted_stands_beside(
    client: FlaskClient,
) -> None:
    key = new_design(client, QUAY_STREET)
    early = client.get("/api/club.zip").data
    rename = [{"op": "replace", "path": "/name", "value": "Here"}]
    client.patch(f"/api/designs/{key}", json=rename, headers={"If-Match": "1"})
    # Ours went on: the early archive has nothing new.
    assert bring(client, early).get_json()["revisions_added"] == 0
    files = members(early)
    site = next(name for name in files if name.startswith("sites/"))
    parted = json.loads(files[site])
    first = parted["designs"][0]["revisions"][0]
    theirs = {
        **first,
        "number": 2,
        "action": "edit",
        "parent": 1,
        "created_at": "2026-11-26T01:02:03Z",
    }
    theirs["document"] = {**first["document"], "name": "There"}
    parted["designs"][0]["revisions"].append(theirs)
    data = packed(files | {site: json.dumps(parted).encode(), "manifest.json": manifest(1)})
    assert bring(client, data).get_json()["designs_beside"] == 1
    assert bring(client, data).get_json()["designs_beside"] == 0
    names = [tab["name"] for tab in client.get("/api/sites").get_json()[0]["designs"]]
    assert names == ["Here", "There (from the archive)"]
    assert client.get(f"/api/designs/{key}").get_json()["document"]["name"] == "Here"


def manifest(sites: int, version: int = 1) -> bytes:
    return json.dumps({"format": "yonderstat-club", "version": version, "sites": sites}).encode()


def test_parts_put_on_two_shelves_come_together(client: FlaskClient, other: FlaskClient) -> None:
    put_on(client, BATTERY)
    data = client.get("/api/club.zip").data
    wire = {"id": "twin", "name": "Twin", "kind": "cable", "count": 30.0, "mm2": 4.0}
    patch = [{"op": "add", "path": "/parts/-", "value": wire}]
    call(other, "PATCH", "/api/shelf", json=patch, headers={"If-Match": "0"})
    done = call(
        other, "POST", "/api/club", data=data, content_type="application/octet-stream"
    ).get_json()
    assert done["shelf_parts_added"] == 1
    parts = call(other, "GET", "/api/shelf").get_json()["document"]["parts"]
    assert [part["id"] for part in parts] == ["twin", "lithium"]


def test_a_reading_that_looks_like_a_formula_comes_back_as_it_was_said(
    client: FlaskClient, other: FlaskClient
) -> None:
    key = new_design(client, QUAY_STREET)
    client.post(f"/api/designs/{key}/log", json={"said": "=cmd, it said", "who": "QY"})
    data = client.get("/api/club.zip").data
    log = next(text for name, text in members(data).items() if name.startswith("readings/"))
    assert b"'=cmd" in log
    call(other, "POST", "/api/club", data=data, content_type="application/octet-stream")
    assert (
        call(other, "GET", f"/api/designs/{key}/log").get_json()["readings"][0]["said"]
        == "=cmd, it said"
    )


def test_a_damaged_or_foreign_file_is_refused_and_nothing_comes_in(
    client: FlaskClient, other: FlaskClient
) -> None:
    new_design(client, QUAY_STREET)
    whole = client.get("/api/club.zip").data
    files = members(whole)
    site = next(name for name in files if name.startswith("sites/"))
    document = json.loads(files[site])
    unread = json.loads(files[site])
    unread["designs"][0]["revisions"][0]["document"]["version"] = 99
    gap = json.loads(files[site])
    gap["designs"][0]["revisions"][0]["number"] = 3
    readings = f"readings/{document['id']}.csv"
    bomb = b'{"format": "yonderstat-club"}' + b" " * 50_000_000
    cases = {
        "isn't a complete zip file": whole[: len(whole) // 2],
        "manifest.json or shelf.json is missing": packed(files),
        "is version 9": packed(files | {"manifest.json": manifest(1, 9)}),
        "which doesn't belong in a backup": packed(
            files | {"manifest.json": manifest(1), "../evil": b"x"}
        ),
        "should hold 3 sites but holds": packed(files | {"manifest.json": manifest(3)}),
        "MB from a tiny file": packed(files | {"manifest.json": bomb}),
        "versions are missing or out of order": packed(
            files | {"manifest.json": manifest(1), site: json.dumps(gap).encode()}
        ),
        "must be one of": packed(
            files | {"manifest.json": manifest(1), site: json.dumps(unread).encode()}
        ),
        "line 1 must read": packed(files | {"manifest.json": manifest(1), readings: b"a,b\n"}),
        "line 2 has a value that isn't a number": packed(
            files
            | {
                "manifest.json": manifest(1),
                f"series/{document['id']}.csv": b"1.0,12.5,,,,\n2.0,abc,,,,\n",
            }
        ),
        "line 1 must have a time": packed(
            files | {"manifest.json": manifest(1), f"series/{document['id']}.csv": b"1.0,12.5\n"}
        ),
        "isn't valid JSON": packed(files | {"manifest.json": b"{"}),
    }
    for said, data in cases.items():
        answer = call(
            other, "POST", "/api/club", data=data, content_type="application/octet-stream"
        )
        assert answer.status_code == 422, said
        assert said in str(answer.get_json()), answer.get_json()
    assert call(other, "GET", "/api/sites").get_json() == []


def test_places_go_to_maps(client: FlaskClient) -> None:
    new_design(client, QUAY_STREET)
    feature = client.get("/api/sites.geojson").get_json(force=True)["features"][0]
    assert feature["geometry"]["type"] == "Point"
    longitude, latitude = feature["geometry"]["coordinates"]
    assert (round(latitude, 2), round(longitude, 2)) == (-44.09, 171.24)
    root = ElementTree.fromstring(client.get("/api/sites.gpx").data)
    point = root[0]
    assert point.tag == "{http://www.topografix.com/GPX/1/1}wpt"
    assert -90 <= float(point.attrib["lat"]) <= 90
