"""One edit, one row or one file never takes the app away from anybody."""

import json
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import psycopg
import pytest
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import event
from sqlalchemy.exc import OperationalError

from tests.conftest import Cluster
from tests.web.sites import new_design
from yonderstat.core import first_look
from yonderstat.core.design import Design
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.jobs import judge_waiting, judging
from yonderstat.records import Archive, edition, open_engine
from yonderstat.web import judged
from yonderstat.web.pages import UI_VARIABLE, register_pages

Json = dict[str, Any]
RAISE = "cannot be worked out"


@pytest.fixture
def design(client: FlaskClient) -> Json:
    answer: Json = client.get(f"/api/designs/{new_design(client, QUAY_STREET)}").get_json()
    return answer


@pytest.fixture
def raising(monkeypatch: pytest.MonkeyPatch) -> None:
    """As if judging had a fault that a design of this name brings out."""

    def judged_or_not(design: Design) -> Any:
        if design.name == RAISE:
            raise ZeroDivisionError("float division by zero")
        return first_look(design)

    monkeypatch.setattr(judging, "first_look", judged_or_not)
    judged._reports.clear()


def patch(client: FlaskClient, design: Json, operations: list[Json], revision: int = 1) -> Any:
    return client.patch(
        f"/api/designs/{design['id']}", json=operations, headers={"If-Match": str(revision)}
    )


def rename(name: str) -> list[Json]:
    return [{"op": "replace", "path": "/name", "value": name}]


@pytest.fixture
def database(cluster: Cluster) -> Any:
    with psycopg.connect(cluster.url.rsplit("/", 1)[0] + "/web", autocommit=True) as connection:
        yield connection


# One edit


def test_an_edit_that_cannot_be_judged_is_not_stored_and_says_so(
    client: FlaskClient, design: Json, raising: None
) -> None:
    answer = patch(client, design, rename(RAISE))
    assert answer.status_code == 500
    assert answer.get_json()["title"] == "We can't work out this design, so nothing was saved"
    after = client.get(f"/api/designs/{design['id']}").get_json()
    assert (after["revision"], after["document"]) == (1, design["document"])
    assert client.get("/api/sites").status_code == 200
    assert patch(client, design, rename("fine")).status_code == 200


@pytest.mark.usefixtures("raising")
def test_a_stored_design_that_cannot_be_judged_stays_open_undoable_and_exportable(
    client: FlaskClient, design: Json, database: psycopg.Connection[Any]
) -> None:
    """As after an update of the program whose computation trips over a design that was fine
    before."""
    assert patch(client, design, rename("other")).status_code == 200
    database.execute(
        "update revisions set document = jsonb_set(document, '{name}', %s) where number = 2",
        (f'"{RAISE}"',),
    )
    judged._reports.clear()
    problem = client.get(f"/api/designs/{design['id']}")
    assert problem.status_code == 500
    assert problem.get_json()["current_revision"] == 2
    assert "float division by zero" in problem.get_json()["detail"]
    assert json.loads(client.get(f"/api/designs/{design['id']}/file").data)["name"] == RAISE
    undone = client.post(f"/api/designs/{design['id']}/undo", json={}, headers={"If-Match": "2"})
    assert undone.status_code == 200
    assert undone.get_json()["document"] == design["document"]


def test_an_undo_into_what_cannot_be_judged_tells_where_it_is(
    client: FlaskClient, design: Json, database: psycopg.Connection[Any], raising: None
) -> None:
    assert patch(client, design, rename("other")).status_code == 200
    database.execute(
        "update revisions set document = jsonb_set(document, '{name}', %s) where number = 1",
        (f'"{RAISE}"',),
    )
    database.execute("update revisions set line = null, line_by = null where number = 1")
    answer = client.post(f"/api/designs/{design['id']}/undo", json={}, headers={"If-Match": "2"})
    assert answer.status_code == 500
    assert answer.get_json()["current_revision"] == 3
    assert "stored" not in answer.get_json()["title"]
    line = client.get("/api/sites").get_json()[0]
    assert "float division by zero" in line["trouble"]
    assert (
        client.post(
            f"/api/designs/{design['id']}/redo", json={}, headers={"If-Match": "3"}
        ).status_code
        == 200
    )


@pytest.mark.parametrize(
    "document", ['{"format": "yonderstat-design", "version": 99}', '{"name": 7}', "[]", '"text"']
)
def test_one_bad_row_breaks_no_list(
    client: FlaskClient, design: Json, database: psycopg.Connection[Any], document: str
) -> None:
    other = new_design(client, QUAY_STREET)
    database.execute(
        "update revisions set document = %s, line = null, line_by = null where design_id = %s",
        (document, design["id"]),
    )
    lines = client.get("/api/sites").get_json()
    assert [bool(line["summary"]) for line in lines] == [False, True]
    assert client.get(f"/api/sites/{design['site_id']}").status_code == 200
    assert client.get(f"/api/designs/{other}").status_code == 200
    problem = client.get(f"/api/designs/{design['id']}")
    assert problem.status_code == 409
    assert problem.get_json()["title"] == "This design can't be read"
    assert problem.get_json()["current_revision"] == 1
    assert client.get(f"/api/designs/{design['id']}/file").get_json() == json.loads(document)
    archive = Archive(open_engine(client.application.config["DATABASE_URL"]))
    assert judge_waiting(archive) == 1
    assert "cannot be read" in client.get("/api/sites").get_json()[0]["trouble"]


def test_lines_of_another_program_are_shown_and_judged_again(
    client: FlaskClient, design: Json, database: psycopg.Connection[Any]
) -> None:
    fresh = client.get("/api/sites").get_json()[0]["summary"]
    database.execute(
        """update revisions set line_by = 'older', line = jsonb_set(line, '{summary,headline}', '"Old."')"""
    )
    assert client.get("/api/sites").get_json()[0]["summary"]["headline"] == "Old."
    archive = Archive(open_engine(client.application.config["DATABASE_URL"]))
    assert judge_waiting(archive) == 1
    assert client.get("/api/sites").get_json()[0]["summary"] == fresh
    assert judge_waiting(archive) == 0
    assert database.execute("select line_by from revisions").fetchone() == (edition(),)


def test_a_line_of_another_shape_waits(
    client: FlaskClient, design: Json, database: psycopg.Connection[Any]
) -> None:
    database.execute("""update revisions set line = '{"summary": {"name": "A"}}'""")
    line = client.get("/api/sites").get_json()[0]
    assert (line["summary"], line["trouble"], line["designs"][0]["name"]) == (None, None, "A")


# Load and abuse


def test_a_small_patch_makes_no_large_document(client: FlaskClient, design: Json) -> None:
    """Twenty-two copies of the loads into themselves once took twelve seconds and a gigabyte under
    the row's lock."""
    copies = [{"op": "copy", "from": "/draw", "path": f"/draw/{number}"} for number in range(22)]
    began = time.process_time()
    answer = patch(client, design, copies)
    assert answer.status_code == 422
    assert answer.get_json()["title"] == "The patch is too large"
    # Of the processor's time, far below the twelve it took: another's load does not count.
    assert time.process_time() - began < 4.0
    many = [{"op": "copy", "from": "/name", "path": "/brief/note"}] * 51
    assert patch(client, design, many).get_json()["title"] == "The patch is too large"


def test_the_operation_at_fault_is_blamed(client: FlaskClient, design: Json) -> None:
    good = {"op": "replace", "path": "/name", "value": "fine"}
    bad = {"op": "remove", "path": "/draw/loads/99"}
    answer = patch(client, design, [good, bad])
    assert answer.status_code == 422
    (fault,) = answer.get_json()["faults"]
    assert (fault["pointer"], fault["message"]) == ("/draw/loads/99", "is not there to change")
    assert answer.get_json()["detail"].startswith("Operation 2:")


def test_a_key_is_good_for_one_body(client: FlaskClient) -> None:
    key = {"Idempotency-Key": "once"}
    first = client.post("/api/sites", json={"name": "One"}, headers=key).get_json()
    assert (
        client.post("/api/sites", json={"name": "One"}, headers=key).get_json()["id"] == first["id"]
    )
    other = client.post("/api/sites", json={"name": "Two"}, headers=key)
    assert other.status_code == 422
    assert other.get_json()["title"] == "This create key was used before"
    assert len(client.get("/api/sites").get_json()) == 1


def test_six_marks_at_once_leave_one_as_built(client: FlaskClient, design: Json) -> None:
    path = f"/api/sites/{design['site_id']}/designs"
    ids = [client.post(path, json={"copy_of": design["id"]}).get_json()["id"] for _ in range(5)] + [
        design["id"]
    ]

    def mark(design_id: str) -> int:
        own = client.application.test_client()
        return int(
            own.post(f"/api/designs/{design_id}/as-built", json={"as_built": True}).status_code
        )

    for _ in range(6):
        with ThreadPoolExecutor(6) as pool:
            assert set(pool.map(mark, ids)) == {200}
        built = [
            tab
            for tab in client.get(f"/api/sites/{design['site_id']}").get_json()["designs"]
            if tab["as_built"]
        ]
        assert len(built) == 1


def test_a_mark_against_a_delete_is_told_no_and_never_500(
    client: FlaskClient, design: Json
) -> None:
    path = f"/api/sites/{design['site_id']}/designs"
    for _ in range(8):
        made = client.post(path, json={"copy_of": design["id"]}).get_json()["id"]

        def mark(design_id: str = made) -> int:
            own = client.application.test_client()
            return int(
                own.post(f"/api/designs/{design_id}/as-built", json={"as_built": True}).status_code
            )

        def delete(design_id: str = made) -> int:
            own = client.application.test_client()
            return int(own.delete(f"/api/designs/{design_id}", json={}).status_code)

        with ThreadPoolExecutor(2) as pool:
            marked, deleted = pool.submit(mark), pool.submit(delete)
        assert (marked.result(), deleted.result()) in {(200, 409), (404, 204)}
        tabs = client.get(f"/api/sites/{design['site_id']}").get_json()["designs"]
        assert sum(tab["as_built"] for tab in tabs) == 1
        client.post(f"/api/designs/{design['id']}/as-built", json={"as_built": True})


class _Full(psycopg.errors.DiskFull):
    pass


@pytest.mark.parametrize(
    ("raised", "status", "title"),
    [
        (
            OperationalError("insert", {}, _Full("no space left on device")),
            507,
            "The server's disk is full",
        ),
        (
            OperationalError("select", {}, psycopg.OperationalError("gone")),
            503,
            "The database isn't answering",
        ),
    ],
)
def test_a_full_disk_and_a_lost_database_are_said(
    client: FlaskClient,
    design: Json,
    monkeypatch: pytest.MonkeyPatch,
    raised: Exception,
    status: int,
    title: str,
) -> None:
    def fail(*_: Any, **__: Any) -> None:
        raise raised

    monkeypatch.setattr("yonderstat.records.archive._append", fail)
    answer = patch(client, design, rename("other"))
    assert (answer.status_code, answer.get_json()["title"]) == (status, title)
    assert answer.get_json()["detail"].startswith("Nothing was saved.")
    monkeypatch.undo()
    assert patch(client, design, rename("other")).status_code == 200


def test_a_commit_cut_off_claims_nothing(
    client: FlaskClient, design: Json, monkeypatch: pytest.MonkeyPatch
) -> None:
    from sqlalchemy.orm import SessionTransaction

    def cut(self: SessionTransaction, *_: Any, **__: Any) -> None:
        raise OperationalError(
            "commit", {}, psycopg.OperationalError("gone"), connection_invalidated=True
        )

    monkeypatch.setattr(SessionTransaction, "commit", cut)
    answer = patch(client, design, rename("other"))
    assert answer.status_code == 503
    assert answer.get_json()["title"] == "We don't know whether that was saved"


# What files and texts may hold


def weather(client: FlaskClient, text: str, name: str = "log.csv") -> Any:
    return client.post(
        "/api/weather-files/read",
        query_string={"name": name},
        data=text.encode(),
        content_type="application/octet-stream",
    )


def daily(days: int, value: str = "3", year: str = "2025") -> str:
    rows = [
        f"{year}-{1 + number // 28:02d}-{1 + number % 28:02d},{value}" for number in range(days)
    ]
    return "\n".join(["date,kwh_m2", *rows])


def hourly(watts: float, air_c: float = 10.0, days: int = 336) -> str:
    rows = [
        f"2025-{1 + day // 28:02d}-{1 + day % 28:02d} {hour:02d}:00,{watts},{air_c}"
        for day in range(days)
        for hour in range(24)
    ]
    return "\n".join(["time,ghi_w_m2,air_c", *rows])


@pytest.mark.parametrize(
    ("text", "name", "words"),
    [
        (daily(21), "log.csv", "covers 21 days. At least 28"),
        (daily(336, year="9" * 30), "log.csv", "as the time; write it like"),
        (hourly(300.0, 55.0), "log.csv", "has an average of 55 °C in January"),
        (hourly(900.0), "log.csv", "line 2 begins a day with 21.6"),
        (
            "LOCATION,x,-,-,-,0,1,2,0,0\n"
            + "\n" * 7
            + f"{'9' * 30},1,1,1,60,f,8,5,7,9,0,0,3,0,1,8\n",
            "a.epw",
            "line 9",
        ),
    ],
)
def test_weather_files_are_refused_with_the_reason(
    client: FlaskClient, text: str, name: str, words: str
) -> None:
    answer = weather(client, text, name)
    assert answer.status_code == 422
    assert words in answer.get_json()["detail"]


def test_a_file_named_with_control_characters_is_read(client: FlaskClient) -> None:
    answer = weather(client, daily(336), "lo\x00g\x07\n.csv")
    assert answer.status_code == 200
    assert answer.get_json()["record"]["name"] == "lo g .csv"


@pytest.mark.parametrize(
    "text",
    [
        '<?xml version="1.0" encoding="klingon"?><ADX/>',
        '<?xml version="1.0" encoding="utf-32"?><ADX/>',
        '<?xml version="1.0" encoding="cp037"?><ADX/>',
    ],
)
def test_a_log_in_an_unknown_encoding_is_refused(client: FlaskClient, text: str) -> None:
    answer = client.post("/api/contact-logs/digest", json={"form": "adx", "text": text})
    assert answer.status_code == 422


def test_a_record_with_a_blank_band_is_listed(client: FlaskClient) -> None:
    record = "<QSO_DATE:8>20250101<TIME_ON:4>1200<MODE:2>CW<BAND:2>  <EOR>"
    answer = client.post(
        "/api/contact-logs/digest", json={"form": "adi", "text": record}
    ).get_json()
    assert answer["malformed"] == [{"record": 1, "why": "its frequency  is not a number"}]


ACTIVITY = {"day": "2025-01-01", "hour": 12, "band": "20m", "mode": "ssb", "contacts": 5}


@pytest.mark.parametrize(
    "change",
    [
        {"contacts": -5},
        {"contacts": 10**30},
        {"hour": 24},
        {"hour": -1},
        {"day": "soon"},
        {"band": ""},
        {"mode": "x"},
    ],
)
def test_activity_out_of_range_is_refused(client: FlaskClient, design: Json, change: Json) -> None:
    body = {"activity": [ACTIVITY | change]}
    answer = client.post(f"/api/designs/{design['id']}/logged-tempo", json=body)
    assert answer.status_code == 422


def test_a_table_with_an_endless_cell_names_its_line(client: FlaskClient, design: Json) -> None:
    text = "name,rx\nradio,1\n" + "x" * 140_000 + ",2\n"
    answer = client.post(f"/api/designs/{design['id']}/loads/read", json={"text": text})
    assert answer.status_code == 200
    assert answer.get_json()["faults"][0]["line"] == 3


@pytest.mark.parametrize("text", ["a\x00b", "a\x1fb"])
def test_a_town_with_a_control_character(client: FlaskClient, text: str) -> None:
    assert client.get("/api/towns", query_string={"text": text}).status_code == 422


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ('{"name": "x", "document": ' + '{"a":' * 900 + "1" + "}" * 900 + "}", 422),
        ('{"name": "x", "document": ' + "[" * 900 + "]" * 900 + "}", 422),
        ('{"name": "\\ud800"}', 422),
        ('{"name": "x", "document": {"\\udfff": 1}}', 422),
    ],
)
def test_bodies_nobody_means(client: FlaskClient, body: str, status: int) -> None:
    answer = client.post("/api/sites", data=body, content_type="application/json")
    assert answer.status_code == status
    assert answer.mimetype == "application/problem+json"


@pytest.mark.parametrize("version", [True, 1.0, "1", None, 99])
def test_a_version_that_only_looks_like_one_is_refused(client: FlaskClient, version: Any) -> None:
    answer = client.post("/api/evaluate", json={"format": "yonderstat-design", "version": version})
    assert answer.status_code == 422


# Small


@pytest.mark.parametrize(
    ("path", "methods"),
    [
        ("/api/sites", {"GET", "HEAD", "POST", "OPTIONS"}),
        ("/api/sites/{site}", {"GET", "HEAD", "PATCH", "DELETE", "OPTIONS"}),
        ("/api/sites/{site}/restore", {"POST", "OPTIONS"}),
        ("/api/alive", {"GET", "HEAD", "OPTIONS"}),
    ],
)
def test_options_tells_the_truth(
    client: FlaskClient, design: Json, path: str, methods: set[str]
) -> None:
    answer = client.options(path.format(site=design["site_id"]))
    assert set(answer.headers["Allow"].split(", ")) == methods


def test_an_unknown_operation_is_404_by_any_method(client: FlaskClient) -> None:
    for method in ("GET", "POST", "PATCH", "DELETE", "OPTIONS"):
        assert client.open("/api/nothing", method=method, json={}).status_code == 404


@pytest.mark.parametrize(
    "host", ["[::1].evil", "[::1", "127.0.0.1:80:80", "[::1]:port", "a@127.0.0.1", "127.0.0.1:"]
)
def test_hosts_that_only_look_like_ours(client: FlaskClient, host: str) -> None:
    assert client.get("/api/sites", headers={"Host": host}).status_code == 421


def test_the_policy_gives_the_page_no_device(client: FlaskClient) -> None:
    assert "serial=()" in client.get("/").headers["Permissions-Policy"]


def test_alive_asks_nobody(client: FlaskClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("sqlalchemy.Engine.connect", lambda *_: 1 / 0)
    assert client.get("/api/alive").get_json() == {"alive": True}


def test_ready_looks_at_database_queue_reader_and_disk(
    client: FlaskClient, database: psycopg.Connection[Any], monkeypatch: pytest.MonkeyPatch
) -> None:
    database.execute("delete from procrastinate_workers")
    database.execute("delete from readers")
    answer = client.get("/api/ready")
    assert answer.status_code == 503
    assert {part["name"]: part["ok"] for part in answer.get_json()["parts"]} == {
        "database": True,
        "queue": False,
        "reader": False,
        "disk": True,
    }
    database.execute("insert into procrastinate_workers default values")
    assert not client.get("/api/ready").get_json()["ready"]
    database.execute(
        "insert into readers (name, beat_at) values ('reader', now() - interval '1 minute')"
    )
    down = {part["name"]: part["words"] for part in client.get("/api/ready").get_json()["parts"]}
    assert "no alarms are sent" in down["reader"]
    database.execute("update readers set beat_at = now()")
    assert client.get("/api/ready").get_json()["ready"]
    monkeypatch.setattr("yonderstat.jobs.standing.LEAST_FREE_BYTES", 10**18)
    assert client.get("/api/ready").status_code == 503
    database.execute("delete from readers")


def test_evaluate_publishes_what_it_takes(client: FlaskClient) -> None:
    document = client.get("/api/openapi.json").get_json()
    body = document["paths"]["/api/evaluate"]["post"]["requestBody"]["content"]["application/json"][
        "schema"
    ]
    given = document["components"]["schemas"][body["$ref"].rsplit("/", 1)[1]]
    assert {"brief", "draw", "store", "sun", "array"} <= set(given["properties"])
    assert "draw" not in given.get("required", [])


def test_sites_put_away_do_not_bring_the_demo_back(client: FlaskClient, design: Json) -> None:
    archive = Archive(open_engine(client.application.config["DATABASE_URL"]))
    client.delete(f"/api/sites/{design['site_id']}", json={})
    assert archive.sites()[0] == []
    assert archive.was_ever_used()


def test_a_long_list_judges_nothing_and_asks_the_database_little(
    client: FlaskClient,
    design: Json,
    database: psycopg.Connection[Any],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """Past 256 designs a cache scanned in order once judged every site on every look."""
    database.execute(
        """with made as (
          insert into sites (id, name) select gen_random_uuid(), 'S' from generate_series(1, 400) returning id),
        designed as (insert into designs (id, site_id, position, as_built, revision)
          select gen_random_uuid(), id, 0, true, 1 from made returning id)
        insert into revisions (design_id, number, action, document, line, line_by)
          select designed.id, 1, 'create', r.document, r.line, r.line_by from designed, revisions r"""
    )
    monkeypatch.setattr(judging, "first_look", lambda design: 1 / 0)
    judged._reports.clear()
    asked: list[str] = []
    engine = open_engine(client.application.config["DATABASE_URL"])
    event.listen(engine, "before_cursor_execute", lambda *words: asked.append(words[2]))
    assert len(Archive(engine).sites()[0]) == 401
    assert len(asked) == 1
    lines = client.get("/api/sites").get_json()
    assert len(lines) == 401
    assert all(line["summary"]["headline"] for line in lines)
    assert len(client.get("/api/sites").get_data()) < 401 * 2000


def test_a_browser_that_asks_for_an_icon_gets_one(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """By itself a browser asks for /favicon.ico, and the refusal stood in the console."""
    (tmp_path / "icon.svg").write_text("<svg xmlns='http://www.w3.org/2000/svg'/>")
    monkeypatch.setenv(UI_VARIABLE, str(tmp_path))
    app = Flask("pages", static_folder=None)
    register_pages(app)
    answer = app.test_client().get("/favicon.ico")
    assert answer.status_code == 200
    assert answer.mimetype == "image/svg+xml"
