"""The shelf over the API: revisions, undo, taking from it, tables out and in, and what is
refused."""

import io
import zipfile

import pytest
from flask.testing import FlaskClient
from odf.opendocument import load
from odf.table import TableCell, TableRow

from tests.web.sites import new_design
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.quay_street import QUAY_STREET

PANEL = {
    "id": "spare",
    "name": "Spare 85 W",
    "kind": "panel",
    "count": 2.0,
    "module": {"watts": {"value": 85.0, "basis": "label"}, "cells": 36},
}
BATTERY = {
    "id": "lithium",
    "name": "LiFePO4 of 2023",
    "kind": "battery",
    "count": 1.0,
    "battery": {
        "chemistry": "lifepo4",
        "unit_v": 12.8,
        "unit_ah": {"value": 100.0, "basis": "label"},
    },
}


def put_on(client: FlaskClient, *parts: dict) -> dict:
    revision = client.get("/api/shelf").get_json()["revision"]
    patch = [{"op": "add", "path": "/parts/-", "value": part} for part in parts]
    answer = client.patch("/api/shelf", json=patch, headers={"If-Match": str(revision)})
    assert answer.status_code == 200, answer.get_json()
    return answer.get_json()


def bring(client: FlaskClient, data: bytes, name: str):
    return client.post(
        f"/api/shelf/table?name={name}", data=data, content_type="application/octet-stream"
    )


def picks_of(client: FlaskClient, key: str) -> dict:
    return client.get(f"/api/designs/{key}/from-shelf").get_json()


def take(client: FlaskClient, key: str, line: str, part: str) -> dict:
    pick = next(
        item
        for item in picks_of(client, key)["picks"]
        if (item["line"], item["part"]) == (line, part)
    )
    revision = client.get(f"/api/designs/{key}").get_json()["revision"]
    answer = client.patch(
        f"/api/designs/{key}", json=pick["patch"], headers={"If-Match": str(revision)}
    )
    assert answer.status_code == 200, answer.get_json()
    return answer.get_json()


def test_the_shelf_begins_empty_and_is_undone_and_redone(client: FlaskClient) -> None:
    assert client.get("/api/shelf").get_json()["revision"] == 0
    first = put_on(client, PANEL)
    second = put_on(client, BATTERY)
    assert (first["revision"], second["revision"]) == (1, 2)
    stale = client.patch(
        "/api/shelf", json=[{"op": "remove", "path": "/parts/0"}], headers={"If-Match": "1"}
    )
    assert (stale.status_code, stale.get_json()["current_revision"]) == (412, 2)
    undone = client.post("/api/shelf/undo", headers={"If-Match": "2"}, json={}).get_json()
    assert [part["id"] for part in undone["document"]["parts"]] == ["spare"]
    again = client.post("/api/shelf/undo", headers={"If-Match": "3"}, json={}).get_json()
    assert (again["document"]["parts"], again["can_undo"], again["can_redo"]) == ([], False, True)
    assert client.post("/api/shelf/undo", headers={"If-Match": "4"}, json={}).status_code == 409
    redone = client.post("/api/shelf/redo", headers={"If-Match": "4"}, json={}).get_json()
    assert len(redone["document"]["parts"]) == 1
    assert redone["can_redo"]


def test_what_is_no_part_is_refused_with_its_place(client: FlaskClient) -> None:
    answer = client.patch(
        "/api/shelf",
        json=[{"op": "add", "path": "/parts/-", "value": PANEL | {"count": -1.0}}],
        headers={"If-Match": "0"},
    )
    assert answer.status_code == 422
    assert (
        answer.get_json()["title"]
        == "This change can't be saved: the list of club parts would have an error"
    )
    assert answer.get_json()["faults"][0]["pointer"] == "/parts/0/count"
    assert client.get("/api/shelf").get_json()["revision"] == 0


def test_a_part_taken_is_reserved_and_shown_where_it_is_used(client: FlaskClient) -> None:
    put_on(client, BATTERY)
    key, other = new_design(client, QUAY_STREET), new_design(client, QUAY_STREET)
    design = take(client, key, "battery-main", "lithium")
    row = design["document"]["build"]["parts"][0]
    assert (row["id"], row["shelf"], row["have"]) == ("battery-main", "lithium", 1)
    shelf = client.get("/api/shelf").get_json()
    assert (shelf["stock"][0]["reserved"], shelf["stock"][0]["free"]) == (1, 0)
    assert [(use["design_id"], use["count"], use["differs"]) for use in shelf["uses"]] == [
        (key, 1, False)
    ]
    refused = next(item for item in picks_of(client, other)["picks"] if item["part"] == "lithium")
    assert (refused["patch"], refused["words"]) == (
        [],
        "can't be used: all of it is reserved or away",
    )
    # Put away, a site reserves nothing.
    client.delete(f"/api/sites/{design['site_id']}", headers={"Content-Type": "application/json"})
    assert client.get("/api/shelf").get_json()["stock"][0]["free"] == 1


def test_a_label_changed_on_the_shelf_is_offered_to_the_design(client: FlaskClient) -> None:
    put_on(client, BATTERY)
    key = new_design(client, QUAY_STREET)
    take(client, key, "battery-main", "lithium")
    tested = [
        {
            "op": "replace",
            "path": "/parts/0/battery/tested_ah",
            "value": {"value": 87.0, "basis": "measured"},
        }
    ]
    shelf = client.patch("/api/shelf", json=tested, headers={"If-Match": "1"}).get_json()
    assert shelf["uses"][0]["differs"]
    revision = str(client.get(f"/api/designs/{key}").get_json()["revision"])
    path, body = f"/api/designs/{key}/from-shelf", {"line": "battery-main"}
    assert client.post(path, json=body, headers={"If-Match": "1"}).status_code == 412
    design = client.post(path, json=body, headers={"If-Match": revision}).get_json()
    assert design["document"]["store"]["bank"]["tested_ah"]["value"] == 87
    assert not client.get("/api/shelf").get_json()["uses"][0]["differs"]
    assert (
        client.post(path, json=body, headers={"If-Match": str(design["revision"])}).status_code
        == 409
    )


def test_while_kit_is_out_the_design_says_what_is_missing(client: FlaskClient) -> None:
    put_on(client, BATTERY)
    key = new_design(client, QUAY_STREET)
    take(client, key, "battery-main", "lithium")
    assert picks_of(client, key)["missing"] == []
    outing = {
        "id": "trip",
        "name": "Field day",
        "out": True,
        "takes": [{"part": "lithium", "count": 1.0}],
    }
    patch = [{"op": "add", "path": "/outings/-", "value": outing}]
    assert client.patch("/api/shelf", json=patch, headers={"If-Match": "1"}).status_code == 200
    found = picks_of(client, key)
    assert found["missing"] == ["LiFePO4 of 2023 (Field day)"]
    assert found["headline_without"]


def test_a_table_goes_out_and_comes_back_the_same(client: FlaskClient) -> None:
    wire = {
        "id": "twin",
        "name": "=4 mm² twin",
        "kind": "cable",
        "count": 30.0,
        "mm2": 4.0,
        "kept": "hall",
    }
    put_on(client, PANEL, BATTERY, wire)
    whole = client.get("/api/shelf").get_json()["document"]
    for ending in ("csv", "ods", "json"):
        data = client.get(f"/api/shelf.{ending}").data
        answer = bring(client, data, f"shelf.{ending}")
        assert answer.status_code == 200, answer.get_json()
        assert answer.get_json()["document"] == whole, ending
    assert b"'=4 mm" in client.get("/api/shelf.csv").data


def test_the_ods_is_read_by_another_library(client: FlaskClient) -> None:
    """odfpy, which had no part in writing it, finds the same cells."""
    put_on(client, PANEL)
    sheet = load(io.BytesIO(client.get("/api/shelf.ods").data))
    rows = [
        [str(cell) for cell in row.getElementsByType(TableCell)]
        for row in sheet.getElementsByType(TableRow)
    ]
    assert rows[0][:4] == ["id", "kind", "name", "count"]
    assert rows[1][:3] == ["spare", "panel", "Spare 85 W"]
    assert float(rows[1][3]) == 2


def test_a_table_with_a_fault_is_refused_whole_with_its_line(client: FlaskClient) -> None:
    cases = {
        "name,count\nPanel,two\n": "line 2: count must be a number, not “two”",
        "count\n2\n": "“name” is missing",
        "name,colour\nPanel,red\n": "“colour”, which isn't a column",
        "name,kind\nGood,other\nBad,panel\nWorse,boat\n": "line 4: kind",
        "name,priced\nPanel,soon\n": "line 2: priced is 'soon'; it must be a day",
        "name,id\nA,one\nB,one\n": "two rows have the same id",
    }
    for text, said in cases.items():
        answer = bring(client, text.encode(), "parts.csv")
        assert answer.status_code == 422, text
        assert said in str(answer.get_json()), answer.get_json()
    assert client.get("/api/shelf").get_json()["revision"] == 0


@pytest.mark.parametrize(
    "data",
    [
        b"PK\x03\x04 half a zip",
        b"\xff\xfe\x00\x00",
        b"",
        b'{"format": "something"}',
        b"{broken",
    ],
)
def test_what_is_no_table_is_refused(client: FlaskClient, data: bytes) -> None:
    answer = bring(client, data, "parts.ods")
    assert answer.status_code == 422
    assert client.get("/api/shelf").get_json()["revision"] == 0


def test_a_bomb_is_refused_before_it_is_unpacked(client: FlaskClient) -> None:
    sink = io.BytesIO()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("content.xml", b"<a/>" + b" " * 60_000_000)
    answer = bring(client, sink.getvalue(), "bomb.ods")
    assert answer.status_code == 422
    assert "unpacks to more than" in answer.get_json()["faults"][0]["message"]


def test_strings_that_fit_count_the_clubs_panels(client: FlaskClient) -> None:
    controller = {
        "id": "pwm",
        "name": "PWM, 15 A",
        "kind": "controller",
        "count": 1.0,
        "regulator": {},
    }
    put_on(client, PANEL, controller)
    document = PACKHORSE | {
        "array": PACKHORSE["array"] | {"shelf_modules": [], "shelf_controllers": []}
    }
    key = new_design(client, document)
    fits = client.get(f"/api/designs/{key}/strings-that-fit").get_json()["fits"]
    assert {fit["controller"] for fit in fits} == {"PWM, 15 A"}
    assert any("Spare 85 W: 2 in parallel" in fit["name"] for fit in fits)


def test_what_would_be_stopped_is_not_proposed(client: FlaskClient) -> None:
    """A lithium battery at the end of a lead-only charger, say: judged before it is offered, and
    why not is said."""
    tiny = {
        **BATTERY,
        "id": "tiny",
        "name": "Tiny",
        "battery": {**BATTERY["battery"], "unit_ah": {"value": 4.0}},
    }
    put_on(client, BATTERY, tiny)
    key = new_design(client, PACKHORSE)
    before = client.get(f"/api/designs/{key}").get_json()["report"]["findings"]
    bad = {item["id"] for item in before if item["severity"] in {"stop", "fix"}}
    for pick in picks_of(client, key)["picks"]:
        if not pick["patch"]:
            continue
        fresh = new_design(client, PACKHORSE)
        design = client.patch(
            f"/api/designs/{fresh}", json=pick["patch"], headers={"If-Match": "1"}
        ).get_json()
        now = {
            item["id"]
            for item in design["report"]["findings"]
            if item["severity"] in {"stop", "fix"}
        }
        assert now <= bad, (pick["part"], now - bad)
    told = {
        pick["part"]: pick["words"]
        for pick in picks_of(client, key)["picks"]
        if pick["line"] == "battery-main"
    }
    assert told["tiny"].startswith("can't be used: ")
