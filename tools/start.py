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

from tools.backup import back_up, put_in_place, restored_beside
from tools.cluster import ClusterError, port_is_taken
from tools.processes import end, kept_pid, works_in
from tools.state import ROOT, read_state, where_the_data_lie, work_folder
from tools.watch import alive, last_line, progress_file

DEFAULT_PORT = 8470
STOP_S = 45.0
LOCK_S = 300.0
NEEDS_SET_UP = 75
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
                    print("Another start or stop is running; waiting for it to finish.", flush=True)
                waited = True
                if time.monotonic() > until:
                    raise ClusterError(
                        "another start or stop is still running after five minutes"
                    ) from None
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
        raise ClusterError(
            f"{port} isn't a port number; choose 1024 to 65535 with ./start --port N"
        )
    if port < 1024 and os.geteuid() != 0:
        raise ClusterError(
            f"only an administrator can use port {port}; choose 1024 or higher with ./start "
            "--port N"
        )
    if port != running_port(work) and port_is_taken(port) and not _older_serves(work):
        raise ClusterError(
            f"another program uses port {port}; choose another with ./start --port N"
        )
    work.mkdir(parents=True, exist_ok=True)
    free = shutil.disk_usage(work).free
    if free < LEAST_FREE_BYTES:
        raise ClusterError(
            f"the disk is too full: {free // 1000000} MB free at {work}, "
            f"{LEAST_FREE_BYTES // 1000000} MB needed"
        )


def _stop_older(work: Path) -> bool:
    """Stop what a start from before there was a watcher left running here; whether there was
    any."""
    stopped = False
    for name, mark in (("web", b"gunicorn"), ("worker", b"yonderstat.cli")):
        file = work / f"{name}.pid"
        try:
            pid = int(file.read_text())
            ours = (
                works_in(pid, ROOT) and mark in (Path("/proc") / str(pid) / "cmdline").read_bytes()
            )
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
        raise ClusterError(f"the background process ({pid}) doesn't stop")
    (work / "watch.pid").unlink(missing_ok=True)
    older = _stop_older(work)
    state = read_state(work)
    if state is None:
        return older or pid is not None
    cluster = state.cluster(where_the_data_lie(work, state))
    database = cluster.running_pid() is not None
    cluster.stop()
    return older or database or pid is not None


def start(work: Path, port: int) -> None:
    """Bring everything up and print the address."""
    with only_one(work) as waited:
        check_can_start(work, port)
        if waited and running_port(work) == port and alive(port, 5.0):
            print(f"Yonderstat is already running: http://127.0.0.1:{port}")
            return
        stop_watcher(work)
        start_alone(work, port)


def start_alone(work: Path, port: int) -> None:
    """Start the watcher where nothing runs, and say the address once it does; only one may be at
    it."""
    if port_is_taken(port):
        raise ClusterError(
            f"another program uses port {port}; choose another with ./start --port N"
        )
    log = work / "log" / "watch.log"
    log.parent.mkdir(parents=True, exist_ok=True)
    for old in (work / "watch.json", progress_file(work)):
        old.unlink(missing_ok=True)
    with log.open("ab") as sink:
        process = subprocess.Popen(
            [str(installed_python()), "-m", "tools.watch", str(port)],
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
    print(
        f"Yonderstat is running: open http://127.0.0.1:{port} in a browser. To stop it: "
        "./start --stop"
    )


def installed_python() -> Path:
    """The Python the app is installed in; the one that runs this may be the system's own."""
    own = ROOT / ".venv" / "bin" / "python"
    return own if own.exists() else Path(sys.executable)


def _await_running(work: Path, process: "subprocess.Popen[bytes]", log: Path) -> None:
    """Wait as long as the watcher lives, and say what it says; it gives up by itself where nothing
    works any more."""
    said = 0
    while True:
        state = told(work).get("state")
        said = _say_news(work, said)
        if state == "running":
            return
        if state == "failed" or process.poll() is not None:
            process.wait()
            raise ClusterError(
                str(told(work).get("words") or f"the background process ended: {last_line(log)}")
            )
        time.sleep(0.05)


def _say_news(work: Path, said: int) -> int:
    """Print what is being done that was not said yet; how many lines have been."""
    try:
        lines = progress_file(work).read_text(errors="replace").splitlines()
    except OSError:
        return said
    for line in lines[said:]:
        print(line, flush=True)
    return len(lines)


def stop(work: Path) -> None:
    """Stop the watcher and all it keeps."""
    with only_one(work):
        print("Stopped." if stop_watcher(work) else "Yonderstat wasn't running.")


def status(work: Path) -> int:
    """Say in a line how things stand; 0 if the app answers."""
    port = running_port(work)
    if port is None:
        print("Yonderstat isn't running.")
        return 3
    if not alive(port, 5.0):
        print(f"Yonderstat is restarting; see the log {work / 'log' / 'watch.log'}.")
        return 1
    print(f"Yonderstat is at http://127.0.0.1:{port}.")
    return 0


def from_where_asked(file: Path) -> Path:
    """A file named on the command line, in the folder the command was given in."""
    return Path(os.environ.get("YONDERSTAT_FROM", Path.cwd())) / file


def restore(work: Path, file: Path) -> None:
    """Make the data anew from a file. The app runs on until all of it is there, and is served again
    if it was."""
    with only_one(work):
        port = running_port(work)
        try:
            with restored_beside(work, file) as restored:
                stop_watcher(work)
                aside = put_in_place(work, restored)
                counts = restored.counts.words
        except ClusterError as error:
            kept = (
                "The app runs on as before" if running_port(work) else "The data are as they were"
            )
            if port is not None and running_port(work) is None:
                start_alone(work, port)
                kept = "The app was started again with the data that were here"
            raise ClusterError(f"{error}. {kept}") from None
        print(f"Restored: {counts}. {aside}".strip())
        if port is None:
            print("./start serves it.")
        else:
            start_alone(work, port)


def _asked(chosen: argparse.Namespace) -> str:
    for word, plain in (("backup", "back up"), ("restore", "restore"), ("stop", "stop")):
        if getattr(chosen, word):
            return plain
    return "start"


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="./start", description="Start Yonderstat on this machine."
    )
    parser.add_argument(
        "--port", type=int, default=DEFAULT_PORT, help=f"where to listen (default {DEFAULT_PORT})"
    )
    parser.add_argument(
        "--foreground", action="store_true", help="run in the foreground, for a service manager"
    )
    asked = parser.add_mutually_exclusive_group()
    asked.add_argument("--stop", action="store_true", help="stop what was started")
    asked.add_argument("--status", action="store_true", help="show whether it is running")
    asked.add_argument(
        "--backup",
        metavar="FILE",
        type=Path,
        help="save all data to a new file; works while it runs",
    )
    asked.add_argument(
        "--restore",
        metavar="FILE",
        type=Path,
        help="replace all data: stop, then load the data from such a file",
    )
    return parser


def _do(chosen: argparse.Namespace, work: Path, before_set_up: bool) -> int:
    if chosen.status:
        return status(work)
    if chosen.backup:
        print(f"Saved to {chosen.backup}: {back_up(work, from_where_asked(chosen.backup))}.")
    elif chosen.restore:
        restore(work, from_where_asked(chosen.restore))
    elif chosen.stop:
        stop(work)
    elif before_set_up:
        check_can_start(work, chosen.port)
        return NEEDS_SET_UP
    elif chosen.foreground:
        with only_one(work):
            check_can_start(work, chosen.port)
            stop_watcher(work)
        os.execv(sys.executable, [sys.executable, "-m", "tools.watch", str(chosen.port)])
    else:
        start(work, chosen.port)
    return 0


def main() -> int:
    """Run; problems a person can act on are one sentence and exit 1.

    Called before anything is installed, by the system's own Python, all but a start is done at
    once; a start is looked at, and asks for the set-up.
    """
    chosen, work = _parser().parse_args(), work_folder()
    try:
        return _do(chosen, work, os.environ.get("YONDERSTAT_STAGE") == "before")
    except ClusterError as error:
        print(f"Could not {_asked(chosen)}: {str(error).rstrip('.')}.", file=sys.stderr)
        return 1
    except OSError as error:
        print(
            f"Could not {_asked(chosen)}: {error.strerror or error} ({error.filename or work}).",
            file=sys.stderr,
        )
        return 1


if __name__ == "__main__":
    sys.exit(main())
