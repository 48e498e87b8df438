"""Contact logs and tables through the API: nothing stored until accepted."""

from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.web.sites import new_design
from yonderstat.demo.quay_street import QUAY_STREET

Json = dict[str, Any]
RECORD = "<CALL:6>QY3KOW<QSO_DATE:8>20250614<TIME_ON:6>183012<BAND:3>40m<MODE:3>SSB<EOR>"


@pytest.fixture
def design(client: FlaskClient) -> Json:
    site = client.post("/api/sites", json={"name": "Shack"}).get_json()
    answer: Json = client.get(f"/api/designs/{site['designs'][0]['id']}").get_json()
    return answer


def test_a_log_becomes_a_tempo_when_accepted(client: FlaskClient, design: Json) -> None:
    digest = client.post(
        "/api/contact-logs/digest", json={"form": "adi", "text": RECORD * 20}
    ).get_json()
    assert digest["contacts"] == 20
    path = f"/api/designs/{design['id']}/logged-tempo"
    answer = client.post(path, json={"activity": digest["activity"]}).get_json()
    assert client.get(f"/api/designs/{design['id']}").get_json()["revision"] == 1
    tempo = answer["proposal"]["tempo"]
    patch = [
        {"op": "add", "path": "/draw/tempos/-", "value": tempo},
        {"op": "replace", "path": "/draw/sized_on", "value": tempo["id"]},
    ]
    after = client.patch(
        f"/api/designs/{design['id']}", json=patch, headers={"If-Match": "1"}
    ).get_json()
    before = design["report"]["working"]["draw.daily_ah"]["value"]
    assert after["report"]["working"]["draw.daily_ah"]["value"] != before
    assert after["report"]["draw"]["tempo"] == "as-logged"


def test_the_assumption_can_be_edited(client: FlaskClient, design: Json) -> None:
    digest = client.post(
        "/api/contact-logs/digest", json={"form": "adi", "text": RECORD}
    ).get_json()
    path = f"/api/designs/{design['id']}/logged-tempo"
    usual = client.post(path, json={"activity": digest["activity"]}).get_json()
    longer = [{**item, "over_s": item["over_s"] * 2} for item in usual["overs"]]
    twice = client.post(path, json={"activity": digest["activity"], "overs": longer}).get_json()
    share = [item["proposal"]["loads"][0]["transmit_share"] for item in (usual, twice)]
    assert share[1] == pytest.approx(2 * share[0])


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("/api/contact-logs/digest", {"form": "adi", "text": ""}),
        ("/api/contact-logs/digest", {"form": "doc", "text": RECORD}),
        ("/api/contact-logs/digest", {"form": "adi", "text": 7}),
        ("{design}/logged-tempo", {"activity": []}),
        ("{design}/logged-tempo", {"activity": [{"day": "x"}]}),
        ("{design}/logged-tempo", {"activity": [["2025-01-01", 1, "40m", "ssb", 1]], "overs": []}),
        ("{design}/loads/read", {"text": None}),
    ],
)
def test_bad_requests_point_at_the_fault(
    client: FlaskClient, design: Json, path: str, body: Json
) -> None:
    answer = client.post(path.replace("{design}", f"/api/designs/{design['id']}"), json=body)
    assert answer.status_code == 422
    assert answer.get_json()["faults"]


def test_the_table_goes_out_and_in(client: FlaskClient, design: Json) -> None:
    file = client.get(f"/api/designs/{design['id']}/loads.csv")
    assert file.mimetype == "text/csv"
    path = f"/api/designs/{design['id']}/loads/read"
    table = client.post(path, json={"text": file.get_data(as_text=True)}).get_json()
    assert table["faults"] == []
    assert [load["name"] for load in table["loads"]] == [
        load["name"] for load in design["document"]["draw"]["loads"]
    ]
    refused = client.post(path, json={"text": "name,receive_a\nHF,lots"}).get_json()
    assert refused["faults"][0]["line"] == 2


def test_the_catalogue_offers_every_kind(client: FlaskClient) -> None:
    catalogue = client.get("/api/catalogue").get_json()
    assert len(catalogue["load_kinds"]) == 14
    assert all(item["load"]["receive_a"]["basis"] == "default" for item in catalogue["load_kinds"])
    assert {"regulated", "usb", "inverter"} <= {rail["id"] for rail in catalogue["usual_rails"]}


def test_a_spreadsheet_of_loads_goes_out_and_comes_back(client: FlaskClient) -> None:
    """The ledger as ODS → as text with tabs → read again: the same loads."""
    key = new_design(client, QUAY_STREET)
    ods = client.get(f"/api/designs/{key}/loads.ods").data
    octets = "application/octet-stream"
    text = client.post("/api/tables/text?name=loads.ods", data=ods, content_type=octets).get_json()[
        "text"
    ]
    table = client.post(f"/api/designs/{key}/loads/read", json={"text": text}).get_json()
    assert table["faults"] == []
    assert [load["name"] for load in table["loads"]] == [
        load["name"] for load in QUAY_STREET["draw"]["loads"]
    ]
    refused = client.post(
        "/api/tables/text?name=loads.ods", data=b"PK\x03\x04", content_type=octets
    )
    assert refused.status_code == 422
