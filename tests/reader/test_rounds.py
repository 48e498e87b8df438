"""From a device to the record and back: rounds kept once, alarms once, wrong clocks, quiet hours,
the spool."""

import asyncio
import contextlib
import json
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

from yonderstat.core.calendar import hour_of_year
from yonderstat.core.design import design_from_document
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.reader import Asking, Judging, Reader, Round, Spool, Told
from yonderstat.reader.telling import is_quiet, tellings_of
from yonderstat.records import (
    Archive,
    Endpoint,
    LiveBook,
    LiveSite,
    NotFoundError,
    Samples,
    open_engine,
)

FINE = {"volts": 12.8, "charge_a": 3.0, "load_a": 1.4, "charge_share": 0.9, "box_c": 4.0}
NOW_S = datetime(2026, 7, 1, 0, 0, tzinfo=UTC).timestamp()
# Noon at the site.


@pytest.fixture
def book(archive: Archive) -> LiveBook:
    return LiveBook(archive._engine)


@pytest.fixture
def site_id(archive: Archive) -> UUID:
    return archive.add_site("Ridge", design_from_document(HARRIER_AS_BUILT)).id


@pytest.fixture
def devices(book: LiveBook, site_id: UUID) -> tuple[str, str]:
    made = [
        book.add_endpoint(
            site_id, name, kind, protocol="sunspec", host="127.0.0.1", port=502, unit=1
        )
        for name, kind in (("Controller", "controller"), ("Monitor", "monitor"))
    ]
    return str(made[0].id), str(made[1].id)


def round_at(site_id: UUID, devices: tuple[str, str], hours: float, **bent: Any) -> Round:
    told = {**FINE, **bent}
    trouble = told.pop("trouble", None)
    at_s = NOW_S + hours * 3600
    if trouble:
        return Round(site_id, at_s, {}, {devices[0]: trouble, devices[1]: trouble})
    controller = {
        "charge_a": told["charge_a"],
        "device_s": told.pop("device_s", at_s),
        "box_c": told["box_c"],
    }
    monitor = {name: told[name] for name in ("volts", "load_a", "charge_share")}
    return Round(site_id, at_s, {devices[0]: controller, devices[1]: monitor}, {})


def keep(archive: Archive, book: LiveBook, *rounds: Round) -> None:
    judging = Judging(archive, book)
    judging._began_s = 0.0
    for one in rounds:
        taken = judging.taken(one)
        assert taken is not None
        book.take(taken)


def rows(archive: Archive, what: str) -> list[Any]:
    with Session(archive._engine) as session:
        return [tuple(row) for row in session.execute(text(what))]


def test_a_round_stands_in_the_record_as_it_was_told(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    keep(archive, book, round_at(site_id, devices, 0.0))
    found = rows(archive, "select at, volts, charge_a, load_a, charge_share, box_c from samples")
    assert found == [
        (datetime(2026, 7, 1, tzinfo=UTC), pytest.approx(12.8), 3.0, pytest.approx(1.4), 0.9, 4.0)
    ] or (
        found[0][0] == datetime(2026, 7, 1, tzinfo=UTC)
        and found[0][1:] == pytest.approx((12.8, 3.0, 1.4, 0.9, 4.0))
    )
    site = book.site(site_id)
    assert site.device_at == datetime(2026, 7, 1, tzinfo=UTC)
    assert site.forecast is not None
    assert site.forecast["told"]["sentence"]
    assert all(
        one.trouble == "" and one.heard_at == site.heard_at for one in book.endpoints(site_id)
    )


def test_a_round_brought_twice_is_kept_once(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    gone = {"charge_a": 0.0}
    rounds = [
        round_at(
            site_id,
            devices,
            half / 2,
            volts=12.9 - half / 500,
            charge_share=0.9 - half / 500,
            **gone,
        )
        for half in range(48)
    ]
    keep(archive, book, *rounds)
    once = (
        rows(archive, "select * from samples"),
        rows(archive, "select kind, raised_at, cleared_at from alarms"),
    )
    keep(archive, book, *rounds, *rounds)
    again = (
        rows(archive, "select * from samples"),
        rows(archive, "select kind, raised_at, cleared_at from alarms"),
    )
    assert again == once
    assert len(once[0]) == 48
    assert [row[0] for row in once[1]] == ["not_charging"]


def test_a_record_that_is_there_is_not_written_over(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    with Session(archive._engine) as session, session.begin():
        kept = {"site": site_id, "at": datetime.fromtimestamp(NOW_S, UTC)}
        session.execute(
            text("insert into samples (site_id, at, volts) values (:site, :at, 11.5)"), kept
        )
    keep(archive, book, round_at(site_id, devices, 0.0))
    assert rows(archive, "select volts, load_a from samples") == [(11.5, pytest.approx(1.4))]


def test_silence_raises_one_alarm_and_the_first_word_clears_it(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    silent = [
        round_at(site_id, devices, 0.1 + minute / 60, trouble="It does not answer")
        for minute in range(10)
    ]
    keep(archive, book, round_at(site_id, devices, 0.0), *silent)
    (open_alarm,) = book.alarms(site_id)
    assert open_alarm.kind == "silent"
    assert "minutes" in open_alarm.words
    assert {one.trouble for one in book.endpoints(site_id)} == {"It does not answer"}
    keep(archive, book, round_at(site_id, devices, 0.5))
    (over,) = book.alarms(site_id)
    assert over.cleared_at is not None
    assert len(rows(archive, "select 1 from samples")) == 2


def test_a_clock_that_is_wrong_is_said_and_not_believed(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    wrong = [round_at(site_id, devices, hour, device_s=NOW_S + 40 * 86_400) for hour in (1.0, 2.0)]
    keep(archive, book, round_at(site_id, devices, 0.0), *wrong)
    moments = [row[0] for row in rows(archive, "select at from samples order by at")]
    assert moments == [datetime.fromtimestamp(NOW_S + hour * 3600, UTC) for hour in (0, 1, 2)]
    (alarm,) = book.alarms(site_id)
    assert (alarm.kind, alarm.cleared_at) == ("clock", None)
    assert "ahead" in alarm.words
    keep(archive, book, round_at(site_id, devices, 3.0))
    assert book.alarms(site_id)[0].cleared_at is not None


def test_a_stand_in_runs_as_fast_as_it_likes_but_not_back(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    book.keep_settings(site_id, speed=720.0, interval_s=2.0)
    began_s = NOW_S - 100 * 86_400
    fast = [
        round_at(site_id, devices, step / 1800, device_s=began_s + step * 1440)
        for step in range(20)
    ]
    keep(archive, book, *fast)
    assert len(rows(archive, "select 1 from samples")) == 20
    assert not [alarm for alarm in book.alarms(site_id) if alarm.kind == "clock"]
    keep(archive, book, round_at(site_id, devices, 20 / 1800, device_s=began_s - 86_400))
    assert [alarm.kind for alarm in book.alarms(site_id) if alarm.cleared_at is None] == ["clock"]


def test_a_stand_in_that_stood_still_goes_on_from_there(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    book.keep_settings(site_id, speed=720.0, interval_s=2.0)
    began_s = NOW_S - 100 * 86_400
    before = round_at(site_id, devices, 0.0, device_s=began_s)
    # Four minutes later it is started again, and the device without a clock is the first to answer.
    alone = round_at(site_id, devices, 4 / 60)
    alone = replace(
        alone, told={devices[1]: alone.told[devices[1]]}, trouble={devices[0]: "Nothing answers"}
    )
    after = round_at(site_id, devices, 4.1 / 60, device_s=began_s + 6 * 720.0)
    keep(archive, book, before, alone, after)
    assert not [alarm for alarm in book.alarms(site_id) if alarm.kind == "clock"]
    moments = [
        row[0].timestamp() - began_s for row in rows(archive, "select at from samples order by at")
    ]
    assert moments == [0.0, 4 * 720.0, 6 * 720.0]


def test_a_memory_of_another_shape_begins_anew_with_the_alarms_that_are_open(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    keep(archive, book, round_at(site_id, devices, 0.0, volts=16.4))
    with Session(archive._engine) as session, session.begin():
        session.execute(text("""update live_sites set watching = '{"still": {"volts": [1]}}'"""))
    keep(archive, book, *(round_at(site_id, devices, hour, volts=13.0) for hour in (1.0, 2.0, 3.0)))
    (alarm,) = book.alarms(site_id)
    assert (alarm.kind, alarm.cleared_at is not None) == ("regulation", True)


def test_an_alarm_is_seen_by_who_saw_it_first(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    (alarm,) = book.alarms(site_id)
    assert (alarm.kind, alarm.severity) == ("regulation", "stop")
    assert book.acknowledge(alarm.id, "QY3RIM").acknowledged_by == "QY3RIM"
    assert book.acknowledge(alarm.id, "QY3ABL").acknowledged_by == "QY3RIM"
    with pytest.raises(NotFoundError):
        book.acknowledge(site_id, "QY3RIM")


def test_a_site_put_away_is_watched_no_more(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str]
) -> None:
    assert [site.site_id for site, _ in book.watched()] == [site_id]
    archive.delete_site(site_id)
    assert book.watched() == []
    with pytest.raises(NotFoundError):
        Judging(archive, book).taken(round_at(site_id, devices, 0.0))


@pytest.mark.parametrize(
    ("first", "last", "quiet"),
    [(22, 7, {22, 23, 0, 6}), (1, 5, {1, 4}), (None, None, set()), (8, 8, set())],
)
def test_quiet_hours_go_over_midnight(first: int | None, last: int | None, quiet: set[int]) -> None:
    site = LiveSite(site_id=UUID(int=1), quiet_from_h=first, quiet_to_h=last)
    assert {hour for hour in (22, 23, 0, 1, 4, 5, 6, 7, 12) if is_quiet(site, hour)} >= quiet
    assert not is_quiet(site, 7 if first == 22 else 12)


def test_what_is_grave_is_told_at_night_and_the_rest_in_the_morning() -> None:
    zone = ZoneInfo("Pacific/Auckland")
    night = datetime(2026, 7, 1, 23, 40, tzinfo=zone)
    site = LiveSite(
        site_id=UUID(int=1),
        quiet_from_h=22,
        quiet_to_h=7,
        webhook="http://127.0.0.1/",
        mail_to="a@b.example",
    )
    later = tellings_of(site, zone, night, False)
    assert [telling.way for telling in later] == ["webhook", "mail"]
    assert later[0].due_at.astimezone(zone) == datetime(2026, 7, 2, 7, 0, tzinfo=zone)
    assert tellings_of(site, zone, night, True)[0].due_at == night
    assert tellings_of(replace(site, webhook="", mail_to=""), zone, night, True) == ()


def test_hours_of_the_year_are_those_of_a_common_one() -> None:
    assert hour_of_year(datetime(2026, 1, 1, 0)) == 0
    assert hour_of_year(datetime(2026, 12, 31, 23)) == 8759
    assert hour_of_year(datetime(2028, 2, 29, 5)) == hour_of_year(datetime(2028, 2, 28, 5))
    assert hour_of_year(datetime(2028, 3, 1, 0)) == 59 * 24


def test_what_waits_outlives_a_kill_and_goes_on_in_its_order(tmp_path: Path) -> None:
    file = tmp_path / "spool" / "readings.jsonl"
    spool = Spool(file)
    for number in range(3):
        spool.add({"number": number})
    spool.done()
    # Killed in the middle of a line.
    with file.open("ab") as sink:
        sink.write(b'{"number": 3, "tr')
    again = Spool(file)
    # The first is there again: keeping it twice does nothing, losing it would.
    assert [again._waiting[place]["number"] for place in range(again.waiting)] == [0, 1, 2]
    for _ in range(3):
        again.done()
    assert again.first() is None
    assert file.read_bytes() == b""
    again.add({"number": 9})
    assert json.loads(file.read_text()) == {"number": 9}


def test_a_round_waits_as_it_was(site_id: UUID, devices: tuple[str, str]) -> None:
    one = round_at(site_id, devices, 0.5)
    assert Round.from_json(json.loads(json.dumps(one.as_json()))) == one


def test_who_listens_hears_of_the_site(
    url: str, archive: Archive, book: LiveBook, site_id: UUID
) -> None:
    import psycopg

    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("listen yonderstat_live")
        book.add_endpoint(
            site_id, "Monitor", "monitor", protocol="telemetry", host="127.0.0.1", port=9000, unit=1
        )
        heard = [notice.payload for notice in connection.notifies(timeout=5, stop_after=1)]
    assert heard == [str(site_id)]


def test_the_reader_tells_that_it_lives(book: LiveBook) -> None:
    assert book.reader().beat_at is None
    book.beat("reader", 3)
    state = book.reader()
    assert state.waiting == 3
    assert state.beat_at is not None
    assert datetime.now(UTC) - state.beat_at < timedelta(seconds=10)


def test_the_record_is_thinned_up_to_the_newest(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str], url: str
) -> None:
    keep(archive, book, *(round_at(site_id, devices, hour / 4) for hour in range(8)))
    engine = open_engine(url)
    found = Samples(engine).thinned(
        site_id,
        "volts",
        datetime.fromtimestamp(NOW_S, UTC),
        datetime.fromtimestamp(NOW_S + 7200, UTC),
        100,
    )
    engine.dispose()
    assert len(found.at) == 8


def test_whatever_a_device_brings_out_in_us_is_that_devices_trouble(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """One message ended the reader of all sites once."""
    asking = Asking()
    made = {
        "site_id": uuid4(),
        "name": "a",
        "kind": "monitor",
        "unit": 1,
        "topic": "",
        "trouble": "",
    }
    times = {"added_at": datetime.now(UTC), "heard_at": None}
    good, bad = (
        Endpoint(id=uuid4(), protocol=protocol, host="127.0.0.1", port=1, **made, **times)
        for protocol in ("telemetry", "sunspec")
    )

    async def fine(address: str, port: int) -> Told:
        return Told(volts=12.0)

    async def broken(address: str, port: int, unit: int) -> Told:
        raise OverflowError("int too large")

    monkeypatch.setattr("yonderstat.reader.rounds.read_telemetry", fine)
    monkeypatch.setattr(asking._sunspec, "read", broken)
    found = asyncio.run(asking.round_at(good.site_id, [good, bad]))
    assert found.told == {str(good.id): {"volts": 12.0}}
    assert found.trouble == {str(bad.id): "What it says cannot be understood (OverflowError)"}


def test_a_fault_in_the_reader_is_said_and_it_goes_on(url: str, tmp_path: Path) -> None:
    reader, tries = Reader(url, tmp_path / "spool.jsonl"), []

    def work() -> None:
        tries.append(1)
        raise KeyError("x")

    async def some_time() -> None:
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(reader._every(0.01, work), 0.3)

    asyncio.run(some_time())
    assert len(tries) > 3
