"""Design documents drawn from the published JSON Schema itself, whatever it comes to hold.

Every field, bound and choice is read from the schema, so a field that is added tomorrow is drawn
tomorrow. What a schema cannot say (an id that must exist, a pair that must rise) is mended after
drawing; what is refused all the same is drawn again.
"""

import os
from collections.abc import Callable
from random import Random
from typing import Any

from hypothesis import assume
from hypothesis import strategies as st

from yonderstat.core.design import Design, InvalidDesignError, design_from_document

Json = dict[str, Any]

SCHEMA = Design.model_json_schema()
MOST_ITEMS = 3
SAID = (0.1, 0.4, 0.8)
"""How much of an object is said: the rest takes its defaults."""
EDGES, USUAL, WHOLE = 0.15, 0.7, 0.7
SKIES = tuple(range(60)) if os.environ.get("YONDERSTAT_FUZZ") else (35, 10, 38, 6, 19)
"""Seeds of places and sun. Usually five: packaged sun behind hills, own figures without a cell
near, a record, the Arctic, and the pole; years of weather are what a new sky costs."""
SLUGS = ("bus", "a", "main", "alternator", "net", "b-2")
NAMES = ("A", "x", "Set № 7", "ن", "a very long name that goes on and on until forty")
DAYS = ("2001-01-01", "2023-02-28", "0001-01-01", "9999-12-31", "9998-06-15")
ZONES = (None, "Pacific/Auckland", "America/Anchorage", "UTC")
SPOTS = (
    (-43.1, 171.6),
    (67.3, 14.4),
    (0.0, -78.5),
    (51.5, -0.1),
    (-51.8, -59.0),
    (90.0, 0.0),
    (52.0, 180.0),
)
"""Few, so that their weather is worked out once; one has no sun data, one is the pole, one the date
line."""


def _number(schema: Json, chance: Random, whole: bool) -> float | int:
    low = schema.get("minimum", schema.get("exclusiveMinimum", -1e6))
    high = schema.get("maximum", schema.get("exclusiveMaximum", 1e6))
    if whole:
        return chance.choice((low, high, min(low + 1, high), chance.randint(low, high)))
    open_low, open_high = "exclusiveMinimum" in schema, "exclusiveMaximum" in schema
    edges = [value for value, shut in ((low, not open_low), (high, not open_high)) if shut]
    edges += [value for value in (5e-324, 1e-9, 0.1, 1.0, 12.0, 50.0) if low < value < high]
    if chance.random() < EDGES:
        return float(chance.choice(edges))
    # Most figures people type are small beside the largest a field allows.
    least, most = (max(low, 0.0), min(high, 300.0)) if chance.random() < USUAL else (low, high)
    value = least + (most - least) * chance.random() ** 2
    return value if value > low or not open_low else min(1.0, high)


def _array(schema: Json, chance: Random) -> list[Any]:
    least, most = schema.get("minItems", 0), schema.get("maxItems", MOST_ITEMS)
    count = chance.choice((0, 1, 1, 2, MOST_ITEMS))
    return [_any(schema["items"], chance) for _ in range(max(least, min(most, count)))]


def _object(schema: Json, chance: Random) -> Json:
    required = set(schema.get("required", ()))
    said = chance.choice(SAID)
    return {
        name: _any(part, chance)
        for name, part in schema["properties"].items()
        if name in required or chance.random() < said
    }


def _string(schema: Json, chance: Random) -> str:
    if "pattern" in schema:
        return chance.choice(SLUGS)
    return chance.choice(NAMES)[: schema.get("maxLength", 99)]


def _any(schema: Json, chance: Random) -> Any:
    """What a piece of the schema allows."""
    if "$ref" in schema:
        return _any(SCHEMA["$defs"][schema["$ref"].rsplit("/", 1)[1]], chance)
    if "const" in schema:
        return schema["const"]
    if "enum" in schema:
        return chance.choice(schema["enum"])
    if "anyOf" in schema:
        return _any(chance.choice(schema["anyOf"]), chance)
    kind = schema["type"]
    if kind in {"number", "integer"}:
        return _number(schema, chance, kind == "integer")
    if kind == "boolean":
        return chance.random() < 0.5
    makers = {"array": _array, "object": _object, "string": _string}
    return makers[kind](schema, chance) if kind in makers else None


def _once(rows: list[Json], *others: list[Json]) -> None:
    """Give each row an id of its own."""
    seen: set[str] = set()
    for row in [*rows, *(row for part in others for row in part)]:
        while row["id"] in seen or row["id"] == "main":
            row["id"] = f"{row['id']}-{len(seen)}"
        seen.add(row["id"])


def _rising(points: list[Json], key: str, high_to_low: str = "") -> list[Json]:
    kept = [point for _, point in sorted({point[key]: point for point in points}.items())]
    if high_to_low:
        falling = sorted((point[high_to_low] for point in kept), reverse=True)
        kept = [point | {high_to_low: value} for point, value in zip(kept, falling, strict=True)]
    return kept


def _mend_draw(draw: Json) -> None:
    loads, rails, tempos = draw.get("loads", []), draw.get("rails", []), draw.get("tempos")
    for rows in (loads, rails, tempos or []):
        _once(rows)
    names = ["bus", *(rail["id"] for rail in rails)]
    for number, load in enumerate(loads):
        if load.get("rail", "bus") not in names or number % 2:
            load["rail"] = names[number % len(names)]
        for key in [key for key in ("pattern", "events", "thermostat") if load.get(key)][1:]:
            load[key] = None
        if load.get("least_v") and load.get("most_v"):
            low, high = sorted((load["least_v"]["value"], load["most_v"]["value"]))
            load["least_v"]["value"], load["most_v"]["value"] = low, high
    if tempos is not None:
        draw["sized_on"] = tempos[0]["id"]
    else:
        draw.pop("sized_on", None)


def _mend_bank(bank: Json | None) -> None:
    if not bank:
        return
    if bank.get("cycle_life"):
        bank["cycle_life"] = _rising(bank["cycle_life"], "depth", "cycles")
    if (
        bank.get("disconnect_v")
        and bank.get("reconnect_v")
        and bank["reconnect_v"]["value"] <= bank["disconnect_v"]["value"]
    ):
        bank["reconnect_v"] = None


def _mend_store(store: Json, sources: list[str]) -> None:
    layers, packs = store.get("layers", []), store.get("packs", [])
    _once(layers, packs)
    for bank in (store.get("bank"), *(layer.get("bank") for layer in layers)):
        _mend_bank(bank)
    banks = ["main", *(row["id"] for row in (*layers, *packs))]
    sources = [*sources, *banks]
    paths = []
    for number, path in enumerate(store.get("paths", [])):
        path |= {
            "bank": banks[number % len(banks)],
            "source": sources[(3 * number + len(banks)) % len(sources)],
        }
        if path["bank"] != path["source"]:
            paths.append(path)
    store["paths"] = paths


def _mend_array(array: Json) -> list[str]:
    strings = array.get("strings", [])
    for key in ("strings", "chargers", "shelf_modules", "shelf_controllers"):
        _once(array.get(key, []))
    for string in strings:
        if string.get("joins") is not None:
            string["joins"] = None if string is strings[0] else strings[0]["id"]
    return [row["id"] for row in (*strings, *array.get("chargers", []))] + ["alternator"]


def _mend_sun(sun: Json, day: str) -> None:
    if sun.get("horizon"):
        sun["horizon"] = _rising(sun["horizon"], "azimuth_deg")
    if sun.get("record"):
        sun["record"]["first_day"] = day
    if sun.get("source") == "own" and not sun.get("own_hours"):
        sun["own_hours"] = [3.0] * 12
    if sun.get("source") == "record" and not sun.get("record"):
        sun["source"] = "reanalysis"


def _stand(document: Json, chance: Random) -> None:
    """Give the document one of a few skies, drawn from the schema too: weather is worked out once a
    sky."""
    sky = Random(chance.choice(SKIES))
    document["sun"] = _any(SCHEMA["$defs"]["Sun"], sky)
    _mend_sun(document["sun"], sky.choice(DAYS))
    if document.get("place"):
        spot = sky.choice(SPOTS)
        document["place"] |= {
            "latitude_deg": spot[0],
            "longitude_deg": spot[1],
            "time_zone": sky.choice(ZONES),
        }
        document["place"]["elevation_m"] = sky.choice(
            (None, {"value": sky.choice((-450.0, 0.0, 9000.0))})
        )


def drawn_design(seed: int) -> Design | None:
    """A valid design from a seed, anything the schema allows; None where mending was not enough."""
    chance = Random(seed)
    document = {"format": "yonderstat-design", "version": 3, **_object(SCHEMA, chance)}
    for section in ("draw", "store", "array", "brief"):
        if section not in document and chance.random() < WHOLE:
            document[section] = _any(SCHEMA["properties"][section], chance)
    if chance.random() < WHOLE:
        document["place"] = _any(SCHEMA["$defs"]["Place"], chance)
        document.setdefault("store", {})["bank"] = _any(SCHEMA["$defs"]["Bank"], chance)
        document.setdefault("draw", {}).setdefault("loads", [_any(SCHEMA["$defs"]["Load"], chance)])
        document.setdefault("array", {}).setdefault(
            "strings", [_any(SCHEMA["$defs"]["PanelString"], chance)]
        )
    _stand(document, chance)
    _mend_draw(document.setdefault("draw", {}))
    sources = _mend_array(document.setdefault("array", {}))
    _mend_store(document.setdefault("store", {}), sources)
    for row in (document.setdefault("brief", {}), *document["draw"].get("loads", [])):
        if row.get("months"):
            row["months"] = sorted(set(row["months"]))
    try:
        return design_from_document(document)
    except InvalidDesignError:
        return None


@st.composite
def designs(draw: Callable[[Any], Any]) -> Design:
    """A valid design. The seed is what is drawn: whole documents are far past what hypothesis draws
    field by field."""
    design = drawn_design(draw(st.integers(0, 2**63)))
    assume(design is not None)
    assert design is not None
    return design
