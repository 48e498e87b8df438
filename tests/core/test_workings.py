"""Every figure is what its Working says: simple formulas are worked out again from the inputs they
name."""

import math
import re
from collections import Counter

import pytest

from yonderstat.core import evaluate, propose
from yonderstat.core.design import Design, Place, design_from_document
from yonderstat.core.working import Quantity
from yonderstat.demo.beech_hut import BEECH_HUT
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.patrol import PATROL_2
from yonderstat.demo.quay_street import QUAY_STREET

PLAIN = {"·": "*", "−": "-", "×": "*", "√": "sqrt", "^": "**", "10⁻³": "0.001"}
FUNCTIONS = {"max": max, "min": min, "sqrt": math.sqrt}
OTHER = re.compile(r"[^0-9eE.+\-*/(),\s]")
WORDS = re.compile(r"max|min|sqrt|(?<=\d)e(?=[+-]?\d)")
STATIONS = {
    "Harrier Ridge": HARRIER_AS_BUILT,
    "Quay Street": QUAY_STREET,
    "the Packhorse": PACKHORSE,
    "Patrol 2": PATROL_2,
    "Beech Hut": BEECH_HUT,
}


def expression(figure: Quantity) -> str | None:
    """The right side of a figure's formula with its inputs' values put in; None where it is more
    than arithmetic."""
    formula = figure.formula.split("=", 1)[-1] if figure.formula.count("=") == 1 else figure.formula
    values = {item.symbol: item.value for item in figure.inputs if item.symbol}
    if len(values) < len(figure.inputs) or any(value is None for value in values.values()):
        return None
    symbols = sorted(values, key=len, reverse=True)
    names = re.compile("|".join(map(re.escape, symbols))) if symbols else None
    filled = names.sub(lambda found: f"({values[found[0]]!r})", formula) if names else formula
    for sign, plain in PLAIN.items():
        filled = filled.replace(sign, plain)
    # f(T): a look-up, which only its own test can do again; and so is a remark after a number.
    looked_up = re.search(r"[\d.)]\s*\(|\)\s*\d", filled)
    rest = WORDS.sub("", filled)
    plain = bool(filled.strip()) and not OTHER.search(rest) and "e" not in rest.lower()
    return filled if plain and not looked_up else None


def worked_out_again(design: Design) -> Counter[str]:
    """Figures by kind that came out again; a figure that did not fails."""
    seen: Counter[str] = Counter()
    for key, figure in evaluate(design).working.items():
        text = expression(figure)
        if figure.value is None or text is None:
            continue
        value = float(eval(text, {"__builtins__": {}}, FUNCTIONS))
        assert math.isclose(value, figure.value, rel_tol=1e-4, abs_tol=1e-6), (
            key,
            figure.formula,
            text,
            figure.value,
        )
        seen[re.sub(r"\.\d\d$", "", key)] += 1
    return seen


@pytest.mark.parametrize("name", STATIONS)
def test_the_demos_figures_are_what_their_workings_say(name: str) -> None:
    assert len(worked_out_again(design_from_document(STATIONS[name]))) >= 60


@pytest.mark.parametrize("purpose", ["continuous", "standby", "deployment", "everyday", "mobile"])
def test_a_proposals_figures_are_what_their_workings_say(purpose: str) -> None:
    place = Place(latitude_deg=-43.1, longitude_deg=171.6)
    assert len(worked_out_again(propose("vehicle", purpose, place))) >= 50  # type: ignore[arg-type]


def test_a_wrong_figure_is_found() -> None:
    """The check itself: a value that is not its formula's does not pass."""
    figure = evaluate(design_from_document(QUAY_STREET)).working["store.usable_ah"]
    text = expression(figure)
    assert text is not None
    assert eval(text) == pytest.approx(figure.number)
    assert (
        expression(
            Quantity(
                key="x", value=1.0, unit="", label="x", formula="Q = Σ Qᵢ", words="x", inputs=()
            )
        )
        is None
    )
