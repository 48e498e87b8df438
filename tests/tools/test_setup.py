"""What ./start installs: a step that failed or was cut short is tried again, never taken for
done."""

import os
import shutil
import signal
import subprocess
import time
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
PYTHON = """#!/bin/sh
echo "python $*" >> "$LOG"
case "$*" in
  *"-m pip --version"*) exit ${PIP:-0} ;;
  *"-m pip install"*) exit ${PIP_INSTALL:-0} ;;
  *"-m tools.installed"*) exit ${DAMAGED:-0} ;;
  *"-m uv pip install"*) sleep ${SLOW:-0}; echo "no route to host"; exit ${UV:-0} ;;
  -) exit ${WORKS:-0} ;;
  *) exit 0 ;;
esac
"""
SYSTEM_PYTHON = """#!/bin/sh
echo "python3 $*" >> "$LOG"
case "$*" in
  --version) echo "Python 3.11.7" ;;
  "-m tools.missing"*) printf "$MISSING" ;;
  *"-m venv"*) mkdir -p "$ROOT/.venv/bin"; cp "$ROOT/fake-python" "$ROOT/.venv/bin/python"; exit ${VENV:-0} ;;
esac
exit 0
"""
NPM = """#!/bin/sh
echo "npm $*" >> "$LOG"
[ -z "$NPM_FAILS" ] || exit 1
mkdir -p node_modules/.bin
for name in vite tsc; do
  printf '#!/bin/sh' > node_modules/.bin/$name
  chmod +x node_modules/.bin/$name
done
"""


@pytest.fixture
def house(tmp_path: Path) -> Path:
    """A checkout with stand-ins for python and npm that note how they were called."""
    (tmp_path / "tools").mkdir()
    shutil.copy(ROOT / "tools" / "setup.sh", tmp_path / "tools")
    (tmp_path / "ui").mkdir()
    for name in ("requirements.lock", "pyproject.toml", "tools/uv.lock", "ui/package-lock.json"):
        (tmp_path / name).write_text("x")
    for name, text in (("fake-python", PYTHON), ("bin/python3", SYSTEM_PYTHON), ("bin/npm", NPM)):
        file = tmp_path / name
        file.parent.mkdir(exist_ok=True)
        file.write_text(text)
        file.chmod(0o755)
    (tmp_path / "bin" / "node").write_text("#!/bin/sh\necho v20.20.2\n")
    (tmp_path / "bin" / "node").chmod(0o755)
    return tmp_path


def environment_of(house: Path, **more: str) -> dict[str, str]:
    log = house / "log"
    log.write_text("")
    return {
        "PATH": f"{house / 'bin'}:{os.environ['PATH']}",
        "LOG": str(log),
        "ROOT": str(house),
        **more,
    }


def run(house: Path, step: str, **more: str) -> subprocess.CompletedProcess[str]:
    script = f"set -euo pipefail; . {house}/tools/setup.sh; {step}"
    words = environment_of(house, **more)
    return subprocess.run(
        ["bash", "-c", script], env=words, text=True, capture_output=True, check=False
    )


def calls(house: Path) -> str:
    return (house / "log").read_text()


def test_a_good_install_is_stamped_and_not_done_again(house: Path) -> None:
    assert run(house, "install_python").stdout == "Installing Python packages\n"
    again = run(house, "install_python")
    assert (again.returncode, again.stdout) == (0, "")
    assert "install" not in calls(house)


@pytest.mark.parametrize(
    "failing",
    [
        {"PIP_INSTALL": "1"},
        {"UV": "1"},
        {"WORKS": "1"},
        {"DAMAGED": "1"},
        {"PIP": "1", "VENV": "1"},
    ],
)
def test_a_failed_install_is_said_and_tried_again(house: Path, failing: dict[str, str]) -> None:
    first = run(house, "install_python", **failing)
    assert first.returncode == 1, first.stdout
    assert "could not be" in first.stderr
    assert not (house / ".work" / "stamp.python").exists()
    assert run(house, "install_python").returncode == 0
    assert "uv pip install" in calls(house)


def test_an_install_that_was_killed_is_tried_again(house: Path) -> None:
    """The stamp of an install must not survive the beginning of the next one."""
    run(house, "install_python")
    (house / "requirements.lock").write_text("y")
    process = subprocess.Popen(
        ["bash", "-c", f"set -euo pipefail; . {house}/tools/setup.sh; install_python"],
        env=environment_of(house, SLOW="30"),
        start_new_session=True,
    )
    until = time.monotonic() + 20
    while "uv pip install" not in calls(house) and time.monotonic() < until:
        time.sleep(0.02)
    os.killpg(process.pid, signal.SIGKILL)
    process.wait()
    assert not (house / ".work" / "stamp.python").exists()
    (house / "requirements.lock").write_text("x")
    assert run(house, "install_python").stdout == "Installing Python packages\n"
    # What it left half done looks installed: it is made anew.
    assert "-m venv --clear" in calls(house)
    (house / ".work" / "stamp.python").unlink()
    run(house, "install_python")
    assert "-m venv --clear" not in calls(house)


def test_an_ordinary_logins_path_is_enough(house: Path) -> None:
    """ldconfig is in /sbin, which Debian's PATH for people does not have: nothing is asked of
    it."""
    (house / "tools" / "missing.py").write_text((ROOT / "tools" / "missing.py").read_text())
    (house / "bin" / "python3").unlink()
    script = (
        f"set -euo pipefail; . {house}/tools/setup.sh; cd {house}; install_debian; echo all there"
    )
    words = environment_of(house) | {"PATH": f"{house / 'bin'}:/usr/local/bin:/usr/bin:/bin"}
    done = subprocess.run(
        ["bash", "-c", script], env=words, text=True, capture_output=True, check=False
    )
    assert (done.returncode, done.stdout) == (0, "all there\n"), done.stderr
    assert "ldconfig" not in "".join(
        line
        for line in (ROOT / "tools" / "setup.sh").read_text().splitlines()
        if not line.lstrip().startswith("#")
    )


def test_what_is_missing_is_named_with_how_it_was_looked_for(house: Path) -> None:
    (house / "bin" / "sudo").write_text("#!/bin/sh\nexit 1\n")
    (house / "bin" / "sudo").chmod(0o755)
    (house / "bin" / "id").write_text("#!/bin/sh\necho 1000\n")
    (house / "bin" / "id").chmod(0o755)
    done = run(
        house,
        "install_debian",
        MISSING="libpango-1.0-0\\tthe library libpango-1.0.so.0, by loading it\\n",
    )
    assert done.returncode == 3
    assert "looked for the library libpango-1.0.so.0, by loading it" in done.stdout
    assert "apt-get install -y libpango-1.0-0" in done.stderr


def test_a_long_step_says_how_far_it_is(house: Path) -> None:
    step = "far() { echo 3 of 7; }; with_progress Working far sleep 1.2"
    told = run(house, step, YONDERSTAT_PROGRESS_S="0.3").stdout.splitlines()
    assert told[0] == "Working"
    assert told[1].startswith("Working: 3 of 7 (")
    assert len(told) >= 3
    failed = run(
        house,
        "with_progress Working far false && echo never; echo after",
        YONDERSTAT_PROGRESS_S="9",
    )
    assert failed.stdout == "Working\nafter\n"


def test_an_environment_without_pip_is_made_anew(house: Path) -> None:
    run(house, "install_python")
    (house / ".work" / "stamp.python").unlink()
    run(house, "install_python", PIP="1")
    assert "-m venv --clear" in calls(house)


def test_an_environment_that_lost_its_packages_is_filled_again(house: Path) -> None:
    run(house, "install_python")
    lost = run(house, "install_python", WORKS="1")
    assert lost.returncode == 1
    assert run(house, "install_python").stdout == "Installing Python packages\n"


def test_npm_alike(house: Path) -> None:
    assert run(house, "install_ui", NPM_FAILS="1").returncode == 1
    assert not (house / ".work" / "stamp.npm").exists()
    assert run(house, "install_ui").returncode == 0
    assert run(house, "install_ui").stdout == ""
    shutil.rmtree(house / "ui" / "node_modules")
    assert run(house, "install_ui").stdout == "Installing npm packages\n"


def test_a_second_set_up_waits_and_says_so(house: Path) -> None:
    log = house / "order"
    slow = f"lock_setup; sleep 1; echo first >> {log}; unlock_setup"
    script = f"set -euo pipefail; . {house}/tools/setup.sh; {slow}"
    first = subprocess.Popen(["bash", "-c", script])
    while not (house / ".work" / "setup.lock").exists():
        pass
    second = run(house, f"sleep 0.3; lock_setup; echo second >> {log}")
    first.wait()
    assert "waiting for it" in second.stdout
    assert log.read_text() == "first\nsecond\n"


def test_the_installers_follow_the_systems_certificates(house: Path) -> None:
    certificates = house / "certificates.crt"
    certificates.write_text("x")
    show = 'echo "$PIP_CERT $NODE_EXTRA_CA_CERTS $UV_NATIVE_TLS"'
    step = (
        f"system_certificates={certificates}; unset PIP_CERT NODE_EXTRA_CA_CERTS; "
        f"follow_system_certificates; {show}"
    )
    assert run(house, step).stdout == f"{certificates} {certificates} 1\n"
    kept = run(
        house,
        f"system_certificates={certificates}; follow_system_certificates; {show}",
        PIP_CERT="/mine",
    )
    assert kept.stdout.startswith("/mine ")
