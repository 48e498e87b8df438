"""The climate's figures, each with its working."""

from ..calendar import MONTH_NAMES, month_key
from ..design import Brief, Design
from ..working import Input, Key, Origin, Quantity, Workings, assumed, given, table
from .model import GRID_MOST_OFF_K, Climate

AIR_SOURCES = {"record": "record", "grid": "p1510", "brief": "extremes"}
"""Where the air comes from, by its basis."""
ORIGINS: dict[str, Origin] = {"record": "measured", "grid": "table", "brief": "default"}
WORDS = {
    "record": "mean of the file's hours",
    "grid": (
        "the packaged grid between its points, 6.5 K colder for every kilometre higher than "
        "its cells"
    ),
    "brief": "a year between the coldest and the hottest: without a place nobody knows more",
}


def basis_in_words(climate: Climate, design: Design) -> str:
    """Where the air comes from and how far it may be off, in a sentence or two."""
    if climate.basis == "record" and design.sun.record:
        return f"The air is the weather file's, “{design.sun.record.name}”."
    if climate.basis == "brief":
        return (
            "Without a place the air is a guess between the coldest and the hottest of the brief."
        )
    return (
        "The air is the published monthly mean of the place (ITU-R P.1510), brought to this "
        "height: within "
        f"{GRID_MOST_OFF_K:g} K in 95 of 100 months of 270 cities. Swing and spread of the "
        "days are usual for the "
        f"climate zone ({climate.zone})."
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
                label=f"Mean air, {name}",
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
                label=f"From the coldest to the warmest hour, {name}",
                formula="ΔT",
                words="of a usual day; a clear one swings more, a dull one less",
                inputs=[
                    Input(
                        symbol="ΔT",
                        label=f"daily swing, {climate.zone or 'usual'}",
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
        "the coldest month's mean less 9 K and half the yearly range, at most 24 K: on the "
        "cold side"
    )
    hot_words = (
        "the warmest month's mean and 13 K, 8 K more where the year hardly changes: on the hot side"
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
