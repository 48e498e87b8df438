"""Rows of the Bus typed by a remedy: a run that is proposed gets a row of its own, one that has it
is changed."""

from ...changes import Operation, add, replace
from ...design import BusRun, Design, with_bus


def with_run(design: Design, run_id: str, **fields: object) -> tuple[Design, list[Operation]]:
    """The design with something typed about a run, and the patch that types it."""
    for place, row in enumerate(design.bus.runs):
        if row.id == run_id:
            changed = row.model_copy(update=fields)
            runs = [
                changed if number == place else other
                for number, other in enumerate(design.bus.runs)
            ]
            patch = [replace(f"/bus/runs/{place}", changed.model_dump(mode="json"))]
            return with_bus(design, runs=runs), patch
    new = BusRun(id=run_id).model_copy(update=fields)
    return with_bus(design, runs=[*design.bus.runs, new]), [
        add("/bus/runs/-", new.model_dump(mode="json"))
    ]


def with_run_rows(design: Design, patch: tuple[Operation, ...]) -> Design:
    """The design after operations that put in or replace whole rows of runs."""
    runs = list(design.bus.runs)
    for item in patch:
        row = BusRun.model_validate(item.value)
        place = item.path.removeprefix("/bus/runs/")
        if place == "-":
            runs.append(row)
        else:
            runs[int(place)] = row
    return with_bus(design, runs=runs)
