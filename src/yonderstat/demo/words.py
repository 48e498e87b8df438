"""Short ways to say a load or a figure of a demo design."""

from typing import Any

Json = dict[str, Any]
EVENING = [1.0 if 18 <= hour < 23 else 0.0 for hour in range(24)]
NEW_ZEALAND = "Pacific/Auckland"


def known(value: float, basis: str = "label") -> Json:
    """A figure and how it is known."""
    return {"value": value, "basis": basis}


def load(key: str, name: str, receive_a: float, hours: float, tier: str, **more: Any) -> Json:
    """A load whose current was measured and whose hours were stated.

    Parameters
    ----------
    receive_a : float
        While it receives. [A]
    hours : float
        A day. [h]
    tier : str
        How much it is worth.
    """
    return {
        "id": key,
        "name": name,
        "receive_a": known(receive_a, "measured"),
        "hours_per_day": known(hours, "stated"),
        "tier": tier,
        **more,
    }


def run(key: str, length_m: float, mm2: float, fuse: str, amps: float, **more: Any) -> Json:
    """A run of wire that somebody has measured and looked at.

    Parameters
    ----------
    length_m : float
        One way. [m]
    mm2 : float
        Area of one conductor. [mm²]
    fuse : str
        The kind of fuse.
    amps : float
        Its rating. [A]
    """
    return {
        "id": key,
        "length_m": known(length_m, "measured"),
        "mm2": known(mm2),
        "fuse": {"kind": fuse, "rating_a": known(amps)},
        **more,
    }


def part(key: str, have: float, price: float | None, where: str) -> Json:
    """What is known of a line of the parts list; prices are made up.

    Parameters
    ----------
    key : str
        The line of the parts list.
    have : float
        Whether it is there already.
    where : str
        Where it is bought.
    """
    row: Json = {"id": key, "have": have, "where": where}
    return (
        row
        if price is None
        else {**row, "price": known(price, "stated"), "bought": "a shop, 2026-11"}
    )
