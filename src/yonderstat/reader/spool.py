"""What was read and is not yet kept: on disk before it is tried, so that no kill and no lost
database loses it."""

import json
import os
import threading
from pathlib import Path
from typing import Any

Json = dict[str, Any]


class Spool:
    """Rounds in the order they were read, a line each."""

    def __init__(self, file: Path) -> None:
        self._file = file
        self._file.parent.mkdir(parents=True, exist_ok=True)
        self._waiting = [row for line in _lines(file) if (row := _row(line)) is not None]
        self._sink = file.open("ab")
        self._lock = threading.Lock()

    def add(self, row: Json) -> None:
        """Put a round in; it is on disk when this returns."""
        with self._lock:
            self._sink.write(json.dumps(row).encode() + b"\n")
            self._sink.flush()
            os.fsync(self._sink.fileno())
            self._waiting.append(row)

    @property
    def waiting(self) -> int:
        """How many wait."""
        return len(self._waiting)

    def first(self) -> Json | None:
        """The oldest that waits."""
        return self._waiting[0] if self._waiting else None

    def done(self) -> None:
        """The oldest is kept. Once none waits the file begins anew."""
        with self._lock:
            self._waiting.pop(0)
            if not self._waiting:
                self._sink.truncate(0)


def _lines(file: Path) -> list[bytes]:
    return file.read_bytes().splitlines() if file.exists() else []


def _row(line: bytes) -> Json | None:
    """A line read back; one cut short by a kill was never promised to be there."""
    try:
        row = json.loads(line)
    except ValueError:
        return None
    return row if isinstance(row, dict) else None
