"""The fields of the interface by name, for its palette: read from the screens' sources, so that none is forgotten.

python -m tools.findable [--check]
"""

import json
import re
import sys
from pathlib import Path

UI = Path(__file__).resolve().parents[1] / "ui" / "src"
TO = UI / "app" / "findable.json"
FIELD = re.compile(
    r"<(?:NumberField|TextField|ChoiceField|ToggleField|RowsField|HorizonField|CycleField|ChecksField|PlainSelect)\b"
    r"[^>]*?\blabel=\"([^\"]+)\"",
    re.DOTALL,
)
ELSEWHERE = {"sites", "about"}
"""Screens that are no step of a design."""


def fields() -> list[dict[str, str]]:
    """Every field with a name of its own, by step."""
    found = {
        (path.parent.name, label)
        for path in sorted((UI / "steps").glob("*/*.tsx"))
        if path.parent.name not in ELSEWHERE and ".test." not in path.name
        for label in FIELD.findall(path.read_text())
    }
    return [{"step": step, "label": label} for step, label in sorted(found)]


def main() -> int:
    """Write the list, or check that it is as written."""
    text = json.dumps(fields(), indent=2, ensure_ascii=False) + "\n"
    if "--check" in sys.argv:
        if TO.read_text() != text:
            print("The palette's fields are stale; run python -m tools.findable.", file=sys.stderr)
            return 1
        return 0
    TO.write_text(text)
    return 0


if __name__ == "__main__":
    sys.exit(main())
