"""A design with something changed: what remedies, single failures, mitigations and maps try."""

from typing import Any

from .document import Design


def with_array(design: Design, **changes: Any) -> Design:
    """The design with some fields of its array changed."""
    return design.model_copy(update={"array": design.array.model_copy(update=changes)})


def with_draw(design: Design, **changes: Any) -> Design:
    """The design with fields of its draw changed."""
    return design.model_copy(update={"draw": design.draw.model_copy(update=changes)})


def with_sun(design: Design, **changes: Any) -> Design:
    """The design with fields of its sun changed."""
    return design.model_copy(update={"sun": design.sun.model_copy(update=changes)})


def with_store(design: Design, **changes: Any) -> Design:
    """The design with some fields of its store changed."""
    return design.model_copy(update={"store": design.store.model_copy(update=changes)})


def with_bank(design: Design, **changes: Any) -> Design:
    """The design with some fields of its bank changed.

    Raises
    ------
    ValueError
        If it has none.
    """
    if design.store.bank is None:
        raise ValueError("the design has no battery to change")
    return with_store(design, bank=design.store.bank.model_copy(update=changes))


def with_load(design: Design, index: int, **changes: Any) -> Design:
    """The design with some fields of one load changed."""
    loads = list(design.draw.loads)
    loads[index] = loads[index].model_copy(update=changes)
    return design.model_copy(update={"draw": design.draw.model_copy(update={"loads": loads})})


def with_string(design: Design, index: int, **changes: Any) -> Design:
    """The design with some fields of one string changed."""
    strings = list(design.array.strings)
    strings[index] = strings[index].model_copy(update=changes)
    return with_array(design, strings=strings)


def with_bus(design: Design, **changes: Any) -> Design:
    """The design with some fields of its bus changed."""
    return design.model_copy(update={"bus": design.bus.model_copy(update=changes)})


def with_rail(design: Design, index: int, **changes: Any) -> Design:
    """The design with some fields of one rail changed."""
    rails = list(design.draw.rails)
    rails[index] = rails[index].model_copy(update=changes)
    return with_draw(design, rails=rails)


def with_layer(design: Design, index: int, **changes: Any) -> Design:
    """The design with some fields of one layer changed."""
    layers = list(design.store.layers)
    layers[index] = layers[index].model_copy(update=changes)
    return with_store(design, layers=layers)
