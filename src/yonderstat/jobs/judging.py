"""Judging a design for the records: its report and its line, or why there is none."""

import logging
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from pydantic import TypeAdapter

from yonderstat.core import FirstLook, Report, Summary, first_look, next_actions, summary_of
from yonderstat.core.design import Design, InvalidDesignError, design_from_document
from yonderstat.core.next_action import NextAction
from yonderstat.records import Archive, Line

LOG = logging.getLogger(__name__)
SUMMARY = TypeAdapter(Summary)


class CannotJudgeError(RuntimeError):
    """The program has a fault that this design brings out; the message names it in short."""


@dataclass(frozen=True, slots=True)
class Judged:
    """A design with what it comes to; its remedies are still to be tried."""

    look: FirstLook
    line: Line


def judge(design: Design) -> Judged:
    """Judge a design: its verdict and all findings, whose remedies `whole_of` tries.

    Raises
    ------
    CannotJudgeError
        If judging fails, which it never should: the log tells how.
    """
    with _told():
        look = first_look(design)
        return Judged(look, Line(SUMMARY.dump_python(summary_of(design, look.report), mode="json")))


def whole_of(look: FirstLook) -> Report:
    """The report with its remedies tried.

    Raises
    ------
    CannotJudgeError
        If that fails, which it never should: the log tells how.
    """
    with _told():
        return look.whole()


def steps_of(design: Design, report: Report) -> tuple[NextAction, ...]:
    """What to do next about a verdict.

    Raises
    ------
    CannotJudgeError
        If that fails, which it never should: the log tells how.
    """
    with _told():
        return next_actions(design, report)


@contextmanager
def _told() -> Iterator[None]:
    try:
        yield
    except Exception as error:
        LOG.exception("a design cannot be judged")
        raise CannotJudgeError(f"{type(error).__name__}: {str(error)[:200]}") from error


def line_on(document: object) -> Line:
    """The line on a stored document, whatever state it is in."""
    try:
        return judge(design_from_document(document)).line
    except InvalidDesignError as error:
        return Line(None, f"The stored document cannot be read: {str(error)[:300]}")
    except CannotJudgeError as error:
        return Line(None, str(error))


def judge_waiting(archive: Archive, most: int = 50) -> int:
    """Judge some of the revisions that wait for it; how many were."""
    waiting = archive.unjudged(most)
    for item in waiting:
        archive.keep_line(item.design_id, item.revision, line_on(item.document))
    return len(waiting)
