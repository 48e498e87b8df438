"""Whether every Python package that pip or uv recorded as installed is there, file by file; run by
the set-up.

An install that was killed leaves folders that look installed and are not. Each package's RECORD
lists its files with their sizes (the wheel format,
https://packaging.python.org/en/latest/specifications/recording-installed-packages/), so what is
missing or cut short is found without importing anything.
"""

import re
import sys
import sysconfig
from importlib.metadata import Distribution, distributions
from pathlib import Path

PINNED = re.compile(r"^([A-Za-z0-9._-]+)(?:\[[^\]]*\])?==", re.MULTILINE)


def plain_name(name: str) -> str:
    """A package's name as all its spellings share it."""
    return re.sub(r"[-_.]+", "-", name).lower()


def damage_of(distribution: Distribution) -> str:
    """The first file of a package that is not as it was recorded; empty where all are."""
    files = distribution.files
    if files is None:
        return "has no record of its files"
    for file in files:
        if file.suffix == ".pyc":
            continue
        try:
            size = Path(str(distribution.locate_file(file))).stat().st_size
        except OSError:
            return f"has lost {file}"
        if file.size is not None and size != file.size:
            return f"has {file} of {size} bytes, and {file.size} were recorded"
    return ""


def damages(lock: str, folder: str) -> list[str]:
    """What is wrong with the packages in a folder, beside the list of those that should be
    there."""
    there = {plain_name(one.name): one for one in distributions(path=[folder]) if one.name}
    wanted = {plain_name(name) for name in PINNED.findall(lock)}
    lost = [f"{name} is not installed" for name in sorted(wanted - set(there))]
    return lost + [
        f"{name} {damage}" for name, one in sorted(there.items()) if (damage := damage_of(one))
    ]


def main() -> int:
    """Say what is wrong; 1 if anything is."""
    found = damages(Path(sys.argv[1]).read_text(), sysconfig.get_paths()["purelib"])
    for line in found:
        print(line)
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
