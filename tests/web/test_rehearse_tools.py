"""The Rehearse step through the API."""

import pytest
from flask.testing import FlaskClient

from tests.web.sites import new_design
from yonderstat.demo.quay_street import QUAY_STREET


def test_all_years_and_again_after_an_edit(client: FlaskClient) -> None:
    """More bank, better July: the answer follows the revision."""
    key = new_design(client, QUAY_STREET)
    before = client.get(f"/api/designs/{key}/years").get_json()
    assert before["report"]["years"] == 30
    change = [{"op": "replace", "path": "/store/bank/parallel", "value": 3}]
    client.patch(f"/api/designs/{key}", json=change, headers={"If-Match": str(before["revision"])})
    after = client.get(f"/api/designs/{key}/years").get_json()
    assert after["revision"] > before["revision"]
    assert after["report"]["carry"][6][4] > before["report"]["carry"][6][4]


def test_a_scene_is_played_and_not_kept(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    played = client.post(f"/api/designs/{key}/rehearse", json={"month": 7, "day": 10, "days": 2}).get_json()
    assert len(played["report"]["hours"]) == 48
    assert client.get(f"/api/designs/{key}").get_json()["revision"] == played["revision"]


@pytest.mark.parametrize(
    ("scene", "pointer"), [({"days": 400}, "/days"), ({"month": 0}, "/month"), ({"sky": "fair"}, "/sky")]
)
def test_a_scene_that_cannot_be_is_refused(client: FlaskClient, scene: dict[str, object], pointer: str) -> None:
    answer = client.post(f"/api/designs/{new_design(client, QUAY_STREET)}/rehearse", json=scene)
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] == pointer


def test_without_a_bank_there_is_no_rehearsal(client: FlaskClient) -> None:
    key = new_design(client, {**QUAY_STREET, "store": {}})
    assert client.get(f"/api/designs/{key}/years").get_json()["report"] is None
    assert client.post(f"/api/designs/{key}/rehearse", json={}).get_json()["report"] is None
