"""Start and stop Yonderstat on this machine; run by ./start once everything is installed."""

import argparse
import fcntl
import json
import os
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tools.backup import back_up, restore
from tools.cluster import Cluster, ClusterError, port_is_taken
from tools.processes import end, kept_pid, works_in
from tools.state import ROOT, read_state, where_the_data_lie, work_folder
from tools.watch import READY_S, alive, last_line

DEFAULT_PORT = 8470
STOP_S = 45.0
LOCK_S = 300.0
LEAST_FREE_BYTES = 200_000_000
"""Under this PostgreSQL may not come up, or not stay up."""


@contextmanager
def only_one(work: Path) -> Iterator[bool]:
    """Let one start or stop at a time work here; tells whether it had to wait for another."""
    work.mkdir(parents=True, exist_ok=True)
    with (work / "start.lock").open("w") as lock:
        waited = False
        until = time.monotonic() + LOCK_S
        while True:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except BlockingIOError:
                if not waited:
                    print("Another start or stop is at work here; waiting for it.", flush=True)
                waited = True
                if time.monotonic() > until:
                    raise ClusterError("another start or stop is still at work here after five minutes") from None
                time.sleep(0.1)
        yield waited


def told(work: Path) -> dict[str, object]:
    """What the watcher last said."""
    try:
        found: dict[str, object] = json.loads((work / "watch.json").read_text())
        return found
    except (OSError, ValueError):
        return {}


def running_port(work: Path) -> int | None:
    """The port the app is served on now, None where it is not."""
    if kept_pid(work / "watch.pid") is None:
        return None
    port = told(work).get("port")
    return port if isinstance(port, int) else None


def _older_serves(work: Path) -> bool:
    """Whether a start from before there was a watcher serves from here: it will be stopped."""
    try:
        return works_in(int((work / "web.pid").read_text()), ROOT)
    except (OSError, ValueError):
        return False


def check_can_start(work: Path, port: int) -> None:
    """Find out what would keep a start from succeeding before anything that runs is stopped."""
    if not 1 <= port <= 65535:
        raise ClusterError(f"{port} is not a port; choose one from 1024 to 65535 with ./start --port N")
    if port < 1024 and os.geteuid() != 0:
        raise ClusterError(f"port {port} is for the administrator only; choose one from 1024 up with ./start --port N")
    if port != running_port(work) and port_is_taken(port) and not _older_serves(work):
        raise ClusterError(f"port {port} is taken by another program; choose one with ./start --port N")
    free = shutil.disk_usage(work).free
    if free < LEAST_FREE_BYTES:
        raise ClusterError(
            f"the disk is full: {free // 1_000_000} MB are free at {work} and {LEAST_FREE_BYTES // 1_000_000} MB needed"
        )


def _stop_older(work: Path) -> bool:
    """Stop what a start from before there was a watcher left running here; whether there was any."""
    stopped = False
    for name, mark in (("web", b"gunicorn"), ("worker", b"yonderstat.cli")):
        file = work / f"{name}.pid"
        try:
            pid = int(file.read_text())
            ours = works_in(pid, ROOT) and mark in (Path("/proc") / str(pid) / "cmdline").read_bytes()
        except (OSError, ValueError):
            continue
        if ours:
            end(pid, (signal.SIGTERM, signal.SIGKILL), STOP_S)
            stopped = True
        file.unlink(missing_ok=True)
    return stopped


def stop_watcher(work: Path) -> bool:
    """Stop everything; whether anything ran. A stranger under an old number is left alone."""
    pid = kept_pid(work / "watch.pid")
    if pid is not None and not end(pid, (signal.SIGTERM, signal.SIGKILL), STOP_S):
        raise ClusterError(f"the watcher (process {pid}) does not stop")
    (work / "watch.pid").unlink(missing_ok=True)
    older = _stop_older(work)
    state = read_state(work)
    if state is None:
        return older or pid is not None
    cluster = Cluster(where_the_data_lie(work, state), state.database_port)
    database = cluster.running_pid() is not None
    cluster.stop()
    return older or database or pid is not None


def start(work: Path, port: int) -> None:
    """Bring everything up and print the address."""
    with only_one(work) as waited:
        check_can_start(work, port)
        if waited and running_port(work) == port and alive(port, 5.0):
            print(f"Yonderstat is at http://127.0.0.1:{port} already.")
            return
        stop_watcher(work)
        if port_is_taken(port):
            raise ClusterError(f"port {port} is taken by another program; choose one with ./start --port N")
        log = work / "log" / "watch.log"
        log.parent.mkdir(parents=True, exist_ok=True)
        (work / "watch.json").unlink(missing_ok=True)
        with log.open("ab") as sink:
            process = subprocess.Popen(
                [sys.executable, "-m", "tools.watch", str(port)],
                stdin=subprocess.DEVNULL,
                stdout=sink,
                stderr=sink,
                cwd=ROOT,
                start_new_session=True,
            )
        _await_running(work, process, log)
        words = str(told(work).get("words") or "")
        if words:
            print(words)
        print(f"Yonderstat is at http://127.0.0.1:{port}  (./start --stop stops it)")


def _await_running(work: Path, process: "subprocess.Popen[bytes]", log: Path) -> None:
    until = time.monotonic() + 3 * READY_S
    while time.monotonic() < until:
        state = told(work).get("state")
        if state == "running":
            return
        if state == "failed" or process.poll() is not None:
            process.wait()
            raise ClusterError(str(told(work).get("words") or f"the watcher ended: {last_line(log)}"))
        time.sleep(0.05)
    end(process.pid, (signal.SIGTERM, signal.SIGKILL), STOP_S)
    raise ClusterError(f"it does not come up; the log is {log}")


def stop(work: Path) -> None:
    """Stop the watcher and all it keeps."""
    with only_one(work):
        print("Stopped." if stop_watcher(work) else "Nothing was running.")


def status(work: Path) -> int:
    """Say in a line how things stand; 0 if the app answers."""
    port = running_port(work)
    if port is None:
        print("Nothing is running.")
        return 3
    if not alive(port, 5.0):
        print(f"It is being started again; the log is {work / 'log' / 'watch.log'}.")
        return 1
    print(f"Yonderstat is at http://127.0.0.1:{port}.")
    return 0


def from_where_asked(file: Path) -> Path:
    """A file named on the command line, in the folder the command was given in."""
    return Path(os.environ.get("YONDERSTAT_FROM", Path.cwd())) / file


def _asked(chosen: argparse.Namespace) -> str:
    for word, plain in (("backup", "back up"), ("restore", "restore"), ("stop", "stop")):
        if getattr(chosen, word):
            return plain
    return "start"


def main() -> int:
    """Run; problems a person can act on are one sentence and exit 1."""
    parser = argparse.ArgumentParser(prog="./start", description="Start Yonderstat on this machine.")
    parser.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"where to listen (default {DEFAULT_PORT})")
    parser.add_argument("--foreground", action="store_true", help="stay, for a service manager to look after")
    asked = parser.add_mutually_exclusive_group()
    asked.add_argument("--stop", action="store_true", help="stop what was started")
    asked.add_argument("--status", action="store_true", help="say how things stand")
    asked.add_argument("--backup", metavar="FILE", type=Path, help="write everything kept into a file, while it runs")
    asked.add_argument("--restore", metavar="FILE", type=Path, help="stop, and make the data anew from such a file")
    chosen, work = parser.parse_args(), work_folder()
    try:
        if chosen.status:
            return status(work)
        if chosen.backup:
            print(f"Written to {chosen.backup}: {back_up(work, from_where_asked(chosen.backup))}.")
        elif chosen.restore:
            with only_one(work):
                stop_watcher(work)
                counts, aside = restore(work, from_where_asked(chosen.restore))
            print(f"Restored: {counts}. {aside} ./start serves it.")
        elif chosen.stop:
            stop(work)
        elif chosen.foreground:
            with only_one(work):
                check_can_start(work, chosen.port)
                stop_watcher(work)
            os.execv(sys.executable, [sys.executable, "-m", "tools.watch", str(chosen.port)])
        else:
            start(work, chosen.port)
    except ClusterError as error:
        print(f"Could not {_asked(chosen)}: {error}.", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
