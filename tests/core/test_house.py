"""The house keeps its own rules: tables, sources and doors."""

import ast
import importlib
import pkgutil
import re
from pathlib import Path
from typing import get_args

import numpy as np
import pytest
from tools.house import ROOT, Count, by_position, counts, python_files, records_by_position

import yonderstat.core
from tests.samples import harrier_ridge
from yonderstat.core import evaluate
from yonderstat.core.chemistries import all_chemistries, kind_of
from yonderstat.core.data import column, sources
from yonderstat.core.design import Purpose
from yonderstat.core.purposes import all_purposes
from yonderstat.core.working import Workings

CORE = Path(yonderstat.core.__path__[0])
PACKAGES = [
    name
    for _, name, is_package in pkgutil.walk_packages(yonderstat.core.__path__, "yonderstat.core.")
    if is_package
]


@pytest.mark.parametrize("name", PACKAGES)
def test_a_door_names_what_it_shows(name: str) -> None:
    module = importlib.import_module(name)
    assert module.__doc__
    own = {
        key
        for key, item in vars(module).items()
        if getattr(item, "__module__", "").startswith(name)
    }
    shown = {key for key in own if not key.startswith("_")}
    assert shown <= set(module.__all__)
    assert all(hasattr(module, key) for key in module.__all__)


def _takes_arrays(function: ast.FunctionDef) -> bool:
    told = ast.unparse(function.args) + (ast.unparse(function.returns) if function.returns else "")
    own = not function.name.startswith("_") and "property" not in " ".join(
        map(ast.unparse, function.decorator_list)
    )
    return own and ("FloatArray" in told or "NDArray" in told)


@pytest.mark.parametrize(
    "file", sorted(CORE.rglob("*.py")), ids=lambda file: str(file.relative_to(CORE))
)
def test_a_function_of_arrays_tells_its_parameters_and_what_it_returns(file: Path) -> None:
    """The door alone cannot tell shapes and units: numpydoc, as the house style asks."""
    tree = ast.parse(file.read_text())
    public = [
        node
        for body in (tree, *(n for n in tree.body if isinstance(n, ast.ClassDef)))
        for node in body.body
    ]
    for function in public:
        if isinstance(function, ast.FunctionDef) and _takes_arrays(function):
            told = ast.get_docstring(function) or ""
            takes = [item.arg for item in function.args.args if item.arg != "self"]
            assert "Returns\n-------" in told, function.name
            assert not takes or "Parameters\n----------" in told, function.name


@pytest.mark.parametrize(
    ("table", "key"),
    [
        ("lead_temperature", "temperature_c"),
    ],
)
def test_tables_rise(table: str, key: str) -> None:
    assert np.all(np.diff(column(table, key)) > 0)


def test_every_source_has_a_title_and_a_known_mark() -> None:
    assert all(source.title and source.mark in {"P", "C", "M", ""} for source in sources().values())


def test_every_chemistry_is_complete() -> None:
    for kind in map(kind_of, all_chemistries()):
        assert 1.0 <= kind.peukert_k <= 1.3
        assert kind.depth_continuous < kind.depth_standby < 1
        assert sum(school.default for school in kind.schools) == 1
        for curve in (kind.rest, kind.charging, kind.cold, kind.cycles):
            assert np.all(np.diff(curve.at) > 0)
            assert curve.source in sources()
        assert np.all(np.diff(kind.rest.value) > 0)
        assert np.all(np.diff(kind.cycles.value) < 0)
        assert kind.rest.value[0] < kind.schools[0].absorb_v_12v
        assert kind.schools[0].low_v_12v < kind.schools[0].back_v_12v < kind.schools[0].absorb_v_12v


@pytest.mark.parametrize(
    ("word", "room"), [("chemistry", "chemistries.py"), ("controller", "controllers.py")]
)
def test_nobody_asks_which_kind_it_is(word: str, room: str) -> None:
    """What differs between kinds stands in their rows; the code asks the kind for it."""
    asked = re.compile(rf"\b{word}\s*(?:==|!=|in|not in|===|!==)\s*[\[({{]?\s*[\"']")
    python = [file for file in sorted((ROOT / "src").rglob("*.py")) if file.name != room]
    screens = [
        file for file in sorted((ROOT / "ui/src").rglob("*.ts*")) if ".test." not in file.name
    ]
    assert [
        str(file) for file in [*python, *screens] if asked.search(file.read_text(encoding="utf-8"))
    ] == []
    assert asked.search(f'if bank.{word} == "lifepo4":')


def test_every_figure_says_how_and_whence() -> None:
    report = evaluate(harrier_ridge())
    for quantity in report.working.values():
        assert quantity.label
        assert quantity.formula
        assert quantity.words
        assert quantity.source in report.sources


def test_two_numbers_never_share_a_key() -> None:
    workings = Workings()
    workings.add("a", 1.0, "", "a", "a", "a")
    with pytest.raises(ValueError, match="twice"):
        workings.add("a", 2.0, "", "a", "a", "a")


def test_a_purpose_is_asked_of_its_table_alone() -> None:
    """Nobody compares a purpose with a word: what it means is one table, read in one place."""
    words = re.compile(
        r"purpose\s*(?:==|!=|not in|in)\s|[{(\[]\"(?:standby|deployment|everyday|mobile|continuous)\""
    )
    core = Path(yonderstat.core.__file__).parent
    asking = {
        f"{file.relative_to(core)}:{number}"
        for file in core.rglob("*.py")
        if file.name not in {"brief.py", "purposes.py", "warming.py"}
        for number, line in enumerate(file.read_text().splitlines(), start=1)
        if words.search(line)
    }
    assert asking == set()


def test_purposes_are_complete() -> None:
    kinds = {kind.purpose: kind for kind in all_purposes()}
    assert set(kinds) == set(get_args(Purpose))
    assert {kind.judged_by for kind in kinds.values()} == {"service", "spell", "sun_share"}
    for kind in kinds.values():
        assert bool(kind.spell) == kind.is_spell
        assert (kind.cycles_a_year is None) == (kind.use == "daily")
        assert kind.mains_normally or not kind.mains_when_judged


@pytest.mark.parametrize(
    "file", sorted(python_files("src", "tools")), ids=lambda file: str(file.relative_to(ROOT))
)
def test_nothing_is_told_by_its_place_alone(file: Path) -> None:
    """No call of more than six arguments by position, and no record of more than five fields that
    could be built so."""
    tree = ast.parse(file.read_text(encoding="utf-8"))
    assert [f"{call.lineno}: {ast.unparse(call)[:60]}" for call in by_position(tree)] == []
    assert records_by_position(tree) == []


def test_the_counts_of_the_house_can_fail() -> None:
    bad = ast.parse(
        "@dataclass(frozen=True)\nclass A:\n" + "".join(f" f{n}: int\n" for n in range(6))
    )
    assert records_by_position(bad) == ["A"]
    assert len(by_position(ast.parse("f(1, 2, 3, 4, 5, 6, 7)"))) == 1
    assert by_position(ast.parse("f(1, 2, 3, 4, 5, 6, g=7)")) == []
    assert Count(name="x", value=2.0, unit="", goal=1.0).words.endswith("open")
    assert all(item.met for item in counts() if item.held)
