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
                Expected("At the posts, full and rested", station.bus.full_v, "V"),
                Expected("At the load, on and receiving", item.receive_v[0], "V"),
                Expected("At the load, keyed at full power", item.keyed_v[0], "V"),
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
        return Meaning("The load it was is gone from this design.")
    rest_v = needs(values, "rest_v", 1.0, 1000.0, "the volts at the posts, full and rested")
    on_v = needs(values, "on_v", 0.0, 1000.0, "the volts at the load while it is on")
    keyed_v = needs(values, "keyed_v", 0.0, 1000.0, "the volts at the load while it is keyed")
    blocks = blocks_of_12v(station.bus_v)
    wrong = _told("at the posts", rest_v, station.bus.full_v, NEAR_REST_V * blocks)
    if wrong is not None:
        why = (
            "Not full or not rested yet, or a cell is weak: charge it, let it rest three "
            "hours, and read again."
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
        return Meaning("As planned, from the posts to the load.")
    told = f"{'; '.join(off)[0].upper()}{'; '.join(off)[1:]}."
    if lost > NEAR_LOST * planned:
        return Meaning(
            f"{told} More is lost on its way: feel for a warm joint, a fuse holder, thin wire.",
            "/bus/runs",
        )
    return Meaning(
        f"{told} Less is lost than planned: the wire is better, or it draws less.", "/draw/loads"
    )


KINDS: dict[str, Kind] = {
    "power-up": Kind(
        title="First power-up, and the yearly check",
        caution=f"{FUSED} Join and part in the order of Bus’s cards; transmit into a dummy load.",
        steps=(
            "Bank full and rested three hours, all loads off: read the volts at the posts.",
            "All loads on and receiving: read the volts at this one’s own terminals.",
            "Key it at full power and read there again, within a few seconds.",
            "Every year again, on the same day: what moves is what ages.",
        ),
        asks=(
            Asked("rest_v", "At the posts, full and rested", "volts"),
            Asked("on_v", "At the load, on and receiving", "volts"),
            Asked("keyed_v", "At the load, keyed at full power", "volts"),
        ),
        subjects=_subjects,
        judge=_judge,
    ),
}
