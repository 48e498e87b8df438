"""A full disk is said, nothing kept is lost, and work goes on once there is space again."""

import contextlib
import os
import subprocess
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from tools.cluster import Cluster, free_port

from tests.conftest import LocalClient
from tests.web.sites import new_design
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.records import migrate
from yonderstat.web import create_app


@pytest.fixture
def small_disk() -> Iterator[Path]:
    """A disk of 120 MB, where this machine lets us have one."""
    with tempfile.TemporaryDirectory(prefix="yonderstat-disk-", dir="/var/tmp") as folder:
        Path(folder).chmod(0o755)
        command = ["mount", "-t", "tmpfs", "-o", "size=120m,mode=755", "tmpfs", folder]
        if (
            os.geteuid() != 0
            or subprocess.run(command, check=False, capture_output=True).returncode != 0
        ):
            pytest.skip("only an administrator may mount a small disk")
        yield Path(folder)
        subprocess.run(["umount", "-l", folder], check=True)


def test_a_full_disk_is_said_and_loses_nothing(small_disk: Path) -> None:
    cluster = Cluster(small_disk / "data", free_port())
    cluster.create()
    cluster.start(small_disk / "log")
    migrate(cluster.url)
    app = create_app(cluster.url)
    app.test_client_class = LocalClient
    client = app.test_client()
    design_id = new_design(client, QUAY_STREET)

    def edit(text: str) -> Any:
        at = client.get(f"/api/designs/{design_id}").get_json()["revision"]
        change = [{"op": "replace", "path": "/brief/note", "value": text}]
        return client.patch(f"/api/designs/{design_id}", json=change, headers={"If-Match": str(at)})

    filler = small_disk / "filler"
    acknowledged = 1
    # Unbuffered: what did not fit anymore must not be tried again when the file is closed.
    with filler.open("wb", buffering=0) as sink, contextlib.suppress(OSError):
        while sink.write(b"x" * 65_536):
            pass
    refused = 0
    for number in range(400):
        # Text that does not compress: the table must grow, and cannot.
        answer = edit(os.urandom(1900).hex())
        if answer.status_code == 200:
            acknowledged = answer.get_json()["revision"]
            continue
        assert answer.status_code in {503, 507}, (number, answer.get_data(as_text=True))
        refused += 1
        if refused == 3:
            break
    assert refused == 3
    filler.unlink()
    if not cluster.answers():
        # The log itself had no room: the database then stops, and the watcher would start it again.
        cluster.stop()
        cluster.start(small_disk / "log")
    assert client.get(f"/api/designs/{design_id}").get_json()["revision"] >= acknowledged
    assert edit("space again").status_code == 200
    cluster.stop()
