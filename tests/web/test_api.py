"""The API as a page of ours uses it."""

import gzip
import json
from typing import Any
from uuid import uuid4

import pytest
from flask.testing import FlaskClient

from yonderstat.demo import build_demo_sites
from yonderstat.demo.quay_street import QUAY_STREET

Json = dict[str, Any]
PLACE = {"latitude_deg": -44.09, "longitude_deg": 171.24}


@pytest.fixture
def design(client: FlaskClient) -> Json:
    body = {"name": "Quay Street", "kind": "home", "purpose": "standby", "place": PLACE}
    site = client.post("/api/sites", json=body).get_json()
    answer: Json = client.get(f"/api/designs/{site['designs'][0]['id']}").get_json()
    return answer


def patch(client: FlaskClient, design: Json, operations: Any, revision: Any = None) -> Any:
    at = {"If-Match": str(design["revision"] if revision is None else revision)}
    return client.patch(f"/api/designs/{design['id']}", json=operations, headers=at)


def replace(path: str, value: Any) -> list[Json]:
    return [{"op": "replace", "path": path, "value": value}]


def test_a_new_site_already_runs(client: FlaskClient, design: Json) -> None:
    line = client.get("/api/sites").get_json()[0]
    assert line["name"] == "Quay Street"
    assert line["locator"] == "RE55ov"
    assert line["summary"]["state"] in {"good", "edge"}
    shown = design["report"]["verdict"]["months"]
    figures = [design["report"]["working"][cell["share"]]["value"] for cell in shown]
    assert [month["share"] for month in line["summary"]["months"]] == figures
    assert design["report"]["working"][design["report"]["draw"]["daily_ah"]]["value"] > 0


def test_a_load_raised_moves_the_verdict_and_undo_moves_it_back(
    client: FlaskClient, design: Json
) -> None:
    path = "/draw/loads/0/receive_a"
    changed = patch(client, design, replace(path, {"value": 30.0, "basis": "stated"})).get_json()
    assert changed["revision"] == 2
    assert changed["report"]["verdict"]["headline"] != design["report"]["verdict"]["headline"]
    undone = client.post(
        f"/api/designs/{design['id']}/undo", json={}, headers={"If-Match": "2"}
    ).get_json()
    assert undone["document"] == design["document"]
    assert undone["report"] == design["report"]
    assert undone["can_redo"]
    redone = client.post(
        f"/api/designs/{design['id']}/redo", json={}, headers={"If-Match": "3"}
    ).get_json()
    assert redone["document"] == changed["document"]


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("/draw/loads/0/receive_a", {"value": 30.0, "basis": "stated"}),
        ("/store/bank", None),
        ("/array/strings", []),
        ("/name", "renamed"),
    ],
)
def test_the_figures_that_moved_with_those_held_are_the_whole_report(
    client: FlaskClient, design: Json, path: str, value: Any
) -> None:
    at = {"If-Match": "1", "Accept-Encoding": "identity"}
    address = f"/api/designs/{design['id']}"
    answer = client.patch(f"{address}?working=changed", json=replace(path, value), headers=at)
    part, now = answer.get_json(), client.get(address).get_json()
    assert part["working_since"] == 1
    assert len(part["report"]["working"]) < len(now["report"]["working"])
    working = {**design["report"]["working"], **part["report"]["working"]}
    for key in part["working_gone"]:
        del working[key]
    assert working == now["report"]["working"]
    at = {"If-Match": "2"}
    undone = client.post(f"{address}/undo?working=changed", json={}, headers=at).get_json()
    working = {**now["report"]["working"], **undone["report"]["working"]}
    for key in undone["working_gone"]:
        del working[key]
    assert working == design["report"]["working"]


def test_an_edit_need_not_wait_for_its_remedies(client: FlaskClient, design: Json) -> None:
    address = f"/api/designs/{design['id']}"
    edit = replace("/draw/loads/0/receive_a", {"value": 30.0, "basis": "stated"})
    first = client.patch(
        f"{address}?remedies=later", json=edit, headers={"If-Match": "1"}
    ).get_json()
    assert first["report"]["remedies"] == "later"
    assert not any(finding["remedies"] for finding in first["report"]["findings"])
    assert client.get(f"{address}?remedies=later").get_json() == first
    tried = client.get(f"{address}/findings").get_json()
    assert tried["revision"] == 2
    assert any(finding["remedies"] for finding in tried["findings"])
    whole = client.get(address).get_json()
    assert whole["report"]["remedies"] == "tried"
    assert whole["report"]["findings"] == tried["findings"]
    bare = [{**finding, "remedies": []} for finding in tried["findings"]]
    assert first["report"] == {**whole["report"], "findings": bare, "remedies": "later"}


def test_the_next_steps_are_asked_for_apart_and_take_one_press(
    client: FlaskClient, design: Json
) -> None:
    """Free first; the patch goes through like any other edit, and the steps of a newer revision are
    its own."""
    short = patch(
        client, design, replace("/draw/loads/0/receive_a", {"value": 6.0, "basis": "stated"})
    ).get_json()
    address = f"/api/designs/{design['id']}"
    told = client.get(f"{address}/next-actions").get_json()
    assert told["revision"] == short["revision"]
    assert short["report"]["verdict"]["state"] in {"short", "edge"}
    first = told["next_actions"][0]
    press = [
        {key: item[key] for key in ("op", "path", "value")} for item in first["change"]["patch"]
    ]
    pressed = patch(client, design, press, short["revision"])
    assert pressed.status_code == 200
    assert pressed.get_json()["report"]["verdict"]["state"] == first["state"]
    again = client.get(f"{address}/next-actions").get_json()
    assert again["revision"] == pressed.get_json()["revision"]
    assert again["next_actions"] != told["next_actions"]
    assert client.get(f"/api/designs/{uuid4()}/next-actions").status_code == 404


def test_an_answer_is_packed_for_whoever_takes_it(client: FlaskClient, design: Json) -> None:
    address = f"/api/designs/{design['id']}"
    plain = client.get(address)
    packed = client.get(address, headers={"Accept-Encoding": "gzip"})
    assert packed.headers["Content-Encoding"] == "gzip"
    assert "Accept-Encoding" in packed.headers["Vary"]
    assert len(packed.data) < len(plain.data) / 6
    assert json.loads(gzip.decompress(packed.data)) == plain.get_json()


def test_two_windows_do_not_lose_each_others_work(client: FlaskClient, design: Json) -> None:
    assert patch(client, design, replace("/name", "theirs")).status_code == 200
    stale = patch(client, design, replace("/name", "mine"))
    assert stale.status_code == 412
    assert stale.get_json()["current_revision"] == 2
    assert client.get(f"/api/designs/{design['id']}").get_json()["document"]["name"] == "theirs"


def test_designs_of_a_site(client: FlaskClient, design: Json) -> None:
    path = f"/api/sites/{design['site_id']}"
    made = client.post(f"{path}/designs", json={"copy_of": design["id"]}).get_json()
    assert made["document"]["name"] == "B"
    assert not made["as_built"]
    client.post(f"/api/designs/{made['id']}/as-built", json={"as_built": True})
    assert [item["as_built"] for item in client.get(path).get_json()["designs"]] == [False, True]
    headers = {"Content-Type": "application/json"}
    assert client.delete(f"/api/designs/{made['id']}", headers=headers).status_code == 409
    assert client.delete(f"/api/designs/{design['id']}", headers=headers).status_code == 204


def test_a_site_is_renamed_put_away_and_brought_back(client: FlaskClient, design: Json) -> None:
    path = f"/api/sites/{design['site_id']}"
    assert client.patch(path, json={"name": "Shack"}).get_json()["name"] == "Shack"
    assert client.delete(path, headers={"Content-Type": "application/json"}).status_code == 204
    assert client.get("/api/sites").get_json() == []
    assert client.post(f"{path}/restore", json={}).status_code == 200
    assert len(client.get("/api/sites").get_json()) == 1


def test_a_repeated_create_makes_one_site(client: FlaskClient) -> None:
    headers = {"Idempotency-Key": "abc"}
    ids = {
        client.post("/api/sites", json={"name": "One"}, headers=headers).get_json()["id"]
        for _ in range(2)
    }
    assert len(ids) == 1


def test_the_file_taken_away_evaluates_to_the_same_report(
    client: FlaskClient, design: Json
) -> None:
    file = client.get(f"/api/designs/{design['id']}/file")
    assert file.headers["Content-Disposition"] == (
        'attachment; filename="quay-street-a.yonderstat.json"'
    )
    report = client.post("/api/evaluate", json=json.loads(file.data)).get_json()
    assert report == design["report"]
    again = client.post("/api/sites", json={"name": "Copy", "document": json.loads(file.data)})
    assert again.status_code == 201


def test_a_range_of_a_file_is_answered_and_one_that_is_not_there_refused(
    client: FlaskClient, design: Json
) -> None:
    path = f"/api/designs/{design['id']}/file"
    whole = client.get(path)
    assert whole.headers["Accept-Ranges"] == "bytes"
    part = client.get(path, headers={"Range": "bytes=10-19"})
    assert (part.status_code, part.data) == (206, whole.data[10:20])
    assert part.headers["Content-Range"] == f"bytes 10-19/{len(whole.data)}"
    beyond = client.get(path, headers={"Range": f"bytes={len(whole.data)}-"})
    assert (beyond.status_code, beyond.mimetype) == (416, "application/problem+json")
    assert client.get(path, headers={"If-None-Match": whole.headers["ETag"]}).status_code == 304


def test_sites_come_a_page_at_a_time(client: FlaskClient) -> None:
    for number in range(5):
        client.post("/api/sites", json={"name": f"Site {number}"})
    seen: list[str] = []
    path: str | None = "/api/sites?limit=2"
    while path:
        answer = client.get(path)
        assert answer.headers["X-Total-Count"] == "5"
        seen += [site["name"] for site in answer.get_json()]
        link = answer.headers.get("Link")
        path = link.split(">")[0].removeprefix("<") if link else None
    assert seen == [f"Site {number}" for number in range(5)]
    assert client.get("/api/sites?offset=9").get_json() == []


@pytest.mark.parametrize(
    "query", ["limit=501", "limit=-1", "offset=x", "offset=1.5", "limit=%C2%B2"]
)
def test_a_page_that_is_none_is_refused(client: FlaskClient, query: str) -> None:
    assert client.get(f"/api/sites?{query}").status_code == 400


def test_the_map_of_tilts(client: FlaskClient, design: Json) -> None:
    at = f"/api/designs/{design['id']}/tilt-map"
    found = client.get(f"{at}?over=hard").get_json()
    assert found["map"]["months"] == [design["report"]["verdict"]["hard_month"]]
    assert len(found["map"]["hours"]) == len(found["map"]["tilts_deg"])
    year = client.get(f"{at}?over=year").get_json()["map"]
    assert year["months"] == list(range(1, 13))
    assert year["best_hours"] > found["map"]["best_hours"]
    assert client.get(f"{at}?over=week").status_code == 400
    patch(client, design, replace("/place", None))
    assert client.get(f"{at}?over=hard").get_json()["map"] is None


def test_the_suns_way(client: FlaskClient, design: Json) -> None:
    at = f"/api/designs/{design['id']}/sun-path"
    tracks = client.get(at).get_json()["tracks"]
    assert {3, 6, 12} <= {track["month"] for track in tracks}
    assert all(len(track["azimuth_deg"]) == len(track["elevation_deg"]) for track in tracks)
    patch(client, design, replace("/place", None))
    assert client.get(at).get_json()["tracks"] == []


def test_places(client: FlaskClient) -> None:
    found = client.get("/api/place?text=RE56tv").get_json()
    assert found["has_sun_data"]
    assert found["time_zone"] == "Pacific/Auckland"
    assert client.get("/api/place?text=0.0 -140.0").get_json()["time_zone"] is None
    refused = client.get("/api/place?text=ZZ99")
    assert refused.status_code == 422
    assert "isn't a grid locator" in refused.get_json()["faults"][0]["message"]


def test_the_demo_comes_in_through_the_doors(client: FlaskClient) -> None:
    assert build_demo_sites(client.application) == 6
    lines = client.get("/api/sites").get_json()
    assert [line["name"] for line in lines] == [
        "Harrier Ridge repeater",
        "Quay Street shack",
        "The Packhorse",
        "Patrol 2",
        "Beech Hut digipeater",
        "Ferry Road shack",
    ]
    assert [item["name"] for item in lines[0]["designs"]] == [
        "A · as built",
        "B · heated lithium",
        "C · stays up",
    ]
    assert lines[0]["summary"]["state"] == "short"
    # What good looks like: three designs our own rules hold nothing against.
    for line, number in ((lines[0], 2), (lines[2], 1), (lines[5], 0)):
        report = client.get(f"/api/designs/{line['designs'][number]['id']}").get_json()["report"]
        assert report["verdict"]["state"] == "good"
        assert {item["severity"] for item in report["findings"]} <= {"mind", "good"}


def test_a_site_put_away_is_listed_until_it_is_brought_back(
    client: FlaskClient, design: Json
) -> None:
    assert client.get("/api/put-away").get_json() == []
    client.delete(f"/api/sites/{design['site_id']}", json={})
    (gone,) = client.get("/api/put-away").get_json()
    assert (gone["id"], gone["name"]) == (design["site_id"], "Quay Street")
    client.post(f"/api/sites/{gone['id']}/restore", json={})
    assert client.get("/api/put-away").get_json() == []


def test_what_differs_between_two_designs_is_told_field_by_field(
    client: FlaskClient, design: Json
) -> None:
    body = {"copy_of": design["id"], "patch": replace("/store/bank/parallel", 9)}
    other = client.post(f"/api/sites/{design['site_id']}/designs", json=body).get_json()
    address = f"/api/designs/{other['id']}/differences"
    (found,) = client.get(f"{address}?from={design['id']}").get_json()
    assert (found["pointer"], found["second"]) == ("/store/bank/parallel", 9)
    assert client.get(f"{address}?from=nobody").status_code == 400
    assert client.get(f"{address}?from={uuid4()}").status_code == 404


def test_a_finding_is_lived_with_and_a_stop_is_not(client: FlaskClient, design: Json) -> None:
    broken = patch(client, design, replace("/store/bank/parallel", 1)).get_json()
    stays = next(item for item in broken["report"]["findings"] if item["severity"] == "mind")
    grave = {"finding": "store.too_small", "reason": "never"}
    muted = [{"finding": stays["id"], "reason": "known"}, grave]
    after = patch(client, broken, [{"op": "replace", "path": "/muted", "value": muted}]).get_json()
    found = {item["id"]: item for item in after["report"]["findings"]}
    assert found[stays["id"]]["muted"] == "known"
    assert after["report"]["findings"][-1]["id"] == stays["id"]
    stops = [item for item in after["report"]["findings"] if item["severity"] == "stop"]
    assert all(item["muted"] == "" for item in stops)


def test_the_app_can_be_installed_and_its_worker_is_asked_for_anew(client: FlaskClient) -> None:
    manifest = client.get("/manifest.webmanifest")
    worker = client.get("/offline.js")
    if worker.status_code != 200:
        pytest.skip("the interface is not built")
    assert json.loads(manifest.data)["start_url"] == "/"
    assert worker.headers["Cache-Control"] == "no-cache"
    assert "javascript" in worker.mimetype


def test_what_is_not_there_is_a_problem_document(client: FlaskClient) -> None:
    for path in (
        f"/api/designs/{uuid4()}",
        f"/api/sites/{uuid4()}",
        "/api/nothing",
        "/api/designs/not-an-id",
    ):
        answer = client.get(path)
        assert answer.status_code == 404
        assert answer.mimetype == "application/problem+json"


def test_openapi_names_every_operation(client: FlaskClient) -> None:
    document = client.get("/api/openapi.json").get_json()
    declared = set(document["paths"])
    served = {
        rule.rule.replace("<uuid:", "{").replace(">", "}")
        for rule in client.application.url_map.iter_rules()
        if rule.rule.startswith("/api/")
    }
    plain = {
        "/api/openapi.json",
        "/api/schema.json",
        "/api/alive",
        "/api/ready",
        "/api/live/events",
    }
    assert declared == served - plain
    operations = [item for path in document["paths"].values() for item in path.values()]
    assert {item["x-access"] for item in operations} == {"read", "edit"}
    assert client.get("/api/alive").get_json() == {"alive": True}
    assert client.get("/api/schema.json").get_json()["title"] == "Design"


def test_a_file_carries_its_sites_name_and_claims_nothing_of_the_shelf(client: FlaskClient) -> None:
    part = {"id": "battery-main", "have": 1.0, "shelf": "lithium-100"}
    document = {**QUAY_STREET, "build": {"parts": [part]}}
    made = client.post(
        "/api/sites", json={"name": "Café Ridge, Ōtira", "document": document}
    ).get_json()
    key = made["designs"][0]["id"]
    brought = client.get(f"/api/designs/{key}").get_json()["document"]
    assert brought["build"]["parts"][0]["shelf"] is None
    taken = client.get(f"/api/designs/{key}/file")
    assert (
        taken.headers["Content-Disposition"]
        == 'attachment; filename="cafe-ridge-otira-a-as-built.yonderstat.json"'
    )
    told = taken.get_json()
    assert told["site"] == "Café Ridge, Ōtira"
    beside = client.post(f"/api/sites/{made['id']}/designs", json={"document": told})
    assert beside.status_code == 201
    assert "site" not in beside.get_json()["document"]
    for path in ("loads.csv", "loads.ods", "parts.csv", "upkeep.ics"):
        assert (
            "cafe-ridge" in client.get(f"/api/designs/{key}/{path}").headers["Content-Disposition"]
        )


@pytest.mark.parametrize(
    ("path", "status"),
    [("/", 200), ("/shelf", 200), ("/guide/bus", 200), ("/nowhere", 404), ("/designs/x/draw", 404)],
)
def test_a_page_that_is_none_answers_404(client: FlaskClient, path: str, status: int) -> None:
    answer = client.get(path)
    # Without a built interface every page says that.
    assert answer.status_code in {status, 503}
