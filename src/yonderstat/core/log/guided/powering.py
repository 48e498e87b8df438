"""First power-up, and the same again every year: a load's volts from the post on, as the plan
expects them."""

from ...electrical import blocks_of_12v
from ...station import StationModel
from ..meaning import Meaning
from .base import FUSED, Asked, Expected, Kind, Subject, Values, needs

NEAR_REST_V, NEAR_LOADED_V = 0.15, 0.25
"""For every block of 12 V: what meters and a bank not quite rested may be off by. [C]"""
NEAR_LOST = 1.6
"""Lost on the way so many times the plan: a bad joint."""


def _subjects(station: StationModel) -> tuple[Subject, ...]:
    return tuple(
        Subject(
            item.item.load.id,
            item.item.load.name,
            (
                Expected("At the battery, full and rested", station.bus.full_v, "V"),
                Expected("At the load, on and receiving", item.receive_v[0], "V"),
                Expected("At the load, transmitting at full power", item.keyed_v[0], "V"),
            ),
        )
        for item in station.bus.loads
    )


def _told(name: str, read_v: float, planned_v: float, near_v: float) -> str | None:
    """A reading that is not as planned, in words."""
    if abs(read_v - planned_v) <= near_v:
        return None
    return f"{name} {read_v:.2f} V, planned {planned_v:.2f} V"


def _judge(station: StationModel, subject: str, values: Values) -> Meaning:
    found = station.bus.of_load(subject)
    if found is None:
        return Meaning("This load is no longer in the design.")
    rest_v = needs(values, "rest_v", 1.0, 1000.0, "the volts at the posts, full and rested")
    on_v = needs(values, "on_v", 0.0, 1000.0, "the volts at the load while it is on")
    keyed_v = needs(values, "keyed_v", 0.0, 1000.0, "the volts at the load while it transmits")
    blocks = blocks_of_12v(station.bus_v)
    wrong = _told("at the posts", rest_v, station.bus.full_v, NEAR_REST_V * blocks)
    if wrong is not None:
        why = (
            "It isn't full or hasn't rested, or a cell is weak. Charge it, let it rest three "
            "hours and read again."
        )
        return Meaning(f"{wrong[0].upper()}{wrong[1:]}. {why}", "/store/bank/health")
    # What is lost counts from the bank as it was read, so that a bank a little over or under full
    # accuses no wire.
    lost, planned = rest_v - keyed_v, station.bus.full_v - found.keyed_v[0]
    off = [
        words
        for words in (
            _told(
                "on", on_v, found.receive_v[0] + rest_v - station.bus.full_v, NEAR_LOADED_V * blocks
            ),
            _told(
                "keyed",
                keyed_v,
                found.keyed_v[0] + rest_v - station.bus.full_v,
                NEAR_LOADED_V * blocks,
            ),
        )
        if words
    ]
    if not off:
        return Meaning("As planned, from the battery to the load.")
    told = f"{'; '.join(off)[0].upper()}{'; '.join(off)[1:]}."
    if lost > NEAR_LOST * planned:
        return Meaning(
            (
                f"{told} The voltage drop is larger than planned. Feel for a warm joint or fuse "
                "holder, and look for thin wire."
            ),
            "/bus/runs",
        )
    return Meaning(
        (
            f"{told} The voltage drop is smaller than planned. The wire is thicker, or the "
            "load draws less."
        ),
        "/draw/loads",
    )


KINDS: dict[str, Kind] = {
    "power-up": Kind(
        title="First power-up, and the yearly check",
        caution=(
            f"{FUSED} Connect and disconnect in the order of the cards in Wiring. Transmit "
            "into a dummy load."
        ),
        steps=(
            (
                "Battery full and rested for three hours, all loads off: read the volts at its "
                "terminals."
            ),
            ("Switch all loads on, radios receiving. Read the volts at this load's own terminals."),
            "Transmit at full power and read there again within a few seconds.",
            "Repeat it every year around the same date. What changes is ageing.",
        ),
        asks=(
            Asked("rest_v", "At the battery, full and rested", "volts"),
            Asked("on_v", "At the load, on and receiving", "volts"),
            Asked("keyed_v", "At the load, transmitting at full power", "volts"),
        ),
        subjects=_subjects,
        judge=_judge,
    ),
}
