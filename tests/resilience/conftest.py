"""A whole installation of its own: state, data, ports and processes apart from anything a user
runs."""

import json
import os
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pytest
from tools.cluster import free_port
from tools.processes import all_in, kept_pid
from tools.state import ROOT, WORK_VARIABLE, State, read_state

HURRIED = {
    "YONDERSTAT_SILENT_S": "4",
    "YONDERSTAT_WHOLE_S": "8",
    "YONDERSTAT_ASK_EVERY_S": "1.5",
    "YONDERSTAT_LONGEST_WAIT_S": "1",
    "YONDERSTAT_WARM": "0",
}
"""The limits of docs/operating.md, shorter, so that a test need not wait for them."""
CHILDREN = {"web": "yonderstat-web", "worker": "yonderstat-work", "reader": "yonderstat-read"}
"""Of the app, by the beginning of the names they give themselves."""


@dataclass(frozen=True)
class Installation:
    """What ./start runs, in a work folder of its own."""

    work: Path
    port: int

    def run(self, *words: str) -> subprocess.CompletedProcess[str]:
        """./start without its installing."""
        command = [sys.executable, "-m", "tools.start", *words]
        environment = os.environ | HURRIED | {WORK_VARIABLE: str(self.work)}
        return subprocess.run(
            command, cwd=ROOT, env=environment, text=True, capture_output=True, check=False
        )

    def start(self) -> None:
        done = self.run("--port", str(self.port))
        assert done.returncode == 0, done.stderr + self.log("watch")

    def log(self, name: str) -> str:
        file = self.work / "log" / f"{name}.log"
        return file.read_text(errors="replace") if file.exists() else ""

    def ask(
        self, method: str, path: str, body: Any = None, headers: dict[str, str] | None = None
    ) -> Any:
        """An answer's JSON; an error as urllib raises it."""
        data = None if body is None else json.dumps(body).encode()
        words = {"Content-Type": "application/json", **(headers or {})}
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}{path}", data, words, method=method
        )
        with urllib.request.urlopen(request, timeout=20) as answer:
            return json.load(answer)

    def status(self, path: str) -> int:
        """How a path answers now: 0 where nobody does."""
        try:
            self.ask("GET", path)
        except urllib.error.HTTPError as error:
            return error.code
        except OSError:
            return 0
        return 200

    def until(
        self, holds: Callable[[], bool], within_s: float = 45.0, told: Callable[[], str] = str
    ) -> None:
        """Wait until something holds; `told` says more where it does not."""
        end = time.monotonic() + within_s
        while not holds():
            assert time.monotonic() < end, told() + self.log("watch") + self.log("web")[-2000:]
            time.sleep(0.1)

    def pid_of(self, name: str) -> int:
        """The process of a part, found among the watcher's children, or theirs by the name it gives
        itself."""
        mark = {"postgres": "/postgres -D", "app": "yonderstat.together"}.get(name, name)
        watcher = kept_pid(self.work / "watch.pid")
        app = self.pid_of("app") if name in CHILDREN else 0
        for entry in Path("/proc").iterdir():
            try:
                head, rest = (entry / "stat").read_text().rsplit(")", 1)
                line = (entry / "cmdline").read_bytes().replace(b"\0", b" ").decode()
            except (OSError, IndexError):
                continue
            state, parent = rest.split()[:2]
            named = CHILDREN[name] in head if name in CHILDREN else mark in line
            if int(parent) == (app if name in CHILDREN else watcher) and named and state != "Z":
                return int(entry.name)
        return 0

    def state(self) -> State:
        """What it remembers."""
        found = read_state(self.work)
        assert found is not None
        return found

    def processes(self) -> list[int]:
        """Everything of this installation that runs."""
        state = read_state(self.work)
        found = [pid for pid in map(self.pid_of, ("app", "yonderstat.standins", *CHILDREN)) if pid]
        return found + (all_in(Path(state.data_folder)) if state and state.data_folder else [])


@pytest.fixture(scope="module")
def installation() -> Iterator[Installation]:
    with tempfile.TemporaryDirectory(prefix="test-resilience-", dir=ROOT / ".work") as name:
        Path(name).chmod(0o755)
        one = Installation(Path(name), free_port())
        one.start()
        yield one
        one.run("--stop")
