"""Upkeep of a site: what is due, what was done, and both as a calendar."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field
from sqlalchemy import Engine

from yonderstat.core.bounds import fault_of_day
from yonderstat.core.log import (
    Due,
    due_of,
    tasks_of,
)
from yonderstat.formats import (
    write_calendar,
)
from yonderstat.records import (
    Archive,
    DoneTask,
    StoredDesign,
    UpkeepBook,
)

from .actors import current_actor
from .api import Api, Body, model_fault
from .clocks import AHEAD, zone_of
from .filenames import slug
from .transfer import TakenAway

Short = Annotated[str, Field(max_length=40)]


class NewUpkeep(Body):
    """That something was done, when and by whom."""

    task: Short
    done_on: Short
    who: Annotated[str, Field(min_length=1, max_length=12)]
    note: Annotated[str, Field(max_length=200)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class DueView:
    """A task with when it is due and when it was last done."""

    task: str
    title: str
    why: str
    months: int
    last: date | None
    due: date
    overdue_days: int


@dataclass(frozen=True, slots=True)
class UpkeepView:
    """What is due at a site, and what was done."""

    due: list[DueView]
    done: list[DoneTask]


def _day(text: str) -> date:
    try:
        day = date.fromisoformat(text)
    except ValueError:
        raise model_fault(
            "/done_on", f"{text[:20]!r} is no day; type one such as 2026-07-10"
        ) from None
    fault = fault_of_day(day)
    if fault:
        raise model_fault("/done_on", fault)
    if day > datetime.now(UTC).date() + AHEAD:
        raise model_fault("/done_on", "lies in the future; say it when it is done")
    return day


def due_views(due: tuple[Due, ...]) -> list[DueView]:
    """What is due, as the API shows it."""
    return [
        DueView(
            task=item.task.id,
            title=item.task.title,
            why=item.task.why,
            months=item.task.months,
            last=item.last,
            due=item.due,
            overdue_days=item.overdue_days,
        )
        for item in due
    ]


def last_done(done: list[DoneTask]) -> Mapping[str, date]:
    """When each task was last done."""
    found: dict[str, date] = {}
    for item in done:
        found.setdefault(item.task, item.done_on)
    return found


def upkeep_api(archive: Archive, engine: Engine) -> Api:
    """The operations on upkeep."""
    api, book = Api(), UpkeepBook(engine)

    def due_now(stored: StoredDesign) -> tuple[tuple[Due, ...], list[DoneTask]]:
        done = book.of(stored.site_id)
        return due_of(stored.design, last_done(done), datetime.now(zone_of(stored)).date()), done

    @api.operation("GET", "/api/designs/{design_id}/upkeep", access="read", answer=UpkeepView)
    def read_upkeep(design_id: UUID) -> UpkeepView:
        """What is due, by what the station has, and what was done."""
        due, done = due_now(archive.design(design_id))
        return UpkeepView(due_views(due), done)

    @api.operation(
        "POST", "/api/designs/{design_id}/upkeep", access="edit", body=NewUpkeep, answer=DoneTask
    )
    def add_upkeep(design_id: UUID, body: NewUpkeep) -> DoneTask:
        """Keep that a task was done."""
        stored = archive.design(design_id)
        if body.task not in {task.id for task in tasks_of(stored.design)}:
            raise model_fault("/task", "is no upkeep of this station")
        return book.add(
            stored.site_id,
            body.task,
            _day(body.done_on),
            body.who.strip(),
            body.note.strip(),
            current_actor(),
        )

    @api.operation("DELETE", "/api/upkeep/{done_id}", access="edit", status=204)
    def remove_upkeep(done_id: UUID) -> None:
        """Take back that it was done."""
        book.remove(done_id)

    @api.operation(
        "GET", "/api/designs/{design_id}/upkeep.ics", access="read", file="text/calendar"
    )
    def take_upkeep_away(design_id: UUID) -> TakenAway:
        """What is due, as a calendar."""
        stored = archive.design(design_id)
        due, _ = due_now(stored)
        name = stored.site_name
        return TakenAway(
            f"{slug(stored.site_name) or 'site'}-upkeep.ics",
            write_calendar(name, str(stored.site_id), due, datetime.now(UTC)),
        )

    return api
