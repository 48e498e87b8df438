"""Says what is being done while somebody waits for a start: a line each into the file that ./start
prints from."""

import os
from pathlib import Path

PROGRESS_VARIABLE = "YONDERSTAT_PROGRESS"


def tell_progress(words: str) -> None:
    """Say a line, where anybody listens."""
    file = os.environ.get(PROGRESS_VARIABLE, "")
    if file:
        with Path(file).open("a", encoding="utf-8") as sink:
            sink.write(f"{words}\n")
