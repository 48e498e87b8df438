"""The climate's figures, each with its working."""

from ..calendar import MONTH_NAMES, month_key
from ..design import Brief, Design
from ..working import Input, Key, Origin, Quantity, Workings, assumed, given, table
from .model import GRID_MOST_OFF_K, Climate

AIR_SOURCES = {"record": "record", "grid": "p1510", "brief": "extremes"}
"""Where the air comes from, by its basis."""
ORIGINS: dict[str, Origin] = {"record": "measured", "grid": "table", "brief": "default"}
WORDS = {
    "record": "average of the hours in the file",
    "grid": (
        "from the built-in temperature map, 6.5 K colder for each kilometre above its grid height"
    ),
    "brief": "a guess between your coldest and hottest temperatures, because no place is set",
}


def basis_in_words(climate: Climate, design: Design) -> str:
    """Where the air comes from and how far it may be off, in a sentence or two."""
    if climate.basis == "record" and design.sun.record:
        return f"Air temperatures come from the weather file “{design.sun.record.name}”."
    if climate.basis == "brief":
        return (
            "No place is set. Air temperatures are a guess between the coldest and hottest in "
            "the brief."
        )
    return (
        "Air temperatures are published monthly averages (ITU-R P.1510), corrected to this "
        f"height. In 270 cities, 95 months of 100 were within {GRID_MOST_OFF_K:g} K. "
        "Changes within a day and between days are usual for the climate zone "
        f"({climate.zone})."
    )


def air_by_month(climate: Climate, workings: Workings) -> tuple[tuple[Key, ...], tuple[Key, ...]]:
    """Mean air and its daily swing by month, with how they are known. [°C], [K]"""
    source, origin = AIR_SOURCES[climate.basis], ORIGINS[climate.basis]
    means, swings = [], []
    for month in range(1, 13):
        name = MONTH_NAMES[month - 1]
        error = (
            []
            if climate.error_k is None
            else [table("±", "may be off by", climate.error_k, "K", source)]
        )
        mean = float(climate.mean_c[month - 1])
        item = Input(
            symbol="T",
            label=f"air, {climate.basis}",
            value=mean,
            unit="°C",
            origin=origin,
            source=source,
        )
        key = month_key("weather.air_c", month)
        words = WORDS[climate.basis]
        means.append(
            workings.add(
                key,
                mean,
                "°C",
                label=f"Average air temperature, {name}",
                formula="T",
                words=words,
                inputs=[item, *error],
                source=source,
            ).key
        )
        swing = float(climate.swing_k[month - 1])
        swing_source = source if climate.basis == "record" else "zone-swing"
        swings.append(
            workings.add(
                month_key("weather.swing_k", month),
                swing,
                "K",
                label=f"Difference between coldest and warmest hour, {name}",
                formula="ΔT",
                words="on a normal day; more on a clear day, less on a dull one",
                inputs=[
                    Input(
                        symbol="ΔT",
                        label=f"difference within a day, {climate.zone or 'usual'}",
                        value=swing,
                        unit="K",
                        origin=origin,
                        source=swing_source,
                    )
                ],
                source=swing_source,
            ).key
        )
    return tuple(means), tuple(swings)


def extremes(climate: Climate, brief: Brief, workings: Workings) -> tuple[Quantity, Quantity]:
    """The coldest night and the hottest afternoon of a year: as given, or our guess on the safe
    side. [°C]

    Parameters
    ----------
    brief : Brief
        Its own temperatures hold, where they are typed.
    """
    cold_words = (
        "average of the coldest month, less 9 K and half the yearly range (at most 24 K); "
        "a cautious guess"
    )
    hot_words = (
        "average of the warmest month plus 13 K, and 8 K more where seasons hardly differ; "
        "a cautious guess"
    )
    rows = (
        (
            "cold",
            "Coldest night of a year",
            climate.coldest_c,
            brief.coldest_c,
            "coldest",
            cold_words,
        ),
        (
            "hot",
            "Hottest afternoon of a year",
            climate.hottest_c,
            brief.hottest_c,
            "hottest",
            hot_words,
        ),
    )
    found = []
    for key, label, value, known, word, guessed in rows:
        pointer = f"/brief/{word}_c"
        item = (
            given("T", f"{word} at the site", known, "°C", pointer)
            if known
            else assumed("T", f"{word} at the site, guessed", value, "°C", "extremes", pointer)
        )
        words = (
            "as given"
            if known
            else guessed
            if climate.basis != "brief"
            else "usual, without a place"
        )
        found.append(
            workings.add(
                f"weather.{key}_c",
                value,
                "°C",
                label=label,
                formula="T",
                words=words,
                inputs=[item],
                source="extremes",
            )
        )
    return found[0], found[1]
