"""The layers beside the main bank: what each holds, and how long it carries the station."""

from dataclasses import dataclass, replace

from ..design import Brief, Layer, PowerPack
from ..words import hours_in_words, kilos
from ..working import Key, Quantity, Workings, given, stated, table, used
from .capacity import temperature_factor
from .care import bank_weight
from .health import health_input
from .kind import depth_of
from .model import layer_usable_wh, pack_usable_wh


@dataclass(frozen=True, slots=True, kw_only=True)
class LayerFigures:
    """A layer or a power pack: energy that can be used, hours at the mean draw, weight (a pack's
    where given)."""

    id: str
    name: str
    usable_wh: Key
    hours: Key
    weight_kg: Key | None
    own_wh: Key | None = None
    """Where loads hang on it alone: what they take of it in a day."""
    own_days: Key | None = None
    """And how long it carries them."""


def with_own_loads(row: LayerFigures, own_wh: float, workings: Workings) -> LayerFigures:
    """A layer or pack with what hangs on it alone, where anything does.

    Parameters
    ----------
    row : LayerFigures
        The layer or pack worked out.
    own_wh : float
        What hangs on it alone, a day. [W·h]
    """
    if own_wh <= 0:
        return row
    drawn = workings.add(
        f"store.layer.{row.id}.own_wh",
        own_wh,
        "W·h",
        label=f"{row.name}: loads of its own, a day",
        formula="Σ P · t / η",
        words=(
            "what hangs on it alone in a day of the hard month, converters and their idle "
            "draw counted"
        ),
        inputs=[],
        source="practice",
    )
    usable = workings[row.usable_wh]
    days = workings.add(
        f"store.layer.{row.id}.own_days",
        usable.number / own_wh,
        "d",
        label=f"{row.name} carries its own loads",
        formula="t = E / E_day",
        words="usable energy over what hangs on it takes in a day",
        inputs=[used("E", usable), used("E_day", drawn)],
        source="arithmetic",
    )
    return replace(row, own_wh=drawn.key, own_days=days.key)


def _carries(
    name: str, key: str, usable: Quantity, mean_w: Quantity, workings: Workings
) -> Quantity:
    value = usable.number / mean_w.number if mean_w.number > 0 else None
    return workings.add(
        f"store.layer.{key}.hours",
        value,
        "h",
        label=f"{name} carries the station",
        formula="t = E / P",
        words="usable energy over the mean draw",
        inputs=[used("E", usable), used("P", mean_w)],
        source="arithmetic",
        note="" if value is not None else "nothing draws current, so there is no end to it",
    )


def layer_figures(
    layer: Layer,
    index: int,
    brief: Brief,
    temperature: Quantity,
    mean_w: Quantity,
    workings: Workings,
) -> LayerFigures:
    """What a layer holds at the main bank's temperature, and for how long it carries the
    station.

    Parameters
    ----------
    index : int
        Its place in the design, from 0.
    temperature : Quantity
        Of the main bank on a cold day.
    mean_w : Quantity
        What the station draws on the mean.
    """
    bank, at = layer.bank, f"/store/layers/{index}/bank"
    factor = temperature_factor(bank.chemistry, temperature.number)
    depth = depth_of(bank, brief)
    unit_ah = bank.tested_ah or bank.unit_ah
    usable = workings.add(
        f"store.layer.{layer.id}.usable_wh",
        layer_usable_wh(layer, brief, temperature.number),
        "W·h",
        label=f"{layer.name}: usable",
        formula="E = C₁ · p · V₁ · s · h · f · d",
        words="label or test, less age, cold and the part that should stay in",
        inputs=[
            given(
                "C₁",
                "one unit",
                unit_ah,
                "A·h",
                f"{at}/{'tested_ah' if bank.tested_ah else 'unit_ah'}",
            ),
            stated("p", "in parallel", bank.parallel, "", f"{at}/parallel"),
            stated("V₁", "volts of one unit", bank.unit_v, "V", f"{at}/unit_v"),
            stated("s", "in series", bank.series, "", f"{at}/series"),
            stated("h", "health, in the test already", 1.0, "share", f"{at}/tested_ah")
            if bank.tested_ah
            else health_input(bank, workings, f"store.layer.{layer.id}.health", at),
            used("T", temperature),
            table("f", "temperature factor", factor, "share", "class-battery"),
            stated("d", "depth", depth, "share", f"{at}/depth"),
        ],
        source="arithmetic",
    )
    _, weight = bank_weight(bank, workings, f"store.layer.{layer.id}", at)
    hours = _carries(layer.name, layer.id, usable, mean_w, workings)
    return LayerFigures(
        id=layer.id, name=layer.name, usable_wh=usable.key, hours=hours.key, weight_kg=weight.key
    )


def pack_figures(pack: PowerPack, index: int, mean_w: Quantity, workings: Workings) -> LayerFigures:
    """What a power pack gives at its DC outlet, its self-consumption counted.

    Parameters
    ----------
    index : int
        Its place in the design, from 0.
    mean_w : Quantity
        What the station draws on the mean.
    """
    at = f"/store/packs/{index}"
    usable = workings.add(
        f"store.layer.{pack.id}.usable_wh",
        pack_usable_wh(pack, mean_w.number),
        "W·h",
        label=f"{pack.name}: out of its DC outlet",
        formula="E · (1 − c) · P / (P / η + P_idle)",
        words=(
            "its label less what it keeps back, and less what conversion and its own "
            "electronics take meanwhile"
        ),
        inputs=[
            given("E", "label", pack.energy_wh, "W·h", f"{at}/energy_wh"),
            given("c", "keeps back", pack.cutoff_share, "share", f"{at}/cutoff_share"),
            given("η", "DC outlet", pack.efficiency, "share", f"{at}/efficiency"),
            given("P_idle", "takes for itself", pack.idle_w, "W", f"{at}/idle_w"),
            used("P", mean_w),
        ],
        source="arithmetic",
    )
    hours = _carries(pack.name, pack.id, usable, mean_w, workings)
    weight = (
        workings.add(
            f"store.layer.{pack.id}.weight_kg",
            pack.unit_kg.value,
            "kg",
            label=f"{pack.name}: weight",
            formula="m",
            words="as given",
            inputs=[given("m", "weight", pack.unit_kg, "kg", f"{at}/unit_kg")],
            source="arithmetic",
        )
        if pack.unit_kg
        else None
    )
    return LayerFigures(
        id=pack.id,
        name=pack.name,
        usable_wh=usable.key,
        hours=hours.key,
        weight_kg=weight.key if weight else None,
    )


@dataclass(frozen=True, slots=True)
class LayersSummary:
    """All layers beside one big bank of the main one's kind that holds as much."""

    together_wh: Key
    layers_kg: Key
    one_bank_kg: Key
    left_h: Key
    """Hours carried when the biggest of them is lost."""
    sentence: str


def layers_summary(
    main_wh: Quantity,
    main_kg: Quantity,
    others: list[LayerFigures],
    mean_w: Quantity,
    workings: Workings,
) -> LayersSummary | None:
    """One big bank or layers: weight, and what a single loss leaves; None without layers or
    anything to use.

    Parameters
    ----------
    main_wh : Quantity
        What may be used of the main bank.
    main_kg : Quantity
        What the main bank weighs.
    others : list of LayerFigures
        The layers, worked out.
    mean_w : Quantity
        What the station draws on the mean.
    """
    if not others or main_wh.number <= 0 or mean_w.number <= 0:
        return None
    parts = [main_wh, *(workings[item.usable_wh] for item in others)]
    total = workings.add(
        "store.layers.together_wh",
        sum(part.number for part in parts),
        "W·h",
        label="All layers together",
        formula="Σ Eᵢ",
        words="what may be used of the main bank and every layer that is joined to it",
        inputs=[used(f"E{number}", part) for number, part in enumerate(parts, start=1)],
        source="arithmetic",
    )
    weights = [main_kg, *(workings[item.weight_kg] for item in others if item.weight_kg)]
    layered = workings.add(
        "store.layers.weight_kg",
        sum(weight.number for weight in weights),
        "kg",
        label="Layers weigh",
        formula="Σ mᵢ",
        words="the main bank and every layer whose weight is known",
        inputs=[used(f"m{number}", weight) for number, weight in enumerate(weights, start=1)],
        source="arithmetic",
    )
    one = workings.add(
        "store.layers.one_bank_kg",
        main_kg.number * total.number / main_wh.number,
        "kg",
        label="One big bank would weigh",
        formula="m · ΣE / E",
        words="the main bank's kind and age, as much bigger as all layers hold more than it",
        inputs=[used("m", main_kg), used("ΣE", total), used("E", main_wh)],
        source="arithmetic",
    )
    biggest = max(parts, key=lambda part: part.number)
    left = workings.add(
        "store.layers.left_h",
        (total.number - biggest.number) / mean_w.number,
        "h",
        label="Left when the biggest is lost",
        formula="(ΣE − E_max) / P",
        words="hours at the mean draw on what the other layers hold",
        inputs=[used("ΣE", total), used("E_max", biggest), used("P", mean_w)],
        source="arithmetic",
    )
    same = round(layered.number) == round(one.number)
    lighter = (
        "as heavy as" if same else "lighter than" if layered.number < one.number else "heavier than"
    )
    return LayersSummary(
        total.key,
        layered.key,
        one.key,
        left.key,
        f"Layers are {lighter} one big bank of the main one's kind"
        + (
            f", {kilos(layered.number)}. "
            if same
            else f": {kilos(layered.number)} against {kilos(one.number)}. "
        )
        + f"Lose the biggest layer: {hours_in_words(left.number)} left; lose the one bank: none.",
    )
