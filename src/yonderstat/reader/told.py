"""What a device told, whatever its protocol; and what cannot be true."""

import math
from dataclasses import dataclass, fields


class DeviceError(Exception):
    """A device that does not answer, or answers what cannot be; in words a person can act on."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """One answer. What is not known is None; `net_a` is what flows into the bank."""

    device_s: float | None = None
    """By its own clock, seconds since 1970."""
    volts: float | None = None
    charge_a: float | None = None
    load_a: float | None = None
    net_a: float | None = None
    charge_share: float | None = None
    box_c: float | None = None


LIMITS = {
    "device_s": (0.0, 4.2e9),
    "volts": (0.0, 1000.0),
    "charge_a": (-2000.0, 2000.0),
    "load_a": (-2000.0, 2000.0),
    "net_a": (-2000.0, 2000.0),
    "charge_share": (0.0, 1.05),
    "box_c": (-90.0, 130.0),
}
"""What a device may say at all. [C]"""


def checked(told: Told) -> Told:
    """The same, if all of it can be true.

    Raises
    ------
    DeviceError
        If anything cannot, or nothing was told.
    """
    values = {field.name: getattr(told, field.name) for field in fields(told)}
    for name, value in values.items():
        low, high = LIMITS[name]
        if value is not None and not (math.isfinite(value) and low <= value <= high):
            raise DeviceError(f"It says {name.replace('_', ' ')} {value:.6g}, which cannot be")
    if all(value is None for name, value in values.items() if name != "device_s"):
        raise DeviceError("It answers, but with no value we know")
    return told


def merged(parts: list[Told]) -> Told:
    """What several devices of a site told of one moment: the first that knows a figure has it.

    What one of them does not measure follows from the others: charge, load and what flows into the
    bank are one sum.
    """
    values = {
        field.name: next(
            (value for part in parts if (value := getattr(part, field.name)) is not None), None
        )
        for field in fields(Told)
    }
    charge_a, load_a, net_a = values["charge_a"], values["load_a"], values["net_a"]
    if charge_a is None and load_a is not None and net_a is not None:
        values["charge_a"] = net_a + load_a
    if load_a is None and charge_a is not None and net_a is not None:
        values["load_a"] = charge_a - net_a
    if charge_a is None and load_a is None and net_a is not None:
        values["charge_a"], values["load_a"] = max(net_a, 0.0), max(-net_a, 0.0)
    return Told(**values)
