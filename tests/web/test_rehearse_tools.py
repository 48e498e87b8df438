"""The Rehearse step through the API."""

from typing import Any
from uuid import uuid4

import psycopg
import pytest
from flask.testing import FlaskClient
from tools.cluster import Cluster

from tests.web.sites import new_design
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.jobs import run_worker


def value(report: dict[str, Any], key: str) -> float:
    return float(report["working"][key]["value"])


def test_all_years_and_again_after_an_edit(client: FlaskClient) -> None:
    """More bank, better July: the answer follows the revision."""
    key = new_design(client, QUAY_STREET)
    before = client.get(f"/api/designs/{key}/years").get_json()
    assert before["report"]["years"] == 30
    change = [{"op": "replace", "path": "/store/bank/parallel", "value": 3}]
    client.patch(f"/api/designs/{key}", json=change, headers={"If-Match": str(before["revision"])})
    after = client.get(f"/api/designs/{key}/years").get_json()
    assert after["revision"] > before["revision"]
    three_days = before["report"]["carry"][6][2]
    assert value(after["report"], three_days) > value(before["report"], three_days)


def test_a_scene_is_played_and_not_kept(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    played = client.post(
        f"/api/designs/{key}/rehearse", json={"month": 7, "day": 10, "days": 2}
    ).get_json()
    assert len(played["report"]["hours"]) == 48
    assert len(played["report"]["lanes"][0]["hours"]) == 48
    assert client.get(f"/api/designs/{key}").get_json()["revision"] == played["revision"]


@pytest.mark.parametrize(
    ("scene", "pointer", "words"),
    [
        ({"days": 400}, "/days", ""),
        ({"month": 0}, "/month", ""),
        ({"sky": "fair"}, "/sky", ""),
        ({"happenings": [{"kind": "snow", "from_h": 9, "to_h": 3}]}, "/happenings/0", "later end"),
        (
            {"happenings": [{"kind": "extra_load", "from_h": 0, "to_h": 3}]},
            "/happenings/0",
            "how many amps",
        ),
        (
            {"happenings": [{"kind": "string_lost", "from_h": 0, "to_h": 3}]},
            "/happenings/0",
            "which panel string",
        ),
    ],
)
def test_a_scene_that_cannot_be_is_refused(
    client: FlaskClient, scene: dict[str, object], pointer: str, words: str
) -> None:
    answer = client.post(f"/api/designs/{new_design(client, QUAY_STREET)}/rehearse", json=scene)
    assert answer.status_code == 422
    fault = answer.get_json()["faults"][0]
    assert fault["pointer"] == pointer
    assert words in fault["message"]


def test_without_a_bank_there_is_no_rehearsal(client: FlaskClient) -> None:
    key = new_design(client, {**QUAY_STREET, "store": {}})
    assert client.get(f"/api/designs/{key}/years").get_json()["report"] is None
    for way in ("rehearse", "trainer", "ration"):
        assert client.post(f"/api/designs/{key}/{way}", json={}).get_json()["report"] is None


def test_the_trainer_a_day_at_a_time(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    ask = {"month": 7, "days": 2, "secret": 3, "evenings": [{"tempo": "listening"}]}
    one = client.post(f"/api/designs/{key}/trainer", json=ask).get_json()["report"]
    assert one["days_played"] == 1
    assert one["whole"] is None
    both = {**ask, "evenings": [{"tempo": "listening"}, {"tempo": "net", "keep": "vital_only"}]}
    end = client.post(f"/api/designs/{key}/trainer", json=both).get_json()["report"]
    assert end["over"]
    assert end["best"]["dark_hours"] <= end["mine"]["dark_hours"]


def test_rationing_and_failures_and_rotation(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    found = client.post(f"/api/designs/{key}/ration", json={"days": 3}).get_json()["report"]
    assert [row["watts"] for row in found["rows"]] == [100.0, 50.0, 25.0, 10.0, 5.0]
    assert client.get(f"/api/designs/{key}/failures").get_json()["report"]["failures"]
    assert client.get(f"/api/designs/{key}/rotation").get_json()["report"] is None


def test_a_map_is_asked_for_made_and_read(client: FlaskClient, cluster: Cluster) -> None:
    key = new_design(client, HARRIER_AS_BUILT)
    asked = client.post(f"/api/designs/{key}/sizing-maps", json={"steps": 8, "years": 1})
    assert asked.status_code == 202
    run = asked.get_json()
    assert run["state"] == "waiting"
    run_worker(cluster.url.rsplit("/", 1)[0] + "/web", once=True)
    done = client.get(f"/api/sizing-maps/{run['id']}").get_json()
    assert done["state"] == "done"
    assert len(done["map"]["watts"]) == len(done["map"]["panels"]) > 1
    assert "Cheapest" in done["map"]["sentence"]
    assert (
        client.post(f"/api/designs/{key}/sizing-maps", json={"steps": 8, "years": 1}).get_json()[
            "id"
        ]
        == run["id"]
    )


def test_a_map_is_drawn_at_once_and_a_long_one_is_not(client: FlaskClient) -> None:
    key = new_design(client, HARRIER_AS_BUILT)
    address = f"/api/designs/{key}/sizing-map"
    drawn = client.post(address, json={"steps": 8, "years": 1}).get_json()
    assert drawn["revision"] == 1
    assert drawn["map"]["here"]["panels"] in drawn["map"]["panels"]
    steeper = client.post(address, json={"steps": 8, "years": 1, "tilt_deg": 65}).get_json()
    assert steeper["map"]["served"] != drawn["map"]["served"]
    refused = client.post(address, json={"years": 30})
    assert refused.status_code == 400
    assert "10 years" in refused.get_json()["title"]


def test_a_map_is_stopped(client: FlaskClient, cluster: Cluster) -> None:
    key = new_design(client, HARRIER_AS_BUILT)
    run = client.post(f"/api/designs/{key}/sizing-maps", json={"steps": 8, "years": 2}).get_json()
    assert (
        client.post(f"/api/sizing-maps/{run['id']}/cancel", json={}).get_json()["state"]
        == "cancelled"
    )
    run_worker(cluster.url.rsplit("/", 1)[0] + "/web", once=True)
    assert client.get(f"/api/sizing-maps/{run['id']}").get_json()["state"] == "cancelled"
    with psycopg.connect(cluster.url.rsplit("/", 1)[0] + "/web") as connection:
        assert connection.execute(
            "select count(*) from procrastinate_jobs where status = 'doing'"
        ).fetchone() == (0,)


@pytest.mark.parametrize(
    ("ask", "pointer"),
    [({"steps": 400}, "/steps"), ({"panel_price_per_w": -1}, "/panel_price_per_w")],
)
def test_a_map_that_cannot_be_is_refused(
    client: FlaskClient, ask: dict[str, object], pointer: str
) -> None:
    answer = client.post(
        f"/api/designs/{new_design(client, HARRIER_AS_BUILT)}/sizing-maps", json=ask
    )
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] == pointer


def test_a_map_nobody_asked_for_is_404(client: FlaskClient) -> None:
    assert client.get(f"/api/sizing-maps/{uuid4()}").status_code == 404
    assert client.post(f"/api/sizing-maps/{uuid4()}/cancel", json={}).status_code == 404


@pytest.mark.parametrize("path", ["rehearse", "ration", "trainer"])
@pytest.mark.parametrize(("month", "day"), [(6, 31), (2, 30), (13, 1)])
def test_a_day_the_month_has_not_is_refused_beside_its_field(
    client: FlaskClient, path: str, month: int, day: int
) -> None:
    answer = client.post(
        f"/api/designs/{new_design(client, QUAY_STREET)}/{path}", json={"month": month, "day": day}
    )
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] in {"/day", "/month"}
