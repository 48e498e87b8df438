"""One rule for every entrance (docs/decisions/0027): what comes in has bounds, and nothing taken
breaks a page.

A table of entrances by hostile values. What an entrance refuses it refuses with a 4xx problem
document; what it takes, every page of the site and the club's archive must live with, also after
the site is put away.
"""

import io
import json
import random
import zipfile
from collections.abc import Callable
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.web.sites import new_design
from tests.web.test_club import bring, manifest, members, packed
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.quay_street import QUAY_STREET

DATES = (
    "0001-01-01T00:00:00+14:00", "-4712-01-01T00:00:00Z", "0000-00-00", "1969-12-31T23:59:59Z", "2101-01-01T00:00:00Z",
    "9999-12-31T23:59:59-14:00", "inf", "nan", "1e12", "-1e308", "infinity", "2026-06-31T10:00:00Z",
)  # fmt: skip
FIGURES = ("inf", "-inf", "nan", "1e308", "1" + "0" * 400, "1e999", "0x10", "١٢", "--5", "1_000")
TEXTS = (
    "\x00",
    "a\x00b",
    "\ud800",
    "\u2028",
    "=cmd|' /C calc'!A0",
    "x" * 5000,
    " " * 10_000,
    "\u202e",
    "",
)
PAGES = (
    "", "/log", "/record", "/series?channel=volts", "/upkeep", "/upkeep.ics", "/live", "/tests", "/findings", "/parts",
)  # fmt: skip


def octets(client: FlaskClient, path: str, data: bytes) -> Any:
    return client.post(path, data=data, content_type="application/octet-stream")


def every_page(client: FlaskClient) -> None:
    """Every page of every site answers, and the archive can be taken away."""
    for site in client.get("/api/sites").get_json():
        for tab in site["designs"]:
            for page in PAGES:
                answer = client.get(f"/api/designs/{tab['id']}{page}")
                # A design that cannot be read says so in its own place; that is no 500 without a
                # word.
                assert answer.status_code < 500 or answer.get_json()["type"].endswith(
                    "unreadable"
                ), (
                    page,
                    answer.get_data(as_text=True)[:300],
                )
    assert client.get("/api/club.zip").status_code == 200


def put_away_and_back(client: FlaskClient) -> None:
    for site in client.get("/api/sites").get_json():
        client.delete(f"/api/sites/{site['id']}", json={})
    assert client.get("/api/put-away").status_code == 200
    archived = client.get("/api/club.zip")
    assert archived.status_code == 200
    # And the program takes its own file.
    assert bring(client, archived.data).status_code == 200
    for site in client.get("/api/put-away").get_json():
        assert send(client, "POST", f"/api/sites/{site['id']}/restore", {}).status_code == 200


Entrance = Callable[[FlaskClient, str, str], Any]


def send(
    client: FlaskClient, method: str, path: str, body: Any, headers: dict[str, str] | None = None
) -> Any:
    """JSON in plain letters, so that half a character gets as far as the server."""
    return client.open(
        path, method=method, data=json.dumps(body), content_type="application/json", headers=headers
    )


def record_time(client: FlaskClient, key: str, value: str) -> Any:
    text = f"Time,Battery V\n{value},12.5\n2026-07-01T00:00:00Z,12.4\n"
    return octets(
        client, f"/api/designs/{key}/record?name=a.csv", text.encode("utf-8", "surrogatepass")
    )


def record_figure(client: FlaskClient, key: str, value: str) -> Any:
    text = f"Time,Battery V\n2026-07-01T00:00:00Z,{value}\n"
    return octets(
        client, f"/api/designs/{key}/record?name=a.csv", text.encode("utf-8", "surrogatepass")
    )


def record_range(client: FlaskClient, key: str, value: str) -> Any:
    plain = value.encode("utf-8", "surrogatepass")
    return client.get(
        f"/api/designs/{key}/series", query_string={"channel": "volts", "from": plain, "to": plain}
    )


def reading_time(client: FlaskClient, key: str, value: str) -> Any:
    return send(
        client, "POST", f"/api/designs/{key}/log", {"said": "12.6 rest 3h", "taken_at": value}
    )


def reading_text(client: FlaskClient, key: str, value: str) -> Any:
    return send(client, "POST", f"/api/designs/{key}/log", {"said": value, "who": value})


def reading_figure(client: FlaskClient, key: str, value: str) -> Any:
    return send(client, "POST", f"/api/designs/{key}/log", {"said": f"{value} V rest 3h"})


def upkeep_day(client: FlaskClient, key: str, value: str) -> Any:
    return send(
        client,
        "POST",
        f"/api/designs/{key}/upkeep",
        {"task": "terminals", "done_on": value[:10], "who": "QY"},
    )


def upkeep_text(client: FlaskClient, key: str, value: str) -> Any:
    body = {"task": "terminals", "done_on": "2026-07-10", "who": "QY", "note": value}
    return send(client, "POST", f"/api/designs/{key}/upkeep", body)


def site_name(client: FlaskClient, key: str, value: str) -> Any:
    site = client.get(f"/api/designs/{key}").get_json()["site_id"]
    return send(client, "PATCH", f"/api/sites/{site}", {"name": value})


def test_values(client: FlaskClient, key: str, value: str) -> Any:
    raw = (
        f'{{"kind": "discharge", "subject": "bank", "values": {{"amps": {value}, "hours": '
        f'12.0, "end_v": 10.5}}}}'
    )
    return client.post(
        f"/api/designs/{key}/tests",
        data=raw.encode("utf-8", "surrogatepass"),
        content_type="application/json",
    )


test_values.__test__ = False  # type: ignore[attr-defined]


def webhook(client: FlaskClient, key: str, value: str) -> Any:
    site = client.get(f"/api/designs/{key}").get_json()["site_id"]
    return send(
        client,
        "PUT",
        f"/api/sites/{site}/live",
        {"webhook": f"http://127.0.0.1/{value}", "mail_to": ""},
    )


def load_ledger(client: FlaskClient, key: str, value: str) -> Any:
    text = f"Name,Receive A\nRadio,{value}\n"
    return octets(
        client, f"/api/designs/{key}/loads?name=a.csv", text.encode("utf-8", "surrogatepass")
    )


def design_figure(client: FlaskClient, key: str, value: str) -> Any:
    raw = f'[{{"op": "replace", "path": "/draw/loads/0/receive_a/value", "value": {value}}}]'
    return client.patch(
        f"/api/designs/{key}",
        data=raw.encode("utf-8", "surrogatepass"),
        content_type="application/json",
        headers={"If-Match": "1"},
    )


ENTRANCES: dict[Entrance, tuple[str, ...]] = {
    record_time: DATES + FIGURES + TEXTS,
    record_figure: FIGURES + TEXTS,
    record_range: DATES + TEXTS,
    reading_time: DATES + TEXTS,
    reading_text: TEXTS,
    reading_figure: FIGURES,
    upkeep_day: DATES + TEXTS,
    upkeep_text: TEXTS,
    site_name: TEXTS,
    test_values: FIGURES,
    webhook: TEXTS,
    load_ledger: FIGURES + TEXTS,
    design_figure: FIGURES,
}


@pytest.mark.parametrize("entrance", ENTRANCES, ids=lambda entrance: entrance.__name__)
def test_every_entrance_has_bounds(client: FlaskClient, entrance: Entrance) -> None:
    key = new_design(client, QUAY_STREET)
    for value in ENTRANCES[entrance]:
        answer = entrance(client, key, value)
        assert answer.status_code < 500, (value[:40], answer.get_data(as_text=True)[:300])
        if answer.status_code >= 400:
            assert answer.mimetype == "application/problem+json"
    every_page(client)
    put_away_and_back(client)
    every_page(client)


@pytest.mark.parametrize("value", DATES)
def test_no_record_takes_a_moment_out_of_bounds(client: FlaskClient, value: str) -> None:
    key = new_design(client, QUAY_STREET)
    answer = record_time(client, key, value)
    assert answer.status_code == 422
    assert "line 2" in answer.get_json()["detail"]


def hostile_archives(data: bytes) -> list[bytes]:
    """About a hundred archives, each with one thing in it that no archive of ours would have."""
    files = members(data)
    site_file = next(name for name in files if name.startswith("sites/"))
    log_file = site_file.replace("sites/", "readings/").replace(".json", ".csv")
    series_file = site_file.replace("sites/", "series/").replace(".json", ".csv")
    site, log = json.loads(files[site_file]), files[log_file].decode().splitlines()
    found: list[dict[str, bytes]] = []

    def bent(path: tuple[Any, ...], value: Any) -> None:
        whole = json.loads(json.dumps(site))
        at = whole
        for step in path[:-1]:
            at = at[step]
        at[path[-1]] = value
        text = (
            json.dumps(whole)
            .replace('"@inf"', "Infinity")
            .replace('"@nan"', "NaN")
            .replace('"@big"', "1" * 400)
        )
        found.append({site_file: text.encode("utf-8", "surrogatepass")})

    revision = ("designs", 0, "revisions", 0)
    nested: Any = []
    for _ in range(200):
        nested = [nested]
    for path, values in {
        ("created_at",): ("0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-14:00", 1e300, -1, "@inf", None),
        ("deleted_at",): ("0001-01-01T00:00:00+14:00", "2300-01-01T00:00:00Z"),
        ("name",): ("a\x00b", "", "x" * 5000, "\u2028", None),
        ("place",): (
            {"latitude_deg": 95, "longitude_deg": 0}, {"latitude_deg": 0, "longitude_deg": 0, "time_zone": "../etc"},
            {"latitude_deg": 0, "longitude_deg": 0, "time_zone": "Mars/Olympus"}, {"rubbish": 1}, [], "here",
            {"latitude_deg": "@nan", "longitude_deg": 0},
        ),
        ("designs", 0, "position"): (2**31, 2**63, -1, "@big", 1.5),
        ("designs", 0, "as_built"): ("maybe", None),
        ("designs", 0, "created_at"): ("0001-01-01T00:00:00+14:00",),
        ("designs",): ([], [site["designs"][0], site["designs"][0]],
                       [{**site["designs"][0], "id": "00000000-0000-4000-8000-000000000001"}, site["designs"][0]]),
        (*revision, "number"): (2, 0, 2**31, -5),
        (*revision, "action"): ("drop", "undo", "redo", ""),
        (*revision, "actor"): ("x\x00", "x" * 500),
        (*revision, "parent"): (7, 1, 2**40, -3),
        (*revision, "restores"): (1, 9, 2**40),
        (*revision, "created_at"): ("0001-01-01T00:00:00+14:00", "@inf"),
        (*revision, "document"): ({}, {"version": 99}, [], nested, {"a": "\x00"}, {"a": "@inf"}, {"a": "@big"}),
        (*revision, "document", "name"): ("a\x00b", "\ud800"),
        (*revision, "document", "draw"): ({"loads": "none"}, None),
        ("upkeep",): (
            [{"id": "x"}],
            [{"id": "00000000-0000-4000-8000-000000000001", "task": "t", "done_on": "0001-01-01", "who": "", "note": "",
              "created_at": "2026-01-01T00:00:00Z"}],
            [{"id": "00000000-0000-4000-8000-000000000001", "task": "unheard of", "done_on": "2026-01-01", "who": "",
              "note": "", "created_at": "2026-01-01T00:00:00Z"}],
        ),
    }.items():  # fmt: skip
        for value in values:
            bent(path, value)
    head, first = log[0], log[1].split(",")

    def reading(**cells: str) -> None:
        row = dict(zip(head.split(","), first, strict=True)) | cells
        found.append({log_file: f"{head}\n{','.join(row.values())}\n".encode()})

    for taken_at in (*DATES, "1e12"):
        reading(taken_at=taken_at)
    for value in ("inf", "nan", "1e308", "1" + "0" * 400):
        reading(value=value)
    for detail in (
        '"{""test"": 5}"',
        '"[]"',
        '"{""values"": null, ""subject"": []}"',
        "[" * 5000,
        '"{""a"": Infinity}"',
    ):
        reading(kind="test.noise", detail=detail)
        reading(kind="test.discharge", detail=detail)
    reading(kind="unheard", said="'=x")
    reading(said="x" * 2000)
    found.append({log_file: "\n".join([head, log[1], log[1]]).encode()})
    found.append({log_file: b"\xff\xfe" + files[log_file]})
    for row in (
        "1e12,12,,,,", "inf,12,,,,", "nan,12,,,,", "-6e10,12,,,,", "1780000000,inf,,,,", "1780000000,nan,,,,",
        "1780000000,1e30,,,,", "1780000000,12,,,,,", "1780000000,12", "x,12,,,,", ",12,,,,", "4200000000,12,,,,",
    ):  # fmt: skip
        found.append({series_file: f"{row}\n".encode()})
    shelf = json.loads(files["shelf.json"])
    for item in (
        [{"number": 1}],
        [{**(shelf or [{}])[0], "number": 7}],
        {},
        "x",
        [{"document": {"parts": [1]}}],
    ):
        found.append({"shelf.json": json.dumps(item).encode()})
    archives = [packed(files | {"manifest.json": manifest(1)} | bend) for bend in found]
    whole = packed(files | {"manifest.json": manifest(1)})
    chance = random.Random(5)
    for _ in range(12):
        broken = bytearray(whole)
        for _ in range(6):
            broken[chance.randrange(len(broken))] = chance.randrange(256)
        archives.append(bytes(broken))
    return archives


def test_a_hundred_hostile_archives_break_no_page(client: FlaskClient) -> None:
    key = new_design(client, HARRIER_AS_BUILT)
    send(client, "POST", f"/api/designs/{key}/log", {"said": "12.6 rest 3h", "who": "QY"})
    record_time(client, key, "2026-06-30T23:00:00Z")
    data = client.get("/api/club.zip").data
    site = client.get("/api/sites").get_json()[0]["id"]
    archives = hostile_archives(data)
    assert len(archives) > 100
    refused = 0
    for number, archive in enumerate(archives):
        # Into a database that knows nothing of it, so that all of it is looked at.
        empty(client, site)
        answer = bring(client, archive)
        assert answer.status_code in {200, 422}, (number, answer.get_data(as_text=True)[:400])
        if answer.status_code == 422:
            refused += 1
            assert answer.get_json()["faults"][0]["message"]
        every_page(client)
        if answer.status_code == 200:
            put_away_and_back(client)
    assert refused > 90


def empty(client: FlaskClient, site: str) -> None:
    import psycopg

    with psycopg.connect(client.application.config["DATABASE_URL"], autocommit=True) as connection:
        connection.execute("truncate sites, created, shelf_revisions cascade")


def test_a_state_that_nobody_can_read_travels_and_bars_no_way(client: FlaskClient) -> None:
    """One unreadable old document made the program refuse its own file."""
    import psycopg

    key = new_design(client, QUAY_STREET)
    rename = [{"op": "replace", "path": "/name", "value": "Later"}]
    send(client, "PATCH", f"/api/designs/{key}", rename, headers={"If-Match": "1"})
    with psycopg.connect(client.application.config["DATABASE_URL"], autocommit=True) as connection:
        connection.execute("update revisions set document = '{\"version\": 99}' where number = 1")
    data = client.get("/api/club.zip").data
    site = next(
        json.loads(text) for name, text in members(data).items() if name.startswith("sites/")
    )
    assert site["designs"][0]["revisions"][0]["unreadable"]
    empty(client, key)
    assert bring(client, data).status_code == 200
    assert client.get(f"/api/designs/{key}").get_json()["document"]["name"] == "Later"
    undone = send(client, "POST", f"/api/designs/{key}/undo", {}, headers={"If-Match": "2"})
    assert undone.status_code < 500 or undone.get_json()["type"].endswith("unreadable")
    every_page(client)


def test_an_archive_that_unpacks_to_much_in_memory_is_refused(client: FlaskClient) -> None:
    """A zip of 0.1 MB took 1.9 GB: rows and values are counted before they are made."""
    key = new_design(client, QUAY_STREET)
    send(client, "POST", f"/api/designs/{key}/log", {"said": "12.6 rest 3h", "who": "QY"})
    files = members(client.get("/api/club.zip").data)
    log_file = next(name for name in files if name.startswith("readings/"))
    site_file = next(name for name in files if name.startswith("sites/"))
    many = files[log_file] + b"x,2026-01-01T00:00:00Z,a,,words,,,,2026-01-01T00:00:00Z\n" * 400_000
    sink = io.BytesIO()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as out:
        for name, text in (files | {"manifest.json": manifest(1), log_file: many}).items():
            out.writestr(name, text)
    answer = bring(client, sink.getvalue())
    assert answer.status_code == 422
    deep = b'{"id": [' + b"[]," * 7_000_000 + b"1]}"
    answer = bring(client, packed(files | {"manifest.json": manifest(1), site_file: deep}))
    assert answer.status_code == 422
