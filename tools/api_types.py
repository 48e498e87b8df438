"""Generate the interface's API types and its register of steps, or check that they are current."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from yonderstat.core.steps import STEPS
from yonderstat.records import Archive, open_engine
from yonderstat.web import all_operations
from yonderstat.web.api import openapi_document

UI = Path(__file__).resolve().parents[1] / "ui"
KEPT = UI / "src" / "api" / "schema.d.ts"
STEPS_KEPT = UI / "src" / "api" / "steps.json"


def generated() -> str:
    """The TypeScript declarations of the API as it is now."""
    # The engine connects when first used, and nothing here uses it.
    engine = open_engine("postgresql://nobody@127.0.0.1/none")
    operations = all_operations(Archive(engine), engine)
    with tempfile.TemporaryDirectory() as folder:
        source, target = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        source.write_text(json.dumps(openapi_document(operations), sort_keys=True))
        command = [
            "npx",
            "openapi-typescript",
            str(source),
            "-o",
            str(target),
            "--default-non-nullable=false",
        ]
        subprocess.run(
            command, cwd=UI, check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        return target.read_text()


def steps() -> str:
    """The register of steps, for the interface's rundown, keys and routes."""
    shown = [{"id": step.id, "key": str(step.number), "name": step.label} for step in STEPS]
    return json.dumps(shown, indent=2) + "\n"


def main() -> int:
    """Write the declarations, or with --check compare them with the ones kept."""
    for kept, text in ((KEPT, generated()), (STEPS_KEPT, steps())):
        if "--check" not in sys.argv:
            kept.write_text(text)
        elif kept.read_text() != text:
            print(
                f"{kept.name} is stale; run: .venv/bin/python -m tools.api_types", file=sys.stderr
            )
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
