"""Findings about strings and their controllers: volts, amps, straps and terminals."""

from collections.abc import Iterator

from ...array import ENOUGH_LEFT, NOTHING_LEFT, StringCheck, group_of, label_of, leader_of
from ...changes import Change, replace
from ...claim import less, more
from ...controllers import controller_type
from ...design import PanelString, with_string
from ...draw import busiest_w
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...store import kind_of
from ...words import celsius
from ..register import mild_rule, rule
from ..remedies import covering, mending, try_change
from ..severity import of_waste

TWICE_THE_BANK = 1.6
SHOCK_V = 60.0
WEAK_SHARE = 0.9
UNLIKE_SHARE = 0.9
"""Under so much of the best one's volts a panel is not like the others."""
FUSE_FROM = 3
"""[P] NEC 690.9: a fuse in every string from this many in parallel."""


def strings_of(
    station: StationModel, report: Report
) -> Iterator[tuple[int, PanelString, StringCheck]]:
    """Every string with its place in the document and its checks."""
    for index, string in enumerate(station.design.array.strings):
        yield index, string, report.charging.strings[index]


def _effect(
    station: StationModel, report: Report, index: int, label: str, **changes: object
) -> Change:
    month = report.verdict.hard_month
    patch = [replace(f"/array/strings/{index}/{key}", value) for key, value in changes.items()]
    return try_change(
        station,
        label,
        with_string(station.design, index, **changes),
        patch,
        covering(station, month),
    )


@rule
def too_high_in_the_cold(station: StationModel, report: Report) -> Iterator[Finding]:
    """A string whose open-circuit volts pass the controller's limit on a cold morning."""
    for index, string, check in strings_of(station, report):
        cold, limit = report.working[check.cold_v].number, report.working[check.limit_v].number
        leader = leader_of(string, station.design.array)
        if cold <= limit or not controller_type(leader.controller).regulates:
            continue
        remedies = []
        if string.series > 1:
            fewer = string.series - 1
            remedies = [_effect(station, report, index, f"Only {fewer} in series", series=fewer)]
        told = more("volts", string.id, cold, limit, "V")
        guess = (
            ""
            if leader.regulator.max_v
            else " We guessed this limit from its type: read the label."
        )
        yield Finding(
            id=f"array.cold.{string.id}",
            severity="stop" if leader.regulator.max_v else "fix",
            step="array",
            sentence=f"{string.name} reaches {told.words[0]} on the coldest morning; its "
            f"controller allows {told.words[1]} at most",
            why="Above its limit a controller dies at sunrise, because cold panels give more volts "
            f"before any current flows. Worked out by {check.cold_rule}.{guess}",
            pointer=f"/array/strings/{index}/series",
            remedies=tuple(remedies),
            claims=(told,),
        )


@rule
def too_low_in_the_heat(station: StationModel, report: Report) -> Iterator[Finding]:
    """A hot string whose current sinks before the charge is finished."""
    for index, string, check in strings_of(station, report):
        left = report.working[check.hot_share].number
        if string.joins or left >= ENOUGH_LEFT or not controller_type(string.controller).regulates:
            continue
        hot, need = report.working[check.hot_v].number, report.working[check.need_v].number
        yield Finding(
            id=f"array.hot.{string.id}",
            severity="mind" if left > NOTHING_LEFT else "stop",
            step="array",
            sentence=f"{string.name} works at {hot:.1f} V on the hottest afternoon; finishing the "
            f"charge takes {need:.1f} V, where {left * 100:.0f} % of its current is left",
            why="The last part of the charge is slow on hot days."
            if left > NOTHING_LEFT
            else "No current flows at that voltage: on hot days the battery never gets full.",
            pointer=f"/array/strings/{index}/series",
        )


@rule
def half_the_watts_stay_outside(station: StationModel, report: Report) -> Iterator[Finding]:
    """Panels of twice the bank's volts on a PWM controller."""
    charge_v = report.working[report.array.charge_v].number
    for index, string, _ in strings_of(station, report):
        v_mp = report.working[f"array.string.{string.id}.working_v"].number
        kind = controller_type(string.controller)
        if not kind.passes_current or string.joins or v_mp < TWICE_THE_BANK * charge_v:
            continue
        lost = 1.0 - charge_v / v_mp
        yield Finding(
            id=f"array.pwm_waste.{string.id}",
            severity=of_waste(station, report),
            step="array",
            sentence=f"{string.name}: a {kind.named} pulls it from {v_mp:.0f} V down to "
            f"{charge_v:.1f} V and wastes {lost * 100:.0f} % of its watts",
            why=(
                f"A {kind.named} passes the panel's current, but the volts above the battery's "
                "are lost."
            ),
            pointer=f"/array/strings/{index}/controller",
            remedies=(
                _effect(
                    station,
                    report,
                    index,
                    f"{string.name}: MPPT controller instead of {kind.label}",
                    controller="mppt",
                ),
            ),
        )


@rule
def beyond_the_controller(station: StationModel, report: Report) -> Iterator[Finding]:
    """More current or watts than the controller passes: allowed, it clips."""
    for index, string, _ in strings_of(station, report):
        limit = string.regulator.max_charge_a
        if limit is None or string.joins or not controller_type(string.controller).regulates:
            continue
        group = group_of(string, station.design.array)
        watts = sum(report.working[f"array.string.{item.id}.watts"].number for item in group)
        i_sc = sum(label_of(item.module).i_sc * item.parallel for item in group)
        asked = (
            watts / station.array.charge_v if controller_type(string.controller).tracks else i_sc
        )
        if asked <= limit.value:
            continue
        told = more("charge", string.id, asked, limit.value, "A")
        kind, who = controller_type(string.controller), " and ".join(item.name for item in group)
        yield Finding(
            id=f"array.clips.{string.id}",
            severity="fix" if kind.passes_current else "mind",
            step="array",
            sentence=f"{who} could give {told.words[0]}; the controller's limit is {told.words[1]}",
            why=f"A {kind.named} carries the panel's full current and must not be overloaded."
            if kind.passes_current
            else (
                "An MPPT controller cuts off the excess. On dull days the bigger array still "
                "helps. Its volts must stay within the controller's limit."
            ),
            pointer=f"/array/strings/{index}/regulator/max_charge_a",
            claims=(told,),
        )


@rule
def panels_to_doubt(station: StationModel, report: Report) -> Iterator[Finding]:
    """Cracked glass kept in the count, mains-volt panels, volts that prove nothing, weak
    current."""
    for index, string, _ in strings_of(station, report):
        module, at = string.module, f"/array/strings/{index}/module"
        if module.own_inverter:
            yield Finding(
                id=f"array.own_inverter.{string.id}",
                severity="stop",
                step="array",
                sentence=f"{string.name} gives mains voltage: it cannot charge a battery",
                why=(
                    "A panel with a built-in inverter only works on a live grid. Without one "
                    "it stays off."
                ),
                pointer=f"{at}/own_inverter",
            )
        if module.condition == "cracked":
            yield Finding(
                id=f"array.cracked.{string.id}",
                severity="fix",
                step="array",
                sentence=f"{string.name} has cracked or crazed glass, so we count no power from it",
                why=(
                    "It can arc: water gets in and the cells corrode. It may still show "
                    "volts in the sun."
                ),
                pointer=f"{at}/condition",
            )
        by_amps = bool(module.measured_i_sc or module.measured_i_mp)
        by_amps = by_amps or any(
            row.i_sc is not None or row.i_mp is not None for row in module.readings
        )
        by_volts = module.measured_v_oc is not None or any(
            row.v_oc is not None for row in module.readings
        )
        if by_volts and not by_amps:
            yield Finding(
                id=f"array.volts_only.{string.id}",
                severity="mind",
                step="array",
                sentence=f"{string.name}: open-circuit volts alone do not prove watts",
                why=(
                    "A worn panel still shows its volts. Measure the short-circuit amps in "
                    "full sun as well."
                ),
                pointer=f"{at}/measured_i_sc",
            )
        readings = [row.v_oc for row in module.readings if row.v_oc is not None]
        if readings and min(readings) < UNLIKE_SHARE * max(readings):
            low, high = less("volts", string.id, min(readings), max(readings), "V").words
            yield Finding(
                id=f"array.unlike_readings.{string.id}",
                severity="fix",
                step="array",
                sentence=f"{string.name}: one panel shows {low} open where another shows {high}",
                why="Like panels in the same sun show the same volts within some per cent. The "
                "low one has lost a "
                "part of its cells, a bypass diode is shorted, or it was shaded: measure it "
                "again by itself.",
                pointer=f"{at}/readings",
            )
        if (
            module.v_mp
            and module.i_sc
            and module.watts.value / module.v_mp.value > module.i_sc.value
        ):
            amps = module.watts.value / module.v_mp.value
            yield Finding(
                id=f"array.label.{string.id}",
                severity="mind",
                step="array",
                sentence=f"{string.name}: the label's figures do not fit together",
                why=f"{module.watts.value:g} W at {module.v_mp.value:g} V is {amps:.1f} A, more "
                f"than its short-circuit current of {module.i_sc.value:g} A. One figure is "
                "misread, so the curve we calculate from them is a guess.",
                pointer=f"{at}/i_sc",
            )
        share = label_of(module, string.series).plan_share
        if by_amps and 0.0 < share < WEAK_SHARE:
            yield Finding(
                id=f"array.weak.{string.id}",
                severity="mind",
                step="array",
                sentence=(
                    f"{string.name} gives {share * 100:.0f} % of its label current, and the plan "
                    "uses that"
                ),
                why=(
                    "A measurement in less than full sun reads low. Repeat it at noon under "
                    "a clear sky."
                ),
                pointer=f"{at}/measured_i_sc",
            )
        if module.bypass_lost:
            yield Finding(
                id=f"array.bypass.{string.id}",
                severity="mind",
                step="array",
                sentence=f"{string.name} has a failed bypass diode",
                why=(
                    "Shade on one cell then stops the whole string and heats that cell. "
                    "Replace the diode, or keep the panel out of shade."
                ),
                pointer=f"{at}/bypass_lost",
            )


@rule
def load_terminals(station: StationModel, report: Report) -> Iterator[Finding]:
    """Loads on a controller's load terminals, beyond the rating or on a programme."""
    for index, string, _ in strings_of(station, report):
        regulator, at = string.regulator, f"/array/strings/{index}/regulator"
        outlets = [rail for rail in station.design.draw.rails if rail.outlet_of == string.id]
        drawn_a = sum(busiest_w(station.design.draw, rail) / rail.volts.value for rail in outlets)
        drawn_a = max(drawn_a, regulator.load_draw_a.value if regulator.load_draw_a else 0.0)
        most = regulator.load_out_a
        if drawn_a and most and drawn_a > most.value:
            yield Finding(
                id=f"array.load_out.{string.id}",
                severity="stop",
                step="array",
                sentence=f"{drawn_a:.3g} A of loads on load terminals rated {most.value:g} A",
                why=(
                    "The terminals burn, or trip when you transmit. Connect the radio to the "
                    "battery bus with its own fuse."
                ),
                pointer=f"{at}/load_draw_a",
            )
        if drawn_a and regulator.load_program in {"dusk_to_dawn", "daylight", "timer"}:
            yield Finding(
                id=f"array.load_program.{string.id}",
                severity="fix",
                step="array",
                sentence=(
                    f"{string.name}'s load terminals run a timer programme: loads on them "
                    "switch off by themselves"
                ),
                why=(
                    "These programs are made for lamps. Set the terminals to always on, or use the "
                    "battery bus."
                ),
                pointer=f"{at}/load_program",
                remedies=(
                    mending(
                        station,
                        "Set the terminals to always on",
                        "the loads stay on",
                        with_string(
                            station.design,
                            index,
                            regulator=regulator.model_copy(update={"load_program": "always"}),
                        ),
                        [replace(f"{at}/load_program", "always")],
                    ),
                ),
            )


@rule
def fuses_and_shock(station: StationModel, report: Report) -> Iterator[Finding]:
    """Strings in parallel without a fuse each, and volts that can kill."""
    for index, string, check in strings_of(station, report):
        group = group_of(string, station.design.array)
        together = sum(item.parallel for item in group)
        if string.joins is None and together >= FUSE_FROM and string.fused != "yes":
            yield Finding(
                id=f"array.string_fuse.{string.id}",
                severity="fix" if string.fused == "no" else "mind",
                step="array",
                sentence=(
                    f"{' and '.join(item.name for item in group)}: {together} strings in parallel "
                    "need a fuse each"
                )
                + ("" if string.fused == "no" else "; you have not said if they have one"),
                why=(
                    "All the others feed current into a panel that shorts. The code requires fuses "
                    "from three strings on."
                ),
                pointer=f"/array/strings/{index}/parallel",
            )
        if report.working[check.cold_v].number > SHOCK_V:
            yield Finding(
                id=f"array.shock.{string.id}",
                severity="mind",
                step="array",
                sentence=(
                    f"{string.name} reaches {report.working[check.cold_v].number:.0f} V: "
                    "above 60 V DC it can kill"
                ),
                why=(
                    "It is live in any light, and a DC arc does not go out by itself. In "
                    "many places only a licensed person may work on it."
                ),
                pointer=f"/array/strings/{index}/series",
            )


@mild_rule
def sensor_missing(station: StationModel, report: Report) -> Iterator[Finding]:
    """Lead away from 25 °C without a temperature sensor."""
    bank, store = station.design.store.bank, report.store
    if bank is None or store is None or not kind_of(bank.chemistry).is_lead:
        return
    months = [report.working[key].number for key in store.months_c]
    if max(abs(value - 25.0) for value in months) < 15.0:
        return
    for index, string, _ in strings_of(station, report):
        if string.regulator.sensor == "no":
            yield Finding(
                id=f"array.sensor.{string.id}",
                severity="mind",
                step="array",
                sentence=f"{string.name}'s controller has no temperature sensor, and the battery "
                f"goes from {celsius(min(months))} to {celsius(max(months))}",
                why=(
                    "Lead needs more charging volts in the cold and fewer in the heat. Without a "
                    "sensor it never gets full in winter."
                ),
                pointer=f"/array/strings/{index}/regulator/sensor",
            )
