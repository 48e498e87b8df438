"""The choices behind the fields, the reading of places, and judging a document that is not kept."""

from functools import cache
from typing import Any

from yonderstat.core import Report, firsts, usual_load, usual_rails
from yonderstat.core.chemistries import all_chemistries, kind_of
from yonderstat.core.climate import relief_m
from yonderstat.core.controllers import all_controllers
from yonderstat.core.data import Source, rows, sources, toml_table
from yonderstat.core.design import Design, design_from_document
from yonderstat.core.draw import TIER_NAMES
from yonderstat.core.purposes import all_purposes
from yonderstat.core.schools import disagreements
from yonderstat.core.sun import resource_at
from yonderstat.core.words import counted, kelvin
from yonderstat.formats import PlaceTextError, read_place, time_zone_at
from yonderstat.jobs import judge, whole_of

from .api import Api, model_fault
from .bodies import Catalogue, Choice, PlaceView, UsualLoad

api = Api()

ATTENDED = (
    ("nobody", "Nobody", "no one to switch or mend"),
    ("visits", "Visits", "someone comes by"),
    ("present", "Always someone", "somebody is on site to act"),
)
TIERS = (
    ("vital", TIER_NAMES["vital"], "without it the station is off the air"),
    ("useful", TIER_NAMES["useful"], "goes before the vital"),
    ("comfort", TIER_NAMES["comfort"], "switched off first"),
)
ROLES = (
    ("secondary", "Second battery", "takes over when the main battery is empty"),
    ("standby", "Stand-by", "kept full for the outage"),
    ("relay", "Relay battery", "by the radio, for the moments of transmit"),
    ("carry_out", "Go-box", "runs the station while the main battery is away"),
)
JOININGS = (
    ("switch", "Switch 1 / 2 / both", "a hand; both lays them in parallel"),
    ("automatic", "Automatic", "first the main battery, then this one"),
    ("changeover", "Changeover unit", "with the mains"),
    ("converter", "Converter", "charges through it, never in parallel"),
    ("lead", "Levelling lead", "in parallel while it is plugged"),
    ("swap", "Swapped by hand", "the leads are moved from one to the other"),
    ("apart", "Apart", "nothing joins them"),
)
CHARGER_KINDS = (
    ("mains", "Mains charger", "fills it, then floats"),
    ("changeover", "Changeover unit", "supplies the station, charges and floats"),
    ("bench_supply", "Bench supply on the bus", "set to its float volts"),
    (
        "selector",
        "Supply on a selector",
        "a hand turns the station to the battery; charges nothing",
    ),
    ("panel_supply", "Supply on panel terminals", "through a controller"),
    ("maintainer", "Maintainer", "a small one that keeps it full"),
    ("generator", "Generator with a charger", "outdoors, away from windows"),
)
LOAD_PROGRAMS = (
    ("none", "not used", ""),
    ("always", "always on", ""),
    ("dusk_to_dawn", "dusk to dawn", "made for lamps"),
    ("daylight", "by daylight only", "off at night"),
    ("timer", "timer", "made for lamps"),
)
ANSWERS = (("unknown", "not known", ""), ("yes", "yes", ""), ("no", "no", ""))
RESTARTS = (
    ("by_itself", "Comes back by itself", "when the battery is charged again"),
    ("by_hand", "Needs a hand", "without power until somebody comes"),
)
SUN_SOURCES = (
    ("reanalysis", "Built-in sun data", "satellite-age weather model, most land on Earth"),
    ("own", "Own monthly sun-hours", "twelve figures you trust"),
    ("record", "Weather file", "a typical year or a measured record, imported below"),
)
MOUNTS = (
    ("fixed", "Fixed", "fixed"),
    ("flat", "Flat", "lies on a roof"),
    ("reaimed", "Turned by hand", "somebody turns it to the sun a few times a day"),
    ("rotator", "On a rotator", "follows the sun, tilt as set"),
    ("two_axis", "Two axes", "turns and tilts after the sun"),
)
WAVEFORMS = (
    ("unknown", "not known", ""),
    ("sine", "sine", ""),
    ("stepped", "stepped", "some chargers do not like it"),
)
FUSE_LEADS = (
    ("plus", "the plus lead", ""),
    ("minus", "the minus lead", "without a plus fuse, a short to the frame stays unprotected"),
    ("both", "each lead", "two schools"),
)
INGRESS = (
    ("open", "Open", "a shelf, a board"),
    ("ip44", "IP44", "splashes"),
    ("ip54", "IP54", "dust and splashes"),
    ("ip65", "IP65", "sealed against jets: damp stays in"),
    ("ip67", "IP67", "sealed against a bath: damp stays in"),
)


def _listed(rows_: tuple[tuple[str, str, str], ...]) -> list[Choice]:
    return [Choice(*row) for row in rows_]


def _schools() -> list[Choice]:
    """Schools of charging; the hint names the chemistries each is for, with its volts at a 12
    V-class block."""
    hints: dict[str, list[str]] = {}
    for kind in map(kind_of, all_chemistries()):
        for school in kind.schools:
            hints.setdefault(school.school, []).append(
                f"{kind.chemistry} {school.absorb_v_12v:g} V"
            )
    return [Choice(name, name.replace("_", " "), ", ".join(hint)) for name, hint in hints.items()]


def _breaks(row: dict[str, str]) -> str:
    """What a kind of fuse stands and breaks."""
    return (
        ""
        if row["kind"] == "none"
        else f"{row['dc_v']} V, breaks {float(row['interrupt_12_a']) / 1000:g} kA at 12 V"
    )


@cache
def _catalogue() -> Catalogue:
    return Catalogue(
        kinds=[Choice(kind, entry["label"]) for kind, entry in toml_table("site_kinds").items()],
        usual_purpose={kind: entry["purpose"] for kind, entry in toml_table("site_kinds").items()},  # type: ignore[misc]
        purposes=[Choice(kind.purpose, kind.label, kind.question) for kind in all_purposes()],
        preparing=[
            Choice(row["preparing_for"], row["label"], counted(float(row["days"]), "day"))
            for row in rows("asked_days")
        ],
        attended=_listed(ATTENDED),
        tiers=_listed(TIERS),
        load_kinds=[
            UsualLoad(row["kind"], row["label"], usual_load(row["kind"]))
            for row in rows("load_kinds")
        ],
        modes=[
            Choice(
                row["mode"],
                row["label"],
                f"{float(row['current_share']) * 100:.0f} % of key-down",
            )
            for row in rows("modes")
        ],
        usual_rails=usual_rails(),
        chemistries=[Choice(kind, kind_of(kind).label) for kind in all_chemistries()],
        housings=[Choice(row["housing"], row["label"], row["hint"]) for row in rows("housings")],
        roles=_listed(ROLES),
        joinings=_listed(JOININGS),
        restarts=_listed(RESTARTS),
        answers=_listed(ANSWERS),
        allowances=[
            Choice(row["allowance"], row["label"], f"× {row['factor']}")
            for row in rows("allowances")
        ],
        sun_sources=_listed(SUN_SOURCES),
        controllers=[Choice(item.kind, item.label, item.hint) for item in all_controllers()],
        charger_kinds=_listed(CHARGER_KINDS),
        load_programs=_listed(LOAD_PROGRAMS),
        conditions=[
            Choice(row["condition"], row["label"], row["hint"]) for row in rows("conditions")
        ],
        mounts=_listed(MOUNTS),
        fitted=[
            Choice(
                row["fitted"],
                row["label"],
                f"{kelvin(float(row['rise_k']))} over the air in full sun",
            )
            for row in rows("fitted")
        ],
        cells=[
            Choice(row["cells"], f"{row['cells']} cells", row["label"])
            for row in rows("module_classes")
        ],
        schools=_schools(),
        fuse_kinds=[
            Choice(row["kind"], row["label"], _breaks(row)) for row in rows("fuse_families")
        ],
        fuse_leads=_listed(FUSE_LEADS),
        connectors=[
            Choice(row["connector"], row["label"], f"to {row['rating_a']} A")
            for row in rows("connectors")
        ],
        bus_parts=[Choice(row["part"], row["label"], row["hint"]) for row in rows("bus_parts")],
        converters=[
            Choice(row["converter"], row["label"], row["hint"]) for row in rows("converters")
        ],
        waveforms=_listed(WAVEFORMS),
        ingress=_listed(INGRESS),
        wiring_schools=[Choice(row["school"], row["label"]) for row in rows("wiring_schools")],
        disagreements=list(disagreements()),
        firsts=firsts(),
    )


@api.operation("GET", "/api/catalogue", access="read", about="nothing", answer=Catalogue)
def read_catalogue() -> Catalogue:
    """The choices of the document's fields."""
    return _catalogue()


@api.operation("GET", "/api/sources", access="read", about="nothing", answer=dict[str, Source])
def list_sources() -> dict[str, Source]:
    """Everything the figures rest on; what has a licence is data shipped with the app."""
    return sources()


@api.operation(
    "GET", "/api/place", access="read", about="nothing", answer=PlaceView, query=("text",)
)
def find_place(text: str) -> PlaceView:
    """The place a locator or coordinates name."""
    try:
        place = read_place(text)
    except PlaceTextError as error:
        raise model_fault("/text", str(error)) from None
    return PlaceView(
        latitude_deg=place.latitude_deg,
        longitude_deg=place.longitude_deg,
        locator=place.locator,
        elevation_m=relief_m(round(place.latitude_deg, 3), round(place.longitude_deg, 3)),
        has_sun_data=resource_at(place.latitude_deg, place.longitude_deg) is not None,
        time_zone=time_zone_at(place.latitude_deg, place.longitude_deg),
    )


@api.operation(
    "POST",
    "/api/evaluate",
    access="read",
    about="nothing",
    body=dict[str, Any],
    body_schema=Design,
    answer=Report,
)
def evaluate_document(body: dict[str, Any]) -> Report:
    """Judge a design document without keeping it."""
    return whole_of(judge(design_from_document(body)).look)
