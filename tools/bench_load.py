"""Twenty people editing at once while two large maps run: how long an edit takes until its verdict
is back."""

import json
import random
import statistics
import time
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from http.client import HTTPConnection
from typing import Any
from urllib.parse import urlsplit

from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.quay_street import QUAY_STREET

USERS, MAPS, EDITS = 20, 2, 12
THINKS_S = (1.0, 6.0)
"""Between one edit and the next of the same person."""
RESTS_S = 0.25
"""After so long the page asks for the remedies."""


def _ask(
    address: str, method: str, path: str, body: Any, headers: dict[str, str] | None = None
) -> Any:
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


def _on(
    line: HTTPConnection,
    method: str,
    path: str,
    body: Any = None,
    headers: dict[str, str] | None = None,
) -> Any:
    """Ask on a line that stays open, as a browser does."""
    text = None if body is None else json.dumps(body)
    line.request(method, path, text, {"Content-Type": "application/json", **(headers or {})})
    answer = line.getresponse()
    told = json.loads(answer.read())
    if answer.status != 200:
        raise RuntimeError(f"{method} {path} was answered with {answer.status}: {told}")
    return told


def _edit_for_a_while(address: str, number: int) -> list[float]:
    """One person's edits, each on the revision the last one gave, as the page sends them; seconds
    until each verdict.

    When typing has rested the page asks for the remedies too.
    """
    chance = random.Random(number)
    design, revision, times = _new_design(address, f"Load {number}", QUAY_STREET), 1, []
    path, line = f"/api/designs/{design}", HTTPConnection(urlsplit(address).netloc, timeout=60)
    time.sleep(chance.uniform(0.0, THINKS_S[1]))
    for step in range(EDITS):
        change = [
            {"op": "replace", "path": "/draw/loads/0/receive_a/value", "value": 1.0 + 0.05 * step}
        ]
        began = time.perf_counter()
        view = _on(
            line,
            "PATCH",
            f"{path}?working=changed&remedies=later",
            change,
            {"If-Match": str(revision)},
        )
        times.append(time.perf_counter() - began)
        revision = view["revision"]
        time.sleep(RESTS_S)
        _on(line, "GET", f"{path}/findings")
        time.sleep(chance.uniform(*THINKS_S) - RESTS_S)
    return times


def edits_under_load_p95_ms(address: str) -> float:
    """95th percentile of an edit's round trip, in milliseconds."""
    maps = [_new_design(address, f"Map {number}", HARRIER_AS_BUILT) for number in range(MAPS)]
    with ThreadPoolExecutor(USERS) as people:
        editing = [people.submit(_edit_for_a_while, address, number) for number in range(USERS)]
        time.sleep(THINKS_S[1])
        for number, design in enumerate(maps):
            _ask(
                address,
                "POST",
                f"/api/designs/{design}/sizing-maps",
                {"steps": 40, "years": 20 + number},
            )
        times = [seconds for person in editing for seconds in person.result()]
    return float(statistics.quantiles(times, n=20)[-1]) * 1000.0
