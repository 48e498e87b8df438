"""Weather files and towns through the API."""

from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.formats.test_weather_files import changed, epw_year
from tests.typical_years import GREENSBORO, text_of
from yonderstat.demo.quay_street import QUAY_STREET


def read(client: FlaskClient, name: str, text: str) -> Any:
    return client.post(
        "/api/weather-files/read",
        query_string={"name": name},
        data=text.encode(),
        content_type="application/octet-stream",
    )


def test_a_file_is_read_shown_and_taken(client: FlaskClient) -> None:
    got = read(client, GREENSBORO, text_of(GREENSBORO)).get_json()
    assert [month["days"] for month in got["months"]] == [
        31,
        28,
        31,
        30,
        31,
        30,
        31,
        31,
        30,
        31,
        30,
        31,
    ]
    assert 2.0 < got["months"][0]["mean_kwh_m2"] < 3.0
    document = {**QUAY_STREET, "place": {"latitude_deg": 36.1, "longitude_deg": -79.95}}
    document["sun"] = {"source": "record", "record": got["record"]}
    report = client.post("/api/evaluate", json=document).get_json()
    assert "GREENSBORO" in report["sun"]["provenance"]


def test_a_bad_file_is_a_problem_with_its_line(client: FlaskClient) -> None:
    answer = read(client, "valley.epw", changed(20, ",500.0,", ",-900,"))
    assert answer.status_code == 422
    fault = answer.get_json()["faults"][0]
    assert fault["pointer"] == "/upload"
    assert fault["message"].startswith("valley.epw: line 20 has -900 W/m²")


def test_a_huge_file_is_refused(client: FlaskClient) -> None:
    answer = read(client, "valley.epw", epw_year() + " " * 3_500_000)
    assert answer.status_code == 413
    assert (
        answer.get_json()["title"] == "That is over 3.5 MB"
        or answer.get_json()["title"] == "That is over 4 MB"
    )


def test_a_file_that_is_no_text_is_refused_with_its_line(client: FlaskClient) -> None:
    answer = client.post(
        "/api/weather-files/read?name=photo.epw",
        data=b"one\ntwo \xff",
        content_type="application/octet-stream",
    )
    assert answer.status_code == 422
    assert "photo.epw: line 2 isn't UTF-8 text" in answer.get_json()["detail"]


@pytest.mark.parametrize("kind", ["application/json", "text/plain", "multipart/form-data"])
def test_a_file_sent_as_something_else_is_refused(client: FlaskClient, kind: str) -> None:
    assert client.post("/api/weather-files/read", data=b"{}", content_type=kind).status_code == 415


@pytest.mark.parametrize("text", ["", "x", "Timaru"])
def test_towns_answer_even_with_an_empty_gazetteer(client: FlaskClient, text: str) -> None:
    answer = client.get("/api/towns", query_string={"text": text})
    assert answer.status_code == 200
    assert answer.get_json() == []


@pytest.mark.parametrize(
    ("near", "status"),
    [("", 200), ("-43.9,171.7", 200), ("here", 400), ("91,0", 400), ("1,2,3", 400), ("nan,0", 400)],
)
def test_towns_are_asked_for_from_a_place_on_earth(
    client: FlaskClient, near: str, status: int
) -> None:
    answer = client.get("/api/towns", query_string={"text": "Timaru", "near": near})
    assert answer.status_code == status


def test_a_record_that_is_none_is_refused(client: FlaskClient) -> None:
    answer = client.post("/api/evaluate", json={**QUAY_STREET, "sun": {"source": "record"}})
    assert answer.status_code == 422
    assert "load one first" in answer.get_json()["faults"][0]["message"]


def test_a_zone_nobody_knows_is_refused(client: FlaskClient) -> None:
    place = {"latitude_deg": 1.0, "longitude_deg": 1.0, "time_zone": "Mars/Olympus"}
    answer = client.post("/api/evaluate", json={**QUAY_STREET, "place": place})
    assert answer.status_code == 422
    assert "Pacific/Auckland" in answer.get_json()["faults"][0]["message"]
