"""Bad documents are refused whole, with every fault and its place."""

import json
from typing import Any

import pytest

from yonderstat.core.design import InvalidDesignError, design_from_document, design_from_json
from yonderstat.demo.quay_street import QUAY_STREET


def changed(pointer: str, value: Any) -> dict[str, Any]:
    document: Any = json.loads(json.dumps(QUAY_STREET))
    *path, last = pointer.strip("/").split("/")
    node = document
    for step in path:
        node = node[int(step)] if isinstance(node, list) else node[step]
    node[int(last) if isinstance(node, list) else last] = value
    return document


@pytest.mark.parametrize(
    ("pointer", "value", "words"),
    [
        ("/place/latitude_deg", 95, "it must be at most 90"),
        ("/draw/loads/0/receive_a/value", -1.6, "it must be at least 0"),
        ("/draw/loads/0/receive_a/value", "1.6", "it must be a number"),
        ("/draw/loads/0/receive_a/value", True, "it must be a number"),
        ("/draw/loads/0/receive_a/basis", "hearsay", "must be one of"),
        ("/draw/loads/0/hours_per_day/value", 25, "at most 24"),
        ("/draw/loads/0/months", [1, 1], "twice"),
        ("/draw/loads/0/name", "  ", "empty"),
        ("/draw/loads/0/name", "a\u0000b", "control character"),
        ("/brief/note", "a\u0000b", "control character"),
        ("/store/bank/series", 1.5, "whole number"),
        ("/store/bank/unit_ah/value", 0, "more than 0"),
        ("/array/strings/0/azimuth_deg", 360, "less than 360"),
        ("/array/strings/0/colour", "blue", "isn't a field"),
    ],
)
def test_fault_is_named_with_its_place(pointer: str, value: Any, words: str) -> None:
    with pytest.raises(InvalidDesignError) as refusal:
        design_from_document(changed(pointer, value))
    fault = refusal.value.faults[0]
    assert fault.pointer == pointer or fault.pointer.startswith(pointer + "/")
    assert words in fault.message


def test_all_faults_come_at_once() -> None:
    document = changed("/place/latitude_deg", 95)
    document["draw"]["loads"][0]["receive_a"]["value"] = -1
    with pytest.raises(InvalidDesignError) as refusal:
        design_from_document(document)
    assert {fault.pointer for fault in refusal.value.faults} == {
        "/place/latitude_deg",
        "/draw/loads/0/receive_a/value",
    }


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "not JSON"),
        ("{", "not JSON"),
        ("[" * 100_000, "not JSON"),
        ("[]", "must hold one JSON object"),
        ("{}", "is empty"),
        ('{"format": "another"}', "yonderstat-design"),
        ('{"format": "yonderstat-design", "version": 9}', "must be one of 1, 2"),
        ('{"format": "yonderstat-design", "version": 1, "sun": NaN}', "isn't allowed as a number"),
        (
            (
                '{"format": "yonderstat-design", "version": 3, "brief": {"coldest_c": {"value": '
                "1e999}}}"
            ),
            "finite",
        ),
    ],
)
def test_what_is_not_a_design(text: str, words: str) -> None:
    with pytest.raises(InvalidDesignError, match=words):
        design_from_json(text)


def test_ids_are_used_once() -> None:
    document = changed("/draw/loads/1/id", "hf-set")
    with pytest.raises(InvalidDesignError, match="same id"):
        design_from_document(document)
