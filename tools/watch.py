"""Keeps PostgreSQL, the app (web server, worker and reader) and stand-ins running: starts them, and
again what ends.

Run by ./start, which waits for its word; under systemd it stays in the foreground. When it ends,
however it ends, the kernel ends what it started: nothing is left behind that a later start would
not know of.
"""

import contextlib
import json
import os
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from tools.cluster import Cluster, ClusterError, die_with_parent
from tools.files import write_whole
from tools.processes import keep_identity, ticks_of_group
from tools.state import ROOT, Opened, open_state, work_folder

WEB_COMMAND = (
    "-k yonderstat.web.serving.BufferedWorker -w 2 --threads 4 --preload --worker-tmp-dir /dev/shm "
    "--graceful-timeout 5 --no-control-socket"
)
IDLE_S = 90.0
"""A part that does not answer is waited for as long as it lives and works; so long without work it
is given up."""
LOOK_S = 0.25
FIRST_WAIT_S, STEADY_S = 0.5, 60.0
LONGEST_WAIT_S = float(os.environ.get("YONDERSTAT_LONGEST_WAIT_S", "10"))
"""A part that ends at once is started again after longer and longer; one that ran steadily starts
afresh."""
ASK_EVERY_S = float(os.environ.get("YONDERSTAT_ASK_EVERY_S", "10"))
ASK_FOR_S, SILENT_TIMES = min(5.0, ASK_EVERY_S), 3
"""The web server is asked whether it is alive; silent so many times, it is started again."""
STOP_S = {"postgres": 20.0, "app": 10.0, "standins": 3.0}


@dataclass(kw_only=True)
class Part:
    """A process that must run."""

    name: str
    launch: Callable[[], "subprocess.Popen[bytes]"]
    stop_signal: signal.Signals
    process: "subprocess.Popen[bytes] | None" = None
    began: float = 0.0
    wait_s: float = 0.0
    not_before: float = 0.0
    silent: int = 0
    answered: bool = False
    """Since it was started last; until then it is given the time a start takes."""
    worked: tuple[int, float] = (0, 0.0)
    """How much processor time it had used when that was last seen to grow, and when that was."""
    asked: float = field(default_factory=time.monotonic)

    def ensure(self, now: float) -> None:
        """Start it if it does not run and its wait is over."""
        if self.process is not None and self.process.poll() is not None:
            steady = now - self.began > STEADY_S
            self.wait_s = (
                FIRST_WAIT_S
                if steady
                else min(max(FIRST_WAIT_S, 2.0 * self.wait_s), LONGEST_WAIT_S)
            )
            self.not_before = now + self.wait_s
            say(
                f"{self.name} ended with {self.process.returncode}; it starts again in "
                f"{self.wait_s:g} s"
            )
            self.end_children()
            self.process = None
        if self.process is None and now >= self.not_before:
            self.process, self.began, self.silent, self.asked, self.answered = (
                self.launch(),
                now,
                0,
                now,
                False,
            )

    @property
    def runs(self) -> bool:
        return self.process is not None and self.process.poll() is None

    def idle_s(self, now: float) -> float:
        """For how long neither it nor a child of it has done anything. A slow machine compiles for
        minutes."""
        ticks = ticks_of_group(self.process.pid) if self.process is not None else 0
        if ticks != self.worked[0]:
            self.worked = (ticks, now)
        return now - max(self.worked[1], self.began)

    def end_children(self) -> None:
        """End what an ended part left behind: a hung child of the web server would hold its port.

        Not PostgreSQL's: its children end by themselves once they miss their parent, and must not
        be cut short.
        """
        if self.process is not None and self.name != "postgres":
            with contextlib.suppress(ProcessLookupError):
                os.killpg(self.process.pid, signal.SIGKILL)

    def ask_to_stop(self) -> None:
        """Tell it to end, without waiting for it."""
        if self.process is not None:
            self.process.send_signal(self.stop_signal)

    def stop(self) -> None:
        """End it: politely, then firmly."""
        if self.process is None:
            return
        self.ask_to_stop()
        try:
            self.process.wait(STOP_S[self.name])
        except subprocess.TimeoutExpired:
            self.process.send_signal(signal.SIGQUIT if self.name == "postgres" else signal.SIGKILL)
            self.process.wait(STOP_S[self.name])
        self.end_children()
        self.process = None


def say(words: str) -> None:
    """A line in the watcher's log."""
    print(f"{time.strftime('%Y-%m-%d %H:%M:%S')} {words}", flush=True)


def tell(work: Path, state: str, port: int, words: str = "") -> None:
    """Tell ./start how far we are.

    Parameters
    ----------
    state : str
        Which phase it is in.
    words : str
        What is being done.
    """
    write_whole(work / "watch.json", json.dumps({"state": state, "port": port, "words": words}))


def alive(port: int, timeout_s: float) -> bool:
    """Whether the web server answers."""
    try:
        with urllib.request.urlopen(
            f"http://127.0.0.1:{port}/api/alive", timeout=timeout_s
        ) as answer:
            return bool(answer.status == 200)
    except (urllib.error.URLError, OSError):
        return False


def _launcher(
    work: Path, name: str, command: list[str], environment: dict[str, str]
) -> "subprocess.Popen[bytes]":
    with (work / "log" / f"{name}.log").open("ab") as sink:
        return subprocess.Popen(
            command,
            stdin=subprocess.DEVNULL,
            stdout=sink,
            stderr=sink,
            cwd=ROOT,
            env=environment,
            start_new_session=True,
            # Without a watcher there is no database either: nothing is left to end politely.
            preexec_fn=lambda: die_with_parent(signal.SIGKILL),
        )


def prepared_file(work: Path) -> Path:
    """Where the app says how bringing the database up to date went."""
    return work / "prepared.json"


def progress_file(work: Path) -> Path:
    """Where whoever is at work says what is being done, a line each, for ./start to print."""
    return work / "progress.txt"


def parts_of(work: Path, opened: Opened, port: int) -> dict[str, Part]:
    """What is watched, in the order it starts."""
    cluster = opened.cluster
    environment = environment_of(opened)
    preparing = [
        {
            "YONDERSTAT_PREPARED": str(prepared_file(work)),
            "YONDERSTAT_PROGRESS": str(progress_file(work)),
        }
    ]

    def app_environment() -> dict[str, str]:
        # It prepares once: an app that is started again finds its database as it left it.
        return environment | (preparing.pop() if preparing else {})

    gunicorn = [*WEB_COMMAND.split(), "-b", f"127.0.0.1:{port}", "yonderstat.web.wsgi:app"]
    app = [sys.executable, "-m", "yonderstat.together", *gunicorn]
    standins = [
        sys.executable,
        "-m",
        "yonderstat.cli",
        "standin",
        "--state",
        str(work / "standins.json"),
    ]
    parts = (
        Part(
            name="postgres",
            launch=lambda: cluster.launch(work / "log" / "postgres.log"),
            stop_signal=signal.SIGINT,
        ),
        Part(
            name="app",
            launch=lambda: _launcher(work, "app", app, app_environment()),
            stop_signal=signal.SIGTERM,
        ),
        Part(
            name="standins",
            launch=lambda: _launcher(work, "standins", standins, environment),
            stop_signal=signal.SIGTERM,
        ),
    )
    return {part.name: part for part in parts}


def environment_of(opened: Opened) -> dict[str, str]:
    """What the app is told of where it runs."""
    return os.environ | {
        "YONDERSTAT_DATABASE_URL": opened.cluster.url,
        "YONDERSTAT_SECRET_KEY": opened.state.secret_key,
        # Threads that come and go must not each keep a heap of their own.
        "MALLOC_ARENA_MAX": "2",
        "YONDERSTAT_DATA_DIR": str(opened.cluster.folder),
        "YONDERSTAT_STANDIN_PORT": str(opened.state.standin_port),
        "YONDERSTAT_LOGS": str(work_folder() / "log"),
        "YONDERSTAT_SPOOL": str(work_folder() / "spool" / "readings.jsonl"),
    }


def _await(part: Part, ready: Callable[[], bool], log: Path) -> None:
    while not ready():
        _check_works(part, log)
        time.sleep(0.05)


def _check_works(part: Part, log: Path) -> None:
    if not part.runs:
        raise ClusterError(f"{part.name} stopped at once: {last_line(log)} (its log is {log})")
    if part.idle_s(time.monotonic()) > IDLE_S:
        raise ClusterError(
            f"{part.name} does not answer and has done nothing for {IDLE_S:g} s; its log is {log}"
        )


def last_line(log: Path) -> str:
    """What a log said last."""
    try:
        lines = log.read_text(errors="replace").strip().splitlines()
    except OSError:
        return "it said nothing"
    return lines[-1][-300:] if lines else "it said nothing"


def _await_prepared(part: Part, told: Path, log: Path) -> None:
    """Wait until the app has brought the database up to date, and built the demo where nothing was
    ever kept."""
    while not told.exists():
        _check_works(part, log)
        time.sleep(0.05)
    code, said, complaint = json.loads(told.read_text(encoding="utf-8"))
    told.unlink()
    say(said.strip())
    if code != 0:
        say(complaint.strip())
        lines = complaint.strip().splitlines() or ["it said nothing"]
        raise ClusterError(f"the database could not be brought up to date: {lines[-1][:300]}")


def bring_up(work: Path, opened: Opened, parts: dict[str, Part], port: int) -> None:
    """Start every part, each once what it needs is there.

    Parameters
    ----------
    opened : Opened
        Databases that are open.
    parts : dict[str, Part]
        What is to run, in order.
    """
    cluster: Cluster = opened.cluster
    now = time.monotonic()
    with progress_file(work).open("a") as sink:
        sink.write("Starting the database and the app\n")
    parts["postgres"].ensure(now)
    # The app reads its data while the database starts and is brought up to date; nobody is told the
    # address before all is done.
    parts["app"].ensure(now)
    _await(parts["postgres"], cluster.answers, work / "log" / "postgres.log")
    _await(parts["app"], lambda: alive(port, 2.0), work / "log" / "app.log")
    _await_prepared(parts["app"], prepared_file(work), work / "log" / "app.log")
    parts["standins"].ensure(now)


def _ask(part: Part, port: int, now: float) -> None:
    """Have a web server ended that runs but does not answer; one that never answers after that
    takes the app along."""
    if not part.runs or now - part.asked < ASK_EVERY_S or part.process is None:
        return
    part.asked = now
    answers = alive(port, ASK_FOR_S)
    part.answered = part.answered or answers
    part.silent = 0 if answers else part.silent + 1
    starting = not part.answered and part.idle_s(now) < IDLE_S
    if part.silent < SILENT_TIMES or starting:
        return
    say("web does not answer; it is ended")
    if part.answered:
        part.process.send_signal(signal.SIGUSR1)
        part.began, part.silent, part.answered = now, 0, False
    else:
        part.process.kill()


def watch(parts: dict[str, Part], port: int, stopping: Callable[[], bool]) -> None:
    """Start again what ends, until told to stop.

    Parameters
    ----------
    stopping : Callable[[], bool]
        Set when all are to end.
    """
    while not stopping():
        now = time.monotonic()
        for part in parts.values():
            try:
                part.ensure(now)
            except (OSError, ClusterError) as error:
                part.not_before = now + LONGEST_WAIT_S
                say(f"{part.name} cannot be started now: {error}")
        _ask(parts["app"], port, now)
        time.sleep(LOOK_S)


def run(port: int) -> int:
    """Bring everything up and watch it until a signal says to stop."""
    work = work_folder()
    (work / "log").mkdir(parents=True, exist_ok=True)
    keep_identity(work / "watch.pid", os.getpid())
    told: list[int] = []
    for sign in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
        signal.signal(sign, lambda number, frame: told.append(number))
    tell(work, "starting", port)
    prepared_file(work).unlink(missing_ok=True)
    parts: dict[str, Part] = {}
    try:
        opened = open_state(work)
        parts = parts_of(work, opened, port)
        bring_up(work, opened, parts, port)
        tell(work, "running", port, "\n".join(opened.words))
        say(f"running on port {port}")
        watch(parts, port, lambda: bool(told))
        tell(work, "stopped", port)
        return 0
    except (ClusterError, OSError) as error:
        tell(work, "failed", port, str(error))
        say(f"failed: {error}")
        return 1
    finally:
        # The app ends beside the stand-ins, the database after both.
        if "app" in parts:
            parts["app"].ask_to_stop()
        for part in reversed(parts.values()):
            part.stop()
        (work / "watch.pid").unlink(missing_ok=True)


if __name__ == "__main__":
    sys.exit(run(int(sys.argv[1])))
