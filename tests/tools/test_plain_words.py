"""What a person reads is plain: no word we made up where the trade has one, no sentence without
end."""

import pytest
from tools.plain_words import MOST_WORDS, Text, texts, troubles


def test_every_text_is_plain() -> None:
    found = [
        f"{item.text.where}: {item.why}: {item.text.words[:120]}" for item in troubles(texts())
    ]
    assert not found, "\n".join(found)


def test_texts_of_every_kind_are_read() -> None:
    where = {text.where.split(":")[0] for text in texts()}
    assert {
        "src/yonderstat/core/verdict/sentences.py",
        "src/yonderstat/web/problems.py",
        "ui/src/app/VerdictLine.tsx",
        "field_help.toml",
        "docs/guide/07-bus.md",
        "README.md",
    } <= where


@pytest.mark.parametrize(
    ("words", "why"),
    [
        ("No start from May comes through.", "outages it survives"),
        ("12.1 V at the HF set on the key", "transmitting"),
        ("It goes dark in June.", "without power, loses power"),
        ("What the bank keeps of the day", "battery"),
        (" ".join(["word"] * (MOST_WORDS + 1)), "words in a sentence"),
    ],
)
def test_a_word_of_ours_is_found(words: str, why: str) -> None:
    assert any(why in item.why for item in troubles(iter([Text("here", words)])))


def test_the_trades_own_words_pass() -> None:
    fine = "A battery bank of two strings on a DIN rail, with polarised connectors."
    assert not list(troubles(iter([Text("here", fine)])))
