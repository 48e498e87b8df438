"""A stand-in that publishes itself on an MQTT broker of its own, where Debian's is installed."""

import asyncio
import contextlib
import ctypes
import json
import shutil
import signal
import subprocess
import tempfile
from pathlib import Path
from typing import Protocol

import paho.mqtt.client as mqtt
from paho.mqtt.enums import CallbackAPIVersion

from .living import State

EVERY_S, READY_S = 0.5, 10.0
PR_SET_PDEATHSIG = 1
SETTINGS = """
listener {port} 127.0.0.1
allow_anonymous true
persistence false
"""


class Telling(Protocol):
    """Whoever has something to tell."""

    def told(self) -> State:
        """What its devices tell now."""

    async def out_of_reach(self) -> None:
        """Waits for as long as its line is cut."""


def broker_program() -> str | None:
    """Debian's broker, where it is installed."""
    return shutil.which("mosquitto") or shutil.which("mosquitto", path="/usr/sbin")


def _start_broker(program: str, port: int) -> "subprocess.Popen[bytes]":
    with tempfile.NamedTemporaryFile("w", suffix=".conf", delete=False) as settings:
        settings.write(SETTINGS.format(port=port))
    Path(settings.name).chmod(0o644)
    return subprocess.Popen(
        [program, "-c", settings.name],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        preexec_fn=lambda: ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL),
    )


async def publishing(name: str, station: Telling, port: int) -> "asyncio.Task[None] | None":
    """Publish a station on `stations/NAME` again and again; None, and a word, where there is no
    broker."""
    program = broker_program()
    if program is None:
        print(
            (
                f"{name}: no MQTT broker is installed here (Debian's is mosquitto); it is not "
                "published"
            ),
            flush=True,
        )
        return None
    broker = _start_broker(program, port)
    client = mqtt.Client(CallbackAPIVersion.VERSION2)
    loop = asyncio.get_running_loop()
    until = loop.time() + READY_S
    while True:
        try:
            await asyncio.to_thread(client.connect, "127.0.0.1", port, 10)
            break
        except OSError:
            if loop.time() > until or broker.poll() is not None:
                raise
            await asyncio.sleep(0.1)
    client.loop_start()
    return asyncio.create_task(_publish(name, station, client, broker))


async def _publish(
    name: str, station: Telling, client: mqtt.Client, broker: "subprocess.Popen[bytes]"
) -> None:
    try:
        while True:
            await station.out_of_reach()
            client.publish(f"stations/{name}", json.dumps(station.told().figures()), retain=True)
            await asyncio.sleep(EVERY_S)
    finally:
        client.loop_stop()
        with contextlib.suppress(ProcessLookupError):
            broker.kill()
