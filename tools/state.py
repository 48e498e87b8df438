"""What a start remembers: secrets, the database's port, and where the data lie."""

import json
import os
import secrets
from dataclasses import asdict, dataclass, replace
from pathlib import Path

from tools.cluster import (
    KEEPER,
    OWNER,
    Cluster,
    ClusterError,
    data_folder,
    fallback_folder,
    free_port,
    free_ports,
    holds_data,
    port_is_taken,
    reachable,
)
from tools.files import move_aside, write_whole

ROOT = Path(__file__).resolve().parents[1]
WORK_VARIABLE = "YONDERSTAT_WORK"
STANDIN_PORTS = 4


def work_folder() -> Path:
    """Where this installation keeps its state, its logs and, unless they are elsewhere, its
    data."""
    return Path(os.environ.get(WORK_VARIABLE, ROOT / ".work"))


@dataclass(frozen=True, slots=True, kw_only=True)
class State:
    """Kept in one file only we may read. An old one does not say where the data lie."""

    database_password: str
    secret_key: str
    database_port: int
    data_folder: str = ""
    standin_port: int = 0
    """The first of a few that the stand-ins of the demo listen on; the demo remembers it."""
    database_role: str = KEEPER
    """Whose password that is. A state from before there was a plain role does not say."""

    def cluster(self, folder: Path) -> Cluster:
        """The cluster it speaks of."""
        return Cluster(folder, self.database_port, self.database_password, role=self.database_role)


def read_state(work: Path) -> State | None:
    """The kept state; None where there is none, or where it cannot be read."""
    try:
        return State(**json.loads((work / "state.json").read_text()))
    except (OSError, ValueError, TypeError):
        return None


def write_state(work: Path, state: State) -> None:
    """Keep the state."""
    write_whole(work / "state.json", json.dumps(asdict(state)))


def where_the_data_lie(work: Path, state: State) -> Path:
    """The folder that holds data already, wherever it is; else the one for new data.

    Raises
    ------
    ClusterError
        If the data are there and the server's user cannot reach them: they are not left behind
        quietly.
    """
    wanted = work / "postgres"
    known = [Path(state.data_folder)] if state.data_folder else [wanted, fallback_folder(wanted)]
    holding = next((folder for folder in known if holds_data(folder)), None)
    if holding is None:
        return data_folder(wanted)
    if not reachable(holding):
        raise ClusterError(
            f"the data are in {holding}, which the user postgres cannot reach any more; "
            "give others the right to pass through its parent folders (chmod o+x), or move "
            "it as docs/operating.md says"
        )
    return holding


@dataclass(frozen=True, slots=True)
class Opened:
    """The state to start with, its cluster, and what a person should be told."""

    state: State
    cluster: Cluster
    words: tuple[str, ...]


def open_state(work: Path) -> Opened:
    """The state and the cluster it speaks of, both made or mended where needed. The cluster is not
    running after it."""
    work.mkdir(parents=True, exist_ok=True)
    words: list[str] = []
    kept = read_state(work)
    if kept is None and (work / "state.json").exists():
        aside = move_aside(work / "state.json")
        words.append(f"state.json could not be read; it is now {aside}, and new secrets were made.")
    state = kept or State(
        database_password=secrets.token_urlsafe(24),
        secret_key=secrets.token_urlsafe(48),
        database_port=free_port(),
        database_role=OWNER,
    )
    folder = where_the_data_lie(work, state)
    had_data = holds_data(folder)
    state.cluster(folder).stop()
    if port_is_taken(state.database_port):
        state = replace(state, database_port=free_port())
    if str(folder) != str(work / "postgres"):
        words.append(f"The data are in {folder}.")
    state = replace(
        state, data_folder=str(folder), standin_port=state.standin_port or free_ports(STANDIN_PORTS)
    )
    if state.database_role != OWNER:
        # The old password was a superuser's, and may be known elsewhere.
        state = replace(state, database_role=OWNER, database_password=secrets.token_urlsafe(24))
    cluster = state.cluster(folder)
    mended = cluster.create()
    if mended:
        words.append(mended)
    if had_data and (kept is None or kept.database_role != OWNER):
        cluster.give_to_owner()
    if had_data and kept is None:
        words.append(
            "The database's password was lost with it and has been set anew; the data are as "
            "they were."
        )
    # Only now: a state without its cluster would bar the way to the data it speaks of.
    write_state(work, state)
    return Opened(state, cluster, tuple(words))
