"""What would have saved a scene that went dark: changes to the station or to how it is worked, each
played."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ..changes import Change, Gain, Operation, changed_for, replace
from ..controllers import controller_type
from ..design import Design, with_bank, with_string
from ..draw import is_operated
from ..station import StationModel
from .playing import Played, play, stage_at
from .scene import Happening, Scene
from .station import HOURS, hourly_station

SHED_COMFORT, SHED_USEFUL = 0.6, 0.4
LOW_POWER_W = 25.0
MOST_SHOWN = 6


@dataclass(frozen=True, slots=True)
class Mitigation(Change):
    """A change that would have helped: of the design by its patch, or of how it was worked by its
    scene."""

    scene: Scene | None = None
    """Where nothing is built or bought: the scene worked that way."""


@dataclass(frozen=True, slots=True)
class _Try:
    label: str
    scene: Scene
    design: Design
    patch: tuple[Operation, ...] = ()


def _by_hand(design: Design, scene: Scene) -> Iterator[_Try]:
    """What the operator could have done."""
    if scene.shed_comfort < SHED_COMFORT and any(
        load.tier in {"comfort", "useful"} for load in design.draw.loads
    ):
        more = {"shed_comfort": SHED_COMFORT, "shed_useful": max(scene.shed_useful, SHED_USEFUL)}
        yield _Try(
            "Switch off nice-to-have loads at 60 % and useful ones at 40 %",
            scene.model_copy(update=more),
            design,
        )
    if any(load.tier in {"comfort", "useful"} for load in design.draw.loads):
        everything = {"shed_comfort": 1.0, "shed_useful": 1.0}
        yield _Try("Only vital loads from the start", scene.model_copy(update=everything), design)
    calm = design.draw.tempos[0]
    if set(scene.tempos or [design.draw.sized_on]) != {calm.id}:
        yield _Try(
            f"{calm.name} all the time", scene.model_copy(update={"tempos": [calm.id]}), design
        )
    settings = [load.power_w or load.rated_w for load in design.draw.loads if is_operated(load)]
    if any(setting is not None and setting.value > LOW_POWER_W for setting in settings):
        low = Happening(kind="low_power", from_h=0, to_h=scene.days * HOURS, amount=LOW_POWER_W)
        changed = scene.model_copy(update={"happenings": [*scene.happenings, low]})
        yield _Try(f"Every radio at {LOW_POWER_W:.0f} W", changed, design)
    if any(item.kind == "snow" for item in scene.happenings):
        clear = [item for item in scene.happenings if item.kind != "snow"]
        yield _Try(
            "Snow cleared from the panels", scene.model_copy(update={"happenings": clear}), design
        )


def _by_parts(design: Design, scene: Scene) -> Iterator[_Try]:
    """What more of the same could have done."""
    if design.array.strings:
        string, at = design.array.strings[0], "/array/strings/0"
        more, count = string.parallel + 1, string.series
        words = (
            f"{string.name}: {'one more panel' if count == 1 else f'{count} more panels'} "
            "of the same kind"
        )
        yield _Try(
            words, scene, with_string(design, 0, parallel=more), (replace(f"{at}/parallel", more),)
        )
        if controller_type(string.controller).passes_current:
            words = f"{string.name}: MPPT instead of PWM"
            mppt = with_string(design, 0, controller="mppt")
            yield _Try(words, scene, mppt, (replace(f"{at}/controller", "mppt"),))
    bank = design.store.bank
    for added, words in (
        (1, "Add one more battery in parallel"),
        (2, "Two more batteries in parallel"),
    ):
        if bank is not None:
            more = bank.parallel + added
            patch = (replace("/store/bank/parallel", more),)
            yield _Try(words, scene, with_bank(design, parallel=more), patch)


def _dark_hours(item: _Try, model: StationModel, year: int) -> int | None:
    station = hourly_station(model.changed(item.design), recorded=item.scene.sky == "record")
    if station is None:
        return None
    return int(play(item.design, stage_at(station, item.scene, year), item.scene).dark.sum())


def mitigations(design: Design, scene: Scene, played: Played) -> tuple[Mitigation, ...]:
    """What would have helped, in the very same weather, the best first; changes that do not help
    are left out.

    Parameters
    ----------
    scene : Scene
        What was played.
    played : Played
        How it went as it stands.
    """
    before = int(played.dark.sum())
    found = []
    sources: tuple[Callable[[Design, Scene], Iterator[_Try]], ...] = (_by_hand, _by_parts)
    for item in (attempt for source in sources for attempt in source(design, scene)):
        after = _dark_hours(item, played.stage.station.model, played.stage.year)
        if after is None or after >= before:
            continue
        change = changed_for(item.label, item.patch, Gain("dark_hours", before, after))
        worked = None if item.patch else item.scene
        found.append(
            (after, Mitigation(change.label, change.effect, change.patch, change.gain, worked))
        )
    found.sort(key=lambda pair: pair[0])
    return tuple(change for _, change in found[:MOST_SHOWN])
