"""What an installation takes in memory as its operator sees it: every process of it, and how it
grows.

Shared pages are shared out among those who share them (PSS). Counted are the watcher, PostgreSQL
with all its children, the app's web servers, worker and reader, and the stand-ins. Left out is what
the kernel keeps of files, which it gives back to whoever needs it.
"""

import json
import os
import random
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from tools.cluster import free_port
from tools.processes import all_in
from tools.state import ROOT, WORK_VARIABLE, read_state

SETTLES_S = float(os.environ.get("YONDERSTAT_SETTLES_S", "60"))
SITES, PLACES, EDITS = 300, 120, 600
KINDS = (
    ("home", "standby"), ("unattended", "continuous"), ("trailer", "deployment"), ("vehicle", "mobile"),
    ("home", "everyday"),
)  # fmt: skip


def processes_of(work: Path) -> dict[int, str]:
    """Every process of an installation, by the name it goes by."""
    found: dict[int, str] = {}
    state = read_state(work)
    data = set(all_in(Path(state.data_folder))) if state and state.data_folder else set()
    marks = (f"{WORK_VARIABLE}={work}\0".encode(), f"YONDERSTAT_DATA_DIR={work}".encode())
    for folder in Path("/proc").glob("[0-9]*"):
        try:
            pid, name = int(folder.name), (folder / "comm").read_text().strip()
            environment = (folder / "environ").read_bytes()
            command = (folder / "cmdline").read_bytes()
        except OSError:
            continue
        ours = any(mark in environment for mark in marks) and b"tools.bench" not in command
        if pid in data:
            found[pid] = "postgres"
        elif ours and (b"yonderstat" in command or b"tools.watch" in command):
            found[pid] = "standins" if b"standins" in command else name
    return found


def pss_mb(pid: int) -> float:
    """What a process takes, shared pages shared out. [MB]"""
    try:
        lines = (Path("/proc") / str(pid) / "smaps_rollup").read_text().splitlines()
    except OSError:
        return 0.0
    return int(next(line.split()[1] for line in lines if line.startswith("Pss:"))) / 1000.0


def memory_of(work: Path) -> dict[str, float]:
    """What an installation takes, by the names of its processes. [MB]"""
    found: dict[str, float] = {}
    for pid, name in processes_of(work).items():
        found[name] = found.get(name, 0.0) + pss_mb(pid)
    if not found:
        raise RuntimeError("no process of the installation is found; the measure is wrong")
    return found


@contextmanager
def an_installation() -> Iterator[tuple[Path, str]]:
    """One of its own, started for the first time; its folder and its address."""
    with tempfile.TemporaryDirectory(prefix="bench-memory-", dir=ROOT / ".work") as name:
        work, port = Path(name), free_port()
        work.chmod(0o755)
        environment = os.environ | {WORK_VARIABLE: name}
        subprocess.run(
            [str(ROOT / "start"), "--port", str(port)],
            check=True,
            stdout=subprocess.DEVNULL,
            env=environment,
        )
        try:
            yield work, f"http://127.0.0.1:{port}"
        finally:
            subprocess.run(
                [ROOT / "start", "--stop"], check=True, stdout=subprocess.DEVNULL, env=environment
            )


def ask(address: str, method: str, path: str, body: Any = None, revision: int | None = None) -> Any:
    """An answer's JSON.

    Parameters
    ----------
    body : Any
        Sent as JSON.
    revision : int or None
        The newest the asker knows, in If-Match.
    """
    headers = {"Content-Type": "application/json"} | (
        {} if revision is None else {"If-Match": str(revision)}
    )
    data = None if body is None else json.dumps(body).encode()
    with urllib.request.urlopen(
        urllib.request.Request(address + path, data, headers, method=method)
    ) as answer:
        return json.load(answer)


def grow(address: str) -> None:
    """Three hundred sites at a hundred and twenty places, and edits of them here and there."""
    chance = random.Random(3)
    places = [
        {
            "latitude_deg": round(chance.uniform(-55, 62), 2),
            "longitude_deg": round(chance.uniform(-120, 150), 2),
        }
        for _ in range(PLACES)
    ]
    designs = []
    for number in range(SITES):
        kind, purpose = KINDS[number % len(KINDS)]
        body = {
            "name": f"Site {number}",
            "kind": kind,
            "purpose": purpose,
            "place": places[number % PLACES],
        }
        designs.append(ask(address, "POST", "/api/sites", body)["designs"][0]["id"])
    revisions = dict.fromkeys(designs, 1)
    for number in range(EDITS):
        key = chance.choice(designs)
        change = [{"op": "replace", "path": "/name", "value": f"A {number}"}]
        if number % 3:
            change = [{"op": "add", "path": "/sun/snow_days", "value": [number % 5] * 12}]
        revisions[key] = ask(address, "PATCH", f"/api/designs/{key}", change, revisions[key])[
            "revision"
        ]


def memory_figures() -> dict[str, tuple[float, str]]:
    """After the first start, and after three hundred sites and their edits."""
    with an_installation() as (work, address):
        time.sleep(SETTLES_S)
        first = memory_of(work)
        print(
            json.dumps({"first": {name: round(value) for name, value in first.items()}}),
            file=sys.stderr,
        )
        grow(address)
        time.sleep(SETTLES_S)
        grown = memory_of(work)
        print(
            json.dumps({"grown": {name: round(value) for name, value in grown.items()}}),
            file=sys.stderr,
        )
    return {"pss_mb": (sum(first.values()), "MB"), "pss_grown_mb": (sum(grown.values()), "MB")}


if __name__ == "__main__":
    for name, (value, unit) in memory_figures().items():
        print(f"bench {name} {value:.2f} {unit}")
