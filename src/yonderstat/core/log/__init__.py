"""Step 9, Log: readings as operators make them, what they mean, and which input of the plan they
contradict."""

from .exponent import exponent_meaning, exponent_of
from .fit import Compared, Explanation, PlanFit, fit_of
from .guided import (
    Asked,
    Expected,
    FigureError,
    Procedure,
    Subject,
    at_label_rate,
    held_of_test,
    panel_verdict,
)
from .meaning import Meaning, meaning_of, too_many_volts
from .noise import dbm_of, likely_source, noise_words
from .notices import Apart, Leak, Notice, Reach, leak_of, notices_of
from .planned import PlannedBand, planned_band, planned_year
from .procedures import judged_test, line_of_test, procedures_of
from .reading import EXAMPLES, Reading, ReadingError, read_line
from .remaining import Left, TempoLeft, left_of
from .series import CHANNELS, Days, Record, days_of
from .upkeep import Due, Task, due_of, months_later, tasks_of

__all__ = [
    "CHANNELS",
    "EXAMPLES",
    "Apart",
    "Asked",
    "Compared",
    "Days",
    "Due",
    "Expected",
    "Explanation",
    "FigureError",
    "Leak",
    "Left",
    "Meaning",
    "Notice",
    "PlanFit",
    "PlannedBand",
    "Procedure",
    "Reach",
    "Reading",
    "ReadingError",
    "Record",
    "Subject",
    "Task",
    "TempoLeft",
    "at_label_rate",
    "days_of",
    "dbm_of",
    "due_of",
    "exponent_meaning",
    "exponent_of",
    "fit_of",
    "held_of_test",
    "judged_test",
    "leak_of",
    "left_of",
    "likely_source",
    "line_of_test",
    "meaning_of",
    "months_later",
    "noise_words",
    "notices_of",
    "panel_verdict",
    "planned_band",
    "planned_year",
    "procedures_of",
    "read_line",
    "tasks_of",
    "too_many_volts",
]
