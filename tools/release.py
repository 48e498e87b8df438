"""The first ten minutes as somebody has them who was given this checkout: ordinary users, slow
machine, cut power.

Run by `./test release`, as root, for it makes two users and takes them away again. Each gets a copy
of what git knows of this checkout, and nothing else: the environment is a login's. The first one's
start is killed once in each of its phases; then both start side by side, the second at half speed,
and every command of the README, the guide and the operating guide is run as it is printed.
"""

import contextlib
import io
import json
import os
import pwd
import re
import signal
import subprocess
import sys
import tarfile
import time
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from tools.cluster import free_port
from tools.state import ROOT

USERS = ("yonder-one", "yonder-two")
PHASES = (
    (r"Installing Python packages: (?:[2-9]\d|1\d\d) of|all in place", "Python packages half in"),
    (r"Installing npm packages: (?:[5-9]\d|1\d\d) of", "npm packages half in"),
    (r"Building the interface: ", "building the interface"),
    (r"Compiling [3-6] of", "compiling"),
    (r"Bringing the database up to date", "making the tables"),
    (r"Building the demo: site 3", "the demo half built"),
)
"""What a start says in each phase, and its name."""
DEMO = {"sites": 6, "designs": 9}
START_S, COMMAND_S, LONG_S = 900.0, 180.0, 12.0
PAGE_GOAL_S, AGAIN_GOAL_S = 150.0, 6.0
DOCS = ("README.md", "docs/operating.md", "docs/guide")
FENCE = re.compile(r"```sh\n(.*?)```", re.DOTALL)
INLINE = re.compile(r"`((?:\./start|\.venv/bin/yonderstat)[^`]*)`")
GOES_ON = ("worker", "poll", "--foreground")
"""Commands that run until they are stopped: they must still run after a while, or say in a word why
not."""
ELSEWHERE = ("--port N", "--port M", "npm ", "uv ", "pip ", "ruff", "tools.", "apt-get")
"""Shown with a letter for a number, or for whoever changes the program: not a user's first ten
minutes."""


class ReleaseError(RuntimeError):
    """What would have stopped a user."""


@dataclass(frozen=True, slots=True)
class Person:
    """A user with a copy of the checkout in a home of its own."""

    name: str
    home: Path
    port: int
    group: Path | None = None
    """A control group that halves its speed."""

    @property
    def checkout(self) -> Path:
        return self.home / "yonderstat"

    def popen(self, words: str) -> "subprocess.Popen[str]":
        """Run a command line in the checkout as the user's login shell would."""
        command = ["su", "-", self.name, "-c", f"cd {self.checkout} && {words}"]

        def enter() -> None:
            os.setsid()
            if self.group is not None:
                (self.group / "cgroup.procs").write_text(str(os.getpid()))

        clean = {"PATH": "/usr/sbin:/usr/bin:/sbin:/bin"}
        pipe = subprocess.PIPE
        return subprocess.Popen(
            command, env=clean, cwd="/", text=True, stdin=subprocess.DEVNULL, stdout=pipe, stderr=subprocess.STDOUT,
            preexec_fn=enter,
        )  # fmt: skip

    def run(self, words: str, within_s: float = COMMAND_S) -> subprocess.CompletedProcess[str]:
        """Run a command line to its end."""
        process = self.popen(words)
        try:
            said, _ = process.communicate(timeout=within_s)
        except subprocess.TimeoutExpired:
            self.cut_power()
            said, _ = process.communicate()
            return subprocess.CompletedProcess(words, 124, said, "")
        return subprocess.CompletedProcess(words, process.returncode, said, "")

    def cut_power(self) -> None:
        """Kill everything of the user's at once."""
        subprocess.run(["pkill", "-KILL", "-u", self.name], check=False)
        until = time.monotonic() + 20
        while self.processes() and time.monotonic() < until:
            time.sleep(0.1)

    def processes(self) -> list[str]:
        """What of the user's runs."""
        found = subprocess.run(
            ["pgrep", "-a", "-u", self.name], text=True, capture_output=True, check=False
        ).stdout
        # One that has ended and was not collected yet, by a first process that collects none, runs
        # no more.
        return [line for line in found.strip().splitlines() if "<defunct>" not in line]


def say(words: str) -> None:
    """A line of the report."""
    print(words, flush=True)


def copy_of_checkout() -> bytes:
    """What git knows of this checkout, as it lies there, packed."""
    names = subprocess.run(
        ["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True
    ).stdout
    sink = io.BytesIO()
    with tarfile.open(fileobj=sink, mode="w") as packed:
        for name in names.decode().split("\0"):
            if name and (ROOT / name).exists():
                packed.add(ROOT / name, arcname=name)
    return sink.getvalue()


@contextlib.contextmanager
def person(name: str, copy: bytes, slow: bool) -> Iterator[Person]:
    """A user with a home, gone afterwards with all that was in it.

    Parameters
    ----------
    copy : bytes
        The checkout he is given.
    slow : bool
        Whether he has half a core.
    """
    subprocess.run(["userdel", "-r", "-f", name], capture_output=True, check=False)
    subprocess.run(["useradd", "-m", "-s", "/bin/bash", name], check=True)
    entry = pwd.getpwnam(name)
    one = Person(name, Path(entry.pw_dir), free_port(), half_speed(name) if slow else None)
    try:
        one.checkout.mkdir()
        with tarfile.open(fileobj=io.BytesIO(copy)) as packed:
            packed.extractall(one.checkout, filter="data")
        subprocess.run(["chown", "-R", f"{name}:", str(one.checkout)], check=True)
        yield one
    finally:
        one.cut_power()
        subprocess.run(["userdel", "-r", "-f", name], capture_output=True, check=False)
        if one.group is not None:
            with contextlib.suppress(OSError):
                one.group.rmdir()


def half_speed(name: str) -> Path | None:
    """A control group of one core where the machine has two; None where the machine does not let
    us."""
    for folder, file, quota in (
        (Path("/sys/fs/cgroup/cpu"), "cpu.cfs_quota_us", "100000"),
        (Path("/sys/fs/cgroup"), "cpu.max", "100000 100000"),
    ):
        group = folder / f"release-{name}"
        try:
            group.mkdir(exist_ok=True)
            (group / file).write_text(quota)
        except OSError:
            continue
        return group
    say("No control group can be made here: the second user runs at full speed.")
    return None


def start_and_cut(one: Person, form: str, name: str) -> None:
    """Start, and kill everything once it says that it is in a phase."""
    process = one.popen(f"YONDERSTAT_PROGRESS_S=0.5 ./start --port {one.port}")
    assert process.stdout is not None
    said = []
    for line in process.stdout:
        said.append(line)
        if re.search(form, line):
            one.cut_power()
            process.wait()
            say(f"   cut while {name}")
            return
    process.wait()
    if process.returncode != 0:
        raise ReleaseError(f"a start before the cut at “{name}” failed:\n{''.join(said[-15:])}")
    one.run("./start --stop")
    say(f"   {name}: was done before, nothing to cut")


def start(one: Person) -> float:
    """A start to its end; how long it took. [s]"""
    began = time.monotonic()
    done = one.run(f"./start --port {one.port}", START_S)
    took_s = time.monotonic() - began
    if done.returncode != 0 or f"http://127.0.0.1:{one.port}" not in done.stdout:
        raise ReleaseError(
            f"{one.name}: ./start ended with {done.returncode}:\n{done.stdout[-2000:]}"
        )
    return took_s


def check_demo(one: Person) -> None:
    """All of the demo is there, once."""
    with urllib.request.urlopen(f"http://127.0.0.1:{one.port}/api/sites", timeout=30) as answer:
        sites = json.load(answer)
    found = {"sites": len(sites), "designs": sum(len(site["designs"]) for site in sites)}
    if found != DEMO:
        raise ReleaseError(f"{one.name}: the demo has {found}, and must have {DEMO}")


def commands() -> list[str]:
    """Every command line a user is shown, in the order of the pages."""
    found: list[str] = []
    for name in DOCS:
        place = ROOT / name
        for page in sorted(place.glob("*.md")) if place.is_dir() else [place]:
            text = page.read_text()
            lines = [line for block in FENCE.findall(text) for line in block.splitlines()]
            found += [line.split("  #")[0].strip() for line in lines + INLINE.findall(text)]
    known = dict.fromkeys(
        line for line in found if line.startswith(("./start", ".venv/bin/yonderstat"))
    )
    return [line for line in known if not any(word in line for word in ELSEWHERE)]


def stand_ready(one: Person) -> None:
    """The files the printed commands speak of, by the names they have there."""
    from yonderstat.demo.harrier_log import harrier_record
    from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT

    record = "\n".join(harrier_record().splitlines()[:3000]) + "\n"
    for name, text in {"FILE": json.dumps(HARRIER_AS_BUILT), "LOG.csv": record}.items():
        file = one.checkout / name
        file.write_text(text)
        os.chown(file, pwd.getpwnam(one.name).pw_uid, -1)


def run_printed(one: Person) -> list[str]:
    """Run every printed command; what went wrong."""
    stand_ready(one)
    wrong: list[str] = []
    for line in commands():
        goes_on = any(word in line for word in GOES_ON)
        literal = line.replace("NAME", "'Quay Street shack'")
        if literal in {"./start", "./start --stop", "./start --foreground"}:
            continue
        done = one.run(f"timeout {LONG_S:g} {literal}" if goes_on else literal)
        fine = done.returncode in ((0, 124) if goes_on else (0,))
        say(f"   {'ok  ' if fine else 'FAIL'} {line}")
        if not fine or "Traceback" in done.stdout:
            wrong.append(f"{line}: exit {done.returncode}\n{done.stdout[-800:]}")
    return wrong


def both(one: Person, two: Person) -> None:
    """Both start side by side, the second at half speed."""
    slow = two.popen(f"nice -n 10 ./start --port {two.port}")
    say(f"   the first, after its cuts: {start(one):.0f} s")
    began = time.monotonic()
    said, _ = slow.communicate(timeout=START_S)
    if slow.returncode != 0:
        raise ReleaseError(f"the second user's start failed:\n{said[-2000:]}")
    say(f"   the second, from nothing at half speed: {time.monotonic() - began:.0f} s more")
    for each in (one, two):
        check_demo(each)


def check_answers_at_once(one: Person) -> None:
    """Before anything is installed: help, status, stop and mistakes."""
    for words, code in (
        ("--help", 0), ("--status", 3), ("--stop", 0), ("--port 99999", 1), ("--bogus", 2), ("--backup x.backup", 1),
        ("--restore nowhere.backup", 1),
    ):  # fmt: skip
        began = time.monotonic()
        done = one.run(f"./start {words}")
        if done.returncode != code or "Traceback" in done.stdout or time.monotonic() - began > 10.0:
            raise ReleaseError(
                f"./start {words}: exit {done.returncode}, expected {code}:\n{done.stdout[-500:]}"
            )


def rehearse() -> None:
    """All of it."""
    copy = copy_of_checkout()
    with person(USERS[0], copy, slow=False) as one, person(USERS[1], copy, slow=True) as two:
        say("== answered before anything is installed")
        check_answers_at_once(one)
        say("== a start that is cut in each of its phases")
        for form, name in PHASES:
            start_and_cut(one, form, name)
        say("== two users side by side")
        both(one, two)
        say(f"== a second start: {start(one):.1f} s (goal {AGAIN_GOAL_S:g} on a quiet machine)")
        check_demo(one)
        say("== every printed command")
        wrong = run_printed(one)
        say("== stopped")
        for each in (one, two):
            each.run("./start --stop")
            left = [line for line in each.processes() if "pkill" not in line]
            if left:
                wrong.append(f"{each.name}: still runs after --stop: {left}")
        if wrong:
            raise ReleaseError("\n".join(wrong))


def main() -> int:
    """Run; 1 with what would have stopped a user."""
    if os.geteuid() != 0:
        print("./test release makes two users, and so must run as root.", file=sys.stderr)
        return 2
    signal.signal(signal.SIGTERM, lambda number, frame: sys.exit(1))
    began = time.monotonic()
    try:
        rehearse()
    except (ReleaseError, subprocess.SubprocessError, OSError) as error:
        print(f"Failed: {error}")
        print("release: 0 passed, 1 failed")
        return 1
    print(f"release: 1 passed, 0 failed ({time.monotonic() - began:.0f} s)")
    return 0


if __name__ == "__main__":
    sys.exit(main())
