"""Every text a person can read, and the words and forms that have no place in it.

Run as ``python -m tools.plain_words`` to list them; the tests ask for an empty list.
"""

import ast
import csv
import re
import sys
import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from tools.state import ROOT

PACKAGE, UI = ROOT / "src" / "yonderstat", ROOT / "ui" / "src"
DATA = PACKAGE / "core" / "data"
MOST_WORDS = 30
"""In a sentence."""
OURS = {
    "activity level": r"\btempos?\b|\bfull tilt\b",
    "transmitting": r"\bon the key\b|(?<!-)\bkeyed\b(?! (?:connector|plug))",
    "without power, loses power": (
        r"\b(?:goes?|went|going) dark\b|\bdark (?:hours?|spells?|before dawn)\b"
    ),
    "worst month": r"\b(?:hard|lean|leanest|leaner) months?\b|\bleanest\b",
    "outages it survives": r"\bcomes? through\b|\bstarts that\b",
    "lasts": r"\bcarr(?:y|ies) (?:the )?\d+ days\b",
    "is connected to": r"\bhangs? on\b|\bhung on\b",
    "limited by": r"\bbinds\b",
    "kinds of parts": r"\bsorts? of (?:parts?|panel)\b",
    "built-in": r"\bpackaged (?:relief|sun|reanalysis|climate)\b",
    "distorts or resets": r"\bodd behaviour\b",
    "voltage drop, step by step": r"\bloss walk\b",
    "volts at each radio": r"\bwindow check\b",
    "accept this": r"\bliv(?:e|ed) with (?:it|this)\b|^Lived with",
    "where it is kept": r"\bwhere (?:it|they) lives?\b",
    "stretch the battery": r"\bmake it last\b",
    "how big must it be?": r"\bhow much is enough\b",
    "if something breaks": r"\bif a part is lost\b",
    "run it": r"\bplay it\b",
    "acknowledge": r"\bI have seen it\b",
    "simulator": r"\bstand-ins?\b",
    "battery": r"(?<!battery )(?<!power )(?<!-)\bbanks?\b(?! (?:holiday|card))",
    "radio": (
        "\\b(?:HF|VHF|UHF|hand-held|every|each|lowest|whose|that|this) sets?\\b(?! "
        "(?:of|at|to|up|by|for|in)\\b)"
    ),
    "supply line": r"(?<!DIN )(?<!roof )(?<!mast or )(?<!/)\brails?\b",
    "second battery": r"\blayers?\b(?! of)",
    "summary, without the riddle": r"\bwhat has a price\b|\bof what somebody knows\b|\bnobody knows\b",
    "instead of": r"\bin place of\b",
    "continuously": r"\bfor good(?: there)?, (?:and|where)\b|\bcarries .* for good\b",
    "our figure": r"\(from memory\)",
    "Nice to have": r"^Comfort$",
    "Priority": r"^(?:Worth|Tier)$",
    "Note": r"^Mind$",
    "Wiring, Panels, Battery, Loads": r"^(?:Draw|Store|Array|Bus)$",
    "Club stores": r"^Shelf$|\bclub’s shelf\b|\bclub's shelf\b",
}
"""The word to use, and what stood for it once."""
PATTERNS = {word: re.compile(pattern, re.IGNORECASE) for word, pattern in OURS.items()}
NOT_READ = frozenset({"said.py", "meter_headings.py", "schema.d.ts"})
"""Words people may type or files may hold, old spellings among them."""


STORED = frozenset({"records", "versions"})
"""Rooms whose long texts are SQL."""
PAPERS = frozenset({"sources.toml"})
"""Where a source is named as it was found, from memory or not."""


@dataclass(frozen=True, slots=True)
class Text:
    """A text, and where it stands."""

    where: str
    words: str


@dataclass(frozen=True, slots=True)
class Trouble:
    """What has no place in a text."""

    text: Text
    why: str


def texts() -> Iterator[Text]:
    """Every text of the program, the catalogue, the interface, the guide and the docs."""
    classes = _classes()
    for path in sorted(PACKAGE.rglob("*.py")):
        if path.name not in NOT_READ and path.parent.name not in STORED:
            yield from _of_python(path, classes)
    for path in sorted(path for path in DATA.glob("*.toml") if path.name not in PAPERS):
        for words in _leaves(tomllib.loads(path.read_text())):
            yield Text(path.name, words)
    for path in sorted(DATA.glob("*.csv")):
        with path.open(newline="") as file:
            for row in csv.reader(line for line in file if not line.startswith("#")):
                yield from (Text(path.name, cell) for cell in row if _is_prose(cell))
    for path in sorted([*UI.rglob("*.tsx"), *UI.rglob("*.ts")]):
        if path.name not in NOT_READ and ".test." not in path.name:
            yield from _of_interface(path)
    for path in sorted([*(ROOT / "docs" / "guide").glob("*.md"), ROOT / "README.md"]):
        yield from _of_page(path)


def troubles(found: Iterator[Text]) -> Iterator[Trouble]:
    """What has no place in texts.

    Parameters
    ----------
    found : iterator of Text
        The texts to look through.
    """
    for text in found:
        for word, pattern in PATTERNS.items():
            if seen := pattern.search(text.words):
                yield Trouble(text, f"“{seen.group(0)}”: say “{word}”")
        for sentence in re.split(r"(?<=[.!?:;])\s+", text.words):
            if len(sentence.split()) > MOST_WORDS:
                yield Trouble(text, f"{len(sentence.split())} words in a sentence")


def _is_prose(words: str) -> bool:
    """Whether it has words in a row, or is one that stands alone with a capital: a label."""
    return re.fullmatch(r"[A-Z][a-z]{2,}", words) is not None or (
        " " in words.strip() and re.search(r"[a-z]{3}", words) is not None
    )


def _classes() -> frozenset[str]:
    """The names of our classes: in a string they are types or exports, read by no person."""
    found = (
        name
        for path in PACKAGE.rglob("*.py")
        for name in re.findall(
            r"^(?:class |(?=[A-Z]))(\w+)(?: = |[(:])", path.read_text(), re.MULTILINE
        )
    )
    return frozenset(found)


def _of_python(path: Path, classes: frozenset[str]) -> Iterator[Text]:
    tree = ast.parse(path.read_text())
    unread = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            unread |= {id(part) for part in node.values}
            words = "".join(
                str(part.value) if isinstance(part, ast.Constant) else "…" for part in node.values
            )
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            words = node.value
        else:
            continue
        if id(node) not in unread and words not in classes and _is_prose(words):
            yield Text(f"{path.relative_to(ROOT)}:{node.lineno}", words)


def _leaves(node: Any) -> Iterator[str]:
    if isinstance(node, str):
        if _is_prose(node):
            yield node
    elif isinstance(node, dict):
        for inner in node.values():
            yield from _leaves(inner)
    elif isinstance(node, list):
        for inner in node:
            yield from _leaves(inner)


def _of_interface(path: Path) -> Iterator[Text]:
    source = re.sub(r"/\*.*?\*/|(?m:^\s*//.*$)", "", path.read_text(), flags=re.DOTALL)
    between = r">([^<>{}=;]*[a-z]{3}[^<>{}=;]*)<|\"([^\"\n]*)\"|`([^`]*)`"
    for seen in re.finditer(between, source):
        words = " ".join(next(part for part in seen.groups() if part is not None).split())
        words = re.sub(r"\$\{[^}]*\}", "…", words)
        if source[: seen.start()].endswith("["):
            continue  # A type by its name.
        if re.search(r"\bwords:\s*$", source[: seen.start()]):
            continue  # What people look for it by is theirs, and nobody reads it.
        if _is_prose(words) and not re.search(
            r"className|\bborder-|\bpx-|\btext-|\bflex\b|\bbtn\b", words
        ):
            yield Text(
                f"{path.relative_to(ROOT)}:{source[: seen.start()].count(chr(10)) + 1}", words
            )


def _of_page(path: Path) -> Iterator[Text]:
    source = re.sub(r"```.*?```|`[^`]*`", "", path.read_text(), flags=re.DOTALL)
    for block in re.split(r"\n\s*\n|\n(?=[-|#*\d])", source):
        if _is_prose(block) and not block.lstrip().startswith("|"):
            yield Text(str(path.relative_to(ROOT)), " ".join(block.split()))


def main() -> int:
    """List what has no place; 1 if anything was found."""
    found = list(troubles(texts()))
    for trouble in found:
        print(f"{trouble.text.where}: {trouble.why}\n    {trouble.text.words[:300]}")
    print(f"{len(found)} found")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
