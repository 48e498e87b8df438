"""What is heard and what is claimed: the noise of a device, and other people's figures worked out
here."""

from ...station import StationModel
from ..claims import runs_so_long, tracker_brings
from ..meaning import Meaning
from ..noise import noise_words, noisy_things
from .base import Asked, Kind, Subject, Values, may, needs


def _noise_subjects(station: StationModel) -> tuple[Subject, ...]:
    return tuple(Subject(key, name, ()) for key, name in noisy_things(station.design))


def _noise(_station: StationModel, _subject: str, values: Values) -> Meaning:
    band = needs(values, "band_mhz", 0.1, 3000.0, "the frequency in MHz")
    off = needs(values, "off", -180.0, 80.0, "the level with it off")
    on = needs(values, "on", -180.0, 80.0, "the level with it on")
    spacing = may(values, "spacing_khz", 0.01, 5000.0, "the spacing in kHz")
    words, _ = noise_words(band, off, on, spacing)
    return Meaning(words)


def _tempo_subjects(station: StationModel) -> tuple[Subject, ...]:
    if station.bank is None:
        return ()
    return tuple(Subject(tempo.id, tempo.name, ()) for tempo in station.design.draw.tempos)


def _hours_claim(station: StationModel, subject: str, values: Values) -> Meaning:
    return Meaning(
        runs_so_long(station, subject, needs(values, "hours", 0.1, 9000.0, "the hours claimed"))
    )


def _array_subject(station: StationModel) -> tuple[Subject, ...]:
    return (Subject("array", "The panels", ()),) if station.design.array.strings else ()


def _tracker_claim(station: StationModel, _subject: str, values: Values) -> Meaning:
    return Meaning(
        tracker_brings(station, needs(values, "percent", -100.0, 1000.0, "the percentage claimed"))
    )


KINDS: dict[str, Kind] = {
    "noise": Kind(
        title="Noise of a device",
        caution=(
            "Switch off what you can spare, one device at a time. Leave safety equipment and "
            "other people's stations on."
        ),
        steps=(
            (
                "Run the receiver from a battery alone, everything else off. This is your "
                "reference. Squelch and noise blanker off."
            ),
            (
                "On a quiet frequency, read the level with the device off, then on, in S-units or "
                "dBm. Enter S9+20 as 29."
            ),
            "If you see evenly spaced carriers, note their spacing.",
        ),
        asks=(
            Asked("band_mhz", "Frequency, MHz", "number"),
            Asked("off", "Level with it off, S or dBm", "number"),
            Asked("on", "Level with it on, S or dBm", "number"),
            Asked("spacing_khz", "Spacing of carriers, kHz", "number", True),
        ),
        subjects=_noise_subjects,
        judge=_noise,
    ),
    "claim-hours": Kind(
        title="Check a claim: how long it runs",
        caution="A claim comes from somebody else's station.",
        steps=(
            "Enter how long it is said to run.",
            "We work it out for this station, from a full battery with no sun.",
        ),
        asks=(Asked("hours", "Hours that are claimed", "hours"),),
        subjects=_tempo_subjects,
        judge=_hours_claim,
    ),
    "claim-mppt": Kind(
        title="Check a claim: how much more MPPT brings",
        caution="A claim comes from other panels and another battery.",
        steps=(
            "Enter how much more it is said to bring.",
            "We work it out for your panels, your battery and your sun.",
        ),
        asks=(Asked("percent", "Per cent more, as claimed", "number"),),
        subjects=_array_subject,
        judge=_tracker_claim,
    ),
}
