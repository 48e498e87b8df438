"""What would have saved a scene that went dark: changes to the station or to how it is worked, each played."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from ..design import Design
from ..draw import is_operated
from .playing import Played, play, stage_at
from .scene import Happening, Scene
from .station import HOURS, hourly_station

SHED_COMFORT, SHED_USEFUL = 0.6, 0.4
LOW_POWER_W = 25.0
MOST_SHOWN = 6


@dataclass(frozen=True, slots=True)
class Saver:
    """A change, what it does to the dark hours, and the JSON Patch of it where it is one of the design."""

    label: str
    dark_hours: int
    effect: str
    patch: tuple[dict[str, Any], ...]


@dataclass(frozen=True, slots=True)
class _Try:
    label: str
    scene: Scene
    design: Design
    patch: tuple[dict[str, Any], ...] = ()


def _by_hand(design: Design, scene: Scene) -> Iterator[_Try]:
    """What the operator could have done."""
    if scene.shed_comfort < SHED_COMFORT and any(load.tier in {"comfort", "useful"} for load in design.draw.loads):
        more = {"shed_comfort": SHED_COMFORT, "shed_useful": max(scene.shed_useful, SHED_USEFUL)}
        yield _Try("Shed Comfort at 60 % and Useful at 40 %", scene.model_copy(update=more), design)
    if any(load.tier in {"comfort", "useful"} for load in design.draw.loads):
        everything = {"shed_comfort": 1.0, "shed_useful": 1.0}
        yield _Try("Vital loads alone from the start", scene.model_copy(update=everything), design)
    calm = design.draw.tempos[0]
    if set(scene.tempos or [design.draw.sized_on]) != {calm.id}:
        yield _Try(f"{calm.name} all through", scene.model_copy(update={"tempos": [calm.id]}), design)
    settings = [load.power_w or load.rated_w for load in design.draw.loads if is_operated(load)]
    if any(setting is not None and setting.value > LOW_POWER_W for setting in settings):
        low = Happening(kind="low_power", from_h=0, to_h=scene.days * HOURS, amount=LOW_POWER_W)
        changed = scene.model_copy(update={"happenings": [*scene.happenings, low]})
        yield _Try(f"Every set at {LOW_POWER_W:.0f} W", changed, design)
    if any(item.kind == "snow" for item in scene.happenings):
        clear = [item for item in scene.happenings if item.kind != "snow"]
        yield _Try("Panels swept clear", scene.model_copy(update={"happenings": clear}), design)


def _patched(design: Design, section: str, value: Any) -> Design:
    return design.model_copy(update={section: value})


def _by_parts(design: Design, scene: Scene) -> Iterator[_Try]:
    """What more of the same could have done."""
    for index, string in enumerate(design.array.strings[:1]):
        more = string.model_copy(update={"parallel": string.parallel + 1})
        strings = [more, *design.array.strings[1:]]
        array = design.array.model_copy(update={"strings": strings})
        patch = {"op": "replace", "path": f"/array/strings/{index}/parallel", "value": string.parallel + 1}
        yield _Try(f"One more panel like those of {string.name}", scene, _patched(design, "array", array), (patch,))
        if string.controller == "pwm":
            mppt = string.model_copy(update={"controller": "mppt"})
            array = design.array.model_copy(update={"strings": [mppt, *design.array.strings[1:]]})
            patch = {"op": "replace", "path": f"/array/strings/{index}/controller", "value": "mppt"}
            yield _Try(f"An MPPT controller on {string.name}", scene, _patched(design, "array", array), (patch,))
    bank = design.store.bank
    if bank is not None:
        for more_of in (1, 2):
            bigger = bank.model_copy(update={"parallel": bank.parallel + more_of})
            store = design.store.model_copy(update={"bank": bigger})
            patch = {"op": "replace", "path": "/store/bank/parallel", "value": bank.parallel + more_of}
            words = "One battery string more" if more_of == 1 else "Two battery strings more"
            yield _Try(words, scene, _patched(design, "store", store), (patch,))


def _dark_hours(item: _Try, year: int) -> int | None:
    station = hourly_station(item.design, recorded=item.scene.sky == "record")
    if station is None:
        return None
    return int(play(item.design, stage_at(station, item.scene, year), item.scene).dark.sum())


def savers(design: Design, scene: Scene, played: Played) -> tuple[Saver, ...]:
    """What would have helped, in the very same weather, the best first; changes that do not help are left out."""
    before = int(played.dark.sum())
    found = []
    sources: tuple[Callable[[Design, Scene], Iterator[_Try]], ...] = (_by_hand, _by_parts)
    for item in (attempt for source in sources for attempt in source(design, scene)):
        after = _dark_hours(item, played.stage.year)
        if after is None or after >= before:
            continue
        effect = "no dark hour" if after == 0 else f"{after} dark hours instead of {before}"
        found.append(Saver(item.label, after, effect, item.patch))
    found.sort(key=lambda item: item.dark_hours)
    return tuple(found[:MOST_SHOWN])
