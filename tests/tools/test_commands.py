"""The commands behind ./start: own cluster, secrets, ports, and words in place of tracebacks."""

import json
import os
import socket
import stat
import subprocess
import tempfile
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest
from tools.cluster import Cluster, ClusterError, data_folder, free_port, port_is_taken

from tools import start as commands
from tools import test as checks

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def folder() -> Iterator[Path]:
    """A folder the server's user can reach; pytest's own are closed to it."""
    with tempfile.TemporaryDirectory(prefix="test-commands-", dir=ROOT / ".work") as name:
        Path(name).chmod(0o755)
        yield Path(name)


def test_a_cluster_with_a_password_asks_for_it(folder: Path) -> None:
    cluster = Cluster(data_folder(folder / "data"), free_port(), password="a-long-secret", throwaway=True)
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


def test_a_server_that_cannot_start_is_said_in_words(folder: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        cluster = Cluster(data_folder(folder / "data"), taken.getsockname()[1], throwaway=True)
        cluster.create()
        with pytest.raises(ClusterError, match="its log is"):
            cluster.start(folder / "log")


def test_secrets_are_ours_alone_and_made_once(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(commands, "WORK", folder)
    state = commands.read_state()
    file = folder / "state.json"
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    assert len(state.database_password) >= 24
    assert len(state.secret_key) >= 48
    assert commands.read_state() == state
    assert set(json.loads(file.read_text())) == {"database_password", "secret_key", "database_port"}


def test_a_taken_port_is_one_sentence(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], folder: Path
) -> None:
    monkeypatch.setattr(commands, "WORK", folder)
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        monkeypatch.setattr("sys.argv", ["start", "--port", str(port)])
        assert commands.main() == 1
    told = capsys.readouterr().err
    assert told == f"Could not start: port {port} is taken by another program; choose one with ./start --port N.\n"


def test_stopping_nothing_is_no_error(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], folder: Path
) -> None:
    monkeypatch.setattr(commands, "WORK", folder)
    monkeypatch.setattr("sys.argv", ["start", "--stop"])
    assert commands.main() == 0
    assert capsys.readouterr().out == "Nothing was running.\n"


def test_a_stale_process_number_is_not_taken_for_ours(monkeypatch: pytest.MonkeyPatch, folder: Path) -> None:
    """After a crash the number may belong to somebody else: it must not be stopped."""
    monkeypatch.setattr(commands, "WORK", folder)
    (folder / "web.pid").write_text(str(os.getpid()))
    assert commands.running_pid(*commands.WEB) is None
    assert not commands.stop_processes()


def test_an_unknown_part_of_the_checks_is_refused(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr("sys.argv", ["test", "everything"])
    assert checks.main() == 2
    assert "choose from" in capsys.readouterr().err


def test_a_failing_check_fails_the_run(monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    parts = {"all": [checks.Check("good", ("true",)), checks.Check("bad", ("false",))]}
    monkeypatch.setattr(checks, "PARTS", parts)
    monkeypatch.setattr("sys.argv", ["test"])
    assert checks.main() == 1
    assert capsys.readouterr().out.endswith("Failed: bad\nchecks: 1 passed, 1 failed\n")


def test_every_script_is_good_shell() -> None:
    for name in ("start", "test", "shots", ".ci/run", "tools/setup.sh"):
        assert subprocess.run(["bash", "-n", str(ROOT / name)], check=False).returncode == 0
