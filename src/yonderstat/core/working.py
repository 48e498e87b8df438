"""Numbers that can be asked why: a Quantity carries the formula, the inputs and the source it came
from.

A `Workings` collects the quantities of one evaluation by key. The inputs of a quantity either refer
to another quantity (`ref`) or state a plain figure and its origin, so that a reader can walk from
the verdict down to what was typed, read off a label, assumed, or looked up.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from .design import AnyKnown

Origin = Literal["measured", "label", "stated", "default", "table", "computed"]
Key = str


@dataclass(slots=True, unsafe_hash=True, kw_only=True)
class Input:
    """One figure that went into a quantity. Nobody changes one; it is not frozen because hundreds
    are made for every evaluation and freezing triples what making one costs.

    `ref` names the quantity it is, if it was computed; `pointer` the field of the design it is, if
    it was given.
    """

    symbol: str
    label: str
    value: float | None
    unit: str
    origin: Origin
    ref: Key = ""
    pointer: str = ""
    source: str = ""


@dataclass(slots=True, unsafe_hash=True, kw_only=True)
class Quantity:
    """A reported number. `value` is None where there is none to give; `note` then says why.

    Nobody changes one; like an `Input` it is not frozen because so many are made.
    """

    key: Key
    value: float | None
    unit: str
    label: str
    formula: str
    words: str
    inputs: tuple[Input, ...]
    source: str = ""
    note: str = ""

    @property
    def number(self) -> float:
        """The value where the caller knows there is one."""
        if self.value is None:
            raise ValueError(f"{self.key} has no value: {self.note}")
        return self.value


def given(symbol: str, label: str, figure: AnyKnown, unit: str, pointer: str) -> Input:
    """A figure of the design that carries its own basis.

    Parameters
    ----------
    symbol : str
        In the formula.
    label : str
        What it is, in words.
    pointer : str
        To its field in the design.
    """
    return Input(
        symbol=symbol,
        label=label,
        value=figure.value,
        unit=unit,
        origin=figure.basis,
        pointer=pointer,
    )


def stated(symbol: str, label: str, value: float, unit: str, pointer: str) -> Input:
    """A plain field of the design: a choice, not a guess.

    Parameters
    ----------
    symbol : str
        In the formula.
    label : str
        What it is, in words.
    pointer : str
        To its field in the design.
    """
    return Input(
        symbol=symbol, label=label, value=value, unit=unit, origin="stated", pointer=pointer
    )


def assumed(
    symbol: str, label: str, value: float, unit: str, source: str, pointer: str = ""
) -> Input:
    """Our own default; `pointer` names the field of the design that would replace it.

    Parameters
    ----------
    symbol : str
        In the formula.
    label : str
        What it is, in words.
    source : str
        Where our default comes from.
    pointer : str
        To the field of the design that would replace it.
    """
    return Input(
        symbol=symbol,
        label=label,
        value=value,
        unit=unit,
        origin="default",
        pointer=pointer,
        source=source,
    )


def table(symbol: str, label: str, value: float, unit: str, source: str) -> Input:
    """A figure looked up in a table with provenance.

    Parameters
    ----------
    symbol : str
        In the formula.
    label : str
        What it is, in words.
    source : str
        Whose table.
    """
    return Input(symbol=symbol, label=label, value=value, unit=unit, origin="table", source=source)


def used(symbol: str, quantity: Quantity) -> Input:
    """Another quantity, as an input."""
    return Input(
        symbol=symbol,
        label=quantity.label,
        value=quantity.value,
        unit=quantity.unit,
        origin="computed",
        ref=quantity.key,
    )


class Workings:
    """The quantities of one evaluation, by key, in the order they were worked out."""

    def __init__(self, before: Mapping[Key, Quantity] | None = None) -> None:
        """Of a change the quantities before it are there to be read; what it moves is worked out
        over them."""
        self._by_key: dict[Key, Quantity] = {}
        self._before = before or {}

    def add(
        self,
        key: Key,
        value: float | None,
        unit: str,
        label: str,
        formula: str,
        words: str,
        inputs: Iterable[Input] = (),
        source: str = "",
        note: str = "",
    ) -> Quantity:
        """Record a quantity. A key can be used once: two numbers under one name would be a
        programming error.

        Parameters
        ----------
        key : Key
            The name it can be asked by.
        value : float or None
            In `unit`; None where it is not known.
        label : str
            What it is, in words.
        formula : str
            With symbols.
        words : str
            The formula said in words.
        inputs : iterable of Input
            What the formula takes.
        """
        if key in self._by_key:
            raise ValueError(f"quantity {key} is worked out twice")
        quantity = Quantity(
            key=key,
            value=value,
            unit=unit,
            label=label,
            formula=formula,
            words=words,
            inputs=tuple(inputs),
            source=source,
            note=note,
        )
        self._by_key[key] = quantity
        return quantity

    def take(self, quantities: Iterable[Quantity]) -> None:
        """Take over quantities worked out before."""
        for quantity in quantities:
            if quantity.key in self._by_key:
                raise ValueError(f"quantity {quantity.key} is worked out twice")
            self._by_key[quantity.key] = quantity

    def all(self) -> tuple[Quantity, ...]:
        """All quantities, in the order they were worked out."""
        return tuple(self._by_key.values())

    def __getitem__(self, key: Key) -> Quantity:
        found = self._by_key.get(key)
        return self._before[key] if found is None else found

    def get(self, key: Key | None) -> Quantity | None:
        """A quantity by key; None where there is none."""
        return (self._by_key.get(key) or self._before.get(key)) if key else None

    def as_dict(self) -> dict[Key, Quantity]:
        """All quantities by key."""
        return {**self._before, **self._by_key}


def resting_on_defaults(workings: dict[Key, Quantity], keys: Iterable[Key]) -> list[Input]:
    """The default figures that the named quantities rest on, each once, found by walking their
    inputs."""
    seen: set[Key] = set()
    found: dict[tuple[str, str], Input] = {}
    queue = list(keys)
    while queue:
        key = queue.pop()
        if key in seen or key not in workings:
            continue
        seen.add(key)
        for item in workings[key].inputs:
            if item.ref:
                queue.append(item.ref)
            elif item.origin == "default":
                found.setdefault((item.pointer or item.source, item.label), item)
    return list(found.values())
