"""A PostgreSQL cluster of our own, on loopback: made, started and stopped without touching the system's."""

import ctypes
import hashlib
import os
import pwd
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path

READY_S, STOP_S = 30.0, 20.0
PR_SET_PDEATHSIG = 1


class ClusterError(RuntimeError):
    """PostgreSQL cannot be had here; the message is one sentence for a person."""


def free_port() -> int:
    """A loopback port nothing listens on just now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def port_is_taken(port: int) -> bool:
    """Whether something listens on a loopback port."""
    with socket.socket() as probe:
        probe.settimeout(1.0)
        return probe.connect_ex(("127.0.0.1", port)) == 0


def binaries() -> Path:
    """The folder of the newest PostgreSQL server programs."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/postgres"), key=lambda path: int(path.parts[-3]))
    if not found:
        raise ClusterError("PostgreSQL's server programs are not installed: apt-get install postgresql")
    return found[-1].parent


def server_user() -> str | None:
    """The user the server must run as: postgres when we are root, ourselves otherwise (None)."""
    return "postgres" if os.geteuid() == 0 else None


def data_folder(wanted: Path) -> Path:
    """The folder for the data: the wanted one, or one under /var/tmp where postgres cannot reach the wanted one."""
    user = server_user()
    if user is None:
        return wanted
    wanted.parent.mkdir(parents=True, exist_ok=True)
    reaches = subprocess.run(["runuser", "-u", user, "--", "test", "-x", str(wanted.parent)], check=False)
    if reaches.returncode == 0:
        return wanted
    digest = hashlib.sha256(str(wanted).encode()).hexdigest()[:12]
    return Path("/var/tmp") / f"yonderstat-{digest}"


def _die_with_parent() -> None:
    ctypes.CDLL(None, use_errno=True).prctl(PR_SET_PDEATHSIG, signal.SIGQUIT)


@dataclass(frozen=True, slots=True)
class Cluster:
    """A cluster in a folder. With a password it asks for it; without one it trusts loopback, for tests only."""

    folder: Path
    port: int
    password: str = ""
    throwaway: bool = False

    @property
    def url(self) -> str:
        """The address of the database."""
        secret = f":{self.password}" if self.password else ""
        return f"postgresql://app{secret}@127.0.0.1:{self.port}/postgres"

    def create(self) -> None:
        """Make the cluster if it is not there."""
        if (self.folder / "PG_VERSION").exists():
            return
        self.folder.mkdir(parents=True, exist_ok=True)
        self._own(self.folder)
        os.chmod(self.folder, 0o700)
        command = [str(binaries() / "initdb"), "-D", str(self.folder), "-U", "app", "-E", "UTF8"]
        command += ["--locale=C.UTF-8", "--no-instructions"]
        command += ["--no-sync"] if self.throwaway else []
        # A pipe would still belong to us: the server's user could not open it again by name.
        with tempfile.NamedTemporaryFile("w", prefix="yonderstat-") as password_file:
            password_file.write(self.password + "\n")
            password_file.flush()
            self._own(Path(password_file.name))
            if self.password:
                command += ["-A", "scram-sha-256", f"--pwfile={password_file.name}"]
            else:
                command += ["-A", "trust"]
            done = subprocess.run(command, text=True, capture_output=True, cwd="/", check=False, **self._as_server())
        if done.returncode != 0:
            shutil.rmtree(self.folder, ignore_errors=True)
            raise ClusterError(f"PostgreSQL could not make its folder: {done.stderr.strip().splitlines()[-1]}")

    def start(self, log: Path) -> None:
        """Start the server and wait until it answers. With `throwaway` it ends when we do."""
        settings = {"listen_addresses": "127.0.0.1", "unix_socket_directories": "", "max_connections": "60"}
        if self.throwaway:
            settings |= {"fsync": "off", "synchronous_commit": "off", "full_page_writes": "off"}
        command = [str(binaries() / "postgres"), "-D", str(self.folder), "-p", str(self.port)]
        for name, value in settings.items():
            command += ["-c", f"{name}={value}"]
        log.parent.mkdir(parents=True, exist_ok=True)
        with log.open("ab") as sink:
            process = subprocess.Popen(
                command,
                stdin=subprocess.DEVNULL,
                stdout=sink,
                stderr=sink,
                cwd="/",
                start_new_session=True,
                preexec_fn=_die_with_parent if self.throwaway else None,
                **self._as_server(),
            )
        self._await_ready(process, log)

    def stop(self) -> None:
        """Stop the server if it runs: politely, then firmly."""
        pid = self.running_pid()
        if pid is None:
            return
        for sign in (signal.SIGINT, signal.SIGQUIT):
            os.kill(pid, sign)
            until = time.monotonic() + STOP_S
            while time.monotonic() < until:
                if self.running_pid() is None:
                    return
                time.sleep(0.05)
        raise ClusterError(f"PostgreSQL (process {pid}) does not stop")

    def running_pid(self) -> int | None:
        """The process of the running server, or None."""
        try:
            pid = int((self.folder / "postmaster.pid").read_text().split("\n")[0])
            with (Path("/proc") / str(pid) / "stat").open() as stat:
                state = stat.read().rsplit(")", 1)[1].split()[0]
        except (OSError, ValueError):
            return None
        return None if state == "Z" else pid

    def _await_ready(self, process: "subprocess.Popen[bytes]", log: Path) -> None:
        until = time.monotonic() + READY_S
        check = [str(binaries() / "pg_isready"), "-q", "-h", "127.0.0.1", "-p", str(self.port), "-U", "app"]
        while time.monotonic() < until:
            if process.poll() is not None:
                raise ClusterError(f"PostgreSQL stopped at once; its log is {log}")
            if subprocess.run(check, check=False).returncode == 0:
                return
            time.sleep(0.05)
        process.kill()
        raise ClusterError(f"PostgreSQL does not answer; its log is {log}")

    def _as_server(self) -> dict[str, str]:
        user = server_user()
        return {} if user is None else {"user": user, "group": user}

    def _own(self, folder: Path) -> None:
        user = server_user()
        if user is not None:
            entry = pwd.getpwnam(user)
            os.chown(folder, entry.pw_uid, entry.pw_gid)
