"""Long work, done outside the web process by a queue on PostgreSQL; and judging what is stored."""

from .judging import SUMMARY, CannotJudgeError, Judged, judge, judge_waiting, line_on
from .maps import ask_for_map, run_worker
from .standing import Standing, standing_of

__all__ = [
    "SUMMARY",
    "CannotJudgeError",
    "Judged",
    "Standing",
    "ask_for_map",
    "judge",
    "judge_waiting",
    "line_on",
    "run_worker",
    "standing_of",
]
