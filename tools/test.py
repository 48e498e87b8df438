"""Run the checks and say which failed; run by ./test once everything is installed."""

import os
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from threading import Lock

ROOT = Path(__file__).resolve().parents[1]
UI = ROOT / "ui"
PY = (sys.executable, "-m")
NEEDS_SET_UP = 75


@dataclass(frozen=True, slots=True)
class Check:
    """One command that must succeed."""

    name: str
    command: tuple[str, ...]
    folder: Path = ROOT


def _pytest(*folders: str) -> tuple[str, ...]:
    return (*PY, "pytest", *(f"tests/{folder}" for folder in folders))


STYLE = [
    Check("ruff", (*PY, "ruff", "check", "--output-format", "concise", ".")),
    Check("ruff format", (*PY, "ruff", "format", "--check", "--quiet", ".")),
    Check("mypy", (*PY, "mypy")),
    Check("import-linter", (str(Path(sys.executable).parent / "lint-imports"),)),
]
CORE = [Check("pytest core", _pytest("core", "reference", "formats"))]
CLAIMS = [Check("claims", _pytest("claims"))]
WEB = [
    Check(
        "pytest records, jobs, reader, web and tools",
        _pytest("records", "jobs", "reader", "web", "tools"),
    )
]
UI_CHECKS = [
    Check("API types are current", (*PY, "tools.api_types", "--check")),
    Check("the palette knows every field", (*PY, "tools.findable", "--check")),
    Check("UI lint and format", ("npm", "run", "-s", "lint"), UI),
    Check("tsc", ("npx", "tsc", "-b"), UI),
    Check("vitest", ("npm", "run", "-s", "test"), UI),
]
BROWSER = [Check("pytest browser", _pytest("browser"))]
RESILIENCE = [Check("pytest resilience", _pytest("resilience"))]
FUZZ = [Check("documents drawn from the schema", _pytest("fuzz"))]
BENCH = [Check("bench", (*PY, "tools.bench"))]
MUTANTS = [Check("mutants", (*PY, "tools.mutants"))]
RELEASE = [Check("release", (*PY, "tools.release"))]
WHOLE = [*FUZZ, *CLAIMS, *CORE, *BROWSER, *RESILIENCE, *WEB, *UI_CHECKS, *STYLE]
"""Everything, the longest first: two at a time, the next as soon as one is done."""
PARTS: dict[str, list[Check]] = {
    "all": WHOLE,
    "core": STYLE + CORE,
    "web": STYLE + WEB,
    "ui": UI_CHECKS,
    "browser": BROWSER,
    "resilience": RESILIENCE,
    "fuzz": FUZZ,
    "claims": CLAIMS,
    "bench": BENCH,
    "mutants": MUTANTS,
    "release": RELEASE,
}
LANES = 2
"""Checks beside each other in a whole run, one a core."""
MORE = {
    "resilience": {"YONDERSTAT_KILLS": "100"},
    "fuzz": {"YONDERSTAT_FUZZ": "20000"},
    "claims": {"YONDERSTAT_CLAIMS": "5000"},
}
"""Run by themselves these try harder than in a whole run."""


@dataclass(frozen=True, slots=True)
class Outcome:
    """How a check went."""

    name: str
    passed: bool


def _run(check: Check, environment: dict[str, str], alone: bool, printing: Lock) -> Outcome:
    """Run a check; beside another lane its words are held back until it is done, so that they stay
    together."""
    began = time.monotonic()
    pipe = None if alone else subprocess.PIPE
    if alone:
        print(f"== {check.name}", flush=True)
    done = subprocess.run(
        check.command,
        cwd=check.folder,
        check=False,
        env=environment,
        stdout=pipe,
        stderr=pipe and subprocess.STDOUT,
    )
    with printing:
        if not alone:
            print(f"== {check.name}", flush=True)
            sys.stdout.buffer.write(done.stdout)
        print(f"   {time.monotonic() - began:.1f} s", flush=True)
    return Outcome(check.name, done.returncode == 0)


def main() -> int:
    """Run a part; 1 if anything failed."""
    part = sys.argv[1] if len(sys.argv) > 1 else "all"
    if part in {"-h", "--help"}:
        print(f"./test runs every check; ./test PART one of: {', '.join(PARTS)}.")
        return 0
    if part not in PARTS or len(sys.argv) > 2:
        print(
            f"There is no part “{' '.join(sys.argv[1:])}”; choose from {', '.join(PARTS)}.",
            file=sys.stderr,
        )
        return 2
    if os.environ.get("YONDERSTAT_STAGE") == "before":
        return NEEDS_SET_UP
    lanes, printing = LANES if part == "all" else 1, Lock()
    environment = {**MORE.get(part, {}), **os.environ}
    with ThreadPoolExecutor(lanes) as pool:
        outcomes = list(
            pool.map(lambda check: _run(check, environment, lanes == 1, printing), PARTS[part])
        )
    failed = [outcome.name for outcome in outcomes if not outcome.passed]
    if failed:
        print(f"Failed: {', '.join(failed)}")
    print(f"checks: {len(outcomes) - len(failed)} passed, {len(failed)} failed")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
