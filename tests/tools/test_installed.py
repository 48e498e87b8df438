"""What an install that was killed left half done is found by the packages' own records."""

import shutil
import sysconfig
from pathlib import Path

import pytest
from tools.installed import damages
from tools.missing import BASE, Need, missing

LOCK = "six==1.0 \\\n    --hash=sha256:x\nfull-name==2.0 \\\n"
RECORD = "{name}/__init__.py,,3\n{name}/core.py,,5\n{name}-1.dist-info/METADATA,,\n{name}-1.dist-info/RECORD,,\n"


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """Two packages as an installer leaves them."""
    for name in ("six", "full_name"):
        (tmp_path / name).mkdir()
        (tmp_path / name / "__init__.py").write_text("abc")
        (tmp_path / name / "core.py").write_text("abcde")
        info = tmp_path / f"{name}-1.dist-info"
        info.mkdir()
        (info / "METADATA").write_text(f"Metadata-Version: 2.1\nName: {name}\nVersion: 1\n")
        (info / "RECORD").write_text(RECORD.format(name=name))
    return tmp_path


def test_a_whole_install_has_no_damage(folder: Path) -> None:
    assert damages(LOCK, str(folder)) == []


def test_a_lost_file_a_cut_file_and_a_lost_package_are_named(folder: Path) -> None:
    (folder / "six" / "core.py").unlink()
    assert damages(LOCK, str(folder)) == ["six has lost six/core.py"]
    (folder / "six" / "core.py").write_text("abc")
    assert damages(LOCK, str(folder)) == ["six has six/core.py of 3 bytes, and 5 were recorded"]
    shutil.rmtree(folder / "full_name-1.dist-info")
    assert damages(LOCK, str(folder))[0] == "full-name is not installed"
    (folder / "six-1.dist-info" / "RECORD").unlink()
    assert damages(LOCK, str(folder))[1] == "six has no record of its files"


def test_the_environment_of_these_tests_is_whole() -> None:
    lock = (Path(__file__).resolve().parents[2] / "requirements.lock").read_text()
    assert damages(lock, sysconfig.get_paths()["purelib"]) == []


def test_what_is_looked_for_is_found_or_named() -> None:
    absent = Need("ghost", "the program ghost", lambda: False)
    assert missing((*BASE, absent)) == [absent]
