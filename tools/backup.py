"""One file that holds everything kept, and a whole installation made from it again."""

import os
import subprocess
import tempfile
from pathlib import Path

import psycopg

from tools.cluster import Cluster, ClusterError, binaries
from tools.files import move_aside
from tools.state import open_state, read_state, where_the_data_lie

COUNTS = "select (select count(*) from sites), (select count(*) from designs), (select count(*) from revisions)"
Counts = tuple[int, int, int]


def _counts(cluster: Cluster) -> Counts:
    with psycopg.connect(cluster.url) as connection:
        row = connection.execute(COUNTS).fetchone()
    if row is None:
        raise ClusterError("the database cannot be counted")
    return row[0], row[1], row[2]


def _run(program: str, cluster: Cluster, *words: str) -> None:
    command = [str(binaries() / program), "-h", "127.0.0.1", "-p", str(cluster.port), "-U", "app", "-d", "postgres"]
    environment = os.environ | {"PGPASSWORD": cluster.password}
    done = subprocess.run([*command, *words], env=environment, text=True, capture_output=True, check=False)
    if done.returncode != 0:
        lines = done.stderr.strip().splitlines() or ["it said nothing"]
        raise ClusterError(f"{program} failed: {lines[-1]}")


def in_words(counts: Counts) -> str:
    """How much there is."""
    sites, designs, revisions = counts
    return f"sites: {sites}, designs: {designs}, revisions: {revisions}"


def back_up(work: Path, file: Path) -> str:
    """Write everything kept into a file, whole or not at all, while the app runs; what it holds, in words."""
    state = read_state(work)
    cluster = Cluster(where_the_data_lie(work, state), state.database_port, state.database_password) if state else None
    if cluster is None or cluster.running_pid() is None:
        raise ClusterError("the app is not running; ./start first")
    if not file.parent.is_dir():
        raise ClusterError(f"there is no folder {file.parent}")
    with tempfile.NamedTemporaryFile(prefix=f"{file.name}.", dir=file.parent, delete=False) as part:
        made = Path(part.name)
    try:
        counts = _counts(cluster)
        _run("pg_dump", cluster, "--format=custom", f"--file={made}")
        made.replace(file)
    finally:
        made.unlink(missing_ok=True)
    return in_words(counts)


def restore(work: Path, file: Path) -> tuple[str, ...]:
    """Make the installation from a file; what it holds, and where the data went that were here. Nothing may run."""
    if not file.is_file():
        raise ClusterError(f"there is no file {file}")
    opened = open_state(work)
    aside = move_aside(opened.cluster.folder)
    try:
        opened = open_state(work)
        opened.cluster.start(work / "log" / "postgres.log")
        try:
            _run("pg_restore", opened.cluster, "--no-owner", "--exit-on-error", "--single-transaction", str(file))
            counts = _counts(opened.cluster)
        finally:
            opened.cluster.stop()
    except (ClusterError, psycopg.Error) as error:
        failed = move_aside(opened.cluster.folder)
        aside.rename(opened.cluster.folder)
        raise ClusterError(
            f"nothing was restored, the data are as they were ({error}; the try is in {failed})"
        ) from error
    return in_words(counts), f"The data that were here are in {aside}."
