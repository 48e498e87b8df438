"""Run the checks and say which failed; run by ./test once everything is installed."""

import subprocess
import sys
import time
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
UI = ROOT / "ui"
PY = (sys.executable, "-m")


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
WEB = [Check("pytest records, jobs, web and tools", _pytest("records", "jobs", "web", "tools"))]
UI_CHECKS = [
    Check("API types are current", (*PY, "tools.api_types", "--check")),
    Check("UI lint and format", ("npm", "run", "-s", "lint"), UI),
    Check("tsc", ("npx", "tsc", "-b"), UI),
    Check("vitest", ("npm", "run", "-s", "test"), UI),
]
BROWSER = [Check("pytest browser", _pytest("browser"))]
BENCH = [Check("bench", (*PY, "tools.bench"))]
PARTS = {
    "all": STYLE + CORE + WEB + UI_CHECKS + BROWSER,
    "core": STYLE + CORE,
    "web": STYLE + WEB,
    "ui": UI_CHECKS,
    "browser": BROWSER,
    "bench": BENCH,
}


def main() -> int:
    """Run a part; 1 if anything failed."""
    part = sys.argv[1] if len(sys.argv) > 1 else "all"
    if part not in PARTS:
        print(f"There is no part “{part}”; choose from {', '.join(PARTS)}.", file=sys.stderr)
        return 2
    failed = []
    for check in PARTS[part]:
        print(f"== {check.name}", flush=True)
        began = time.monotonic()
        if subprocess.run(check.command, cwd=check.folder, check=False).returncode != 0:
            failed.append(check.name)
        print(f"   {time.monotonic() - began:.1f} s", flush=True)
    passed = len(PARTS[part]) - len(failed)
    if failed:
        print(f"Failed: {', '.join(failed)}")
    print(f"checks: {passed} passed, {len(failed)} failed")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
