"""Readings over the API: kept with the site, read against the design."""

from flask.testing import FlaskClient

from tests.web.sites import new_design
from yonderstat.demo.quay_street import QUAY_STREET


def test_a_reading_is_kept_and_told_newest_first(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    for said, at in (
        ("13.30 rest 4h", "2026-07-10T08:00:00+12:00"),
        ("test 71 Ah", "2026-07-11T08:00:00+12:00"),
    ):
        added = client.post(
            f"/api/designs/{key}/log", json={"said": said, "who": "QY", "taken_at": at}
        )
        assert added.status_code == 200
    log = client.get(f"/api/designs/{key}/log").get_json()
    assert [item["said"] for item in log["readings"]] == ["test 71 Ah", "13.30 rest 4h"]
    assert (log["total"], log["contradicted"]) == (2, 1)
    assert log["readings"][0]["change"]["patch"][0]["path"] == "/store/bank/tested_ah"


def test_a_reading_is_taken_out(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    one = client.post(f"/api/designs/{key}/log", json={"said": "sg 1.2"}).get_json()
    headers = {"Content-Type": "application/json"}
    assert client.delete(f"/api/readings/{one['id']}", headers=headers).status_code == 204
    assert client.get(f"/api/designs/{key}/log").get_json()["total"] == 0
    assert client.delete(f"/api/readings/{one['id']}", headers=headers).status_code == 404


def test_what_cannot_be_read_is_refused_and_nothing_is_kept(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    for body, field in (
        ({"said": "12.6 foo"}, "/said"),
        ({"said": ""}, "/said"),
        ({"said": "sg 1.2", "taken_at": "2999-01-01T00:00:00Z"}, "/taken_at"),
        ({"said": "sg 1.2", "taken_at": "2026-07-10T08:00:00"}, "/taken_at"),
    ):
        answer = client.post(f"/api/designs/{key}/log", json=body)
        assert answer.status_code == 422, body
        assert answer.get_json()["faults"][0]["pointer"] == field
    assert client.get(f"/api/designs/{key}/log").get_json()["total"] == 0


def test_a_site_without_a_design_is_not_there(client: FlaskClient) -> None:
    assert client.get("/api/designs/00000000-0000-0000-0000-000000000000/log").status_code == 404
