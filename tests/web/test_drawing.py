"""The one-line diagram over the API, and what is typed of a run."""

from xml.etree import ElementTree

from flask.testing import FlaskClient

from tests.web.sites import new_design
from yonderstat.demo.quay_street import QUAY_STREET


def test_the_drawing_is_svg_in_the_units_asked_for(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    metric, feet = (
        client.get(f"/api/designs/{key}/drawing?length={length}") for length in ("metric", "feet")
    )
    for answer in (metric, feet):
        assert answer.status_code == 200
        assert answer.mimetype == "image/svg+xml"
        ElementTree.fromstring(answer.get_data(as_text=True))
    assert "mm²" in metric.get_data(as_text=True)
    assert " ft" in feet.get_data(as_text=True)
    assert metric.headers["Content-Disposition"].endswith('.svg"')


def test_units_nobody_knows_are_refused(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    assert client.get(f"/api/designs/{key}/drawing?length=cubits").status_code == 400
    assert client.get(f"/api/designs/{key}/drawing").status_code == 400


def test_a_run_typed_for_the_first_time_is_a_row_and_moves_the_volts(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    view = client.get(f"/api/designs/{key}").get_json()

    def volts(seen: dict[str, dict[str, dict[str, dict[str, float]]]]) -> float:
        return seen["report"]["working"]["bus.volts.lights.rx-end"]["value"]

    row = {"id": "load-lights", "length_m": {"value": 12.0, "basis": "stated"}}
    operations = [{"op": "add", "path": "/bus/runs/-", "value": row}]
    edited = client.patch(
        f"/api/designs/{key}", json=operations, headers={"If-Match": str(view["revision"])}
    )
    assert edited.status_code == 200
    assert volts(edited.get_json()) < volts(view)


def test_a_run_of_less_than_no_length_is_a_fault_at_its_field(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    operations = [
        {
            "op": "replace",
            "path": "/bus/runs/0/length_m",
            "value": {"value": -1.0, "basis": "stated"},
        }
    ]
    answer = client.patch(f"/api/designs/{key}", json=operations, headers={"If-Match": "1"})
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] == "/bus/runs/0/length_m/value"
