"""The commands of sites that report themselves: `yonderstat standin` and `yonderstat poll`.

Both go on as programs of their own, which do not keep the rest of the app in memory.
"""

import argparse
import json
import os
import socket
import sys
from pathlib import Path
from typing import Any, NoReturn

from yonderstat.demo.standins import CONTROL, standin_config
from yonderstat.records import URL_VARIABLE, database_url, state_file
from yonderstat.standins import FAULTS

STANDIN_PORT_VARIABLE = "YONDERSTAT_STANDIN_PORT"
DEFAULT_PORT = 8471
EXIT_NOT_THERE = 2
WAIT_S = 5.0


def add_live_commands(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Put them on the command line."""
    commands.add_parser("poll", help="read every site with live devices, until stopped")
    one = commands.add_parser(
        "standin", help="simulated devices of the demo, until stopped; or make them fail"
    )
    one.add_argument("--port", type=int, default=standin_port(), help="the first of their ports")
    kept = state_file().with_name("standins.json")
    one.add_argument("--state", default=str(kept), help="where they keep how far they have come")
    one.add_argument("--fault", choices=FAULTS, help="make it fail, in running simulators")
    one.add_argument("--mend", choices=FAULTS, help="mend it again")
    one.add_argument("--station", choices=["ridge", "beech"], help="only this one")


def standin_port() -> int:
    """The first port of the simulated devices: the environment's, else that of this checkout's
    installation."""
    named = os.environ.get(STANDIN_PORT_VARIABLE, "")
    if named.isdigit():
        return int(named)
    try:
        return int(json.loads(state_file().read_text())["standin_port"]) or DEFAULT_PORT
    except (OSError, ValueError, KeyError, TypeError):
        return DEFAULT_PORT


def asked_of_standins(port: int, asked: dict[str, Any]) -> Any:
    """Say something to stand-ins that run: their answer."""
    with socket.create_connection(("127.0.0.1", port), WAIT_S) as line:
        line.sendall(json.dumps(asked).encode() + b"\n")
        return json.loads(line.makefile("rb").readline())


def _become(module: str, *words: str) -> NoReturn:
    os.execv(sys.executable, [sys.executable, "-m", module, *words])


def run_live(chosen: argparse.Namespace) -> int:
    """Run one of them."""
    if chosen.command == "poll":
        os.environ.setdefault(URL_VARIABLE, database_url())
        return _become("yonderstat.reader")
    if chosen.fault or chosen.mend:
        asked = {
            "fault": chosen.fault or chosen.mend,
            "on": bool(chosen.fault),
            "station": chosen.station,
        }
        try:
            answer = asked_of_standins(chosen.port + CONTROL, asked)
        except (OSError, ValueError, OverflowError) as error:
            print(
                f"No simulated devices answer at port {chosen.port + CONTROL}: {error}",
                file=sys.stderr,
            )
            return EXIT_NOT_THERE
        print(json.dumps(answer, indent=2))
        return 0
    state = Path(chosen.state)
    state.parent.mkdir(parents=True, exist_ok=True)
    config = state.with_suffix(".config.json")
    config.write_text(json.dumps(standin_config(chosen.port, str(state))))
    return _become("yonderstat.standins", str(config))
