"""Step 9, Log: readings as operators make them, what they mean, and which input of the plan they contradict."""

from .meaning import Meaning, meaning_of
from .reading import EXAMPLES, Reading, ReadingError, read_line

__all__ = ["EXAMPLES", "Meaning", "Reading", "ReadingError", "meaning_of", "read_line"]
