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
        label=f"{row.name}: its own loads, per day",
        formula="Σ P · t / η",
        words=(
            "what only this battery feeds in a day of the worst month, converters and their "
            "idle use included"
        ),
        inputs=[],
        source="practice",
    )
    usable = workings[row.usable_wh]
    days = workings.add(
        f"store.layer.{row.id}.own_days",
        usable.number / own_wh,
        "d",
        label=f"{row.name} runs its own loads for",
        formula="t = E / E_day",
        words="usable energy divided by what its loads use in a day",
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
        label=f"{name} runs the station for",
        formula="t = E / P",
        words="usable energy divided by the average draw",
        inputs=[used("E", usable), used("P", mean_w)],
        source="arithmetic",
        note="" if value is not None else "nothing uses power, so it never runs out",
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
        words="label or test figure, less age, cold and the charge that must stay in it",
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
        label=f"{pack.name}: usable at its DC outlet",
        formula="E · (1 − c) · P / (P / η + P_idle)",
        words=(
            "its label energy, less what it keeps back and what its converter and electronics use"
        ),
        inputs=[
            given("E", "label", pack.energy_wh, "W·h", f"{at}/energy_wh"),
            given("c", "keeps back", pack.cutoff_share, "share", f"{at}/cutoff_share"),
            given("η", "DC outlet", pack.efficiency, "share", f"{at}/efficiency"),
            given("P_idle", "its own use", pack.idle_w, "W", f"{at}/idle_w"),
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
        label="All batteries together",
        formula="Σ Eᵢ",
        words="usable charge of the main battery and every battery connected to it",
        inputs=[used(f"E{number}", part) for number, part in enumerate(parts, start=1)],
        source="arithmetic",
    )
    weights = [main_kg, *(workings[item.weight_kg] for item in others if item.weight_kg)]
    layered = workings.add(
        "store.layers.weight_kg",
        sum(weight.number for weight in weights),
        "kg",
        label="Weight of all batteries",
        formula="Σ mᵢ",
        words="the main battery and every other battery whose weight is known",
        inputs=[used(f"m{number}", weight) for number, weight in enumerate(weights, start=1)],
        source="arithmetic",
    )
    one = workings.add(
        "store.layers.one_bank_kg",
        main_kg.number * total.number / main_wh.number,
        "kg",
        label="Weight of one big battery instead",
        formula="m · ΣE / E",
        words="same type and age as the main battery, with the capacity of all of them",
        inputs=[used("m", main_kg), used("ΣE", total), used("E", main_wh)],
        source="arithmetic",
    )
    biggest = max(parts, key=lambda part: part.number)
    left = workings.add(
        "store.layers.left_h",
        (total.number - biggest.number) / mean_w.number,
        "h",
        label="Hours left if the biggest fails",
        formula="(ΣE − E_max) / P",
        words="hours at average draw on the other batteries",
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
        f"Together the batteries are {lighter} one big battery of the main type"
        + (
            f", {kilos(layered.number)}. "
            if same
            else f": {kilos(layered.number)} against {kilos(one.number)}. "
        )
        + (
            f"If the biggest battery fails, you still have {hours_in_words(left.number)}. "
            "With one big battery you would have none."
        ),
    )
