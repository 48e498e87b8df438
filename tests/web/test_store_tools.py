"""What the Store step is asked on the spot."""

import pytest
from flask.testing import FlaskClient

from tests.web.sites import new_design
from yonderstat.demo.patrol import PATROL_2
from yonderstat.demo.quay_street import QUAY_STREET


def test_a_reading_on_the_flat_part_is_a_range(client: FlaskClient) -> None:
    """[P] recorded cell model: 40–70 % of LiFePO4 spans 0.09 V."""
    key = new_design(client, QUAY_STREET)
    flat = client.get(f"/api/designs/{key}/rest?volts=13.08").get_json()
    assert flat["high_share"] - flat["low_share"] > 0.15
    assert "hardly changes" in flat["words"]
    assert flat["rest_h"] == 3.0
    assert client.get(f"/api/designs/{key}/rest?volts=13.6").get_json()["words"] == "Full."
    assert client.get(f"/api/designs/{key}/rest?volts=9").get_json()["words"].startswith("Empty")


def test_a_reading_that_has_not_rested_says_less(client: FlaskClient) -> None:
    """[C] a charge leaves up to 0.3 V on top of what a battery rests at."""
    key = new_design(client, PATROL_2)
    rested, fresh = (
        client.get(f"/api/designs/{key}/rest?volts=13.0&rested={word}").get_json()
        for word in ("yes", "no")
    )
    assert fresh["low_share"] < rested["low_share"]
    assert fresh["high_share"] >= rested["high_share"]
    assert "then read again" in fresh["words"]
    assert client.get(f"/api/designs/{key}/rest?volts=13.0&rested=maybe").status_code == 422


def test_hours_to_full(client: FlaskClient) -> None:
    """[C] 0.2 C fills lithium in about five hours; half of it in half the time."""
    key = new_design(client, QUAY_STREET)
    whole = client.get(f"/api/designs/{key}/charge?amps=20&from_share=0").get_json()
    half = client.get(f"/api/designs/{key}/charge?amps=20&from_share=0.5").get_json()
    assert whole["bulk_h"] + whole["tail_h"] == pytest.approx(5.0, abs=0.3)
    assert half["bulk_h"] < 0.55 * whole["bulk_h"]


def test_frozen_lithium_takes_nothing(client: FlaskClient) -> None:
    key = new_design(client, PATROL_2)
    told = client.get(f"/api/designs/{key}/charge?amps=25&from_share=0.2").get_json()
    assert told["bulk_h"] is None
    assert "must not be charged" in told["words"]


@pytest.mark.parametrize(
    "query", ["rest?volts=lots", "rest?volts=-1", "charge?amps=nan&from_share=0"]
)
def test_nonsense_is_refused_beside_its_field(client: FlaskClient, query: str) -> None:
    answer = client.get(f"/api/designs/{new_design(client, QUAY_STREET)}/{query}")
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] in {"/volts", "/amps"}


def test_without_a_bank_there_is_nothing_to_ask(client: FlaskClient) -> None:
    key = new_design(client, {**QUAY_STREET, "store": {}})
    assert client.get(f"/api/designs/{key}/rest?volts=12").status_code == 409
