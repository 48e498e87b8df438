"""The noise survey: what a device adds on a band, in decibels, and what a comb of carriers is
likely to come from."""

from ..design import Design

S9_HF_DBM, S9_VHF_DBM, DB_A_UNIT, HF_TOP_MHZ = -73.0, -93.0, 6.0, 30.0
"""IARU Region 1 Technical Recommendation R.1 (Brighton 1981, Torremolinos 1990): S9 is -73 dBm
below 30 MHz and -93 dBm above; an S-unit is 6 dB. [P]"""
LEAST_DB, MUCH_DB = 3.0, 10.0
"""Less than half an S-unit is within what a meter and the band itself move; ten decibels bury weak
stations. [C]"""
COMBS: tuple[tuple[float, float, str], ...] = (
    (0.09, 0.13, "hum at twice the mains frequency: a rectifier or a lamp"),
    (0.4, 3.0, "a PWM controller or a dimmer"),
    (15.0, 40.0, "an inverter or an older supply"),
    (40.0, 400.0, "a switching converter: an MPPT controller, a DC-DC charger or a USB adapter"),
)
"""Spacing of a comb of carriers, in kHz, and what usually switches so fast. [C]"""


def dbm_of(level: float, band_mhz: float) -> float:
    """A level in dBm: a negative figure is dBm already, 0 to 9 are S-units, more is S9 and so many
    decibels over.

    Parameters
    ----------
    level : float
        As it is read: -97, 5, or 29 for S9+20.
    band_mhz : float
        Which S9 counts. [MHz]
    """
    s9 = S9_HF_DBM if band_mhz < HF_TOP_MHZ else S9_VHF_DBM
    if level < 0:
        return level
    return s9 + (level - 9.0) * (DB_A_UNIT if level <= 9.0 else 1.0)


def likely_source(spacing_khz: float) -> str:
    """What a comb's spacing, its switching frequency, usually comes from; empty where it fits
    nothing."""
    return next((what for low, high, what in COMBS if low <= spacing_khz <= high), "")


def noise_words(
    band_mhz: float, off: float, on: float, spacing_khz: float | None
) -> tuple[str, float]:
    """What a pair of readings says, and the decibels it adds.

    Parameters
    ----------
    band_mhz : float
        The band it was heard on. [MHz]
    off : float
        Level with the source off, in the meter's own steps or decibels.
    on : float
        The same with it on.
    spacing_khz : float or None
        How far apart the lines of a comb are. [kHz]
    """
    added = dbm_of(on, band_mhz) - dbm_of(off, band_mhz)
    source = likely_source(spacing_khz) if spacing_khz else ""
    comb = (
        f" Carriers every {spacing_khz:g} kHz: {source or 'not a source we know'}."
        if spacing_khz
        else ""
    )
    if added < LEAST_DB:
        return (
            f"{added:+.0f} dB on {band_mhz:g} MHz. That proves nothing: the band itself "
            f"varies as much.{comb}"
        ), added
    advice = (
        "Try a ferrite on its leads, more distance from the antenna, or a metal box. Then "
        "measure again."
    )
    much = "It covers weak stations. " if added >= MUCH_DB else ""
    return f"It adds {added:+.0f} dB of noise on {band_mhz:g} MHz. {much}{advice}{comb}", added


def noisy_things(design: Design) -> tuple[tuple[str, str], ...]:
    """What switches in a station, by id and name: controllers, chargers, converters, and loads that
    are no radio."""
    radios = {"hf_set", "vhf_mobile", "handheld", "repeater", "amplifier"}
    return (
        *((f"string-{item.id}", f"Controller of {item.name}") for item in design.array.strings),
        *((f"charger-{item.id}", item.name) for item in design.array.chargers),
        *((f"rail-{item.id}", item.name) for item in design.draw.rails),
        *((f"load-{item.id}", item.name) for item in design.draw.loads if item.kind not in radios),
    )
