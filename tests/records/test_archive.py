"""Revisions, undo and redo, locking: on real PostgreSQL."""

import json
from concurrent.futures import ThreadPoolExecutor
from uuid import uuid4

import pytest
from sqlalchemy import create_engine, inspect, text

from tests.samples import harrier_ridge, quay_street
from yonderstat.core.design import Design, document_of
from yonderstat.records import (
    Archive,
    NotFoundError,
    NothingToDoError,
    StaleRevisionError,
    StoredDesign,
    migrate,
    open_engine,
)


def named(name: str) -> Design:
    return quay_street().model_copy(update={"name": name})


def rename(archive: Archive, stored: StoredDesign, name: str) -> StoredDesign:
    return archive.edit(
        stored.id, stored.revision, lambda design: design.model_copy(update={"name": name})
    )


@pytest.fixture
def first(archive: Archive) -> StoredDesign:
    return archive.design(archive.add_site("Quay Street", named("0")).designs[0].id)


def test_what_goes_in_comes_out(archive: Archive) -> None:
    site = archive.add_site("Harrier Ridge", harrier_ridge())
    assert archive.design(site.designs[0].id).design == harrier_ridge()
    assert [item.name for item in archive.sites()[0]] == ["Harrier Ridge"]
    assert site.designs[0].as_built


def test_undo_and_redo_walk_the_edits(archive: Archive, first: StoredDesign) -> None:
    now = first
    for name in "123":
        now = rename(archive, now, name)
    names = []
    for _ in range(3):
        now = archive.undo(now.id, now.revision)
        names.append(now.design.name)
    assert names == ["2", "1", "0"]
    assert not now.can_undo
    for _ in range(3):
        now = archive.redo(now.id, now.revision)
        names.append(now.design.name)
    assert names[3:] == ["1", "2", "3"]
    assert not now.can_redo
    assert now.revision == 10


def test_an_edit_after_undo_leaves_the_undone_behind(archive: Archive, first: StoredDesign) -> None:
    now = rename(archive, rename(archive, first, "1"), "2")
    now = archive.undo(now.id, now.revision)
    now = rename(archive, now, "other")
    assert not now.can_redo
    assert archive.undo(now.id, now.revision).design.name == "1"


def test_nothing_to_undo_or_redo(archive: Archive, first: StoredDesign) -> None:
    with pytest.raises(NothingToDoError):
        archive.undo(first.id, first.revision)
    with pytest.raises(NothingToDoError):
        archive.redo(first.id, first.revision)


def test_a_stale_edit_is_refused_and_nothing_is_lost(archive: Archive, first: StoredDesign) -> None:
    rename(archive, first, "theirs")
    with pytest.raises(StaleRevisionError) as refusal:
        rename(archive, first, "mine")
    assert refusal.value.current == 2
    assert archive.design(first.id).design.name == "theirs"


def test_an_edit_that_changes_nothing_adds_no_revision(
    archive: Archive, first: StoredDesign
) -> None:
    assert rename(archive, first, "0").revision == first.revision


def test_of_many_edits_at_once_one_wins(archive: Archive, first: StoredDesign) -> None:
    def attempt(name: str) -> bool:
        try:
            rename(archive, first, name)
        except StaleRevisionError:
            return False
        return True

    with ThreadPoolExecutor(8) as pool:
        assert sum(pool.map(attempt, [f"n{number}" for number in range(8)])) == 1
    assert archive.design(first.id).revision == 2


def test_a_create_key_makes_one_site_however_often(archive: Archive) -> None:
    with ThreadPoolExecutor(4) as pool:
        ids = {
            site.id
            for site in pool.map(
                lambda _: archive.add_site("Twin", named("A"), "one-key"), range(4)
            )
        }
    assert len(ids) == 1
    assert len(archive.sites()[0]) == 1


def test_every_write_says_who_and_a_key_is_the_actors_own(archive: Archive, url: str) -> None:
    one = archive.add_site("Mine", named("A"), "key", actor="one")
    two = archive.add_site("Mine", named("A"), "key", actor="two")
    assert one.id != two.id
    assert archive.add_site("Mine", named("A"), "key", actor="one").id == one.id
    first = one.designs[0].id
    now = archive.edit(
        first, 1, lambda design: design.model_copy(update={"name": "B"}), actor="two"
    )
    archive.redo(first, archive.undo(first, now.revision, "one").revision, "two")
    engine = create_engine(url.replace("postgresql:", "postgresql+psycopg:"))
    with engine.connect() as connection:
        query = text("select action, actor from revisions where design_id = :id order by number")
        rows = [tuple(row) for row in connection.execute(query, {"id": first})]
    engine.dispose()
    assert rows == [("create", "one"), ("edit", "two"), ("undo", "one"), ("redo", "two")]


def test_only_one_design_is_as_built(archive: Archive) -> None:
    site = archive.add_site("Ridge", named("A"))
    second = archive.add_design(site.id, named("B"))
    archive.mark_as_built(second.id)
    assert [item.as_built for item in archive.site(site.id).designs] == [False, True]
    with pytest.raises(NothingToDoError, match="as built"):
        archive.delete_design(second.id)
    archive.delete_design(site.designs[0].id)
    assert [item.id for item in archive.site(site.id).designs] == [second.id]


def test_a_site_put_away_can_be_brought_back(archive: Archive, first: StoredDesign) -> None:
    archive.delete_site(first.site_id)
    assert archive.sites()[0] == []
    with pytest.raises(NotFoundError):
        archive.design(first.id)
    archive.restore_site(first.site_id)
    assert archive.design(first.id).design.name == "0"


def test_what_is_not_there(archive: Archive) -> None:
    with pytest.raises(NotFoundError):
        archive.site(uuid4())
    with pytest.raises(NotFoundError):
        archive.design(uuid4())


def test_migrations_build_what_the_models_say(empty_url: str) -> None:
    """Up from empty, and again: the tables are those of the models, and a second run changes
    nothing."""
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from yonderstat.records.schema import Base

    migrate(empty_url)
    migrate(empty_url)
    engine = create_engine(empty_url.replace("postgresql:", "postgresql+psycopg:"))
    with engine.connect() as connection:
        ours = {
            "include_object": lambda item, name, kind, *_: (
                "procrastinate" not in str(getattr(item, "table", name))
            )
        }
        assert (
            compare_metadata(MigrationContext.configure(connection, opts=ours), Base.metadata) == []
        )
        assert connection.scalar(text("select version_num from alembic_version")) == "0014"
        assert "revisions" in inspect(connection).get_table_names()
    engine.dispose()


def test_the_queue_goes_and_comes_back(empty_url: str) -> None:
    """Down to the previous release and up again, with a design in it: nothing of the queue is left
    or missing."""
    from alembic import command

    from yonderstat.records.database import alembic_config

    migrate(empty_url, "0002")
    engine = open_engine(empty_url)
    site, kept = uuid4(), uuid4()
    with engine.begin() as connection:
        connection.execute(
            text("insert into sites (id, name) values (:site, 'Kept')"), {"site": site}
        )
        row = (
            "insert into designs (id, site_id, position, as_built, revision) values (:id, "
            ":site, 0, true, 1)"
        )
        connection.execute(text(row), {"id": kept, "site": site})
        first = (
            "insert into revisions (design_id, number, action, document) values (:id, 1, "
            "'create', :document)"
        )
        connection.execute(
            text(first), {"id": kept, "document": json.dumps(document_of(Design(name="A")))}
        )
    migrate(empty_url)
    command.downgrade(alembic_config(empty_url), "0002")
    assert not [
        name
        for name in inspect(engine).get_table_names()
        if "procrastinate" in name or name in {"runs", "map_runs"}
    ]
    migrate(empty_url)
    assert "procrastinate_jobs" in inspect(engine).get_table_names()
    archive = Archive(engine)
    assert archive.design(kept).design.name == "A"
    assert [(site.name, site.shown.name, site.line) for site in archive.sites()[0]] == [
        ("Kept", "A", None)
    ]
    engine.dispose()
