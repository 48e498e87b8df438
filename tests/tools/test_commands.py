"""The commands behind ./start: own cluster, secrets, ports, and words in place of tracebacks."""

import json
import os
import signal
import socket
import stat
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from dataclasses import asdict, replace
from pathlib import Path

import psycopg
import pytest
from tools.backup import back_up, known_versions
from tools.cluster import KEEPER, Cluster, ClusterError, data_folder, free_port, port_is_taken
from tools.files import write_whole
from tools.processes import identity_of, keep_identity, kept_pid
from tools.state import State, open_state, read_state, write_state

from tools import start as commands
from tools import test as checks
from tools import watch as watcher

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def folder() -> Iterator[Path]:
    """A folder the server's user can reach; pytest's own are closed to it."""
    with tempfile.TemporaryDirectory(prefix="test-commands-", dir=ROOT / ".work") as name:
        Path(name).chmod(0o755)
        yield Path(name)


@pytest.fixture
def work(folder: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """An installation of its own."""
    monkeypatch.setenv("YONDERSTAT_WORK", str(folder))
    return folder


def test_a_cluster_with_a_password_asks_for_it(folder: Path) -> None:
    cluster = Cluster(
        data_folder(folder / "data"), free_port(), password="a-long-secret", throwaway=True
    )
    cluster.create()
    cluster.start(folder / "log")
    try:
        assert cluster.running_pid() is not None
        with psycopg.connect(cluster.url) as connection:
            assert connection.execute("select 1").fetchone() == (1,)
        with pytest.raises(psycopg.OperationalError, match="password"):
            psycopg.connect(cluster.url.replace("a-long-secret", "a-guess"))
        assert stat.S_IMODE(cluster.folder.stat().st_mode) == 0o700
        assert "a-long-secret" not in (folder / "log").read_text()
    finally:
        cluster.stop()
    assert cluster.running_pid() is None
    assert not port_is_taken(cluster.port)
    cluster.stop()


def test_what_was_kept_is_there_after_a_restart(folder: Path) -> None:
    cluster = Cluster(data_folder(folder / "data"), free_port(), throwaway=True)
    cluster.create()
    for turn in range(2):
        cluster.start(folder / "log")
        with psycopg.connect(cluster.url, autocommit=True) as connection:
            connection.execute("create table if not exists kept (n int)")
            connection.execute("insert into kept values (%s)", [turn])
            rows = connection.execute("select count(*) from kept").fetchone()
        cluster.stop()
        cluster.create()
    assert rows == (2,)


def test_a_failed_initdb_deletes_nothing(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Once a whole database was gone because one small file of it was."""
    data = folder / "data"
    data.mkdir()
    (data / "precious").write_text("kept")
    monkeypatch.setattr("tools.cluster.binaries", lambda: folder)
    (folder / "initdb").write_text("#!/bin/sh\necho no luck >&2\nexit 1\n")
    (folder / "initdb").chmod(0o755)
    with pytest.raises(ClusterError, match="no luck"):
        Cluster(data, free_port(), throwaway=True).create()
    aside = next(folder.glob("data.aside-*"))
    assert (aside / "precious").read_text() == "kept"
    assert not list(folder.glob("data.new-*"))


def test_a_lost_version_file_is_put_back_and_the_data_with_it(folder: Path) -> None:
    cluster = Cluster(data_folder(folder / "data"), free_port(), throwaway=True)
    cluster.create()
    cluster.start(folder / "log")
    with psycopg.connect(cluster.url, autocommit=True) as connection:
        connection.execute("create table kept (n int)")
    cluster.stop()
    (cluster.folder / "PG_VERSION").unlink()
    assert "put back" in cluster.create()
    cluster.start(folder / "log")
    with psycopg.connect(cluster.url, autocommit=True) as connection:
        assert connection.execute("select count(*) from kept").fetchone() == (0,)
    cluster.stop()


def test_a_half_made_folder_is_moved_aside_and_a_whole_one_made(folder: Path) -> None:
    data = folder / "data"
    (data / "base" / "1").mkdir(parents=True)
    (data / "PG_VERSION").write_text("15\n")
    cluster = Cluster(data_folder(data), free_port(), throwaway=True)
    assert "is now in" in cluster.create()
    assert next(folder.glob("data.aside-*")).joinpath("PG_VERSION").exists()
    cluster.start(folder / "log")
    cluster.stop()


@pytest.mark.parametrize("broken", ["", "{", "[]", '{"database_password": 1}'])
def test_a_lost_state_file_does_not_lock_the_data_away(folder: Path, broken: str) -> None:
    """It holds the password; a power cut once left it empty."""
    first = open_state(folder)
    first.cluster.start(folder / "log")
    with psycopg.connect(first.cluster.url, autocommit=True) as connection:
        connection.execute("create table kept (n int)")
    first.cluster.stop()
    (folder / "state.json").write_text(broken)
    second = open_state(folder)
    assert second.state.database_password != first.state.database_password
    assert any("set anew" in words for words in second.words)
    second.cluster.start(folder / "log")
    with psycopg.connect(second.cluster.url) as connection:
        assert connection.execute("select count(*) from kept").fetchone() == (0,)
    second.cluster.stop()
    assert next(folder.glob("state.json.aside-*")).read_text() == broken


def test_the_data_stay_where_they_are(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """The folder became unreachable once, and an empty database elsewhere was started without a
    word."""
    first = open_state(folder)
    monkeypatch.setattr("tools.state.reachable", lambda path: False)
    with pytest.raises(ClusterError, match=f"the data are in {first.cluster.folder}"):
        open_state(folder)
    monkeypatch.undo()
    assert open_state(folder).cluster.folder == first.cluster.folder
    older = {key: value for key, value in asdict(first.state).items() if key != "data_folder"}
    (folder / "state.json").write_text(json.dumps(older))
    assert open_state(folder).cluster.folder == first.cluster.folder


def test_a_file_is_written_whole_or_not_at_all(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    write_whole(folder / "kept", "old")

    def fail(handle: int) -> None:
        raise OSError("no space left on device")

    monkeypatch.setattr("os.fsync", fail)
    with pytest.raises(OSError, match="no space"):
        write_whole(folder / "kept", "new")
    assert (folder / "kept").read_text() == "old"
    assert [item.name for item in folder.iterdir()] == ["kept"]


def test_a_server_that_cannot_start_is_said_in_words(folder: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        cluster = Cluster(data_folder(folder / "data"), taken.getsockname()[1], throwaway=True)
        cluster.create()
        with pytest.raises(ClusterError, match="its log is"):
            cluster.start(folder / "log")


def test_secrets_are_ours_alone_and_made_once(folder: Path) -> None:
    first = open_state(folder).state
    file = folder / "state.json"
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    assert len(first.database_password) >= 24
    assert len(first.secret_key) >= 48
    assert open_state(folder).state == first


@pytest.mark.parametrize("port", ["taken", "99999", "0", "-1"])
def test_a_port_that_cannot_be_had_is_one_sentence_and_stops_nothing(
    work: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], port: str
) -> None:
    stopped: list[Path] = []
    monkeypatch.setattr(commands, "stop_watcher", lambda folder: stopped.append(folder))
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        chosen = str(taken.getsockname()[1]) if port == "taken" else port
        monkeypatch.setattr("sys.argv", ["start", f"--port={chosen}"])
        assert commands.main() == 1
    told = capsys.readouterr().err
    assert told.startswith("Could not start: ")
    assert told.count("\n") == 1
    assert "--port N" in told
    assert stopped == []


def test_a_full_disk_is_one_sentence(
    work: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(commands, "LEAST_FREE_BYTES", 10**18)
    monkeypatch.setattr("sys.argv", ["start", f"--port={free_port()}"])
    assert commands.main() == 1
    assert capsys.readouterr().err.startswith("Could not start: the disk is too full")


def test_stopping_nothing_is_no_error(
    work: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr("sys.argv", ["start", "--stop"])
    assert commands.main() == 0
    assert capsys.readouterr().out == "Yonderstat wasn't running.\n"
    monkeypatch.setattr("sys.argv", ["start", "--status"])
    assert commands.main() == 3


def test_a_named_file_lies_where_the_command_was_given(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("YONDERSTAT_FROM", str(folder))
    assert commands.from_where_asked(Path("club.backup")) == folder / "club.backup"
    assert commands.from_where_asked(Path("/mnt/club.backup")) == Path("/mnt/club.backup")


def test_a_second_start_waits_for_the_first_and_says_so(
    work: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    order: list[str] = []

    def second() -> None:
        with commands.only_one(work) as waited:
            order.append(f"second, waited {waited}")

    with commands.only_one(work) as waited:
        assert not waited
        thread = threading.Thread(target=second)
        thread.start()
        time.sleep(0.4)
        order.append("first")
    thread.join(10)
    assert order == ["first", "second, waited True"]
    assert "waiting for it" in capsys.readouterr().out


@pytest.fixture
def stranger() -> Iterator[int]:
    """Somebody else's process, under whose number ours may once have run."""
    process = subprocess.Popen(["sleep", "60"])
    yield process.pid
    process.kill()
    process.wait()


def test_a_stranger_under_our_old_number_is_left_alone(work: Path, stranger: int) -> None:
    """After a power cut the numbers begin anew."""
    kept = identity_of(stranger)
    assert kept is not None
    for old in (
        replace(kept, began_ticks=kept.began_ticks - 1),
        replace(kept, boot="another run of the machine"),
    ):
        write_whole(work / "watch.pid", json.dumps(asdict(old)))
        assert kept_pid(work / "watch.pid") is None
        assert not commands.stop_watcher(work)
        assert identity_of(stranger) == kept
    for name in ("web.pid", "worker.pid", "watch.pid"):
        (work / name).write_text(str(stranger))
    assert not commands.stop_watcher(work)
    assert identity_of(stranger) == kept


def test_our_own_process_is_known_again(work: Path, stranger: int) -> None:
    keep_identity(work / "watch.pid", stranger)
    assert kept_pid(work / "watch.pid") == stranger


def test_a_stranger_in_postmaster_pid_neither_bars_the_start_nor_is_stopped(
    folder: Path, stranger: int
) -> None:
    cluster = Cluster(data_folder(folder / "data"), free_port(), throwaway=True)
    cluster.create()
    (cluster.folder / "postmaster.pid").write_text(
        f"{stranger}\n{cluster.folder}\n1\n{cluster.port}\n"
    )
    assert cluster.running_pid() is None
    cluster.stop()
    assert identity_of(stranger) is not None
    cluster.start(folder / "log")
    assert cluster.answers()
    cluster.stop()


def test_an_unknown_part_of_the_checks_is_refused(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr("sys.argv", ["test", "everything"])
    assert checks.main() == 2
    assert "choose from" in capsys.readouterr().err


def test_a_failing_check_fails_the_run(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    three = [
        checks.Check("good", ("true",)),
        checks.Check("bad", ("false",)),
        checks.Check("other", ("true",)),
    ]
    monkeypatch.setattr(checks, "PARTS", {"all": three})
    monkeypatch.setattr("sys.argv", ["test"])
    assert checks.main() == 1
    assert capsys.readouterr().out.endswith("Failed: bad\nchecks: 2 passed, 1 failed\n")


def test_every_script_is_good_shell() -> None:
    for name in ("start", "test", "shots", ".ci/run", "tools/setup.sh"):
        assert subprocess.run(["bash", "-n", str(ROOT / name)], check=False).returncode == 0


BACKUP_TABLES = """
    create table sites (id int); create table designs (id int); create table revisions (id int);
    create table alembic_version (version_num text); insert into alembic_version values ('{version}');
    insert into sites values (1), (2);
"""


@pytest.fixture
def installed(work: Path) -> Iterator[Path]:
    """An installation whose database runs, with two sites."""
    opened = open_state(work)
    opened.cluster.start(work / "log" / "postgres.log")
    fill(opened.cluster, known_versions()[-1])
    yield work
    state = read_state(work)
    assert state is not None
    state.cluster(Path(state.data_folder)).stop()


def fill(cluster: Cluster, version: str) -> None:
    with psycopg.connect(cluster.url, autocommit=True) as connection:
        connection.execute(BACKUP_TABLES.format(version=version))


def running(work: Path) -> bool:
    state = read_state(work)
    return state is not None and state.cluster(Path(state.data_folder)).running_pid() is not None


def test_a_backup_writes_over_nothing(installed: Path, folder: Path) -> None:
    file = folder / "club.backup"
    assert back_up(installed, file) == "sites: 2, designs: 0, revisions: 0"
    before = file.read_bytes()
    with pytest.raises(ClusterError, match="is there already"):
        back_up(installed, file)
    assert file.read_bytes() == before
    assert [item.name for item in folder.glob("club.backup*")] == ["club.backup"]


def test_the_app_works_as_a_role_that_can_run_no_program(installed: Path) -> None:
    state = read_state(installed)
    assert state is not None
    with psycopg.connect(state.cluster(Path(state.data_folder)).url, autocommit=True) as connection:
        assert connection.execute(
            "select rolsuper from pg_roles where rolname = current_user"
        ).fetchone() == (False,)
        for statement in (
            "copy sites to program 'touch /tmp/x'",
            "create role other",
            "copy sites from '/etc/passwd'",
        ):
            with pytest.raises(psycopg.errors.InsufficientPrivilege):
                connection.execute(statement)


def test_an_installation_of_before_is_handed_over_to_the_plain_role(work: Path) -> None:
    """Its database and everything in it was the superuser's, whose password the app knew."""
    state = State(
        database_password="old-password",
        secret_key="key",
        database_port=free_port(),
        data_folder=str(data_folder(work / "postgres")),
        database_role=KEEPER,
    )
    cluster = Cluster(Path(state.data_folder), state.database_port, throwaway=True)
    cluster.create()
    cluster.start(work / "log" / "postgres.log")
    fill(cluster, known_versions()[0])
    with psycopg.connect(cluster.url, autocommit=True) as connection:
        connection.execute(
            "create type mood as enum ('a'); create sequence counted; create extension pg_trgm"
        )
    cluster.stop()
    write_state(work, state)
    opened = open_state(work)
    assert opened.state.database_password != "old-password"
    opened.cluster.start(work / "log" / "postgres.log")
    try:
        with psycopg.connect(opened.cluster.url, autocommit=True) as connection:
            mine = "select tableowner from pg_tables where schemaname = 'public'"
            assert {row[0] for row in connection.execute(mine).fetchall()} == {"yonderstat"}
            connection.execute(
                "alter table sites add column more int; drop type mood; drop sequence counted"
            )
    finally:
        opened.cluster.stop()
    assert open_state(work).state == opened.state


def test_what_is_no_backup_of_ours_is_refused_before_anything_is_stopped(
    installed: Path, folder: Path
) -> None:
    state = read_state(installed)
    assert state is not None
    cluster = state.cluster(Path(state.data_folder))

    def dump(name: str, *statements: str) -> Path:
        with psycopg.connect(cluster.url, autocommit=True) as connection:
            for statement in statements:
                connection.execute(statement)
        back_up(installed, folder / name)
        return folder / name

    good = dump("good.backup")
    newer = dump("newer.backup", "update alembic_version set version_num = '9999'")
    strange = dump(
        "view.backup",
        "create view v as select 1",
        "update alembic_version set version_num = '0001'",
    )
    foreign = dump("other.backup", "drop view v", "drop table alembic_version")
    cut = folder / "cut.backup"
    cut.write_bytes(good.read_bytes()[:200])
    for file, words in (
        (folder / "none.backup", "cannot be read"),
        (folder, "cannot be read"),
        (cut, "is not a backup"),
        (newer, r"version 9999, and this program knows versions up to \d{4}"),
        (strange, "it holds VIEW"),
        (foreign, "no table alembic_version"),
    ):
        with pytest.raises(ClusterError, match=words):
            commands.restore(installed, file)
        assert running(installed)


def test_a_program_hidden_in_a_dump_is_not_run(installed: Path, folder: Path) -> None:
    """What the file says runs as the plain role; once it was a superuser's."""
    state = read_state(installed)
    assert state is not None
    with psycopg.connect(state.cluster(Path(state.data_folder)).url, autocommit=True) as connection:
        for number in range(40):
            connection.execute(f"alter table designs add column more_{number} int")
    back_up(installed, folder / "plain.backup")
    data = (folder / "plain.backup").read_bytes()
    at = data.index(b"CREATE TABLE public.designs (")
    end = data.index(b");\n", at) + 3
    proof = folder / "p"
    evil = f"COPY (SELECT 1) TO PROGRAM 'touch {proof}';".encode()
    # As long as what it takes the place of: the file says where everything lies.
    patched = data[:at] + evil.ljust(end - at) + data[end:]
    (folder / "evil.backup").write_bytes(patched)
    with pytest.raises(ClusterError, match="pg_execute_server_program"):
        commands.restore(installed, folder / "evil.backup")
    assert not proof.exists()
    assert running(installed)
    assert not list(installed.glob("postgres.restoring-*"))


def test_a_restore_makes_the_data_anew_and_keeps_the_old_aside(
    installed: Path, folder: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    back_up(installed, folder / "club.backup")
    state = read_state(installed)
    assert state is not None
    with psycopg.connect(state.cluster(Path(state.data_folder)).url, autocommit=True) as connection:
        connection.execute("insert into sites values (3)")
    commands.restore(installed, folder / "club.backup")
    assert (
        "Restored: sites: 2, designs: 0, revisions: 0. The data that were here are in "
    ) in capsys.readouterr().out
    assert len(list(installed.glob("postgres.aside-*"))) == 1
    opened = open_state(installed)
    opened.cluster.start(installed / "log" / "postgres.log")
    with psycopg.connect(opened.cluster.url) as connection:
        assert connection.execute("select count(*) from sites").fetchone() == (2,)


@pytest.mark.parametrize(
    ("words", "code"),
    [
        (["--help"], 0),
        (["--status"], 3),
        (["--stop"], 0),
        (["--port", "99999"], 1),
        (["--bogus"], 2),
        (["--port", "0"], 1),
        (["--port", "free"], 75),
    ],
)
def test_what_needs_nothing_installed_is_answered_by_the_systems_python(
    work: Path, words: list[str], code: int
) -> None:
    """Before any set-up: with a Python that has none of the app's packages."""
    words = [str(free_port()) if word == "free" else word for word in words]
    environment = os.environ | {"YONDERSTAT_STAGE": "before", "YONDERSTAT_WORK": str(work)}
    command = ["/usr/bin/python3", "-I", "-c", f"import sys; sys.path.insert(0, {str(ROOT)!r}); "]
    command[-1] += (
        f"sys.argv = ['start', *{words!r}]; import tools.start; sys.exit(tools.start.main())"
    )
    done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
    assert done.returncode == code, done.stderr
    assert "Traceback" not in done.stderr


def test_a_part_that_works_is_waited_for_and_one_that_sleeps_is_not(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """A first start gave up after 90 s while it was still compiling."""
    busy = subprocess.Popen([sys.executable, "-c", "while True: pass"], start_new_session=True)
    idle = subprocess.Popen(["sleep", "60"], start_new_session=True)
    monkeypatch.setattr(watcher, "IDLE_S", 0.6)
    try:
        for process, words in ((busy, ""), (idle, "has done nothing")):
            part = watcher.Part(
                name="app", launch=lambda one=process: one, stop_signal=signal.SIGTERM
            )  # type: ignore[misc]
            part.ensure(time.monotonic())
            until, told = time.monotonic() + 2.0, ""
            while time.monotonic() < until and not told:
                try:
                    watcher._check_works(part, Path("log"))
                except ClusterError as error:
                    told = str(error)
                time.sleep(0.05)
            assert words in told
            assert bool(words) == bool(told)
    finally:
        busy.kill()
        idle.kill()
        busy.wait()
        idle.wait()
