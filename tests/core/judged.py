"""Small stations that are judged, and what is found of them."""

from typing import Any

from tests.samples import harrier_ridge, with_bank
from yonderstat.core import Report, evaluate
from yonderstat.core.design import (
    Charger,
    Design,
    Regulator,
    with_array,
)
from yonderstat.core.finding import Finding

PLACED = harrier_ridge()


def ids(design: Design) -> dict[str, str]:
    return {finding.id: finding.severity for finding in evaluate(design).findings}


def find(report: Report, key: str) -> Finding | None:
    return next((finding for finding in report.findings if finding.id == key), None)


def charged_by(design: Design, **charger: Any) -> Design:
    return with_array(design, chargers=[Charger(id="c", name="Charger", **charger)])


def lithium(**bank: Any) -> Design:
    whole = {"chemistry": "lifepo4", "unit_v": 12.8, "housing": "outdoors", "cold_c": None, **bank}
    return with_bank(PLACED, **whole)


def joined(design: Design, **first: Any) -> Design:
    one = design.array.strings[0].model_copy(update=first)
    two = one.model_copy(
        update={
            "id": "two",
            "name": "Second string",
            "joins": one.id,
            "regulator": Regulator(),
            "series": 3,
        }
    )
    return with_array(design, strings=[one, two])
