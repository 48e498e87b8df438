"""Freeze what the computation says of some stations, and tell what a change did to it.

python -m tools.frozen compare         every figure, sentence and finding that moved since it was
approved python -m tools.frozen approve         after reading what moved: this is what it shall say
from now on

The stations are the corpus of old documents and some drawn at random (`tests/approved/stations`),
so that rooms no demo station visits are frozen too. What was approved lies beside them, a file a
station and a line a figure.
"""

import dataclasses
import hashlib
import json
import math
import re
import sys
import warnings
from collections import defaultdict
from collections.abc import Callable, Iterator
from itertools import chain
from pathlib import Path
from typing import Any

import numpy as np

from yonderstat.core import evaluate, next_actions
from yonderstat.core.design import Design, design_from_document
from yonderstat.core.rehearse import (
    Evening,
    MapAsk,
    Rationing,
    Scene,
    Training,
    failures_report,
    ration,
    rehearse,
    rotation_report,
    sizing_map,
    train,
    years_report,
)
from yonderstat.core.sun import tilt_map

TESTS = Path(__file__).resolve().parents[1] / "tests"
APPROVED = TESTS / "approved"
SAME, NEXT_TO_NOTHING = 1e-3, 1e-6
"""Another processor adds in another order, and an hour at a threshold may fall on its other side:
so much passes."""
LONG = 4
DIGITS = 7
NOT_HERE = ("working", "sources", "why", "findings")
"""Figures and findings have lines of their own."""
PLACE = re.compile(r"(?<=[/.])\d+(?=[/.]|$)")
"""The number of a row or a month in a name."""
Said = dict[str, Any]
DOORS: dict[str, Callable[[Design], Any]] = {
    "years": lambda one: years_report(one, 2),
    "failures": failures_report,
    "scene": lambda one: rehearse(one, Scene(days=4, sky="poor")),
    "ration": lambda one: ration(one, Rationing()),
    "rotation": rotation_report,
    "trainer": lambda one: train(
        one, Training(days=3, evenings=[Evening(tempo=one.draw.sized_on)])
    ),
    "tilts": lambda one: tilt_map(one, (6,)),
    "next": lambda one: next_actions(one, evaluate(one)),
    "map": lambda one: sizing_map(one, MapAsk(steps=8, years=1)),
}
"""The doors of the core besides `evaluate` that a document goes through."""


def stations() -> dict[str, Path]:
    """The documents that are frozen, by name."""
    files = [*(TESTS / "corpus").glob("2026-11-*.json"), *(APPROVED / "stations").glob("*.json")]
    once = {design_of(path).model_dump_json(): path for path in sorted(files)}
    return {path.name.split(".")[0]: path for path in once.values()}


def design_of(path: Path) -> Design:
    """The design in a file."""
    return design_from_document(json.loads(path.read_text(encoding="utf-8")))


def _number(value: float) -> float:
    return float(f"{value:.{DIGITS}g}")


def _digest(numbers: list[float]) -> list[float]:
    """A long row in three numbers: how many, what they come to, and whether they stand where they
    stood."""
    row = np.asarray(numbers, dtype=float)
    return [
        len(row),
        _number(float(row.sum())),
        _number(float(row @ np.linspace(1.0, 2.0, len(row)))),
    ]


def _said_of(value: Any, at: str) -> Iterator[tuple[str, Any]]:
    """Every number and word of a report, by where it stands."""
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        value = {field.name: getattr(value, field.name) for field in dataclasses.fields(value)}
    elif hasattr(value, "model_dump"):
        value = value.model_dump(mode="json")
    if isinstance(value, np.ndarray):
        value = value.ravel().tolist()
    if isinstance(value, dict):
        for key, item in value.items():
            if key not in NOT_HERE:
                yield from _said_of(item, f"{at}/{key}")
    elif isinstance(value, list | tuple):
        if len(value) > LONG and all(isinstance(item, int | float) for item in value):
            yield at, _digest([float(item) for item in value])
            return
        for number, item in enumerate(value):
            yield from _said_of(item, f"{at}/{number}")
    elif isinstance(value, bool) or value is None:
        yield at, value
    elif isinstance(value, int | float | np.number):
        yield at, _number(float(value))
    else:
        yield at, str(value)


def _figures(report: Any, at: str) -> Iterator[tuple[str, Any]]:
    """Every figure by key: its value, and what its Working starts from."""
    for key, figure in getattr(report, "working", {}).items():
        start = sum(item.value for item in figure.inputs if isinstance(item.value, int | float))
        value = figure.value
        yield (
            f"{at}={key}",
            [_number(value) if isinstance(value, int | float) else 0.0, _number(start)],
        )


def _gathered(rows: Iterator[tuple[str, Any]]) -> Said:
    """Rows of a table under one name: their numbers in a digest, their words in a hash."""
    groups: dict[str, list[Any]] = defaultdict(list)
    for at, value in rows:
        groups[PLACE.sub("*", at)].append(value)
    return {at: _one(values) for at, values in groups.items()}


def _one(values: list[Any]) -> Any:
    if len(values) == 1:
        return values[0]
    numbers = [
        number for value in values for number in (value if isinstance(value, list) else [value])
    ]
    if all(isinstance(number, int | float) for number in numbers):
        return _digest(numbers)
    return f"{len(values)} rows {hashlib.sha256(json.dumps(values).encode()).hexdigest()[:12]}"


def said_of(design: Design) -> Said:
    """What the core says of a design, through its door and the rehearsal's."""
    said: Said = {}
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", RuntimeWarning)
        for name, door in {"report": evaluate, **DOORS}.items():
            report = door(design)
            said |= _gathered(chain(_figures(report, name), _said_of(report, name)))
            for item in getattr(report, "findings", ()):
                said[f"{name}!{item.id}"] = f"{item.severity}: {item.sentence}"
    return said


def _is_same(was: Any, now: Any) -> bool:
    if isinstance(was, list) and isinstance(now, list):
        return len(was) == len(now) and all(map(_is_same, was, now))
    if isinstance(was, float | int) and isinstance(now, float | int) and not isinstance(was, bool):
        return math.isclose(was, now, rel_tol=SAME, abs_tol=NEXT_TO_NOTHING)
    return bool(was == now)


def moved(was: Said, now: Said) -> list[str]:
    """What two sayings differ in, a line each."""
    return [
        f"{key}\n  was {was.get(key, 'not there')}\n  is  {now.get(key, 'not there')}"
        for key in dict.fromkeys((*was, *now))
        if key not in was or key not in now or not _is_same(was[key], now[key])
    ]


def approved(name: str) -> Said:
    """What was approved of a station."""
    said: Said = json.loads((APPROVED / f"{name}.json").read_text(encoding="utf-8"))
    return said


def main() -> int:
    """Compare, or approve; 1 if anything moved."""
    is_approving = sys.argv[1:] == ["approve"]
    if not is_approving and sys.argv[1:] != ["compare"]:
        print(__doc__)
        return 2
    count = 0
    for name, path in stations().items():
        now = said_of(design_of(path))
        file = APPROVED / f"{name}.json"
        changes = moved(approved(name) if file.exists() else {}, now)
        count += len(changes)
        for line in changes if not is_approving else ():
            print(f"{name}: {line}")
        if is_approving and changes:
            lines = (
                f"{json.dumps(key)}: {json.dumps(value, ensure_ascii=False)}"
                for key, value in now.items()
            )
            file.write_text("{\n" + ",\n".join(lines) + "\n}\n", encoding="utf-8")
    print(f"{count} moved")
    return 1 if count and not is_approving else 0


if __name__ == "__main__":
    sys.exit(main())
