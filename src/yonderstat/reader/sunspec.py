"""SunSpec devices over Modbus TCP: models 160, 714 and 802 read by the published definitions. Only
ever read."""

import asyncio
import struct
from typing import Any

from pymodbus.client import AsyncModbusTcpClient
from pymodbus.exceptions import ModbusException
from sunspec2.device import Model, ModelError

from .told import DeviceError, Told

BASES = (40_000, 0, 50_000)
MARK = struct.unpack(">HH", b"SunS")
END = 0xFFFF
MOST_MODELS, MOST_REGISTERS, AT_ONCE = 40, 1200, 120
TIMEOUT_S = 3.0
EPOCH_S = 946_684_800.0
"""Model 160 counts its seconds from the year 2000."""
TRACKERS, BATTERY, PORTS = 160, 802, 714
KNOWN = (TRACKERS, BATTERY, PORTS)
STORAGE_PORT, LOAD_PORT = 1, 4
Map = list[tuple[int, int, int]]
"""Models with their addresses and lengths, as a device was found to have them."""


class SunSpecReader:
    """Reads devices, and remembers where each keeps what."""

    def __init__(self) -> None:
        self._maps: dict[tuple[str, int, int], Map] = {}

    async def read(self, address: str, port: int, unit: int) -> Told:
        """Ask a device once.

        Raises
        ------
        DeviceError
            If it does not answer, or answers what cannot be.
        """
        key = (address, port, unit)
        client = AsyncModbusTcpClient(
            address, port=port, timeout=TIMEOUT_S, retries=0, reconnect_delay=0
        )
        try:
            async with asyncio.timeout(4 * TIMEOUT_S):
                if not await client.connect():
                    raise DeviceError(f"Nothing answers at {address}:{port}")
                if key not in self._maps:
                    self._maps[key] = await _walk(client, unit)
                models = [await _model(client, unit, row) for row in self._maps[key]]
        except (TimeoutError, ModbusException, OSError) as error:
            self._maps.pop(key, None)
            raise DeviceError(f"It does not answer in time: {_short(error)}") from None
        except DeviceError:
            self._maps.pop(key, None)
            raise
        finally:
            client.close()
        return _told(models)


def _short(error: BaseException) -> str:
    return (str(error) or type(error).__name__).splitlines()[0][:120]


async def _registers(
    client: AsyncModbusTcpClient, unit: int, address: int, count: int
) -> list[int]:
    found: list[int] = []
    while len(found) < count:
        part = min(AT_ONCE, count - len(found))
        answer = await client.read_holding_registers(
            address + len(found), count=part, device_id=unit
        )
        if answer.isError() or len(answer.registers) != part:
            raise DeviceError(f"It refuses or cuts short the registers at {address + len(found)}")
        found += answer.registers
    return found


async def _walk(client: AsyncModbusTcpClient, unit: int) -> Map:
    """Where a device keeps its models; a list without an end is none."""
    for base in BASES:
        try:
            mark = await _registers(client, unit, base, 2)
        except DeviceError:
            continue
        if tuple(mark) == MARK:
            break
    else:
        raise DeviceError("It answers, and is no SunSpec device: there is no SunS where one begins")
    found: Map = []
    address = base + 2
    for _ in range(MOST_MODELS):
        model_id, length = await _registers(client, unit, address, 2)
        if model_id == END:
            if not found:
                raise DeviceError(
                    "It has none of the models 160, 714 and 802, which report a battery and "
                    "its charge"
                )
            return found
        if length > MOST_REGISTERS:
            raise DeviceError(
                f"Its model {model_id} would be {length} registers long, which cannot be"
            )
        if model_id in KNOWN:
            found.append((model_id, address, length))
        address += length + 2
    raise DeviceError(f"Its list of models has no end within {MOST_MODELS}")


async def _model(client: AsyncModbusTcpClient, unit: int, row: tuple[int, int, int]) -> Model:
    model_id, address, length = row
    registers = await _registers(client, unit, address, length + 2)
    if registers[:2] != [model_id, length]:
        raise DeviceError("Its list of models has changed; we read it again")
    try:
        model = Model(
            model_id=model_id, model_len=length, data=struct.pack(f">{len(registers)}H", *registers)
        )
    except (ModelError, struct.error, ValueError, TypeError, KeyError) as error:
        raise DeviceError(
            f"Its model {model_id} does not fit its definition: {_short(error)}"
        ) from None
    if model.error_info:
        raise DeviceError(
            f"Its model {model_id} does not fit its definition: "
            f"{model.error_info.splitlines()[0][:120]}"
        )
    return model


def _value(group: Any, name: str) -> float | None:
    point = group.points[name]
    scale = point.pdef.get("sf")
    if isinstance(scale, str):
        holder = group.points.get(scale) or group.model.points.get(scale)
        if holder is None or holder.value is None:
            # The library would take the bare number for the figure.
            return None
    try:
        value = point.cvalue
    except (ModelError, OverflowError) as error:
        raise DeviceError(f"Its {name} cannot be read: {_short(error)}") from None
    return None if value is None else float(value)


def _told(models: list[Model]) -> Told:
    values: dict[str, float | None] = {}
    panel_w: float | None = None
    for model in models:
        if model.model_id == TRACKERS:
            rows = list(model.groups.get("module", []))
            watts = [watt for row in rows if (watt := _value(row, "DCW")) is not None]
            panel_w = sum(watts) if watts else None
            seconds = [tick for row in rows if (tick := _value(row, "Tms"))]
            values["device_s"] = max(seconds) + EPOCH_S if seconds else None
            values.setdefault("box_c", _value(rows[0], "Tmp") if rows else None)
        elif model.model_id == BATTERY:
            percent = _value(model, "SoC")
            values["charge_share"] = None if percent is None else percent / 100.0
            values["volts"], values["net_a"] = _value(model, "V"), _value(model, "A")
        else:
            for port in model.groups.get("Prt", []):
                _port(port, values)
    if values.get("charge_a") is None and panel_w is not None and values.get("volts"):
        values["charge_a"] = panel_w / float(values["volts"] or 1.0)
    return Told(**values)


def _port(port: Any, values: dict[str, float | None]) -> None:
    kind = _value(port, "PrtTyp")
    if kind == STORAGE_PORT:
        values["charge_a"] = _value(port, "DCA")
        values["volts"] = values.get("volts") or _value(port, "DCV")
        values["box_c"] = (
            _value(port, "Tmp") if _value(port, "Tmp") is not None else values.get("box_c")
        )
    elif kind == LOAD_PORT:
        values["load_a"] = _value(port, "DCA")
