"""Which program judged a line: any change to the computation or its tables counts, and nothing
else."""

import shutil
from pathlib import Path

import pytest

from yonderstat import core
from yonderstat.records.lines import edition, edition_of


@pytest.fixture
def program(tmp_path: Path) -> Path:
    """A copy of the core that can be changed."""
    copy = tmp_path / "core"
    shutil.copytree(Path(core.__file__).parent, copy)
    return copy


def test_a_copy_is_the_same_program(program: Path) -> None:
    assert edition_of(program) == edition()


def test_what_was_compiled_does_not_count(program: Path) -> None:
    (program / "__pycache__").mkdir(exist_ok=True)
    (program / "__pycache__" / "more.pyc").write_bytes(b"1")
    (program / "__pycache__" / "more.1.nbc").write_bytes(b"1")
    assert edition_of(program) == edition()


@pytest.mark.parametrize("kind", ["py", "csv", "toml", "npz"])
def test_any_change_of_a_source_or_a_table_makes_another_program(program: Path, kind: str) -> None:
    """Tables in a packed form did not count: a new climate would have left every old line
    standing."""
    file = next(iter(sorted(program.rglob(f"*.{kind}"))))
    file.write_bytes(file.read_bytes() + b" ")
    assert edition_of(program) != edition()


def test_a_file_that_moves_makes_another_program(program: Path) -> None:
    file = next(iter(sorted(program.rglob("*.csv"))))
    file.rename(file.with_name("elsewhere.csv"))
    assert edition_of(program) != edition()
