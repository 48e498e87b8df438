"""Start and stop Yonderstat on this machine; run by ./start once everything is installed."""

import argparse
import json
import os
import secrets
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from dataclasses import dataclass
from pathlib import Path

from tools.cluster import Cluster, ClusterError, data_folder, free_port, port_is_taken

ROOT = Path(__file__).resolve().parents[1]
WORK = ROOT / ".work"
DEFAULT_PORT = 8470
READY_S, STOP_S = 60.0, 15.0
GUNICORN = "-k gthread -w 2 --threads 4 --preload --worker-tmp-dir /dev/shm --graceful-timeout 5 --no-control-socket"


@dataclass(frozen=True, slots=True)
class State:
    """What a start remembers: secrets and the database's port. Kept in one file only we may read."""

    database_password: str
    secret_key: str
    database_port: int


def read_state() -> State:
    """The kept state; made on the first start."""
    file = WORK / "state.json"
    if file.exists():
        return State(**json.loads(file.read_text()))
    WORK.mkdir(exist_ok=True)
    state = State(secrets.token_urlsafe(24), secrets.token_urlsafe(48), free_port())
    write_state(state)
    return state


def write_state(state: State) -> None:
    """Keep the state, readable by its owner only from the first byte."""
    file = os.open(WORK / "state.json", os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(file, "w") as sink:
        json.dump({name: getattr(state, name) for name in State.__slots__}, sink)


def the_cluster(state: State) -> Cluster:
    """The project's own cluster."""
    return Cluster(data_folder(WORK / "postgres"), state.database_port, state.database_password)


def start_database(state: State) -> Cluster:
    """The cluster, running. If a stranger took its port meanwhile, it moves to a free one."""
    cluster = the_cluster(state)
    cluster.create()
    if cluster.running_pid() is None:
        if port_is_taken(state.database_port):
            state = State(state.database_password, state.secret_key, free_port())
            write_state(state)
            cluster = the_cluster(state)
        cluster.start(WORK / "log" / "postgres.log")
    return cluster


def running_pid(name: str, mark: bytes) -> int | None:
    """A process of ours by the name of its pid file, if it is alive and its command line carries the mark."""
    try:
        pid = int((WORK / f"{name}.pid").read_text())
        command = (Path("/proc") / str(pid) / "cmdline").read_bytes()
    except (OSError, ValueError):
        return None
    return pid if mark in command else None


def stop_process(name: str, mark: bytes) -> bool:
    """Stop a process of ours; whether there was one."""
    pid = running_pid(name, mark)
    if pid is None:
        return False
    os.kill(pid, signal.SIGTERM)
    until = time.monotonic() + STOP_S
    while time.monotonic() < until and running_pid(name, mark) is not None:
        time.sleep(0.05)
    if running_pid(name, mark) is not None:
        os.kill(pid, signal.SIGKILL)
    (WORK / f"{name}.pid").unlink(missing_ok=True)
    return True


WEB, WORKER = ("web", b"gunicorn"), ("worker", b"yonderstat.cli")


def stop_processes() -> bool:
    """Stop the web server and the worker; whether there was one."""
    return any([stop_process(*WEB), stop_process(*WORKER)])


def start_worker(environment: dict[str, str]) -> None:
    """Start the process that works on sizing maps, apart from us."""
    with (WORK / "log" / "worker.log").open("ab") as sink:
        process = subprocess.Popen(
            [sys.executable, "-m", "yonderstat.cli", "worker"],
            stdin=subprocess.DEVNULL,
            stdout=sink,
            stderr=sink,
            cwd=ROOT,
            env=environment,
            start_new_session=True,
        )
    (WORK / "worker.pid").write_text(str(process.pid))


def start_web(port: int, environment: dict[str, str]) -> None:
    """Start gunicorn apart from us and wait until it answers."""
    log = WORK / "log" / "web.log"
    log.parent.mkdir(exist_ok=True)
    command = [sys.executable, "-m", "gunicorn", *GUNICORN.split(), "-b", f"127.0.0.1:{port}"]
    command += ["--pid", str(WORK / "web.pid"), "yonderstat.web.wsgi:app"]
    with log.open("ab") as sink:
        process = subprocess.Popen(
            command,
            stdin=subprocess.DEVNULL,
            stdout=sink,
            stderr=sink,
            cwd=ROOT,
            env=environment,
            start_new_session=True,
        )
    until = time.monotonic() + READY_S
    while time.monotonic() < until:
        if process.poll() is not None:
            raise ClusterError(f"the web server stopped at once; its log is {log}")
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/alive", timeout=5)
            return
        except (urllib.error.URLError, OSError):
            time.sleep(0.1)
    raise ClusterError(f"the web server does not answer; its log is {log}")


def prepare(environment: dict[str, str]) -> None:
    """Migrate the database and build the demo if it is empty."""
    command = [sys.executable, "-m", "yonderstat.cli", "demo", "--migrate"]
    subprocess.run(command, check=True, env=environment, cwd=ROOT)


def start(port: int) -> None:
    """Bring everything up and print the address."""
    state = read_state()
    stop_processes()
    if port_is_taken(port):
        raise ClusterError(f"port {port} is taken by another program; choose one with ./start --port N")
    cluster = start_database(state)
    environment = os.environ | {"YONDERSTAT_DATABASE_URL": cluster.url, "YONDERSTAT_SECRET_KEY": state.secret_key}
    prepare(environment)
    start_web(port, environment)
    start_worker(environment)
    print(f"Yonderstat is at http://127.0.0.1:{port}  (./start --stop stops it)")


def stop() -> None:
    """Stop the web server, the worker and the database."""
    web = stop_processes()
    cluster = the_cluster(read_state()) if (WORK / "state.json").exists() else None
    database = cluster is not None and cluster.running_pid() is not None
    if cluster is not None:
        cluster.stop()
    print("Stopped." if web or database else "Nothing was running.")


def main() -> int:
    """Run; problems a person can act on are one sentence and exit 1."""
    parser = argparse.ArgumentParser(prog="./start", description="Start Yonderstat on this machine.")
    parser.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"where to listen (default {DEFAULT_PORT})")
    parser.add_argument("--stop", action="store_true", help="stop what was started")
    chosen = parser.parse_args()
    try:
        stop() if chosen.stop else start(chosen.port)
    except ClusterError as error:
        print(f"Could not start: {error}.", file=sys.stderr)
        return 1
    except subprocess.CalledProcessError as error:
        print(f"Could not start: “{' '.join(map(str, error.cmd[-2:]))}” failed; see above.", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
