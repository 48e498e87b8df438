"""Telemetry in lines of text, and where anything may be asked at all."""

import asyncio
import contextlib
import json

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tools.cluster import free_port

from tests.reader.devices import Talk, lived, running, talker
from yonderstat import addresses
from yonderstat.addresses import AddressError, address_of, web_address
from yonderstat.reader import (
    DeviceError,
    Told,
    checked,
    parse_message,
    parse_telemetry,
    read_mqtt,
    read_telemetry,
)
from yonderstat.reader import mqtt as ours_mqtt
from yonderstat.reader import telemetry as ours
from yonderstat.standins import Broken, Clock, Station
from yonderstat.standins.mqtt import broker_program, publishing
from yonderstat.standins.serving import StandIn

LINES = (
    "time=1780000000",
    "battery_v=12.61",
    "charge_a=3.2",
    "load_a=1.1",
    "soc_pct=73.5",
    "box_c=-4.4",
    "fw=7",
    "",
    "",
)
RECORD = "\r\n".join(LINES).encode()


def read(port: int) -> Told:
    return asyncio.run(read_telemetry("127.0.0.1", port))


def test_a_record_is_read_and_what_is_not_known_is_left() -> None:
    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        writer.write(RECORD)
        await writer.drain()
        await asyncio.sleep(5)

    with talker(talk) as port:
        told = read(port)
    assert told == Told(
        device_s=1_780_000_000.0,
        volts=12.61,
        charge_a=3.2,
        load_a=1.1,
        charge_share=0.735,
        box_c=-4.4,
    )


@pytest.mark.parametrize(
    ("text", "words"),
    [("battery_v=12,6\n", "battery_v isn't a number"), ("hello\n", "line 1 is no key=value")],
)
def test_a_line_that_is_none_is_named(text: str, words: str) -> None:
    with pytest.raises(DeviceError, match=words):
        parse_telemetry(text)


@given(st.text(max_size=300))
def test_any_text_is_a_record_or_is_refused(text: str) -> None:
    told: Told | None = None
    with contextlib.suppress(DeviceError):
        told = parse_telemetry(text)
    assert told is None or isinstance(told, Told)


@pytest.mark.parametrize("chunk", [b"x" * 100_000, b"a=1\r\n" * 4000, b"\r\n"])
def test_an_endless_stream_a_huge_line_and_silence_end(
    chunk: bytes, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(ours, "TIMEOUT_S", 0.3)

    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        while True:
            writer.write(chunk)
            await writer.drain()
            await asyncio.sleep(0.001)

    with talker(talk) as port, pytest.raises(DeviceError):
        read(port)


MESSAGE = {
    "time": 1_780_000_000,
    "battery_v": 12.61,
    "soc_pct": 73.5,
    "box_c": -4.4,
    "of another": "x",
}


def test_a_message_is_read_like_a_record() -> None:
    told = parse_message(json.dumps(MESSAGE).encode())
    assert told == Told(device_s=1_780_000_000.0, volts=12.61, charge_share=0.735, box_c=-4.4)


@pytest.mark.parametrize(
    ("payload", "words"),
    [
        (b"\xff", "no JSON"),
        (b"[1, 2]", "no JSON object"),
        (b'{"battery_v": "much"}', "battery_v isn't a number"),
        (b'{"battery_v": true}', "battery_v isn't a number"),
        (b'{"a": "' + b"x" * 5000 + b'"}', "bytes"),
        (b'{"battery_v": 1' + b"0" * 400 + b"}", "battery_v isn't a number"),
        (b"[" * 4000, "no JSON"),
        (b'{"battery_v": 1e999}', "cannot be"),
    ],
)
def test_a_message_that_is_none_is_refused(payload: bytes, words: str) -> None:
    with pytest.raises(DeviceError, match=words):
        checked(parse_message(payload))


def test_a_stand_in_publishes_and_is_read_back() -> None:
    if broker_program() is None:
        pytest.skip("no MQTT broker is installed here (Debian's is mosquitto)")
    whole, port = lived(), free_port()
    from_s = whole.from_s + 12.5 * 3600
    station = Station(
        name="ridge", design={}, from_at="2026-03-01T00:00+00:00", dull_month=6, ports={}, speed=1.0
    )
    one = StandIn(station, Clock(from_s, 0.0), Broken(whole, from_s))
    with running(lambda: publishing("ridge", one, port)):
        told = read_mqtt("127.0.0.1", port, "stations/ridge")
        assert told.volts == pytest.approx(one.told().volts, abs=0.006)
        assert told.device_s == pytest.approx(from_s, abs=1.0)
        with pytest.raises(DeviceError, match="Nothing is published on stations/nobody"):
            read_mqtt("127.0.0.1", port, "stations/nobody")


def test_a_broker_that_is_not_there_or_no_broker_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(ours_mqtt, "TIMEOUT_S", 0.3)

    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        writer.write(b"HTTP/1.1 400 Bad\r\n\r\n")
        await writer.drain()
        writer.close()

    with talker(talk) as port, pytest.raises(DeviceError):
        read_mqtt("127.0.0.1", port, "a")
    with pytest.raises(DeviceError, match="does not answer"):
        read_mqtt("127.0.0.1", 1, "a")


def mqtt_talker(topic: bytes, payload: bytes, promised: int | None = None) -> Talk:
    """A broker that takes whoever comes, and sends one message whatever was asked for."""

    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        try:
            await reader.read(200)
            writer.write(b"\x20\x02\x00\x00")
            packet = await reader.read(200)
            writer.write(b"\x90\x03" + packet[2:4] + b"\x00")
            body = len(topic).to_bytes(2, "big") + topic + payload
            length, rest = b"", len(body) if promised is None else promised
            while True:
                rest, digit = divmod(rest, 128)[0], rest % 128
                length += bytes([digit | (128 if rest else 0)])
                if not rest:
                    break
            writer.write(b"\x30" + length + body)
            await writer.drain()
            await reader.read(200)
        except ConnectionError:
            pass
        finally:
            writer.close()

    return talk


def test_a_message_of_268_mb_is_refused_by_its_length(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(ours_mqtt, "TIMEOUT_S", 1.0)
    with (
        talker(mqtt_talker(b"a", b'{"battery_v": 12.0}', promised=268_000_000)) as port,
        pytest.raises(DeviceError, match=r"a message of 26\d{7} bytes"),
    ):
        read_mqtt("127.0.0.1", port, "a")


def test_another_topics_message_is_not_taken(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(ours_mqtt, "TIMEOUT_S", 0.5)
    with talker(mqtt_talker(b"a", b'{"battery_v": 12.0}')) as port:
        assert read_mqtt("127.0.0.1", port, "a").volts == 12.0
        with pytest.raises(DeviceError, match="Nothing is published on b"):
            read_mqtt("127.0.0.1", port, "b")


@pytest.mark.parametrize(
    "host", ["127.0.0.1", "localhost", "192.168.4.20", "10.0.0.7", "::1", "fd00::5"]
)
def test_loopback_and_private_addresses_may_be_asked(host: str) -> None:
    assert address_of(host, 502)


@pytest.mark.parametrize(
    ("host", "words"),
    [
        ("11.22.33.44", "not a private address"),
        ("2a00::1", "not a private address"),
        ("::ffff:11.22.33.44", "not a private address"),
        ("0.0.0.0", "not a private address"),
        ("169.254.169.254", "not a private address"),
        ("224.0.0.1", "not a private address"),
        ("192.0.2.1", "not a private address"),
        ("198.51.100.7", "not a private address"),
        ("203.0.113.9", "not a private address"),
        ("198.18.0.1", "not a private address"),
        ("2001:db8::1", "not a private address"),
        ("2001::1", "not a private address"),
        ("fd00:ec2::254", "not a private address"),
        ("fe80::1", "not a private address"),
        ("no-such-host.invalid", "is not known here"),
        ("a b", "is no host"),
        ("127.0.0.1/x", "is no host"),
    ],
)
def test_other_addresses_may_not(host: str, words: str) -> None:
    with pytest.raises(AddressError, match=words):
        address_of(host, 502)


def test_a_server_may_be_set_up_for_more(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv(addresses.ANYWHERE_VARIABLE, "1")
    assert address_of("11.22.33.44", 502) == "11.22.33.44"


def test_a_web_address_is_taken_apart_or_refused() -> None:
    assert web_address("http://127.0.0.1:8080/alarms?a=1") == ("127.0.0.1", 8080, "/alarms?a=1")
    assert web_address("https://127.0.0.1") == ("127.0.0.1", 443, "/")
    for url in (
        "ftp://127.0.0.1/",
        "http://u:p@127.0.0.1/",
        "http://11.22.33.44/",
        "127.0.0.1:80",
        "http://127.0.0.1:x/",
    ):
        with pytest.raises(AddressError):
            web_address(url)
