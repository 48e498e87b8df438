"""Whether a process is the one we started: after a power cut its number may belong to a
stranger."""

import json
import os
import signal
import time
from dataclasses import asdict, dataclass
from pathlib import Path

from tools.files import write_whole

BOOT = Path("/proc/sys/kernel/random/boot_id")


@dataclass(frozen=True, slots=True)
class Identity:
    """A process as nobody else can be: its number, when it began in clock ticks, and in which run
    of the machine."""

    pid: int
    began_ticks: int
    boot: str


def _stat(pid: int) -> list[str]:
    """The fields of a process after its name, which may hold anything; empty where there is no such
    process."""
    try:
        return (Path("/proc") / str(pid) / "stat").read_text().rsplit(")", 1)[1].split()
    except (OSError, IndexError):
        return []


def identity_of(pid: int) -> Identity | None:
    """Who runs under a number now; None for nobody, and for one that has ended and was not yet
    collected."""
    fields = _stat(pid)
    if not fields or fields[0] in {"Z", "X"}:
        return None
    return Identity(pid, int(fields[19]), BOOT.read_text().strip())


def keep_identity(file: Path, pid: int) -> None:
    """Write down who a process is."""
    identity = identity_of(pid)
    if identity is not None:
        write_whole(file, json.dumps(asdict(identity)))


def kept_pid(file: Path) -> int | None:
    """The number of the process written down, if that very process is still alive."""
    try:
        kept = Identity(**json.loads(file.read_text()))
    except (OSError, ValueError, TypeError):
        return None
    return kept.pid if identity_of(kept.pid) == kept else None


def works_in(pid: int, folder: Path) -> bool:
    """Whether a process is alive with a folder as its own: every PostgreSQL process sits in its
    data folder."""
    try:
        return (
            identity_of(pid) is not None
            and Path(os.readlink(f"/proc/{pid}/cwd")) == folder.resolve()
        )
    except OSError:
        return False


def ticks_of_group(group: int) -> int:
    """The processor time a group of processes has used so far, in clock ticks; children that ended
    count too."""
    numbers = (int(entry.name) for entry in Path("/proc").iterdir() if entry.name.isdigit())
    members = (
        fields for pid in numbers if len(fields := _stat(pid)) > 14 and int(fields[2]) == group
    )
    return sum(int(ticks) for fields in members for ticks in fields[11:15])


def all_in(folder: Path) -> list[int]:
    """Every process whose own folder this is."""
    numbers = (int(entry.name) for entry in Path("/proc").iterdir() if entry.name.isdigit())
    return [pid for pid in numbers if works_in(pid, folder)]


def end(pid: int, signals: tuple[signal.Signals, ...], each_s: float) -> bool:
    """Ask a process to end, more firmly each time; whether it did.

    Parameters
    ----------
    signals : tuple of signal.Signals
        One after another.
    each_s : float
        How long each has to work. [s]
    """
    began = identity_of(pid)
    for sign in signals:
        if began is None or identity_of(pid) != began:
            return True
        os.kill(pid, sign)
        until = time.monotonic() + each_s
        while time.monotonic() < until:
            if identity_of(pid) != began:
                return True
            time.sleep(0.02)
    return identity_of(pid) != began
