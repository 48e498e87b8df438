"""Devices that publish themselves on an MQTT broker: one topic, a JSON object with the keys of telemetry. Only ever
subscribed to; a retained message answers at once."""

import json
import time
from typing import Any

import paho.mqtt.client as mqtt
from paho.mqtt.enums import CallbackAPIVersion

from .telemetry import told_of
from .told import DeviceError, Told

TIMEOUT_S = 3.0
MOST_BYTES = 4_096
WAIT_S = 0.1


def read_mqtt(address: str, port: int, topic: str) -> Told:
    """The newest message of a topic.

    Raises
    ------
    DeviceError
        If the broker does not answer, nothing is published, or what is cannot be.
    """
    found: list[bytes] = []
    client = mqtt.Client(CallbackAPIVersion.VERSION2)
    client.connect_timeout = TIMEOUT_S
    client.on_connect = lambda one, *_: one.subscribe(topic)
    client.on_message = lambda _one, _data, message: found.append(bytes(message.payload))
    try:
        client.connect(address, port, keepalive=10)
        until = time.monotonic() + 2 * TIMEOUT_S
        while not found and time.monotonic() < until:
            if client.loop(WAIT_S) not in (mqtt.MQTT_ERR_SUCCESS, mqtt.MQTT_ERR_AGAIN):
                raise DeviceError("The broker hangs up")
    except (OSError, ValueError) as error:
        why = (str(error) or type(error).__name__).splitlines()[0][:120]
        raise DeviceError(f"The broker does not answer in time: {why}") from None
    finally:
        client.disconnect()
    if not found:
        raise DeviceError(f"Nothing is published on {topic[:60]}")
    return parse_message(found[-1])


def parse_message(payload: bytes) -> Told:
    """A message's figures.

    Raises
    ------
    DeviceError
        If it is no such object.
    """
    if len(payload) > MOST_BYTES:
        raise DeviceError(f"Its message has {len(payload)} bytes; over {MOST_BYTES} are not read")
    try:
        decoded: Any = json.loads(payload)
    except ValueError:
        raise DeviceError(f"Its message is no JSON: {payload[:40]!r}") from None
    if not isinstance(decoded, dict):
        raise DeviceError("Its message is no JSON object with a key a figure")
    return told_of({str(key): value for key, value in decoded.items()})
