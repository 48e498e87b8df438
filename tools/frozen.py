"""Freeze what the computation says of the demo sites and sixty proposals, and tell what a change did to it.

python -m tools.frozen keep FILE        before a change that must not move a figure
python -m tools.frozen compare FILE     after it: every figure, sentence and finding that moved
"""

import json
import math
import sys
import warnings
from pathlib import Path
from typing import Any

from yonderstat.core import evaluate, propose
from yonderstat.core.design import Design, Place, design_from_document
from yonderstat.demo.beech_hut import BEECH_HUT
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT, HARRIER_HEATED_LITHIUM
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.patrol import PATROL_2
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.web.patching import apply_patch

PLACES = ((-43.1, 171.6), (51.5, -0.1), (0.0, -78.5))
KINDS = ("home", "trailer", "vehicle", "unattended")
PURPOSES = ("continuous", "standby", "deployment", "everyday", "mobile")
SAME = 1e-9


def stations() -> dict[str, Design]:
    """The demo's designs and the proposals."""
    ridge = design_from_document(HARRIER_AS_BUILT)
    found = {
        "ridge A": ridge,
        "ridge B": apply_patch(ridge, HARRIER_HEATED_LITHIUM),
        **{
            name: design_from_document(document)
            for name, document in (
                ("quay", QUAY_STREET),
                ("packhorse", PACKHORSE),
                ("patrol", PATROL_2),
                ("beech", BEECH_HUT),
            )
        },
    }
    for latitude, longitude in PLACES:
        for kind in KINDS:
            for purpose in PURPOSES:
                place = Place(latitude_deg=latitude, longitude_deg=longitude)
                found[f"{kind} {purpose} {latitude:g}"] = propose(kind, purpose, place)  # type: ignore[arg-type]
    return found


def said() -> dict[str, dict[str, Any]]:
    """Every figure by key, the verdict's words, and every finding by id, of every station."""
    told = {}
    for name, design in stations().items():
        report = evaluate(design)
        told[name] = {
            **{f"figure {key}": figure.value for key, figure in report.working.items()},
            "headline": report.verdict.headline,
            "rest": report.verdict.rest,
            **{f"finding {item.id}": f"{item.severity}: {item.sentence}" for item in report.findings},
        }
    return told


def _moved(before: Any, after: Any) -> bool:
    if isinstance(before, float) and isinstance(after, float):
        return not math.isclose(before, after, rel_tol=SAME, abs_tol=SAME)
    return bool(before != after)


def main() -> int:
    """Keep, or compare; 1 if anything moved."""
    what, file = sys.argv[1], Path(sys.argv[2])
    warnings.simplefilter("ignore", RuntimeWarning)
    now = said()
    if what == "keep":
        file.write_text(json.dumps(now))
        return 0
    before = json.loads(file.read_text())
    moved = [
        (name, key, before.get(name, {}).get(key), now.get(name, {}).get(key))
        for name in sorted(set(before) | set(now))
        for key in sorted(set(before.get(name, {})) | set(now.get(name, {})))
        if _moved(before.get(name, {}).get(key), now.get(name, {}).get(key))
    ]
    for name, key, was, is_now in moved:
        print(f"{name}: {key}\n  was {was}\n  is  {is_now}")
    print(f"{len(moved)} moved")
    return 1 if moved else 0


if __name__ == "__main__":
    sys.exit(main())
