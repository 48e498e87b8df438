"""Which strings fit: panels at hand on controllers at hand, ranked by what they bring in the hard
month."""

from dataclasses import dataclass

from ..design import Array, Design, PanelString, ShelfController, ShelfModule
from ..sun import mounting_of
from .checks import FULL_SUN_RISE_K, NOTHING_LEFT, cold_open_v, hot_working_v
from .electric import best_amps, cell_rise_k, electric_of, left_when_hot, rated_input_v
from .harvest import charge_volts
from .labels import label_of
from .model import SkyOver, coldest_bright_of
from .year import one_month_ah

MOST_SERIES = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """A way to wire what is at hand. `trouble` says what is wrong with it; empty means it works."""

    name: str
    controller: str
    watts: float
    cold_v: float
    hot_v: float
    best_a: float
    hard_ah: float
    limit_used: float
    """Share of the controller's current limit that full sun asks for; 0 where it has none."""
    price: float | None
    shows: str
    trouble: str
    strings: tuple[PanelString, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Bench:
    """Where the strings would stand, and what they charge."""

    sky: SkyOver
    plane: PanelString
    """Its mounting and surroundings are taken for every string."""
    charge_v: float
    absorb_v: float
    cold_c: float
    hottest_c: float
    month: int

    @property
    def blocks(self) -> int:
        """Blocks of 12 V of the bank."""
        return max(1, round(self.charge_v / charge_volts(1)))


def _string(
    item: ShelfModule,
    series: int,
    parallel: int,
    controller: ShelfController,
    bench: Bench,
    joins: str | None,
) -> PanelString:
    plane = bench.plane
    return plane.model_copy(
        update={
            "id": f"shelf-{item.id}"[:48],
            "name": item.name,
            "module": item.module,
            "series": series,
            "parallel": parallel,
            "controller": controller.kind,
            "regulator": controller.regulator,
            "joins": joins,
        }
    )


def _month_ah(string: PanelString, array: Array, bench: Bench) -> tuple[float, float]:
    """Amp-hours a day in the hard month, and amps at the best."""
    electric = electric_of(string, array, bench.charge_v)
    sky, index = bench.sky, bench.month - 1
    air = (bench.month, sky.air_c[index], sky.swing_k[index])
    rise = cell_rise_k(string)
    ah = one_month_ah(sky.here, sky.conditions, mounting_of(string), air, rise, electric)
    return ah or 0.0, best_amps(electric, coldest_bright_of(string, sky), rise)


def _trouble(strings: tuple[PanelString, ...], bench: Bench, hard_ah: float) -> str:
    lead = strings[0]
    limit_v = rated_input_v(lead, bench.blocks)
    array = Array(strings=list(strings))
    for string in strings:
        label = label_of(string.module, string.series)
        if label.plan_share == 0.0:
            return f"{string.name}: don't plan with it, its glass is cracked or crazed"
        if string.module.own_inverter:
            return f"{string.name}: gives mains voltage, so it can't charge a battery"
        cold = cold_open_v(label, string.series, None, bench.cold_c).deciding
        if cold > limit_v:
            return (
                f"can destroy the controller: {cold:.0f} V on the coldest morning, and it is "
                f"rated for {limit_v:.0f} V"
            )
        cell_c = bench.hottest_c + max(cell_rise_k(string), FULL_SUN_RISE_K)
        if left_when_hot(electric_of(string, array, bench.absorb_v), cell_c) <= NOTHING_LEFT:
            hot = hot_working_v(label, string.series, bench.hottest_c, cell_c - bench.hottest_c)
            return (
                f"never fills the battery on a hot day: the panels give {hot:.1f} V, and a full "
                f"charge needs {bench.absorb_v:.1f} V"
            )
    if hard_ah <= 0:
        return "brings no charge into this battery"
    return ""


def _fit(
    name: str, strings: tuple[PanelString, ...], controller: ShelfController, bench: Bench
) -> Fit:
    array = Array(strings=list(strings))
    parts = [_month_ah(string, array, bench) for string in strings]
    hard_ah, best_a = sum(part[0] for part in parts), sum(part[1] for part in parts)
    first = label_of(strings[0].module)
    limit = controller.regulator.max_charge_a
    return Fit(
        name=name,
        controller=controller.name,
        watts=sum(item.module.watts.value * item.series * item.parallel for item in strings),
        cold_v=max(
            cold_open_v(label_of(item.module), item.series, None, bench.cold_c).deciding
            for item in strings
        ),
        hot_v=hot_working_v(first, strings[0].series, bench.hottest_c, cell_rise_k(strings[0])),
        best_a=best_a,
        hard_ah=hard_ah,
        limit_used=best_a / limit.value if limit else 0.0,
        price=controller.regulator.price.value if controller.regulator.price else None,
        shows=controller.regulator.shows,
        trouble=_trouble(strings, bench, hard_ah),
        strings=strings,
    )


def _words(item: ShelfModule, series: int, parallel: int) -> str:
    chain = f"{series} in series" if series > 1 else ""
    beside = f"{parallel} in parallel" if parallel > 1 else ""
    return f"{item.name}: {', '.join(part for part in (chain, beside) if part) or 'one'}"


def _together(usable: list[ShelfModule], controller: ShelfController, bench: Bench) -> Fit | None:
    """All sound panels in parallel, unlike ones sharing the controller."""
    if len(usable) < 2:
        return None
    lead = _string(usable[0], 1, usable[0].count, controller, bench, None)
    rest = [_string(item, 1, item.count, controller, bench, lead.id) for item in usable[1:]]
    return _fit("All good panels in parallel", (lead, *rest), controller, bench)


def strings_that_fit(design: Design, bench: Bench) -> tuple[Fit, ...]:
    """Every way to wire the shelf: what works first, the most amp-hours first, what does not after
    it."""
    shelf, found = design.array.shelf_modules, []
    sound = [
        item
        for item in shelf
        if item.module.condition != "cracked" and not item.module.own_inverter
    ]
    for controller in design.array.shelf_controllers:
        for item in shelf:
            for series in range(1, min(item.count, MOST_SERIES) + 1):
                parallel = item.count // series
                strings = (_string(item, series, parallel, controller, bench, None),)
                found.append(_fit(_words(item, series, parallel), strings, controller, bench))
        all_of_them = _together(sound, controller, bench)
        if all_of_them:
            found.append(all_of_them)
    return tuple(
        sorted(found, key=lambda fit: (fit.trouble != "", -round(fit.hard_ah, 3), fit.price or 0.0))
    )
