"""The stand-ins as servers on loopback: Modbus TCP, telemetry in lines of text, and a line to make
them fail."""

import asyncio
import contextlib
import json
import os
import time
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path
from typing import Any, get_args

from pymodbus.constants import ExcCodes
from pymodbus.server import ModbusTcpServer
from pymodbus.simulator import DataType, SimData, SimDevice

from .faults import Broken, Fault
from .living import Clock, Lived, State, Station
from .mqtt import publishing
from .sunspec import BASE, controller_registers, monitor_registers

LOOPBACK = "127.0.0.1"
READ_HOLDING = 3
KEEP_EVERY_S = 5.0
LOST_LOOK_S = 0.1
MOST_LINE = 2_000


@dataclass
class StandIn:
    """A station that is told of, and what is wrong with it just now."""

    station: Station
    clock: Clock
    broken: Broken
    beats: int = 0
    functions: set[int] = field(default_factory=set)
    """Every Modbus function it was ever asked for."""

    def told(self) -> State:
        """What its devices tell now."""
        return self.broken.told(self.clock.at_s())

    async def out_of_reach(self) -> None:
        """Answer nothing for as long as the line is cut."""
        while "comms_lost" in self.broken.faults:
            await asyncio.sleep(LOST_LOOK_S)


def _modbus(stand_in: StandIn, device: str, port: int) -> ModbusTcpServer:
    def registers() -> list[int]:
        told = stand_in.told()
        if device == "controller":
            return controller_registers(told)
        stand_in.beats += 1
        return monitor_registers(told, stand_in.broken.lived.full_ah, stand_in.beats)

    async def asked(
        function: int,
        start: int,
        address: int,
        count: int,
        current: list[int],
        values: list[Any] | None,
    ) -> ExcCodes | None:
        stand_in.functions.add(function)
        await stand_in.out_of_reach()
        if function != READ_HOLDING:
            return ExcCodes.ILLEGAL_FUNCTION
        now = registers()
        current[BASE - start : BASE - start + len(now)] = now
        return None

    block = SimData(BASE, values=registers(), datatype=DataType.REGISTERS)
    return ModbusTcpServer(SimDevice(0, block, action=asked), address=(LOOPBACK, port))


async def _telemetry(
    stand_in: StandIn, reader: asyncio.StreamReader, writer: asyncio.StreamWriter
) -> None:
    """One record of key=value lines, and an empty line at its end, to whoever connects."""
    del reader
    await stand_in.out_of_reach()
    lines = stand_in.told().figures()
    with contextlib.suppress(ConnectionError):
        writer.write(
            "".join(f"{name}={value}\r\n" for name, value in lines.items()).encode() + b"\r\n"
        )
        await writer.drain()
    writer.close()


def _control(stand_ins: list[StandIn]) -> Any:
    async def answer(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        try:
            asked = json.loads(await reader.readuntil(b"\n"))
            chosen = [one for one in stand_ins if asked.get("station") in (None, one.station.name)]
            if "fault" in asked:
                if asked["fault"] not in get_args(Fault) or not chosen:
                    raise ValueError("there is no such fault or station")
                for one in chosen:
                    one.broken.set_fault(asked["fault"], bool(asked["on"]), one.clock.at_s())
            said: Any = [
                {
                    "station": one.station.name,
                    "at_s": one.clock.at_s(),
                    "faults": sorted(one.broken.faults),
                    "functions": sorted(one.functions),
                }
                for one in stand_ins
            ]
        except (
            ValueError,
            KeyError,
            asyncio.IncompleteReadError,
            asyncio.LimitOverrunError,
        ) as error:
            said = {"trouble": str(error)}
        with contextlib.suppress(ConnectionError):
            writer.write(json.dumps(said).encode() + b"\n")
            await writer.drain()
        writer.close()

    return answer


def kept_moments(file: Path | None) -> dict[str, float]:
    """How far each station had come when the stand-ins last ran, by name."""
    if file is None or not file.exists():
        return {}
    try:
        return {str(name): float(at_s) for name, at_s in json.loads(file.read_text()).items()}
    except (ValueError, AttributeError, TypeError):
        return {}


def _keep(file: Path, stand_ins: list[StandIn]) -> None:
    fresh = file.with_suffix(".new")
    fresh.write_text(json.dumps({one.station.name: one.clock.at_s() for one in stand_ins}))
    os.replace(fresh, file)


async def serve(
    stations: list[tuple[Station, Lived]], control_port: int, state_file: Path | None
) -> None:
    """Serve until cancelled; where they have come to is kept, so that they go on from there."""
    kept = kept_moments(state_file)
    stand_ins = []
    for station, lived in stations:
        from_s = kept.get(station.name, lived.from_s)
        stand_ins.append(StandIn(station, Clock(from_s, station.speed), Broken(lived, from_s)))
    servers: list[Any] = []
    for one in stand_ins:
        for name, port in one.station.ports.items():
            if name == "mqtt":
                servers.append(await publishing(one.station.name, one, port))
            elif name == "telemetry":
                spoken = partial(_telemetry, one)
                servers.append(await asyncio.start_server(spoken, LOOPBACK, port))
            else:
                server = _modbus(one, name.removeprefix("sunspec-"), port)
                await server.serve_forever(background=True)
                servers.append(server)
    servers.append(
        await asyncio.start_server(_control(stand_ins), LOOPBACK, control_port, limit=MOST_LINE)
    )
    print(
        (
            f"{time.strftime('%Y-%m-%d %H:%M:%S')} simulators: "
            f"{', '.join((s.name for s, _ in stations))}"
        ),
        flush=True,
    )
    while True:
        await asyncio.sleep(KEEP_EVERY_S)
        if state_file is not None:
            _keep(state_file, stand_ins)
