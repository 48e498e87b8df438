"""Which Debian packages are missing here; run by the set-up with the system's own Python, so only
its library is used.

Prints a line for each: the package, then what was looked for and how. Libraries are loaded, as the
app will load them: a list of them (ldconfig) is not on the PATH of an ordinary login.
"""

import ctypes
import glob
import importlib.util
import os
import shutil
import sys
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Need:
    """A package, and how to see that what it brings is there."""

    package: str
    looked_for: str
    is_there: Callable[[], bool]


def _library(package: str, name: str) -> Need:
    def loads() -> bool:
        try:
            ctypes.CDLL(name)
        except OSError:
            return False
        return True

    return Need(package, f"the library {name}, by loading it", loads)


def _file(package: str, pattern: str) -> Need:
    return Need(package, f"the file {pattern}", lambda: bool(glob.glob(pattern)))


def _program(package: str, path: str) -> Need:
    return Need(package, f"the program {path}", lambda: os.access(path, os.X_OK))


BASE = (
    Need(
        "postgresql",
        "the program /usr/lib/postgresql/*/bin/postgres",
        lambda: bool(glob.glob("/usr/lib/postgresql/*/bin/postgres")),
    ),
    Need(
        "python3-venv",
        "Python's modules ensurepip and venv",
        lambda: all(importlib.util.find_spec(name) for name in ("ensurepip", "venv")),
    ),
    # What papers are set with.
    _library("libpango-1.0-0", "libpango-1.0.so.0"),
    _library("libpangoft2-1.0-0", "libpangoft2-1.0.so.0"),
    _library("libharfbuzz-subset0", "libharfbuzz-subset.so.0"),
    Need(
        "fontconfig",
        "the program fc-list, on the PATH",
        lambda: shutil.which("fc-list") is not None,
    ),
    _file("fonts-dejavu-core", "/usr/share/fonts/truetype/dejavu/DejaVuSans*.ttf"),
)
BROWSER = (
    _program("chromium", "/usr/bin/chromium"),
    _program("chromium-driver", "/usr/bin/chromedriver"),
    # Only the tests start one, on a port of their own: the broker a simulated device publishes on.
    _program("mosquitto", "/usr/sbin/mosquitto"),
)


def missing(needs: tuple[Need, ...]) -> list[Need]:
    """Those whose look-up found nothing."""
    return [need for need in needs if not need.is_there()]


def main() -> int:
    """Print what is missing, for the app alone or with "browser" for its tests too."""
    for need in missing(BASE + (BROWSER if "browser" in sys.argv[1:] else ())):
        print(f"{need.package}\t{need.looked_for}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
