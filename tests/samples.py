"""Designs that tests start from: the stations of the demo scenario."""

from typing import Any

from yonderstat.core.climate import climate_of
from yonderstat.core.design import (
    Bank,
    Design,
    KnownAmpHours,
    KnownAmps,
    KnownHours,
    KnownShare,
    KnownWatts,
    Load,
    design_from_document,
)
from yonderstat.core.draw import LoadDraw, StationDraw, station_draw
from yonderstat.demo.beech_hut import BEECH_HUT
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.patrol import PATROL_2
from yonderstat.demo.quay_street import QUAY_STREET


def harrier_ridge() -> Design:
    return design_from_document(HARRIER_AS_BUILT)


def quay_street() -> Design:
    return design_from_document(QUAY_STREET)


def packhorse() -> Design:
    """The crew's trailer."""
    return design_from_document(PACKHORSE)


def patrol() -> Design:
    """The vehicle that is healthy."""
    return design_from_document(PATROL_2)


def beech_hut() -> Design:
    """The hut in the wood."""
    return design_from_document(BEECH_HUT)


def load(key: str = "set", receive_a: float = 1.0, **more: Any) -> Load:
    """A load by plain numbers."""
    known: dict[str, Any] = {
        "transmit_a": KnownAmps,
        "standby_a": KnownAmps,
        "transmit_share": KnownShare,
        "hours_per_day": KnownHours,
        "rated_w": KnownWatts,
        "power_w": KnownWatts,
        "power_cap_w": KnownWatts,
    }
    fields = {
        name: known[name](value=value) if name in known else value for name, value in more.items()
    }
    return Load(id=key, name=key, receive_a=KnownAmps(value=receive_a), **fields)


def with_loads(design: Design, *loads: Load) -> Design:
    return design.model_copy(update={"draw": design.draw.model_copy(update={"loads": list(loads)})})


def with_bank(design: Design, **changes: Any) -> Design:
    bank = (design.store.bank or Bank()).model_copy(update=changes)
    return design.model_copy(update={"store": design.store.model_copy(update={"bank": bank})})


def with_string(design: Design, **changes: Any) -> Design:
    strings = [design.array.strings[0].model_copy(update=changes), *design.array.strings[1:]]
    return design.model_copy(update={"array": design.array.model_copy(update={"strings": strings})})


def ah(value: float) -> KnownAmpHours:
    return KnownAmpHours(value=value)


def station(*loads: Load, bus_v: float = 12.0, **draw: Any) -> StationDraw:
    """A station of these loads at the bus volts."""
    design = with_loads(Design(), *loads)
    design = design.model_copy(update={"draw": design.draw.model_copy(update=draw)})
    return station_draw(design.draw, bus_v, climate_of(design))


def drawn(one: Load, bus_v: float = 12.0, **draw: Any) -> LoadDraw:
    """What one load takes."""
    return station(one, bus_v=bus_v, **draw).loads[0]
