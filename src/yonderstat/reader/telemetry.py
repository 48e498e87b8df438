"""Devices that tell themselves in lines of text, key=value, until an empty line or the end: a
terminal over TCP."""

import asyncio
import contextlib
from typing import Any

from .told import DeviceError, Told

TIMEOUT_S = 3.0
MOST_BYTES = 4_096
KEYS = {
    "time": "device_s",
    "battery_v": "volts",
    "charge_a": "charge_a",
    "load_a": "load_a",
    "net_a": "net_a",
    "soc_pct": "charge_share",
    "box_c": "box_c",
}
"""What is understood; other keys are left."""


async def read_telemetry(address: str, port: int) -> Told:
    """Ask a device once.

    Raises
    ------
    DeviceError
        If it does not answer, or answers what cannot be.
    """
    try:
        async with asyncio.timeout(2 * TIMEOUT_S):
            reader, writer = await asyncio.open_connection(address, port, limit=MOST_BYTES)
            try:
                return parse_telemetry(await _record(reader))
            finally:
                writer.close()
    except (TimeoutError, OSError) as error:
        why = (str(error) or "it says nothing").splitlines()[0][:120]
        raise DeviceError(f"It does not answer in time: {why}") from None


async def _record(reader: asyncio.StreamReader) -> str:
    found = bytearray()
    while len(found) <= MOST_BYTES:
        try:
            line = await reader.readline()
        except ValueError:
            raise DeviceError(
                f"It sends a line of over {MOST_BYTES} characters; that is no telemetry"
            ) from None
        if not line.strip():
            if found or not line:
                break
            continue
        found += line
    if len(found) > MOST_BYTES:
        raise DeviceError(f"It sends on and on, over {MOST_BYTES} characters without an empty line")
    if not found:
        raise DeviceError("It hangs up without a word")
    return found.decode("ascii", errors="replace")


def parse_telemetry(text: str) -> Told:
    """One record of key=value lines.

    Raises
    ------
    DeviceError
        If a line is none, or a figure is no number.
    """
    found: dict[str, str] = {}
    for number, line in enumerate(text.splitlines(), start=1):
        if not line.strip():
            continue
        key, is_pair, value = line.partition("=")
        if not is_pair:
            raise DeviceError(f"Its line {number} is no key=value: {line[:40]!r}")
        found[key.strip().lower()] = value.strip()
    return told_of(found)


def told_of(found: dict[str, Any]) -> Told:
    """Figures by their keys; keys that are not known are left.

    Raises
    ------
    DeviceError
        If a figure is no number.
    """
    values: dict[str, float] = {}
    for key, name in KEYS.items():
        if found.get(key) is None:
            continue
        figure: float | None = None
        with contextlib.suppress(ValueError, TypeError, OverflowError):
            figure = float(found[key])
        if figure is None or isinstance(found[key], bool):
            raise DeviceError(f"Its {key} isn't a number: {str(found[key])[:40]!r}")
        values[name] = figure / 100.0 if key == "soc_pct" else figure
    return Told(**values)
