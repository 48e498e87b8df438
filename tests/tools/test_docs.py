"""The pages for the next engineer: files that are named exist, and the example runs as printed."""

import re
from pathlib import Path

import pytest
from tools.house import ROOT

PAGES = (
    "CONTRIBUTING.md",
    "docs/how-it-flows.md",
    "docs/how-to-add.md",
    "docs/core-as-a-library.md",
)
NAMED = re.compile(r"`((?:src|ui|tests|tools|docs)/[\w./-]+)`")
LINKED = re.compile(r"\]\(([\w./-]+)\)")
BLOCK = re.compile(r"```python\n(.*?)```", re.DOTALL)


@pytest.mark.parametrize("page", PAGES)
def test_what_a_page_names_is_there(page: str) -> None:
    text = (ROOT / page).read_text(encoding="utf-8")
    named = [ROOT / name for name in NAMED.findall(text)]
    linked = [(ROOT / page).parent / name for name in LINKED.findall(text)]
    assert [str(item) for item in [*named, *linked] if not Path(item).exists()] == []


def test_the_walks_name_a_file_at_each_step() -> None:
    text = (ROOT / "docs/how-it-flows.md").read_text(encoding="utf-8")
    steps = re.findall(r"^\d+\. .*?(?=^\d+\. |^## |\Z)", text, re.DOTALL | re.MULTILINE)
    assert len(steps) >= 15
    assert [step for step in steps if not NAMED.search(step)] == []


def test_the_core_runs_as_a_library(capsys: pytest.CaptureFixture[str]) -> None:
    """Every block of the page, in its order, in one namespace; more panels never serve less."""
    names: dict[str, object] = {}
    for block in BLOCK.findall((ROOT / "docs/core-as-a-library.md").read_text(encoding="utf-8")):
        exec(compile(block, "core-as-a-library.md", "exec"), names)
    said = capsys.readouterr().out.splitlines()
    assert len(said) == 6
    served = names["served"]
    assert isinstance(served, dict)
    assert list(served.values()) == sorted(served.values())
