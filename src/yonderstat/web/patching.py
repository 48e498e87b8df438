"""JSON Patch on a design."""

from typing import Any

import jsonpatch
import jsonpointer

from yonderstat.core.design import Design, Fault, design_from_document, document_of

from .bodies import PatchOperation
from .problems import Problem


def apply_patch(design: Design, operations: list[dict[str, Any]]) -> Design:
    """The design after a JSON Patch; one that does not fit it is a problem that names the operation."""
    try:
        patched = jsonpatch.apply_patch(document_of(design), operations)
    except jsonpatch.JsonPatchTestFailed:
        title = "A test in the patch does not hold: the design is not as you thought"
        raise Problem(409, "test-failed", title) from None
    except (jsonpatch.JsonPatchException, jsonpointer.JsonPointerException, TypeError, KeyError, IndexError) as error:
        detail = str(error)[:300]
        raise Problem(422, "bad-patch", "The patch does not fit the design", detail, _blame(operations)) from None
    return design_from_document(patched)


def _blame(operations: list[dict[str, Any]]) -> list[Fault]:
    return [Fault(str(item["path"]), "is not there to change") for item in operations[:1]]


def plain_operation(operation: PatchOperation) -> dict[str, Any]:
    """An operation as the standard writes it, without what its kind does not have."""
    plain = operation.model_dump(by_alias=True)
    if operation.from_ is None:
        del plain["from"]
    if operation.op in {"remove", "move", "copy"}:
        del plain["value"]
    return plain
