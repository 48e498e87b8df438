"""Parts are killed, requests half sent, starts raced: the app comes back by itself and nothing
acknowledged is lost."""

import contextlib
import os
import random
import signal
import socket
import threading
import time
import urllib.error
from concurrent.futures import ThreadPoolExecutor
from http.client import HTTPException
from pathlib import Path

import psycopg
from tools.processes import identity_of, kept_pid
from tools.state import read_state

from tests.resilience.conftest import Installation
from yonderstat.demo.quay_street import QUAY_STREET

KILLS = int(os.environ.get("YONDERSTAT_KILLS", "12"))
"""`./test resilience` asks for a hundred."""
EDITORS = 4


def new_design(app: Installation, name: str) -> str:
    site = app.ask("POST", "/api/sites", {"name": name, "document": QUAY_STREET})
    return str(site["designs"][0]["id"])


class Editor(threading.Thread):
    """Edits a design over and over, and remembers what was acknowledged."""

    def __init__(self, app: Installation, design_id: str) -> None:
        super().__init__(daemon=True)
        self.app, self.design_id = app, design_id
        self.acknowledged: dict[int, float] = {}
        self.going = True
        self.strange: list[str] = []

    def run(self) -> None:
        amps = 1.0
        while self.going:
            try:
                view = self.app.ask("GET", f"/api/designs/{self.design_id}")
                amps = 1.0 + (amps + 0.001) % 10
                change = [{"op": "replace", "path": "/draw/loads/0/receive_a/value", "value": amps}]
                made = self.app.ask(
                    "PATCH",
                    f"/api/designs/{self.design_id}",
                    change,
                    {"If-Match": str(view["revision"])},
                )
                self.acknowledged[made["revision"]] = amps
            except urllib.error.HTTPError as error:
                if error.code not in {412, 503}:
                    self.strange.append(f"{error.code} {error.read()[:200]!r}")
            except (OSError, ValueError, HTTPException):
                # Cut off before, while or after it was answered.
                time.sleep(0.05)


def history(app: Installation, design_id: str) -> tuple[int, dict[int, float]]:
    """Every revision's figure as the database holds it."""
    state = read_state(app.work)
    assert state is not None
    address = state.cluster(Path(state.data_folder)).url
    query = (
        "select number, document #>> '{draw,loads,0,receive_a,value}' from revisions where "
        "design_id = %s"
    )
    with psycopg.connect(address) as connection:
        rows = connection.execute(query, [design_id]).fetchall()
    return len(rows), {number: float(value) for number, value in rows}


def test_kills_in_a_row_lose_nothing(installation: Installation) -> None:
    """Database, web server and worker are killed in turn under load; every acknowledged edit is
    there afterwards."""
    app, chance = installation, random.Random(7)
    editors = [Editor(app, new_design(app, f"Edited {number}")) for number in range(EDITORS)]
    for editor in editors:
        editor.start()
    for number in range(KILLS):
        time.sleep(chance.uniform(0.1, 0.6))
        victim = app.pid_of(("postgres", "postgres", "web", "worker")[number % 4])
        if victim:
            os.kill(victim, signal.SIGKILL)
        if number % 4 == 3:
            app.until(lambda: app.status("/api/sites") == 200)
    app.until(lambda: app.status("/api/ready") == 200, 60)
    counts = [len(editor.acknowledged) for editor in editors]
    app.until(
        lambda: all(
            len(one.acknowledged) > count for one, count in zip(editors, counts, strict=True)
        )
    )
    for editor in editors:
        editor.going = False
        editor.join(30)
        assert editor.strange == []
        length, stored = history(app, editor.design_id)
        assert set(stored) == set(range(1, length + 1))
        assert {number: stored.get(number) for number in editor.acknowledged} == editor.acknowledged


def test_a_web_server_that_hangs_is_started_again(installation: Installation) -> None:
    app = installation
    master = app.pid_of("web")
    stopped = [master, *(int(line) for line in os.popen(f"pgrep -P {master}").read().split())]
    for pid in stopped:
        os.kill(pid, signal.SIGSTOP)
    app.until(lambda: "web does not answer" in app.log("watch"), 30)
    app.until(lambda: app.status("/api/sites") == 200)
    assert app.pid_of("web") != master


def test_alive_answers_while_every_thread_works(installation: Installation) -> None:
    """Whoever asks whether the server is alive once waited 44 s behind edits."""
    app = installation
    design = new_design(app, "Busy")
    body = {"steps": 40, "years": 10}
    with ThreadPoolExecutor(16) as pool:
        waiting = [
            pool.submit(app.ask, "POST", f"/api/designs/{design}/sizing-map", body)
            for _ in range(16)
        ]
        time.sleep(0.3)
        answered = 0
        while sum(one.done() for one in waiting) < 4 and answered < 50:
            assert app.status("/api/alive") == 200
            answered += 1
            time.sleep(0.05)
        # Whoever queues with the work is answered after the first half of it.
        assert answered >= 2
        for one in waiting:
            with contextlib.suppress(OSError):
                one.result()


def test_half_sent_requests_stop_nobody_and_are_cut(installation: Installation) -> None:
    """Headers that never end, bodies that never come: eight threads serve on."""
    app = installation
    # What the test before asked for and no longer waits for may still be worked on.
    app.until(lambda: app.status("/api/sites") == 200)
    head = b"POST /api/sites HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"
    starts = (b"GET /api/sites HTTP/1.1\r\nHost: 12", head + b"Content-Length: 1000\r\n\r\n{", head)
    # A server that waits for them can only answer once it has cut them; one that does not may
    # still be so slow for once that it has.
    assert any(_answers_beside(app, starts) for _ in range(5))


def _answers_beside(app: Installation, starts: tuple[bytes, ...]) -> bool:
    """Whether an answer came while every half-sent request still held its connection."""
    half = []
    for number in range(30):
        one = socket.create_connection(("127.0.0.1", app.port))
        one.sendall(starts[number % 3])
        half.append(one)
    assert app.status("/api/sites") == 200
    beside = all(_is_open(one) for one in half)
    for one in half:
        one.settimeout(45)
        assert one.recv(1000) == b""
        one.close()
    return beside


def _is_open(one: socket.socket) -> bool:
    """Whether the other side has neither said anything nor hung up."""
    one.setblocking(False)
    try:
        one.recv(1)
    except BlockingIOError:
        return True
    return False


def test_a_request_that_drips_is_cut(installation: Installation) -> None:
    """A byte a second keeps a connection busy for ever, unless the whole request is timed."""
    one = socket.create_connection(("127.0.0.1", installation.port))
    one.sendall(b"POST /api/sites HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5000\r\n\r\n")
    began = time.monotonic()
    with contextlib.suppress(OSError):
        while time.monotonic() - began < 30:
            one.sendall(b"{")
            time.sleep(0.5)
    assert 6 < time.monotonic() - began < 28


def test_the_servers_own_refusals_carry_the_policy_and_no_name(installation: Installation) -> None:
    endless = [b"GET / HTTP/1.1\r\nHost: x\r\nX: ", *[b"y" * 8_000] * 9]
    for parts in ([b"NONSENSE\r\n\r\n"], endless):
        with socket.create_connection(("127.0.0.1", installation.port)) as one:
            for part in parts:
                one.sendall(part)
                time.sleep(0.1)
            told = one.makefile("rb").read().decode()
        assert told.split(" ")[1] in {"400", "431"}
        assert "Content-Security-Policy: default-src 'none'" in told
        assert "application/problem+json" in told
        assert "\nServer:" not in told
        assert "waitress" not in told


def test_two_starts_at_once_leave_one_of_each(installation: Installation) -> None:
    app = installation
    with ThreadPoolExecutor(2) as pool:
        done = list(pool.map(lambda _: app.run("--port", str(app.port)), range(2)))
    assert [one.returncode for one in done] == [0, 0]
    assert sum("waiting for it" in one.stdout for one in done) == 1
    assert sum("already" in one.stdout for one in done) == 1
    app.until(lambda: app.status("/api/ready") == 200)
    mine = str(app.work).encode()
    numbers = [int(line) for line in os.popen("pgrep -f tools.watch").read().split()]
    watchers = [pid for pid in numbers if mine in _environment(pid)]
    assert watchers == [kept_pid(app.work / "watch.pid")]


def test_a_start_that_cannot_succeed_leaves_the_app_running(installation: Installation) -> None:
    app = installation
    before = kept_pid(app.work / "watch.pid")
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        for port in ("99999", "-1", str(taken.getsockname()[1])):
            assert app.run(f"--port={port}").returncode == 1
    assert kept_pid(app.work / "watch.pid") == before
    assert app.status("/api/sites") == 200


def test_a_killed_watcher_takes_everything_along_and_the_next_start_finds_the_data(
    installation: Installation,
) -> None:
    app = installation
    names = [site["name"] for site in app.ask("GET", "/api/sites")]
    before = app.processes()
    watcher = kept_pid(app.work / "watch.pid")
    assert watcher is not None
    os.kill(watcher, signal.SIGKILL)
    app.until(lambda: not any(_runs(pid) for pid in before), 20, lambda: _commands(before))
    app.start()
    assert [site["name"] for site in app.ask("GET", "/api/sites")] == names


def _environment(pid: int) -> bytes:
    try:
        return (Path("/proc") / str(pid) / "environ").read_bytes()
    except OSError:
        return b""


def _commands(pids: list[int]) -> str:
    """What still runs of these."""
    return str([(Path("/proc") / str(pid) / "cmdline").read_bytes() for pid in pids if _runs(pid)])


def _runs(pid: int) -> bool:
    return identity_of(pid) is not None


def test_stop_stops_everything(installation: Installation) -> None:
    app = installation
    before = app.processes()
    assert before
    assert app.run("--stop").stdout == "Stopped.\n"
    assert not any(_runs(pid) for pid in before)
    assert app.run("--status").returncode == 3
    app.start()


def test_a_backup_restores_everything_and_the_old_data_are_kept(installation: Installation) -> None:
    app = installation
    file = app.work / "kept.backup"
    design = new_design(app, "Before the backup")
    before = app.ask("GET", f"/api/designs/{design}")
    assert app.run("--backup", str(file)).returncode == 0
    new_design(app, "After the backup")
    bad = app.work / "bad.backup"
    bad.write_text("no backup")
    refused = app.run("--restore", str(bad))
    assert refused.returncode == 1
    assert "The app runs on as before" in refused.stderr
    assert "After the backup" in [site["name"] for site in app.ask("GET", "/api/sites")]
    done = app.run("--restore", str(file))
    assert done.returncode == 0, done.stderr
    assert "The data that were here are in" in done.stdout
    # It was served, and is served again.
    assert f"http://127.0.0.1:{app.port}" in done.stdout
    assert "After the backup" not in [site["name"] for site in app.ask("GET", "/api/sites")]
    assert app.ask("GET", f"/api/designs/{design}") == before


def test_sites_put_away_stay_away(installation: Installation) -> None:
    app = installation
    for site in app.ask("GET", "/api/sites"):
        # 204 holds no JSON.
        with contextlib.suppress(ValueError):
            app.ask("DELETE", f"/api/sites/{site['id']}", {})
    app.start()
    assert app.ask("GET", "/api/sites") == []
