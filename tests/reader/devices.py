"""Devices on loopback for the tests of the reader: honest stand-ins, and others."""

import asyncio
import struct
import threading
from collections.abc import Awaitable, Callable, Iterator
from contextlib import contextmanager

import numpy as np
from tools.cluster import free_port

from yonderstat.standins import Broken, Clock, Lived, Station
from yonderstat.standins.serving import StandIn, _modbus

Talk = Callable[[asyncio.StreamReader, asyncio.StreamWriter], Awaitable[None]]


def lived(hours: int = 240) -> Lived:
    """A station that goes through the same day over and over, from the first of March 2026, 200
    A·h."""
    hour = np.arange(hours)
    sun = np.clip(np.sin((hour % 24 - 6) / 12 * np.pi), 0.0, None)
    charge_a = 6.0 * sun
    share = 0.7 + np.cumsum(charge_a - charge_a.mean()) / 200.0
    volts = 12.5 + 0.5 * share + 0.1 * charge_a
    unfed_v, load_a, box_c = volts - 0.1 * charge_a, np.full(hours, 1.9), 10 + 5 * sun
    return Lived(
        from_s=1_772_323_200.0,
        full_ah=200.0,
        volts=volts,
        unfed_v=unfed_v,
        charge_a=charge_a,
        load_a=load_a,
        charge_share=share,
        box_c=box_c,
    )


@contextmanager
def running(start: Callable[[], Awaitable[object]]) -> Iterator[asyncio.AbstractEventLoop]:
    """An event loop in a thread of its own, in which something is started."""
    loop = asyncio.new_event_loop()
    thread = threading.Thread(target=loop.run_forever, daemon=True)
    thread.start()
    try:
        asyncio.run_coroutine_threadsafe(_started(start), loop).result(10)
        yield loop
    finally:
        asyncio.run_coroutine_threadsafe(_ended(), loop).result(10)
        loop.call_soon_threadsafe(loop.stop)
        thread.join(10)


async def _ended() -> None:
    """Whoever still talks is cut off."""
    others = asyncio.all_tasks() - {asyncio.current_task()}
    for task in others:
        task.cancel()
    await asyncio.gather(*others, return_exceptions=True)


async def _started(start: Callable[[], Awaitable[object]]) -> None:
    await start()


@contextmanager
def stand_in(device: str, at_s: float | None = None) -> Iterator[tuple[StandIn, int]]:
    """A controller or monitor whose clock stands still."""
    whole, port = lived(), free_port()
    from_s = whole.from_s + 12.5 * 3600 if at_s is None else at_s
    station = Station(
        name="test", design={}, from_at="2026-03-01T00:00+00:00", dull_month=6, ports={}, speed=1.0
    )
    one = StandIn(station, Clock(from_s, 0.0), Broken(whole, from_s))
    with running(lambda: _modbus(one, device, port).serve_forever(background=True)):
        yield one, port


@contextmanager
def talker(talk: Talk) -> Iterator[int]:
    """A device that says whatever it likes to whoever connects."""
    port = free_port()
    with running(lambda: asyncio.start_server(talk, "127.0.0.1", port)):
        yield port


def modbus_talker(registers: Callable[[int, int], list[int] | bytes]) -> Talk:
    """A Modbus device that answers a read of so many registers with these, or with those bytes as a
    whole answer."""

    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        try:
            while True:
                head = await reader.readexactly(12)
                transaction, _, _, unit, function, address, count = struct.unpack(">HHHBBHH", head)
                found = registers(address, count)
                if isinstance(found, bytes):
                    writer.write(found)
                else:
                    body = struct.pack(
                        f">BBB{len(found)}H", unit, function, 2 * len(found) % 256, *found
                    )
                    writer.write(struct.pack(">HHH", transaction, 0, len(body)) + body)
                await writer.drain()
        except (asyncio.IncompleteReadError, ConnectionError):
            writer.close()

    return talk
