"""Tests, meters' records and upkeep over the API: kept with the site, refused whole, out as a
calendar."""

from datetime import UTC, date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from flask.testing import FlaskClient
from icalendar import Calendar

from tests.web.sites import new_design
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.jobs import run_worker

TEST = {
    "kind": "discharge",
    "subject": "bank",
    "values": {"amps": 5.0, "hours": 12.0, "end_v": 10.5},
}


def bring(
    client: FlaskClient, key: str, text: str | bytes, columns: str = "", name: str = "log.csv"
) -> Any:
    data = text.encode() if isinstance(text, str) else text
    path = f"/api/designs/{key}/record?name={name}" + (f"&columns={columns}" if columns else "")
    return client.post(path, data=data, content_type="application/octet-stream")


def by_the_minute(days: int, start: str = "2026-06-01T00:00:00") -> str:
    """Volts, charge and load of some days, a row a minute."""
    first = datetime.fromisoformat(start)
    rows = ["Timestamp,Battery V,Charge A,Load A"]
    for minute in range(days * 1440):
        at, hour = first + timedelta(minutes=minute), minute / 60 % 24
        sun = max(0.0, float(np.sin((hour - 6) / 12 * np.pi)))
        rows.append(f"{at:%Y-%m-%d %H:%M:%S},{12.6 + sun / 2:.2f},{3 * sun:.3f},1.2")
    return "\n".join(rows) + "\n"


def test_a_discharge_test_stands_in_the_log_and_changes_the_design_at_a_press(
    client: FlaskClient,
) -> None:
    key = new_design(client, QUAY_STREET)
    offered = {item["id"]: item for item in client.get(f"/api/designs/{key}/tests").get_json()}
    assert offered["discharge"]["subjects"][0]["expects"][0]["unit"] == "V"
    added = client.post(f"/api/designs/{key}/tests", json=TEST | {"who": "QY"}).get_json()
    assert added["said"] == (
        "Discharge test, The battery: load current 5 A, hours it lasted 12 h, stop at these "
        "volts, load still on 10.5 V"
    )
    patch = added["change"]["patch"]
    design = client.patch(f"/api/designs/{key}", json=patch, headers={"If-Match": "1"}).get_json()
    assert design["document"]["store"]["bank"]["tested_ah"]["basis"] == "measured"
    # Read against the changed design the same test agrees.
    reading = client.get(f"/api/designs/{key}/log").get_json()["readings"][0]
    assert "This agrees with the plan" in reading["words"]


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"values": {"amps": 5.0, "hours": 12.0}}, "/values/end_v"),
        ({"values": {"amps": 5.0, "hours": 12.0, "end_v": 10.5, "watts": 3.0}}, "/values/watts"),
        ({"subject": "nothing"}, "/subject"),
        ({"kind": "nothing"}, "/subject"),
        ({"values": {"amps": -1.0, "hours": 12.0, "end_v": 10.5}}, "/values/amps"),
    ],
)
def test_a_test_that_is_none_is_refused_beside_its_figure(
    client: FlaskClient, change: dict, pointer: str
) -> None:
    key = new_design(client, QUAY_STREET)
    answer = client.post(f"/api/designs/{key}/tests", json=TEST | change)
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] == pointer
    assert client.get(f"/api/designs/{key}/log").get_json()["total"] == 0


def test_a_line_sent_twice_under_a_key_is_kept_once(client: FlaskClient) -> None:
    """As a phone does that did not hear the first answer."""
    key = new_design(client, QUAY_STREET)
    body, headers = {"said": "12.9 rest 4h"}, {"Idempotency-Key": "phone-1"}
    first, again = (
        client.post(f"/api/designs/{key}/log", json=body, headers=headers).get_json()
        for _ in range(2)
    )
    assert first["id"] == again["id"]
    client.post(f"/api/designs/{key}/log", json=body)
    assert client.get(f"/api/designs/{key}/log").get_json()["total"] == 2


def test_a_record_comes_in_once_and_is_summed_by_day(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    text = by_the_minute(3)
    first = bring(client, key, text).get_json()
    assert (first["rows"], first["new"]) == (4320, 4320)
    assert bring(client, key, text).get_json()["new"] == 0
    record = client.get(f"/api/designs/{key}/record").get_json()
    assert (record["span"]["rows"], record["days"]) == (4320, 3)
    compared = {item["label"]: item for item in record["fit"]["compared"]}
    assert compared["Used per day"]["measured"] == pytest.approx(28.8, abs=0.1)
    # 3 A at noon, a half sine of twelve hours: 3 · 24 / π amp-hours.
    assert compared["Charge taken from the panels per day"]["measured"] == pytest.approx(
        3 * 24 / np.pi, rel=0.01
    )
    series = client.get(f"/api/designs/{key}/series?channel=volts").get_json()["series"]
    assert len(series["at"]) <= 800
    assert min(series["low"]) == pytest.approx(12.6, abs=0.01)
    assert max(series["high"]) == pytest.approx(13.1, abs=0.01)


def test_times_are_the_sites_clock(client: FlaskClient) -> None:
    """Midnight in New Zealand's winter is noon the day before in UTC."""
    key = new_design(client, QUAY_STREET)
    bring(client, key, "time,volts\n2026-07-10 00:00,12.5\n2026-07-10 01:00,12.4\n")
    record = client.get(f"/api/designs/{key}/record").get_json()
    assert record["span"]["first"] == "2026-07-09T12:00:00Z"


@pytest.mark.parametrize(
    ("text", "columns", "said"),
    [
        (
            "time,volts\n2026-07-10 00:00,12.5\n2026-07-10 01:00,abc\n",
            "",
            "line 3, column “volts”: “abc” isn't a number",
        ),
        ("time,volts\n2026-07-10 00:00,1265\n", "", "line 2, column “volts”: 1265 can't be volts"),
        ("time,volts\nyesterday,12.5\n", "", "line 2, column “time”: “yesterday” isn't a time"),
        (
            "time,volts\n2026-07-10 09:00,12.5\n2026-07-09 09:00,12.4\n",
            "",
            "line 3: the time jumps back by 24.0 hours",
        ),
        ("time,volts\n", "", "has a heading but no rows"),
        ("a,b\n1,2\n", "", "choose the time column"),
        (
            "time,volts\n2026-07-10 00:00,12.5\n",
            "time,volts,load_a",
            "has 2 columns, but you named 3",
        ),
        ("time,volts\n2026-07-10 00:00,12.5\n", "time,watts", "a column can't be “watts”"),
        (
            "time,v,w\n2026-07-10,1,2\n",
            "time,volts,volts",
            "two columns have the same meaning; choose one",
        ),
    ],
)
def test_a_record_with_a_fault_is_refused_whole(
    client: FlaskClient, text: str, columns: str, said: str
) -> None:
    key = new_design(client, QUAY_STREET)
    answer = bring(client, key, text, columns)
    assert answer.status_code == 422
    assert said in answer.get_json()["faults"][0]["message"]
    assert client.get(f"/api/designs/{key}/record").get_json()["span"]["rows"] == 0


@pytest.mark.parametrize(
    ("text", "volts"),
    [
        ("Date Time;Batt V\n10.07.2026 08:00;12,65\n10.07.2026 09:00;12,60\n", 12.65),
        ("epoch\tbattery mV\n1783670400\t12650\n1783674000\t12600\n", 12.65),
        (
            (
                "when,bank volts\n2026-07-10T08:00:00+12:00,12.65 "
                "V\n2026-07-10T09:00:00+12:00,12.60 V\n"
            ),
            12.65,
        ),
    ],
)
def test_headings_units_and_commas_are_understood(
    client: FlaskClient, text: str, volts: float
) -> None:
    key = new_design(client, QUAY_STREET)
    assert bring(client, key, text).status_code == 200
    series = client.get(f"/api/designs/{key}/series?channel=volts").get_json()["series"]
    assert series["mean"][0] == pytest.approx(volts, abs=0.01)


def test_a_file_is_looked_at_before_it_comes_in(client: FlaskClient) -> None:
    heads = "Time stamp,Battery voltage,Solar current (A),Load current (A),Box temp,State of charge"
    data = f"{heads}\n2026-07-10,1,2,3,4,5\n".encode()
    look = client.post(
        "/api/records/look?name=log.csv", data=data, content_type="application/octet-stream"
    ).get_json()
    taken = [column["taken_for"] for column in look["columns"]]
    assert taken == ["time", "volts", "charge_a", "load_a", "box_c", "charge_share"]
    assert look["trouble"] == ""
    octets = "application/octet-stream"
    unknown = client.post("/api/records/look?name=x.csv", data=b"a,b\n1,2\n", content_type=octets)
    assert "Choose it below" in unknown.get_json()["trouble"]


def test_repeated_moments_and_gaps_are_said(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    text = "time,volts\n2026-07-10 00:00,12.5\n2026-07-10 00:00,12.4\n2026-07-10 09:00,12.3\n"
    brought = bring(client, key, text).get_json()
    assert brought["new"] == 2
    assert "1 repeated time left out; we keep the first row of each" in brought["notes"]
    assert "1 gap of more than two hours" in brought["notes"]


def test_upkeep_that_is_done_is_due_later_and_goes_to_a_calendar(client: FlaskClient) -> None:
    key = new_design(client, PACKHORSE)
    before = client.get(f"/api/designs/{key}/upkeep").get_json()
    assert all(item["last"] is None for item in before["due"])
    today = date.today().isoformat()
    done = client.post(
        f"/api/designs/{key}/upkeep", json={"task": "glass", "done_on": today, "who": "QY"}
    ).get_json()
    after = {
        item["task"]: item for item in client.get(f"/api/designs/{key}/upkeep").get_json()["due"]
    }
    assert after["glass"]["overdue_days"] < -80
    calendar = Calendar.from_ical(client.get(f"/api/designs/{key}/upkeep.ics").data)
    events = {str(event["summary"]): event for event in calendar.walk("VEVENT")}
    glass = events["Here: Clean the panel glass"]
    assert glass["dtstart"].dt.isoformat() == after["glass"]["due"]
    assert len({str(event["uid"]) for event in events.values()}) == len(after)
    headers = {"Content-Type": "application/json"}
    assert client.delete(f"/api/upkeep/{done['id']}", headers=headers).status_code == 204
    assert client.get(f"/api/designs/{key}/upkeep").get_json()["done"] == []


@pytest.mark.parametrize(
    ("body", "pointer"),
    [
        ({"task": "water", "done_on": "2026-01-01", "who": "QY"}, "/task"),
        ({"task": "glass", "done_on": "soon", "who": "QY"}, "/done_on"),
        ({"task": "glass", "done_on": "2999-01-01", "who": "QY"}, "/done_on"),
        ({"task": "glass", "done_on": "2026-01-01", "who": ""}, "/who"),
    ],
)
def test_upkeep_that_cannot_be_is_refused(client: FlaskClient, body: dict, pointer: str) -> None:
    key = new_design(client, PACKHORSE)
    answer = client.post(f"/api/designs/{key}/upkeep", json=body)
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["pointer"] == pointer


def test_the_clubs_file_holds_tests_records_and_upkeep(client: FlaskClient) -> None:
    key = new_design(client, PACKHORSE)
    client.post(f"/api/designs/{key}/tests", json=TEST)
    client.post(
        f"/api/designs/{key}/upkeep", json={"task": "glass", "done_on": "2026-01-01", "who": "QY"}
    )
    bring(client, key, by_the_minute(1))
    site = client.get(f"/api/designs/{key}").get_json()["site_id"]
    data = client.get("/api/club.zip").data
    before = [
        client.get(f"/api/designs/{key}/{what}").get_json() for what in ("log", "record", "upkeep")
    ]
    # All of it is lost, and brought in again.
    client.delete(f"/api/designs/{key}/record", headers={"Content-Type": "application/json"})
    assert client.get(f"/api/designs/{key}/record").get_json()["span"]["rows"] == 0
    back = client.post("/api/club?name=c.zip", data=data, content_type="application/octet-stream")
    assert back.status_code == 200, back.get_json()
    assert [
        client.get(f"/api/designs/{key}/{what}").get_json() for what in ("log", "record", "upkeep")
    ] == before
    assert site in str(client.get("/api/sites").get_json())


def test_tests_together_and_noise_by_band_stand_in_the_log(client: FlaskClient) -> None:
    key = new_design(client, PACKHORSE)

    def test(kind: str, subject: str, **values: float) -> None:
        body = {"kind": kind, "subject": subject, "values": values}
        assert client.post(f"/api/designs/{key}/tests", json=body).status_code == 200

    noisy = client.get(f"/api/designs/{key}/tests").get_json()
    subject = next(item for item in noisy if item["id"] == "noise")["subjects"][0]["id"]
    test("discharge", "bank", amps=5.0, hours=13.0, end_v=10.5)
    test("discharge", "bank", amps=21.0, hours=2.2, end_v=10.4)
    test("noise", subject, band_mhz=7.1, off=3.0, on=7.0)
    test("noise", subject, band_mhz=7.1, off=3.0, on=5.0)
    test("noise", subject, band_mhz=14.1, off=2.0, on=9.0)
    log = client.get(f"/api/designs/{key}/log").get_json()
    assert [(row["band_mhz"], row["added_db"]) for row in log["noise"]] == [
        (14.1, 42.0),
        (7.1, 12.0),
    ]
    assert len(log["held"]) == 2
    assert log["held"][0]["held_ah"] > 0
    assert log["exponent"]["change"]["patch"][0]["path"] == "/store/bank/peukert_k"


def test_a_long_rest_read_at_both_ends_says_what_it_cost(client: FlaskClient) -> None:
    key = new_design(client, PACKHORSE)
    for said, at in (
        ("12.75 rest 6h", "2026-05-01T08:00:00+12:00"),
        ("12.2 rest 720h", "2026-05-31T08:00:00+12:00"),
    ):
        client.post(f"/api/designs/{key}/log", json={"said": said, "taken_at": at})
    words = [
        notice["words"] for notice in client.get(f"/api/designs/{key}/log").get_json()["notices"]
    ]
    assert any("At rest, the battery lost" in told for told in words)


def test_a_long_record_is_told_day_by_day_by_the_sites_clock(client: FlaskClient) -> None:
    """Sixty days across the end of summer time in New Zealand (5 April 2026): each bucket begins at
    midnight there, and holds the least, the mean and the most of its day."""
    key = new_design(client, PACKHORSE)
    zone = ZoneInfo("Pacific/Auckland")
    first = datetime(2026, 3, 10, 0, 30, tzinfo=zone).astimezone(UTC)
    rows = ["time,volts"]
    for hour in range(60 * 24):
        at = first + timedelta(hours=hour)
        clock = at.astimezone(zone)
        rows.append(f"{at:%Y-%m-%dT%H:%M:%SZ},{12 + clock.hour / 10:.1f}")
    bring(client, key, "\n".join(rows) + "\n")
    found = client.get(f"/api/designs/{key}/series?channel=volts").get_json()["series"]
    begins = [datetime.fromisoformat(text).astimezone(zone) for text in found["at"]]
    assert all((begin.hour, begin.minute) == (0, 0) for begin in begins)
    days = [begin.date() for begin in begins]
    assert days == [date(2026, 3, 10) + timedelta(days=day) for day in range(len(days))]
    assert len(days) in {60, 61}
    whole = slice(1, 59)
    assert set(found["low"][whole]) == {12.0}
    assert found["high"][whole] == pytest.approx([14.3] * 58, abs=1e-5)
    assert found["mean"][whole] == pytest.approx([13.15] * 58, abs=0.06)


def test_a_meter_and_a_hand_that_disagree_are_said_and_the_plan_lies_under_the_record(
    client: FlaskClient,
) -> None:
    key = new_design(client, PACKHORSE)
    bring(client, key, by_the_minute(32))
    reading = {"said": "12.05 rest 6h", "taken_at": "2026-06-03T03:00:00+12:00"}
    client.post(f"/api/designs/{key}/log", json=reading)
    words = [
        notice["words"] for notice in client.get(f"/api/designs/{key}/log").get_json()["notices"]
    ]
    assert any("You measured 12.05 V; the recorded meter showed 12.60 V" in told for told in words)
    assert any(
        "The battery has not been full for 30 days: it reached 13.1 V" in told for told in words
    )
    series = client.get(f"/api/designs/{key}/series?channel=volts").get_json()
    planned = series["planned"]
    assert len(planned["low"]) == len(planned["middle"]) == len(series["series"]["at"])
    assert all(
        10.0 < low <= high < 15.5 for low, high in zip(planned["low"], planned["high"], strict=True)
    )


def test_a_record_without_a_sample_in_the_small_hours_is_read(client: FlaskClient) -> None:
    """Plan against measured answered 500 for ever, after an upload that said 200."""
    key = new_design(client, QUAY_STREET)
    rows = [
        f"2026-07-{day:02d} {hour:02d}:00,12.8,{max(0, 13 - hour) / 4:.1f},1.1"
        for day in range(1, 9)
        for hour in range(5, 24)
    ]
    assert (
        bring(client, key, "Time,Battery V,Charge A,Load A\n" + "\n".join(rows)).status_code == 200
    )
    found = client.get(f"/api/designs/{key}/record").get_json()
    assert found["span"]["rows"] == len(rows)
    assert found["trouble"] == ""


def test_a_record_that_brings_out_a_fault_leaves_the_page_alive(
    client: FlaskClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    key = new_design(client, QUAY_STREET)
    assert bring(client, key, by_the_minute(2)).status_code == 200
    monkeypatch.setattr("yonderstat.web.record_tools.days_of", lambda record: [][1])
    answer = client.get(f"/api/designs/{key}/record")
    assert answer.status_code == 200
    assert answer.get_json()["trouble"].startswith("IndexError")
    assert answer.get_json()["span"]["rows"] == 2880


def test_a_record_of_over_four_megabytes_comes_in(client: FlaskClient) -> None:
    """The limit is the operation's own: a guard for designs stopped every body at 4 MB."""
    key = new_design(client, QUAY_STREET)
    text = by_the_minute(100)
    assert len(text) > 4_500_000
    brought = bring(client, key, text)
    assert brought.status_code == 200
    assert brought.get_json()["new"] == 144_000
    design = client.patch(
        f"/api/designs/{key}", data=b" " * 4_100_000, content_type="application/json"
    )
    assert design.status_code == 413


def look_through(client: FlaskClient, key: str, text: str, **query: str) -> Any:
    path = f"/api/designs/{key}/record-imports"
    words = {"name": "log.csv", **query}
    octets = "application/octet-stream"
    return client.post(path, query_string=words, data=text.encode(), content_type=octets)


def worked(client: FlaskClient, run_id: str) -> Any:
    """What the worker makes of it."""
    run_worker(client.application.config["DATABASE_URL"], once=True)
    return client.get(f"/api/record-imports/{run_id}").get_json()


def test_a_record_is_looked_through_by_the_worker_and_then_brought_in(client: FlaskClient) -> None:
    """What is left out is said before anything is kept."""
    key = new_design(client, QUAY_STREET)
    started = look_through(client, key, by_the_minute(3) + "2026-06-03 23:59:00,12.6,0,1\n")
    assert started.status_code == 202
    run = started.get_json()
    looked = worked(client, run["id"])
    assert (looked["state"], looked["stored"], looked["rows"], looked["new"]) == (
        "done",
        False,
        4320,
        None,
    )
    assert any("repeated time" in note for note in looked["notes"])
    assert client.get(f"/api/designs/{key}/record").get_json()["span"]["rows"] == 0
    assert client.post(f"/api/record-imports/{run['id']}/store", json={}).status_code == 202
    kept = worked(client, run["id"])
    assert (kept["stored"], kept["new"]) == (True, 4320)
    assert client.get(f"/api/designs/{key}/record").get_json()["span"]["rows"] == 4320


def test_a_record_with_a_fault_is_told_by_the_worker_with_its_line(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    run = look_through(client, key, by_the_minute(1) + "2026-06-02 00:00:00,much,0,1\n").get_json()
    looked = worked(client, run["id"])
    assert "line 1442" in looked["refused"]
    assert client.post(f"/api/record-imports/{run['id']}/store", json={}).status_code == 409


def test_dates_that_are_open_are_asked_and_then_read_as_said(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    text = "Time,Volts\n03/04/2026 12:00,12.5\n04/04/2026 12:00,12.5\n"
    run = look_through(client, key, text).get_json()
    assert "3 April 2026 or 4 March 2026" in worked(client, run["id"])["refused"]
    run = look_through(client, key, text, dates="month_first").get_json()
    assert worked(client, run["id"])["first"].startswith("2026-03-03T23:00")


def test_a_stopped_record_keeps_nothing(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    run = look_through(client, key, by_the_minute(1)).get_json()
    assert (
        client.post(f"/api/record-imports/{run['id']}/cancel", json={}).get_json()["state"]
        == "cancelled"
    )
    assert worked(client, run["id"])["state"] == "cancelled"


def test_a_file_that_was_wrongly_brought_in_is_taken_back_whole(client: FlaskClient) -> None:
    key = new_design(client, QUAY_STREET)
    bring(client, key, by_the_minute(1))
    wrong = bring(client, key, by_the_minute(1, "2026-08-01T00:00:00"), name="wrong.csv").get_json()
    files = client.get(f"/api/designs/{key}/record-imports").get_json()
    assert [(item["name"], item["rows"]) for item in files] == [
        ("wrong.csv", 1440),
        ("log.csv", 1440),
    ]
    path = f"/api/designs/{key}/record-imports?file={wrong['import_id']}"
    assert client.delete(path, json={}).get_json()["rows"] == 1440
    assert client.get(f"/api/designs/{key}/record").get_json()["span"]["rows"] == 1440
    assert client.delete(path, json={}).status_code == 404
