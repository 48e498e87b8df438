"""Long work, done outside the web process by a queue on PostgreSQL; and judging what is stored."""

from .bringing import RECORD_IMPORT, zone_of_design
from .judging import (
    SUMMARY,
    CannotJudgeError,
    Judged,
    judge,
    judge_waiting,
    line_on,
    steps_of,
    whole_of,
)
from .runs import KINDS, ask_for, defer_run, run_worker
from .standing import Standing, standing_of

__all__ = [
    "KINDS",
    "RECORD_IMPORT",
    "SUMMARY",
    "CannotJudgeError",
    "Judged",
    "Standing",
    "ask_for",
    "defer_run",
    "judge",
    "judge_waiting",
    "line_on",
    "run_worker",
    "standing_of",
    "steps_of",
    "whole_of",
    "zone_of_design",
]
