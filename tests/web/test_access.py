"""One check in front of everything that is served: who may do what, where."""

import re
from collections.abc import Iterator
from typing import Any
from uuid import UUID, uuid4

import pytest
from flask.testing import FlaskClient
from sqlalchemy import text
from tools.cluster import Cluster

from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.records import open_engine
from yonderstat.web.access import RULES, WHO, Access, Principal, Rule, rule_of

Json = dict[str, Any]


@pytest.fixture
def sites(client: FlaskClient) -> list[Json]:
    """Two sites, made by whoever sits at the machine."""
    return [
        client.post("/api/sites", json={"name": name, "document": QUAY_STREET}).get_json()
        for name in ("Ours", "Theirs")
    ]


@pytest.fixture(autouse=True)
def app_as_it_was(client: FlaskClient) -> Iterator[None]:
    config = client.application.config
    before = config[WHO], dict(config[RULES])
    yield
    config[WHO], config[RULES] = before


def come_as(client: FlaskClient, who: Principal) -> None:
    client.application.config[WHO] = lambda: who


def at(site: Json, access: Access, name: str = "guest-1") -> Principal:
    return Principal(name, at_sites={UUID(site["id"]): access})


def rules_of(client: FlaskClient) -> Iterator[tuple[str, str, Rule]]:
    """Every address with each of its methods, and its rule."""
    for route in client.application.url_map.iter_rules():
        for method in (route.methods or set()) - {"HEAD", "OPTIONS"}:
            yield method, route.rule, client.application.config[RULES][route.endpoint]


def test_no_address_is_outside_the_table(client: FlaskClient) -> None:
    routes = {rule.endpoint for rule in client.application.url_map.iter_rules()}
    assert routes == set(client.application.config[RULES])


def test_an_address_the_table_does_not_know_is_refused_to_everybody(client: FlaskClient) -> None:
    del client.application.config[RULES]["alive"]
    assert client.get("/api/alive").status_code == 403


def test_what_is_open_holds_nothing_of_anybodys(client: FlaskClient) -> None:
    found = {path for _, path, rule in rules_of(client) if rule.access == "open"}
    service = {"/api/openapi.json", "/api/schema.json", "/api/alive", "/api/ready"}
    assert {path for path in found if path.startswith("/api/")} == service


@pytest.mark.parametrize(
    ("path", "about"),
    [("/api/things/{thing_id}", None), ("/api/things", None), ("/{site_id}", "club")],
)
def test_an_operation_says_what_it_is_about(path: str, about: Any) -> None:
    with pytest.raises(ValueError, match="say what it is about"):
        rule_of(path, "read", about)


def asked(client: FlaskClient, method: str, path: str, design_id: str) -> Any:
    """Ask an operation, of a design where it is of one, of something unheard of elsewhere."""
    filled = path.replace("<uuid:design_id>", design_id)
    filled = re.sub(r"<uuid:\w+>", lambda _: str(uuid4()), filled)
    return client.open(filled, method=method, json={}, headers={"If-Match": "1"})


def test_whoever_holds_no_word_is_refused_everything(
    client: FlaskClient, sites: list[Json]
) -> None:
    come_as(client, Principal("nobody"))
    design_id = sites[0]["designs"][0]["id"]
    tried = 0
    for method, path, rule in rules_of(client):
        if rule.access == "open":
            continue
        answer = asked(client, method, path, design_id)
        if answer.status_code not in (413, 415):
            tried += 1
            assert answer.status_code in (403, 404), (method, path, answer.status_code)
            kind = answer.get_json()["type"]
            assert kind.endswith(("not-allowed", "not-found")), (method, path, kind)
    assert tried > 60


def test_a_reader_of_one_site_sees_that_site_alone(client: FlaskClient, sites: list[Json]) -> None:
    ours, theirs = sites
    come_as(client, at(ours, "read"))
    assert [item["name"] for item in client.get("/api/sites").get_json()] == ["Ours"]
    assert client.get("/api/live").get_json()["sites"] == []
    assert len(client.get("/api/sites.geojson").get_json()["features"]) <= 1
    mine, other = (site["designs"][0]["id"] for site in sites)
    assert client.get(f"/api/designs/{mine}").status_code == 200
    assert client.get("/api/catalogue").status_code == 200
    for path in (
        f"/api/sites/{theirs['id']}",
        f"/api/designs/{other}",
        f"/api/designs/{other}/log",
        f"/api/designs/{mine}/differences?from={other}",
        f"/api/designs/{mine}/parts-from?from={other}",
    ):
        answer = client.get(path)
        assert (answer.status_code, answer.get_json()["title"]) == (
            404,
            "There is nothing here under that name",
        )
    assert client.get("/api/club.zip").status_code == 403
    assert client.get("/api/shelf").status_code == 403


def test_a_reader_may_not_change_and_an_editor_may(client: FlaskClient, sites: list[Json]) -> None:
    ours = sites[0]
    design = f"/api/designs/{ours['designs'][0]['id']}"
    change = [{"op": "replace", "path": "/name", "value": "Other"}]
    come_as(client, at(ours, "read"))
    refused = client.patch(design, json=change, headers={"If-Match": "1"})
    assert refused.status_code == 403
    assert client.get(design).get_json()["revision"] == 1
    come_as(client, at(ours, "edit"))
    assert client.patch(design, json=change, headers={"If-Match": "1"}).status_code == 200
    assert client.post("/api/sites", json={"name": "More"}).status_code == 403
    assert client.delete(f"/api/sites/{sites[1]['id']}", json={}).status_code == 404


def test_a_site_put_away_is_shown_to_those_who_may_see_it(
    client: FlaskClient, sites: list[Json]
) -> None:
    for site in sites:
        assert client.delete(f"/api/sites/{site['id']}", json={}).status_code == 204
    come_as(client, at(sites[0], "edit"))
    (listed,) = client.get("/api/put-away").get_json()
    assert listed["name"] == "Ours"
    assert client.post(f"/api/sites/{sites[1]['id']}/restore", json={}).status_code == 404
    assert client.post(f"/api/sites/{sites[0]['id']}/restore", json={}).status_code == 200


def test_every_stored_act_has_its_actor(
    client: FlaskClient, cluster: Cluster, sites: list[Json]
) -> None:
    ours = sites[0]
    site, design = f"/api/sites/{ours['id']}", f"/api/designs/{ours['designs'][0]['id']}"
    come_as(client, at(ours, "edit", "operator-7"))
    change = [{"op": "replace", "path": "/name", "value": "Other"}]
    when = "2026-03-01T10:00:00Z"
    endpoint = {"name": "Monitor", "kind": "monitor", "protocol": "sunspec", "host": "127.0.0.1"}
    channels = [{"quantity": "volts", "unit": "V"}]
    task = client.get(f"{design}/upkeep").get_json()["due"][0]["task"]
    for answer in (
        client.patch(design, json=change, headers={"If-Match": "1"}),
        client.post(f"{design}/log", json={"said": "12.62 rest 3h", "who": "", "taken_at": when}),
        client.post(f"{design}/upkeep", json={"task": task, "done_on": "2026-03-01", "who": "A"}),
        client.post(
            f"{site}/devices", json={"name": "Meter", "kind": "meter", "channels": channels}
        ),
        client.post(f"{site}/endpoints", json={**endpoint, "port": 502}),
        client.post(f"{design}/sizing-maps", json={}),
    ):
        assert answer.status_code in (200, 201, 202), answer.get_data(as_text=True)
    engine = open_engine(cluster.url.rsplit("/", 1)[0] + "/web")
    with engine.connect() as connection:
        for query, acts in (
            ("select actor from revisions where number = 2", 1),
            ("select actor from readings", 1),
            ("select actor from upkeep", 1),
            ("select actor from devices", 2),
            ("select actor from runs", 1),
        ):
            assert list(connection.scalars(text(query))) == ["operator-7"] * acts, query
    engine.dispose()
