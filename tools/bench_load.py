"""Twenty people editing at once while two large maps run: how long an edit takes until its verdict is back."""

import json
import random
import statistics
import time
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.quay_street import QUAY_STREET

USERS, MAPS, EDITS = 20, 2, 12
THINKS_S = (1.0, 6.0)
"""Between one edit and the next of the same person."""


def _ask(address: str, method: str, path: str, body: Any, headers: dict[str, str] | None = None) -> Any:
    request = urllib.request.Request(
        address + path,
        json.dumps(body).encode(),
        {"Content-Type": "application/json", **(headers or {})},
        method=method,
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.load(answer)


def _new_design(address: str, name: str, document: dict[str, Any]) -> str:
    site = _ask(address, "POST", "/api/sites", {"name": name, "document": document})
    return str(site["designs"][0]["id"])


def _edit_for_a_while(address: str, number: int) -> list[float]:
    """One person's edits, each on the revision the last one gave; seconds each."""
    chance = random.Random(number)
    design, revision, times = _new_design(address, f"Load {number}", QUAY_STREET), 1, []
    time.sleep(chance.uniform(0.0, THINKS_S[1]))
    for step in range(EDITS):
        change = [{"op": "replace", "path": "/draw/loads/0/receive_a/value", "value": 1.0 + 0.05 * step}]
        began = time.perf_counter()
        view = _ask(address, "PATCH", f"/api/designs/{design}", change, {"If-Match": str(revision)})
        times.append(time.perf_counter() - began)
        revision = view["revision"]
        time.sleep(chance.uniform(*THINKS_S))
    return times


def edits_under_load_p95_ms(address: str) -> float:
    """95th percentile of an edit's round trip, in milliseconds."""
    maps = [_new_design(address, f"Map {number}", HARRIER_AS_BUILT) for number in range(MAPS)]
    with ThreadPoolExecutor(USERS) as people:
        editing = [people.submit(_edit_for_a_while, address, number) for number in range(USERS)]
        time.sleep(THINKS_S[1])
        for number, design in enumerate(maps):
            _ask(address, "POST", f"/api/designs/{design}/sizing-maps", {"steps": 40, "years": 20 + number})
        times = [seconds for person in editing for seconds in person.result()]
    return float(statistics.quantiles(times, n=20)[-1]) * 1000.0
