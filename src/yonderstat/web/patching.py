"""JSON Patch on a design, bounded so that a small patch cannot make a large document."""

import copy
from typing import Any

import jsonpatch
import jsonpointer

from yonderstat.core.design import Design, Fault, design_from_document, document_of

from .bodies import PatchOperation
from .problems import Problem

MOST_COPIES = 50
MOST_PARTS = 60_000
"""Of a changed document: twenty years of daily sun are 7,300 of them."""


def apply_patch(design: Design, operations: list[dict[str, Any]]) -> Design:
    """The design after a JSON Patch; one that does not fit it is a problem that names the
    operation."""
    return design_from_document(patched(document_of(design), operations, "design"))


def patched(document: Any, operations: list[dict[str, Any]], what: str) -> Any:
    """A document after a JSON Patch, bounded.

    Parameters
    ----------
    operations : list of dict[str, Any]
        Of the JSON Patch.
    what : str
        How the document is called where something is wrong.
    """
    copies = sum(item["op"] == "copy" for item in operations)
    if copies > MOST_COPIES:
        detail = f"It copies {copies} times; at most {MOST_COPIES} in one patch."
        raise Problem(422, "bad-patch", "The patch is too large", detail)
    left = MOST_PARTS - _parts(document)
    for number, operation in enumerate(operations):
        left -= _added(document, operation, number)
        if left < 0:
            detail = (
                f"With operation {number + 1} the {what} would have more than {MOST_PARTS} "
                "figures and texts."
            )
            raise Problem(422, "bad-patch", "The patch is too large", detail, [_blame(operation)])
        document = _applied(document, operation, number)
    return document


def _applied(document: Any, operation: dict[str, Any], number: int) -> Any:
    try:
        return jsonpatch.apply_patch(document, [operation], in_place=True)
    except jsonpatch.JsonPatchTestFailed:
        title = "A test in the patch fails: the design is not as you expected"
        raise Problem(
            409, "test-failed", title, f"It is operation {number + 1}.", [_blame(operation)]
        ) from None
    except (
        jsonpatch.JsonPatchException,
        jsonpointer.JsonPointerException,
        TypeError,
        KeyError,
        IndexError,
        ValueError,
        AttributeError,
    ) as error:
        detail = f"Operation {number + 1}: {str(error)[:300]}"
        raise Problem(
            422, "bad-patch", "The patch does not fit the design", detail, [_blame(operation)]
        ) from None


def _added(document: Any, operation: dict[str, Any], number: int) -> int:
    """How much an operation adds, known before it is done."""
    if operation["op"] == "copy":
        try:
            source = jsonpointer.resolve_pointer(document, operation["from"])
        except (jsonpointer.JsonPointerException, TypeError, KeyError) as error:
            detail = f"Operation {number + 1}: {str(error)[:300]}"
            fault = Fault(str(operation.get("from", operation["path"])), "is not there to copy")
            raise Problem(
                422, "bad-patch", "The patch does not fit the design", detail, [fault]
            ) from None
        return _parts(source)
    return _parts(operation["value"]) if "value" in operation and operation["op"] != "test" else 0


def _parts(value: Any) -> int:
    """How many values a value holds, itself counted."""
    count, queue = 0, [value]
    while queue:
        item = queue.pop()
        count += 1
        if isinstance(item, dict):
            queue += item.values()
        elif isinstance(item, list):
            queue += item
    return count


def _blame(operation: dict[str, Any]) -> Fault:
    return Fault(str(operation["path"]), "is not there to change")


def plain_operation(operation: PatchOperation) -> dict[str, Any]:
    """An operation as the standard writes it, without what its kind does not have."""
    plain = operation.model_dump(by_alias=True)
    if operation.from_ is None:
        del plain["from"]
    if operation.op in {"remove", "move", "copy"}:
        del plain["value"]
    else:
        plain["value"] = copy.deepcopy(plain["value"])
    return plain
