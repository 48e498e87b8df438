"""One file that holds everything kept, and a whole installation made from it again, by PostgreSQL's
programs alone."""

import os
import re
import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path

from tools.cluster import OWNER, Cluster, ClusterError, binaries, free_port
from tools.files import move_aside
from tools.state import ROOT, State, open_state, read_state, where_the_data_lie, write_state

COUNTS = (
    "select (select count(*) from sites), (select count(*) from designs), (select count(*) "
    "from revisions)"
)
MIGRATIONS = ROOT / "src" / "yonderstat" / "records" / "migrations" / "versions"
KINDS = {
    "COMMENT", "CONSTRAINT", "DEFAULT", "EXTENSION", "FK CONSTRAINT", "FUNCTION", "INDEX", "SCHEMA", "SEQUENCE",
    "SEQUENCE OWNED BY", "SEQUENCE SET", "TABLE", "TABLE DATA", "TRIGGER", "TYPE", "ACL",
}  # fmt: skip
"""What a backup of ours holds. Anything else is not ours."""
EXTENSIONS = {"pg_trgm", "unaccent", "plpgsql"}
OUR_TABLES = {"sites", "designs", "revisions", "alembic_version"}
ENTRY = re.compile(r"\d+; \d+ \d+ ([A-Z]+(?: [A-Z]+)*) (\S+) (\S+)")


@dataclass(frozen=True, slots=True)
class Counts:
    """How much there is."""

    sites: int
    designs: int
    revisions: int

    @property
    def words(self) -> str:
        """In words."""
        return f"sites: {self.sites}, designs: {self.designs}, revisions: {self.revisions}"


def _said(program: str, *words: str, cluster: Cluster | None = None) -> str:
    """What a program of PostgreSQL's prints; its own complaint, where it fails."""
    where = (
        []
        if cluster is None
        else ["-h", "127.0.0.1", "-p", str(cluster.port), "-U", cluster.role, "-d", "postgres"]
    )
    environment = os.environ | {"PGPASSWORD": cluster.password if cluster else ""}
    command = [str(binaries() / program), *where, *words]
    done = subprocess.run(command, env=environment, capture_output=True, check=False)
    if done.returncode != 0:
        lines = done.stderr.decode(errors="replace").strip().splitlines() or ["it said nothing"]
        said = next((line for line in lines if "error" in line.lower()), lines[-1])
        raise ClusterError(f"{program} failed: {said[:300]}")
    return done.stdout.decode(errors="replace")


def _counts(cluster: Cluster) -> Counts:
    sites, designs, revisions = (
        _said("psql", "-X", "-A", "-t", "-c", COUNTS, cluster=cluster).strip().split("|")
    )
    return Counts(int(sites), int(designs), int(revisions))


def back_up(work: Path, file: Path) -> str:
    """Write everything kept into a new file, whole or not at all, while the app runs; what it
    holds, in words."""
    if file.exists():
        raise ClusterError(
            f"{file} is there already, and nothing is written over; give another name"
        )
    if not file.parent.is_dir():
        raise ClusterError(f"there is no folder {file.parent}")
    state = read_state(work)
    cluster = state.cluster(where_the_data_lie(work, state)) if state else None
    if cluster is None or cluster.running_pid() is None:
        raise ClusterError("the app is not running; ./start first")
    try:
        with tempfile.NamedTemporaryFile(
            prefix=f"{file.name}.", dir=file.parent, delete=False
        ) as part:
            made = Path(part.name)
    except OSError as error:
        raise ClusterError(f"nothing can be written to {file.parent}: {error.strerror}") from None
    try:
        counts = _counts(cluster)
        _said("pg_dump", "--format=custom", f"--file={made}", cluster=cluster)
        # A link fails where the name was taken meanwhile; a rename would write over it.
        os.link(made, file)
    except FileExistsError:
        raise ClusterError(
            f"{file} was made meanwhile, and nothing is written over; give another name"
        ) from None
    finally:
        made.unlink(missing_ok=True)
    return counts.words


def known_versions() -> list[str]:
    """The versions of the data this program knows, the oldest first."""
    texts = [file.read_text() for file in sorted(MIGRATIONS.glob("*.py"))]
    return [
        found[1]
        for text in texts
        if (found := re.search(r'^revision = "(\w+)"', text, re.MULTILINE))
    ]


def check_backup(file: Path) -> None:
    """Look at a file before anything is stopped for it.

    Raises
    ------
    ClusterError
        If it is no backup of ours, or one of a newer program.
    """
    try:
        with file.open("rb") as opened:
            opened.read(1)
    except OSError as error:
        raise ClusterError(f"{file} cannot be read: {error.strerror}") from None
    try:
        lines = _said("pg_restore", "--list", str(file)).splitlines()
    except ClusterError:
        raise ClusterError(
            f"{file} is not a backup: PostgreSQL's pg_restore cannot read it"
        ) from None
    entries = [
        found
        for line in lines
        if line and not line.startswith(";") and (found := ENTRY.match(line))
    ]
    strange = sorted({entry[1] for entry in entries} - KINDS)
    strange += sorted({e[3] for e in entries if e[1] == "EXTENSION"} - EXTENSIONS)
    strange += sorted(
        e[3] for e in entries if e[1] == "FUNCTION" and not e[3].startswith("procrastinate_")
    )
    if strange:
        raise ClusterError(
            f"{file} is not a backup of Yonderstat: it holds {', '.join(strange[:3])}"
        )
    lost = sorted(OUR_TABLES - {entry[3] for entry in entries if entry[1] == "TABLE"})
    if lost:
        raise ClusterError(
            f"{file} is a database, but not one of Yonderstat: it has no table {lost[0]}"
        )
    _check_version(file)


def _check_version(file: Path) -> None:
    table = _said("pg_restore", "--data-only", "--table=alembic_version", "--file=-", str(file))
    found = re.search(r"^COPY .*?;\n(\w+)\n\\\.$", table, re.MULTILINE)
    if found is None:
        raise ClusterError(f"{file} does not say of which version its data are")
    known = known_versions()
    if found[1] not in known:
        raise ClusterError(
            f"the data in {file} are of version {found[1]}, and this program knows versions "
            f"up to {known[-1]}; "
            "restore it with a program at least as new as the one that wrote it"
        )


@dataclass(frozen=True, slots=True)
class Restored:
    """A cluster made from a file, in a folder of its own, stopped."""

    cluster: Cluster
    counts: Counts


@contextmanager
def restored_beside(work: Path, file: Path) -> Iterator[Restored]:
    """Make a cluster from a file beside the one that may be running; it is gone after this, unless
    it was moved.

    The file's statements run as the plain role: they may change this database and nothing else.
    """
    check_backup(file)
    state = read_state(work) or open_state(work).state
    wanted = where_the_data_lie(work, state)
    wanted.parent.mkdir(parents=True, exist_ok=True)
    folder = Path(tempfile.mkdtemp(prefix=f"{wanted.name}.restoring-", dir=wanted.parent))
    cluster = replace(state.cluster(folder), port=free_port(), role=OWNER)
    try:
        cluster.create()
        cluster.start(work / "log" / "restore.log")
        try:
            words = (
                "--no-owner",
                "--no-privileges",
                "--exit-on-error",
                "--single-transaction",
                str(file),
            )
            _said("pg_restore", *words, cluster=cluster)
            counts = _counts(cluster)
        finally:
            cluster.stop()
        yield Restored(cluster, counts)
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def put_in_place(work: Path, restored: Restored) -> str:
    """Put a restored cluster where the data lie; where those went that were here, in words. Nothing
    may run."""
    state: State = read_state(work) or open_state(work).state
    folder = where_the_data_lie(work, state)
    aside = move_aside(folder) if folder.exists() else None
    try:
        restored.cluster.folder.rename(folder)
        write_state(work, replace(state, data_folder=str(folder), database_role=OWNER))
    except OSError as error:
        if aside is not None and not folder.exists():
            aside.rename(folder)
        raise ClusterError(f"nothing was restored, the data are as they were: {error}") from error
    return f"The data that were here are in {aside}." if aside else ""
