"""The parts list as a table other programs read."""

from yonderstat.core import Report
from yonderstat.core.design import Design

from .sheets import Rows, write_csv

COLUMNS = (
    "group",
    "part",
    "unit",
    "needed",
    "there",
    "to_buy",
    "price",
    "cost",
    "weight_kg",
    "where",
    "bought",
    "guess_low",
    "guess_high",
)


def _number(value: float | None) -> str:
    return "" if value is None else f"{value:.6g}"


def parts_rows(design: Design, report: Report) -> Rows:
    """The parts list as rows, a heading first; money in the currency of the brief."""
    own = {part.id: part for part in design.build.parts}
    rows = [[*COLUMNS]]
    for line in report.build.lines:
        row = own.get(line.id)
        price = row.price.value if row and row.price else line.price_from_design
        rows.append(
            [
                line.group,
                line.name,
                line.unit,
                _number(report.number(line.quantity)),
                _number(row.have if row else 0.0),
                _number(report.number(line.buy)),
                _number(price),
                _number(report.number(line.cost)),
                _number(report.number(line.weight_kg)),
                row.where if row else "",
                row.bought if row else "",
                _number(report.number(line.guess_low)),
                _number(report.number(line.guess_high)),
            ]
        )
    return rows


def write_parts(design: Design, report: Report) -> str:
    """The parts list as CSV."""
    return write_csv(parts_rows(design, report))
