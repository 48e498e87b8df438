"""Devices that publish themselves on an MQTT broker: one topic, a JSON object with the keys of
telemetry. Only ever subscribed to; a retained message answers at once."""

import json
import time
from typing import Any

import paho.mqtt.client as mqtt
from paho.mqtt.enums import CallbackAPIVersion

from .telemetry import told_of
from .told import DeviceError, Told

TIMEOUT_S = 3.0
MOST_BYTES, MOST_PACKET_BYTES = 4_096, 16_384
WAIT_S = 0.1


class BoundedClient(mqtt.Client):
    """Reads no message larger than is of use: the library reads whatever length it is promised."""

    too_long = 0

    def _sock_recv(self, bufsize: int) -> bytes:
        if bufsize > MOST_PACKET_BYTES:
            self.too_long = bufsize
            raise OSError("the message is too long")
        return super()._sock_recv(bufsize)


def read_mqtt(address: str, port: int, topic: str) -> Told:
    """The newest message of a topic.

    Parameters
    ----------
    address : str
        Of the broker.
    topic : str
        Of the message.

    Raises
    ------
    DeviceError
        If the broker does not answer, nothing is published, or what is cannot be.
    """
    found: list[bytes] = []
    client = BoundedClient(CallbackAPIVersion.VERSION2)
    client.connect_timeout = TIMEOUT_S
    client.on_connect = lambda one, *_: one.subscribe(topic)

    def heard(_client: mqtt.Client, _data: object, message: mqtt.MQTTMessage) -> None:
        # A broker may send what nobody asked for.
        if message.topic == topic:
            found.append(bytes(message.payload))

    client.on_message = heard
    try:
        client.connect(address, port, keepalive=10)
        until = time.monotonic() + 2 * TIMEOUT_S
        while not found and time.monotonic() < until:
            if client.loop(WAIT_S) not in (mqtt.MQTT_ERR_SUCCESS, mqtt.MQTT_ERR_AGAIN):
                if client.too_long:
                    said = f"{client.too_long} bytes; over {MOST_BYTES} are not read"
                    raise DeviceError(f"The broker sends a message of {said}")
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
    except (ValueError, RecursionError):
        raise DeviceError(f"Its message is no JSON: {payload[:40]!r}") from None
    if not isinstance(decoded, dict):
        raise DeviceError("Its message is no JSON object with a key a figure")
    return told_of({str(key): value for key, value in decoded.items()})
