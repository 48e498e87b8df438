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
        runs_so_long(
            station, subject, needs(values, "hours", 0.1, 9000.0, "the hours that are claimed")
        )
    )


def _array_subject(station: StationModel) -> tuple[Subject, ...]:
    return (Subject("array", "The panels", ()),) if station.design.array.strings else ()


def _tracker_claim(station: StationModel, _subject: str, values: Values) -> Meaning:
    return Meaning(
        tracker_brings(
            station, needs(values, "percent", -100.0, 1000.0, "the per cent that are claimed")
        )
    )


KINDS: dict[str, Kind] = {
    "noise": Kind(
        title="Noise of a device",
        caution=(
            "Switch off what can be spared, one thing at a time; leave safety and other "
            "people's stations on."
        ),
        steps=(
            (
                "Run the receiver from a bare battery, all else off: that is the baseline. "
                "No squelch, no noise blanker."
            ),
            (
                "Read the level on a quiet frequency with the device off, then on: in "
                "S-units (29 is S9+20) or dBm."
            ),
            "Where carriers stand in a row, note their spacing.",
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
        title="A claim: it runs so long",
        caution="A claim is somebody's experience with another station.",
        steps=(
            "Write down how long, as it was said.",
            "It is worked out for this station, from full, with no sun.",
        ),
        asks=(Asked("hours", "Hours that are claimed", "hours"),),
        subjects=_tempo_subjects,
        judge=_hours_claim,
    ),
    "claim-mppt": Kind(
        title="A claim: an MPPT brings more",
        caution="A claim is somebody's experience with other panels and another bank.",
        steps=(
            "Write down how much more, as it was said.",
            "It is worked out for these panels, this bank and this sun.",
        ),
        asks=(Asked("percent", "Per cent more, as claimed", "number"),),
        subjects=_array_subject,
        judge=_tracker_claim,
    ),
}
