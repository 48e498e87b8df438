"""SunSpec: the stand-ins' registers against the published definitions and their own library's
client, ours against them, and devices that lie."""

import asyncio
import struct
from collections.abc import Callable
from dataclasses import asdict

import pytest
from pymodbus.client import ModbusTcpClient
from sunspec2.device import get_model_def
from sunspec2.modbus.client import SunSpecModbusClientDeviceTCP

from tests.reader.devices import lived, modbus_talker, stand_in, talker
from yonderstat.reader import DeviceError, SunSpecReader, Told, checked, merged
from yonderstat.reader import sunspec as ours
from yonderstat.standins import State, controller_registers, monitor_registers

STATE = State(
    at_s=1_780_000_000.0,
    volts=12.61,
    charge_a=3.21,
    load_a=1.12,
    charge_share=0.734,
    box_c=-4.4,
    panel_v=17.1,
    unfed_v=12.3,
)


def read(port: int, unit: int = 1) -> Told:
    return asyncio.run(SunSpecReader().read("127.0.0.1", port, unit))


def _length(group: dict) -> int:  # type: ignore[type-arg]
    return sum(point["size"] for point in group["points"])


@pytest.mark.parametrize(
    ("registers", "models"),
    [
        (controller_registers(STATE), (1, 160, 714)),
        (monitor_registers(STATE, 200.0, 5), (1, 802, 714)),
    ],
)
def test_the_maps_are_as_long_as_the_published_definitions_say(
    registers: list[int], models: tuple[int, ...]
) -> None:
    # Source: the SunSpec Alliance's model definitions as they ship in pysunspec2.
    assert struct.pack(">HH", *registers[:2]) == b"SunS"
    at = 2
    for model_id in models:
        definition = get_model_def(model_id)["group"]
        groups = definition.get("groups", [])
        # Without its own number and length; one of each group that repeats.
        wanted = _length(definition) + sum(map(_length, groups)) - 2
        assert registers[at : at + 2] == [model_id, wanted]
        at += wanted + 2
    assert registers[at:] == [0xFFFF, 0]


def test_their_own_client_reads_the_controller_as_it_is() -> None:
    with stand_in("controller") as (one, port):
        true = one.told()
        device = SunSpecModbusClientDeviceTCP(
            slave_id=1, ipaddr="127.0.0.1", ipport=port, timeout=3
        )
        device.scan()
        tracker = device.models[160][0].groups["module"][0]
        assert tracker.DCA.cvalue == pytest.approx(true.charge_a, abs=0.006)
        assert tracker.Tms.value + ours.EPOCH_S == pytest.approx(true.at_s, abs=1.0)
        assert device.models[714][0].groups["Prt"][0].DCV.cvalue == pytest.approx(
            true.volts, abs=0.006
        )
        assert device.models[1][0].Md.value == "Charge controller"


def test_ours_reads_both_devices_and_makes_one_station_of_them() -> None:
    with stand_in("controller") as (one, first), stand_in("monitor") as (_, second):
        true, told = one.told(), merged([read(second), read(first)])
    assert told.volts == pytest.approx(true.volts, abs=0.006)
    assert told.charge_a == pytest.approx(true.charge_a, abs=0.006)
    assert told.load_a == pytest.approx(true.load_a, abs=0.006)
    assert told.charge_share == pytest.approx(true.charge_share, abs=0.0006)
    assert told.box_c == pytest.approx(true.box_c, abs=0.06)
    assert told.device_s == pytest.approx(true.at_s, abs=1.0)
    assert checked(told) == told


def test_nothing_is_ever_written() -> None:
    with stand_in("monitor") as (one, port):
        reader = SunSpecReader()
        for _ in range(3):
            asyncio.run(reader.read("127.0.0.1", port, 1))
        assert one.functions == {3}
        # And whoever tries is refused by the stand-in.
        with ModbusTcpClient("127.0.0.1", port=port) as client:
            assert client.write_register(40_010, 1).isError()


def test_what_one_does_not_measure_follows_from_the_others() -> None:
    assert merged([Told(net_a=2.0, load_a=1.5)]).charge_a == 3.5
    assert merged([Told(net_a=-1.0), Told(charge_a=2.0)]).load_a == 3.0
    assert (merged([Told(net_a=-4.0)]).charge_a, merged([Told(net_a=-4.0)]).load_a) == (0.0, 4.0)
    assert merged([Told(volts=12.7), Told(volts=13.1)]).volts == 12.7


@pytest.fixture
def hasty(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(ours, "TIMEOUT_S", 0.3)


def _page(registers: list[int]) -> Callable[[int, int], list[int]]:
    """A device that holds these from 40000 on, and noughts behind them."""

    def found(address: int, count: int) -> list[int]:
        start = address - 40_000
        if start < 0:
            return [0] * count
        return (registers[start : start + count] + [0] * count)[:count]

    return found


MARK = list(struct.unpack(">HH", b"SunS"))
TRUE = controller_registers(STATE)
LONGER = [*TRUE[:2], *TRUE[2:70], 160, 40, *TRUE[72:]]
LIES = {
    "no SunSpec map": (_page([1, 2, 3, 4]), "no SunSpec device"),
    "a list of models without end": (_page([*MARK, *([1, 0] * 400)]), "no end within 40"),
    "a model longer than any": (_page([*MARK, 160, 65_000]), "65000 registers long"),
    "a map with nothing of use": (_page([*MARK, 1, 2, 0, 0, 0xFFFF, 0]), "none of the models"),
    "a model of the wrong length": (_page(LONGER), "does not fit its definition"),
    "fewer registers than asked for": (
        lambda address, count: [7] * max(1, count - 1),
        "no SunSpec device",
    ),
    "an answer cut short": (
        lambda address, count: b"\x00\x01\x00\x00\x00\x09\x01\x03\x04Sun",
        "in time",
    ),
    "bytes that are no Modbus": (lambda address, count: b"HTTP/1.1 200 OK\r\n\r\n" * 40, "in time"),
}


@pytest.mark.usefixtures("hasty")
@pytest.mark.parametrize("lie", LIES)
def test_a_device_that_lies_is_told_in_words_and_stops_nobody(lie: str) -> None:
    registers, words = LIES[lie]
    with talker(modbus_talker(registers)) as port, pytest.raises(DeviceError) as error:
        read(port)
    assert words in str(error.value)


def test_a_figure_without_its_scale_is_not_known() -> None:
    # The first scale of model 160 is that of its amps, the third that of its watts; 0x8000 is “not
    # implemented”.
    lost = [*TRUE[:72], 0x8000, TRUE[73], 0x8000, *TRUE[75:100]]
    with talker(modbus_talker(_page([*lost, 0xFFFF, 0]))) as port:
        told = read(port)
    assert told.charge_a is None
    assert told.device_s == pytest.approx(STATE.at_s, abs=1.0)


@pytest.mark.usefixtures("hasty")
def test_silence_a_closed_port_and_an_endless_stream_end_in_time() -> None:
    async def says_nothing(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        await asyncio.sleep(30)

    async def never_ends(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        while True:
            writer.write(b"\x00\x01\x00\x00" * 1000)
            await writer.drain()

    for talk in (says_nothing, never_ends):
        with talker(talk) as port, pytest.raises(DeviceError):
            read(port)
    with pytest.raises(DeviceError):
        read(1)


@pytest.mark.parametrize(
    "told",
    [
        Told(volts=1e6),
        Told(charge_share=2.0),
        Told(box_c=-400.0),
        Told(volts=float("nan")),
        Told(device_s=5.0),
    ],
)
def test_what_cannot_be_is_not_believed(told: Told) -> None:
    with pytest.raises(DeviceError):
        checked(told)


def test_a_mended_device_is_read_again_after_its_map_has_changed() -> None:
    reader, holds = SunSpecReader(), {"registers": TRUE}

    def found(address: int, count: int) -> list[int]:
        return _page(holds["registers"])(address, count)

    with talker(modbus_talker(found)) as port:
        first = asyncio.run(reader.read("127.0.0.1", port, 1))
        holds["registers"] = monitor_registers(STATE, 200.0, 9)
        with pytest.raises(DeviceError, match="has changed"):
            asyncio.run(reader.read("127.0.0.1", port, 1))
        second = asyncio.run(reader.read("127.0.0.1", port, 1))
    assert first.charge_share is None
    assert second.charge_share == pytest.approx(0.734, abs=0.0006)


def test_a_state_between_two_hours_lies_between_theirs() -> None:
    whole = lived()
    before, after = whole.at(whole.from_s + 10 * 3600), whole.at(whole.from_s + 11 * 3600)
    middle = asdict(whole.at(whole.from_s + 10.5 * 3600))
    for name in ("charge_share", "unfed_v", "box_c"):
        low, high = sorted((getattr(before, name), getattr(after, name)))
        assert low - 1e-9 <= middle[name] <= high + 1e-9
