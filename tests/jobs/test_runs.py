"""Long work as jobs, on real PostgreSQL and the real queue: made once, stopped, taken up again."""

import threading
import time
from collections.abc import Iterator

import psycopg
import pytest
from sqlalchemy import Engine

from tests.samples import harrier_ridge
from yonderstat.core.rehearse import MapAsk
from yonderstat.jobs import ask_for, run_worker
from yonderstat.jobs.runs import work_on
from yonderstat.records import Archive, Runs, StoredDesign, open_engine

MAP = "sizing_map"
SMALL = MapAsk(steps=8, years=1)
LARGE = MapAsk(steps=40, years=10)


@pytest.fixture
def engine(url: str) -> Iterator[Engine]:
    made = open_engine(url)
    yield made
    made.dispose()


@pytest.fixture
def stored(engine: Engine) -> StoredDesign:
    archive = Archive(engine)
    return archive.design(archive.add_site("Harrier Ridge", harrier_ridge()).designs[0].id)


def grown_old(url: str) -> None:
    """As if every run's worker had been silent for a minute."""
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("update runs set updated_at = updated_at - interval '1 minute'")


def test_a_map_is_made_by_the_worker_and_found_again(
    engine: Engine, url: str, stored: StoredDesign
) -> None:
    run = ask_for(engine, MAP, stored.id, stored.revision, SMALL)
    assert run.state == "waiting"
    run_worker(url, once=True)
    done = Runs(engine).run(run.id)
    assert done.state == "done"
    assert done.result is not None
    assert len(done.result["served"]) == len(done.result["batteries"]) > 1
    assert ask_for(engine, MAP, stored.id, stored.revision, SMALL).id == run.id
    assert ask_for(engine, MAP, stored.id, stored.revision, MapAsk(steps=9, years=1)).id != run.id


def test_a_stopped_map_ends_within_a_second_and_frees_its_worker(
    engine: Engine, stored: StoredDesign
) -> None:
    runs = Runs(engine)
    run, _ = runs.ask(MAP, stored.id, stored.revision, LARGE.model_dump(mode="json"))
    worker = threading.Thread(target=work_on, args=(engine, run.id))
    worker.start()
    until = time.monotonic() + 30
    while runs.run(run.id).progress == 0.0 and time.monotonic() < until:
        time.sleep(0.02)
    assert 0.0 < runs.run(run.id).progress < 1.0
    assert runs.cancel(run.id)
    worker.join(5.0)
    assert not worker.is_alive()
    assert runs.run(run.id).state == "cancelled"
    again, is_new = runs.ask(MAP, stored.id, stored.revision, LARGE.model_dump(mode="json"))
    assert is_new
    assert again.id != run.id


def test_a_stopped_map_is_not_begun(engine: Engine, stored: StoredDesign) -> None:
    runs = Runs(engine)
    run, _ = runs.ask(MAP, stored.id, stored.revision, SMALL.model_dump(mode="json"))
    runs.cancel(run.id)
    work_on(engine, run.id)
    assert runs.run(run.id).state == "cancelled"
    assert not runs.cancel(run.id)


def test_a_map_whose_worker_died_is_taken_up(
    engine: Engine, url: str, stored: StoredDesign
) -> None:
    """It says it is silent; until then nobody else takes it; then another worker ends it."""
    runs = Runs(engine)
    run, _ = runs.ask(MAP, stored.id, stored.revision, SMALL.model_dump(mode="json"))
    assert runs.claim(run.id)
    assert not runs.claim(run.id)
    assert runs.silent() == []
    grown_old(url)
    assert runs.run(run.id).silent
    assert runs.silent() == [run.id]
    work_on(engine, run.id)
    assert runs.run(run.id).state == "done"


def test_what_cannot_be_mapped_says_so(engine: Engine) -> None:
    design = harrier_ridge()
    bare = design.model_copy(update={"array": design.array.model_copy(update={"strings": []})})
    stored = Archive(engine).add_site("Bare", bare).designs[0]
    runs = Runs(engine)
    run, _ = runs.ask(MAP, stored.id, stored.revision, SMALL.model_dump(mode="json"))
    work_on(engine, run.id)
    assert runs.run(run.id).state == "impossible"


def test_unknown_work_is_refused_before_it_is_stored(engine: Engine, stored: StoredDesign) -> None:
    with pytest.raises(ValueError, match="no such work"):
        ask_for(engine, "horoscope", stored.id, stored.revision, SMALL)
