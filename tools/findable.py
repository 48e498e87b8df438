"""The fields of the interface by name, for its palette, read from the screens' sources, and the
help of each field.

python -m tools.findable [--check]
"""

import json
import re
import sys
from dataclasses import astuple
from pathlib import Path

from yonderstat.core.design import field_help
from yonderstat.core.shelf import Shelf

UI = Path(__file__).resolve().parents[1] / "ui" / "src"
TO = UI / "app" / "findable.json"
HELP_TO = UI / "kit" / "fieldHelp.json"
FIELD = re.compile(
    r"<(?:NumberField|TextField|ChoiceField|ToggleField|RowsField|HorizonField|CycleField|ChecksField|PlainSelect)\b"
    r"[^>]*?\blabel=\"([^\"]+)\"",
    re.DOTALL,
)
ELSEWHERE = {"sites", "about", "shelf"}
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


def _written() -> dict[Path, str]:
    """The files, and what is to stand in them."""
    help_lines = {
        way: [part for part in astuple(item) if part is not None]
        for way, item in (field_help() | field_help(Shelf)).items()
    }
    return {
        TO: json.dumps(fields(), indent=2, ensure_ascii=False) + "\n",
        HELP_TO: json.dumps(help_lines, indent=1, ensure_ascii=False) + "\n",
    }


def main() -> int:
    """Write the lists, or check that they are as written."""
    for path, text in _written().items():
        if "--check" not in sys.argv:
            path.write_text(text)
        elif not path.exists() or path.read_text() != text:
            print(f"{path.name} is stale; run python -m tools.findable.", file=sys.stderr)
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
