"""Break the core on purpose, one small change at a time, and tell how many of the changes the tests
notice.

python -m tools.mutants [HOW_MANY] [SEED]        150 by default, in two copies of the tree; the
survivors are listed

A mutation tool from the registry makes the changes; each is tried in a copy, so that the tree
itself stays whole. The approved figures and the tests nearest to the changed room run first, and
the first failure ends the trial.
"""

import os
import random
import re
import shutil
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

import cosmic_ray.plugins
from cosmic_ray.ast import get_ast
from cosmic_ray.mutating import mutate_code

ROOT = Path(__file__).resolve().parents[1]
CORE = ROOT / "src" / "yonderstat" / "core"
WORK = ROOT / ".work" / "mutants"
TRIES, LONGEST_S, SEED, COPIES = 150, 900, 13, 2
ARITHMETIC = re.compile(r"core/ReplaceBinaryOperator_(Add_Sub|Sub_Add|Mul_Div|Div_Mul|Pow_Mul)$")
ORDER = re.compile(
    r"core/ReplaceComparisonOperator_(Eq_NotEq|NotEq_Eq|Lt_LtE|LtE_Lt|Gt_GtE|GtE_Gt|Lt_Gt|Gt_Lt|LtE_GtE|GtE_LtE)$"
)
OTHER = {
    "core/NumberReplacer",
    "core/ReplaceAndWithOr",
    "core/ReplaceOrWithAnd",
    "core/ReplaceTrueWithFalse",
    "core/ReplaceFalseWithTrue",
    "core/ReplaceUnaryOperator_USub_UAdd",
    "core/ReplaceUnaryOperator_Delete_Not",
    "core/ReplaceBreakWithContinue",
    "core/AddNot",
}
WITHOUT_EFFECT = re.compile(
    r"lru_cache|@dataclass|@njit|njit\(|maxsize|max_length|strict=True|: Annotated|^\s*\"\"\"|^from|^import"
)
"""Lines where a change changes no figure: what is kept in memory, how a record is made, how long a
text may be."""
NEAREST = {
    "array": ["core/test_array.py", "core/test_trackers.py", "reference/test_array_references.py"],
    "store": ["core/test_store.py", "reference/test_store_references.py", "core/test_station.py"],
    "draw": ["core/test_draw.py", "core/test_draw_findings.py"],
    "sun": ["core/test_sun.py", "reference/test_sun_references.py"],
    "weather": ["core/test_weather.py", "reference/test_weather_references.py"],
    "climate": ["core/test_climate.py", "reference/test_climate_references.py"],
    "rehearse": [
        "core/test_kernel.py",
        "core/test_rehearse.py",
        "core/test_scenes.py",
        "core/test_sizing_map.py",
    ],
    "findings": [
        "core/test_findings.py",
        "core/test_draw_findings.py",
        "core/test_array.py",
        "core/test_store.py",
    ],
    "verdict": ["core/test_verdicts.py"],
    "design": ["core/test_documents.py", "core/test_migrations.py"],
    "bus": [
        "core/test_bus.py",
        "reference/test_bus_references.py",
        "reference/test_conductor_references.py",
    ],
    "parts": ["core/test_parts.py"],
    "log": ["core/test_log.py", "core/test_log_tests.py", "core/test_log_fit.py"],
    "shelf": ["core/test_shelf.py"],
    "live": ["core/test_live.py"],
    "electrical": ["reference/test_conductor_references.py"],
}


@dataclass(frozen=True, slots=True)
class Mutant:
    """One small change: where, by which operator, and its place among those it could make there."""

    path: Path
    operator: str
    occurrence: int
    line: int

    @property
    def room(self) -> str:
        """The room of the core it is in."""
        parts = self.path.relative_to(CORE).parts
        return parts[0] if len(parts) > 1 else self.path.stem


def _operators() -> list[str]:
    names = list(cosmic_ray.plugins.operator_names())
    return [name for name in names if name in OTHER or ARITHMETIC.match(name) or ORDER.match(name)]


def all_mutants() -> list[Mutant]:
    """Every change there could be."""
    found = []
    for path in sorted(CORE.rglob("*.py")):
        source = path.read_text(encoding="utf-8")
        lines = source.splitlines()
        tree = get_ast(source)
        for name in _operators():
            operator = cosmic_ray.plugins.get_operator(name)()
            places = [place for node in _walk(tree) for place in operator.mutation_positions(node)]
            for occurrence, ((line, _), _) in enumerate(places):
                if not WITHOUT_EFFECT.search(lines[line - 1]):
                    found.append(Mutant(path, name, occurrence, line))
    return found


def _walk(node):  # type: ignore[no-untyped-def]  # parso's nodes have no types
    yield node
    for child in getattr(node, "children", ()):
        yield from _walk(child)


def _tests(room: str) -> list[str]:
    nearest = ["tests/core/test_approved.py", *(f"tests/{name}" for name in NEAREST.get(room, []))]
    rest = sorted(
        str(path.relative_to(ROOT))
        for folder in ("core", "reference")
        for path in (ROOT / "tests" / folder).glob("test_*.py")
    )
    return [*nearest, *(name for name in rest if name not in nearest)]


def copied(number: int) -> Path:
    """A fresh copy of what the tests need."""
    copy = WORK / str(number)
    shutil.rmtree(copy, ignore_errors=True)
    for name in ("src", "tests", "tools"):
        shutil.copytree(ROOT / name, copy / name)
    shutil.copy2(ROOT / "pyproject.toml", copy / "pyproject.toml")
    return copy


def tests_fail(copy: Path, room: str) -> bool:
    """Whether some test fails in a copy, those nearest to a room first."""
    environment = {
        **os.environ,
        "PYTHONPATH": str(copy / "src"),
        "NUMBA_CACHE_DIR": str(copy / "numba"),
    }
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *_tests(room)]
    done = subprocess.run(
        command, cwd=copy, env=environment, capture_output=True, timeout=LONGEST_S, check=False
    )
    return done.returncode != 0


def is_killed(copy: Path, mutant: Mutant) -> bool:
    """Whether some test fails with the change made."""
    source = mutant.path.read_text(encoding="utf-8")
    operator = cosmic_ray.plugins.get_operator(mutant.operator)()
    changed = mutate_code(source, operator, mutant.occurrence)
    target = copy / mutant.path.relative_to(ROOT)
    target.write_text(changed, encoding="utf-8")
    try:
        return tests_fail(copy, mutant.room)
    except subprocess.TimeoutExpired:
        # A change that makes a loop endless is noticed by whoever waits for it.
        return True
    finally:
        shutil.copy2(mutant.path, target)


def main() -> int:
    """Try so many changes; 1 where fewer than 85 in a hundred are noticed."""
    many = int(sys.argv[1]) if len(sys.argv) > 1 else TRIES
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else SEED
    chosen = random.Random(seed).sample(all_mutants(), many)
    copies: Queue[Path] = Queue()
    for number in range(COPIES):
        copies.put(copied(number))
    if tests_fail(copied(COPIES), "array"):
        print("mutants: the tests fail without any change made; every one would count as noticed")
        return 1
    killed = 0

    def tried(mutant: Mutant) -> bool:
        copy = copies.get()
        try:
            return is_killed(copy, mutant)
        finally:
            copies.put(copy)

    with ThreadPoolExecutor(COPIES) as pool:
        for number, (mutant, is_dead) in enumerate(
            zip(chosen, pool.map(tried, chosen), strict=True), start=1
        ):
            killed += is_dead
            if not is_dead:
                where = f"{mutant.path.relative_to(ROOT)}:{mutant.line}"
                print(
                    (
                        f"survived: {where} {mutant.operator.removeprefix('core/')} "
                        f"#{mutant.occurrence}"
                    ),
                    flush=True,
                )
            if number % 10 == 0:
                print(f"{killed} of {number} killed", flush=True)
    share = killed / many
    print(f"mutants: {killed} of {many} killed, {share:.0%}")
    return 0 if share >= 0.85 else 1


if __name__ == "__main__":
    sys.exit(main())
