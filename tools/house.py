"""How the house stands beside its goals, counted from the files: python -m tools.house

Counts, not opinions: calls by position, sections of parameters, comments, long lines, the tests'
share of all lines, and the subjects of commits. With `--strict` it fails where a goal that is held
is missed.
"""

import ast
import io
import subprocess
import sys
import tokenize
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SOURCES = ("src", "tools")
LONGEST_LINE, MOST_POSITIONAL, LONGEST_SUBJECT = 100, 6, 72
FEW_ARGUMENTS, MOST_FIELDS = 3, 5
COMMITS = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Count:
    """One figure with its goal."""

    name: str
    value: float
    unit: str
    goal: float
    at_most: bool = True
    held: bool = False
    """Whether it is met and may not be lost again."""

    @property
    def met(self) -> bool:
        return self.value <= self.goal if self.at_most else self.value >= self.goal

    @property
    def words(self) -> str:
        sign = "≤" if self.at_most else "≥"
        state = "met" if self.met else "lost" if self.held else "open"
        return (
            f"{self.name:<58}{self.value:>9.1f} {self.unit:<4} goal {sign} {self.goal:g}  {state}"
        )


def python_files(*folders: str) -> Iterator[Path]:
    for folder in folders:
        for file in sorted((ROOT / folder).rglob("*.py")):
            if "migrations" not in file.parts:
                yield file


def by_position(tree: ast.AST) -> list[ast.Call]:
    """Calls with more positional arguments than a reader can tell apart; the columns of a query are
    a list."""
    calls = [node for node in ast.walk(tree) if isinstance(node, ast.Call)]
    return [
        call
        for call in calls
        if len(call.args) > MOST_POSITIONAL
        and not any(isinstance(item, ast.Starred) for item in call.args)
        and not (isinstance(call.func, ast.Name) and call.func.id == "select")
    ]


def records_by_position(tree: ast.AST) -> list[str]:
    """Dataclasses of more than five fields that may be built by position."""
    found = []
    for node in ast.walk(tree):
        if not isinstance(node, ast.ClassDef):
            continue
        made = [
            ast.unparse(item)
            for item in node.decorator_list
            if ast.unparse(item).startswith("dataclass")
        ]
        fields = [item for item in node.body if isinstance(item, ast.AnnAssign)]
        if made and len(fields) > MOST_FIELDS and "kw_only=True" not in made[0]:
            found.append(node.name)
    return found


def _public(body: Iterable[ast.stmt]) -> Iterator[ast.FunctionDef]:
    """Functions and methods that others may call; what stands inside a function is its own affair."""
    for node in body:
        if isinstance(node, ast.ClassDef):
            yield from _public(node.body)
        elif isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
            yield node


def _parameters(tree: ast.Module) -> tuple[int, int]:
    """Public functions of three or more arguments, and those whose docstring has a section of
    parameters."""
    wanted = found = 0
    for node in _public(tree.body):
        arguments = [*node.args.args, *node.args.kwonlyargs]
        names = [item.arg for item in arguments if item.arg not in {"self", "cls"}]
        if len(names) >= FEW_ARGUMENTS:
            wanted += 1
            found += "Parameters\n" in (ast.get_docstring(node) or "")
    return wanted, found


def _comments(text: str) -> int:
    tokens = tokenize.generate_tokens(io.StringIO(text).readline)
    return sum(item.type == tokenize.COMMENT for item in tokens)


def _lines(folder: str, *endings: str) -> int:
    files = (file for ending in endings for file in (ROOT / folder).rglob(f"*{ending}"))
    return sum(
        len(file.read_text(encoding="utf-8").splitlines())
        for file in files
        if "node_modules" not in file.parts
    )


def _subjects() -> list[str]:
    asked = ["git", "log", f"-{COMMITS}", "--format=%s"]
    return subprocess.run(
        asked, cwd=ROOT, capture_output=True, text=True, check=False
    ).stdout.splitlines()


def counts() -> list[Count]:
    """Every figure, counted anew."""
    calls = positional = wanted = found = comments = lines = long_lines = 0
    for file in python_files(*SOURCES):
        text = file.read_text(encoding="utf-8")
        tree = ast.parse(text)
        calls += sum(isinstance(node, ast.Call) for node in ast.walk(tree))
        positional += len(by_position(tree))
        more_wanted, more_found = _parameters(tree)
        wanted, found = wanted + more_wanted, found + more_found
        comments += _comments(text)
        rows = text.splitlines()
        lines += len(rows)
        long_lines += sum(len(row) > LONGEST_LINE for row in rows)
    ui_tests = sum(
        len(file.read_text(encoding="utf-8").splitlines())
        for ending in ("*.test.ts", "*.test.tsx")
        for file in (ROOT / "ui" / "src").rglob(ending)
    )
    tests = _lines("tests", ".py") + ui_tests
    whole = lines + _lines("tests", ".py") + _lines("ui/src", ".ts", ".tsx")
    subjects = _subjects()
    return [
        Count(
            name="calls of more than six by position",
            value=positional,
            unit="",
            goal=0,
            held=True,
        ),
        Count(
            name="the same of 10,000 calls",
            value=1e4 * positional / calls,
            unit="",
            goal=6,
            held=True,
        ),
        Count(
            name="functions of three arguments with Parameters",
            value=100.0 * found / wanted,
            unit="%",
            goal=85,
            at_most=False,
        ),
        Count(
            name="lines that are comments",
            value=100.0 * comments / lines,
            unit="%",
            goal=1,
            at_most=False,
        ),
        Count(
            name=f"lines over {LONGEST_LINE} columns",
            value=100.0 * long_lines / lines,
            unit="%",
            goal=0.2,
            held=True,
        ),
        Count(
            name="lines of tests of all lines",
            value=100.0 * tests / whole,
            unit="%",
            goal=25,
            at_most=False,
        ),
        Count(
            name=f"subjects over {LONGEST_SUBJECT} of the last {len(subjects)} commits",
            value=sum(len(item) > LONGEST_SUBJECT for item in subjects),
            unit="",
            goal=0,
        ),
    ]


def main() -> int:
    """Print every count; fail where one that is held is lost."""
    found = counts()
    print("\n".join(item.words for item in found))
    return int("--strict" in sys.argv and any(item.held and not item.met for item in found))


if __name__ == "__main__":
    sys.exit(main())
