"""Files that are there whole or not at all."""

import os
from datetime import UTC, datetime
from pathlib import Path


def write_whole(file: Path, text: str) -> None:
    """Write a file so that a reader, or a power cut, finds the old text or the new one; readable by
    its owner only."""
    part = file.with_name(f"{file.name}.{os.getpid()}.new")
    handle = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    try:
        with os.fdopen(handle, "w") as sink:
            sink.write(text)
            sink.flush()
            os.fsync(sink.fileno())
        os.replace(part, file)
    except OSError:
        part.unlink(missing_ok=True)
        raise


def move_aside(path: Path) -> Path:
    """Give what stands in the way another name; where it went. Nothing is ever deleted."""
    stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S")
    for number in range(100):
        aside = path.with_name(f"{path.name}.aside-{stamp}" + (f"-{number}" if number else ""))
        if not aside.exists():
            path.rename(aside)
            return aside
    raise FileExistsError(f"{path} cannot be moved aside: a hundred names are taken")
