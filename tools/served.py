"""The app served as in life, on a database, port and processes of its own: for tests, benchmarks
and pictures."""

import json
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from typing import Any

from tools.cluster import Cluster, data_folder, free_port, port_is_taken
from tools.state import ROOT
from tools.watch import WEB_COMMAND, alive

STOPS_WITHIN_S = 60.0
"""A worker ends what it is at first; beside other checks that takes a while."""
READY_S = 90.0


@contextmanager
def throwaway_cluster(prefix: str) -> Iterator[Cluster]:
    """A PostgreSQL that trusts loopback, forgets everything, and dies with us."""
    (ROOT / ".work").mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory(prefix=f"{prefix}-", dir=ROOT / ".work") as folder:
        Path(folder).chmod(0o755)
        server = Cluster(data_folder(Path(folder) / "data"), free_port(), throwaway=True)
        server.create()
        server.start(Path(folder) / "log")
        try:
            yield server
        finally:
            server.stop()


@contextmanager
def served(url: str, quiet: bool = True, port: int | None = None) -> Iterator[str]:
    """The web server and a worker on a database, at the port given or a free one; its address once
    it answers.

    Parameters
    ----------
    url : str
        Of the database.
    quiet : bool
        Whether what the servers print is thrown away.
    port : int or None
        A free one where none is named.
    """
    port = port or free_port()
    environment = os.environ | {
        "YONDERSTAT_DATABASE_URL": url,
        "YONDERSTAT_SECRET_KEY": "throwaway",
    }
    bound = ["-b", f"127.0.0.1:{port}", "yonderstat.web.wsgi:app"]
    web_command = [sys.executable, "-m", "gunicorn", *WEB_COMMAND.split(), *bound]
    sink = subprocess.DEVNULL if quiet else None
    web = subprocess.Popen(web_command, cwd=ROOT, env=environment, stderr=sink)
    worker = subprocess.Popen(
        [sys.executable, "-m", "yonderstat.cli", "worker"], cwd=ROOT, env=environment, stderr=sink
    )
    try:
        until = time.monotonic() + READY_S
        while not alive(port, 5.0):
            if web.poll() is not None or time.monotonic() > until:
                raise RuntimeError("the web server does not come up")
            time.sleep(0.1)
        yield f"http://127.0.0.1:{port}"
    finally:
        for process in (worker, web):
            process.terminate()
            process.wait(STOPS_WITHIN_S)


@contextmanager
def reporting(url: str, config: dict[str, Any], quiet: bool = True) -> Iterator[Path]:
    """Stand-ins as a configuration has them, and a reader on a database; the folder of its
    spool.

    Parameters
    ----------
    url : str
        Of the database.
    config : dict[str, Any]
        What the stand-ins are to be.
    quiet : bool
        Whether what they print is thrown away.
    """
    with ExitStack() as stack:
        folder = Path(
            stack.enter_context(
                tempfile.TemporaryDirectory(prefix="reporting-", dir=ROOT / ".work")
            )
        )
        log = folder / "log"
        sink = stack.enter_context(log.open("wb")) if quiet else None
        (folder / "config.json").write_text(
            json.dumps({**config, "state": str(folder / "state.json")})
        )
        environment = os.environ | {
            "YONDERSTAT_DATABASE_URL": url,
            "YONDERSTAT_SPOOL": str(folder / "spool" / "readings.jsonl"),
        }
        standins = subprocess.Popen(
            [sys.executable, "-m", "yonderstat.standins", str(folder / "config.json")],
            cwd=ROOT,
            stdout=sink,
            stderr=sink,
        )
        reader: subprocess.Popen[bytes] | None = None
        try:
            until = time.monotonic() + READY_S
            while not port_is_taken(int(config["control_port"])):
                if standins.poll() is not None or time.monotonic() > until:
                    said = log.read_text(errors="replace")[-2000:] if quiet else ""
                    raise RuntimeError(f"the stand-ins do not come up: {said}")
                time.sleep(0.1)
            command = [sys.executable, "-m", "yonderstat.reader"]
            reader = subprocess.Popen(command, cwd=ROOT, env=environment, stdout=sink, stderr=sink)
            yield folder
        finally:
            for process in (reader, standins):
                if process is not None:
                    process.terminate()
                    process.wait(STOPS_WITHIN_S)
