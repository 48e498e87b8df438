"""Findings about what controllers are set for, rated for and share."""

from collections.abc import Iterator

from ...array import group_of, leader_of, most_charge_v
from ...changes import replace
from ...claim import more
from ...controllers import controller_type
from ...design import with_string
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...store import kind_of
from ..register import mild_rule, rule
from ..remedies import mending
from .strings import strings_of

UNLIKE_DEG = 15.0


@rule
def set_for_another_battery(station: StationModel, report: Report) -> Iterator[Finding]:
    """A strap, jumper or menu left on the wrong kind; controllers that disagree; volts sensed by
    themselves."""
    bank = station.design.store.bank
    kinds = {
        string.regulator.set_for
        for string in station.design.array.strings
        if string.regulator.set_for
    }
    for index, string, _ in strings_of(station, report):
        regulator, at = string.regulator, f"/array/strings/{index}/regulator"
        if (
            bank
            and regulator.set_for
            and regulator.set_for != bank.chemistry
            and controller_type(string.controller).regulates
        ):
            same = kind_of(regulator.set_for).family == kind_of(bank.chemistry).family
            patch = (replace(f"{at}/set_for", bank.chemistry),)
            told = kind_of(bank.chemistry).label
            yield Finding(
                id=f"array.set_for.{string.id}",
                severity="fix" if same else "stop",
                step="array",
                sentence=(
                    f"{string.name}'s controller is set for "
                    f"{kind_of(regulator.set_for).label}, but the battery is {told}"
                ),
                why="Its float, absorption and equalising voltages are then wrong: "
                + (
                    "the battery is undercharged or boils."
                    if kind_of(bank.chemistry).is_lead
                    else "the battery is held full, or its cells are damaged."
                ),
                pointer=f"{at}/set_for",
                remedies=(
                    mending(
                        station,
                        f"Set the controller for {told}",
                        "the right charging voltages",
                        with_string(
                            station.design,
                            index,
                            regulator=regulator.model_copy(update={"set_for": bank.chemistry}),
                        ),
                        patch,
                    ),
                ),
            )
        if regulator.auto_volts:
            yield Finding(
                id=f"array.auto_volts.{string.id}",
                severity="mind",
                step="array",
                sentence=f"{string.name}'s controller detects 12 or 24 V by itself",
                why=(
                    "A very full or very flat battery can fool it. It then charges a 12 V "
                    "battery at 28 V, or never charges a 24 V one. Set it by hand."
                ),
                pointer=f"{at}/auto_volts",
            )
        if regulator.over_volts_guard == "no":
            yield Finding(
                id=f"array.no_guard.{string.id}",
                severity="fix",
                step="array",
                sentence=(
                    f"If {string.name}'s controller fails, nothing warns you or cuts off "
                    "the voltage"
                ),
                why=(
                    "A controller that fails can put 15 V and more on the radios. Add an "
                    "over-voltage alarm or cut-off."
                ),
                pointer=f"{at}/over_volts_guard",
            )
    if len(kinds) > 1:
        yield Finding(
            id="array.unlike_settings",
            severity="fix",
            step="array",
            sentence="The controllers on this battery are set for different kinds of battery",
            why=(
                "Near full, the controller with the higher voltage does all the work, and the "
                "other stops early."
            ),
            pointer="/array/strings",
        )


@rule
def cannot_be_set(station: StationModel, report: Report) -> Iterator[Finding]:
    """A controller that cannot be set for this battery at all, or was fixed for another at
    purchase."""
    bank = station.design.store.bank
    for index, string, _ in strings_of(station, report):
        able = string.regulator.can_do
        if (
            bank is None
            or not able
            or bank.chemistry in able
            or not controller_type(string.controller).regulates
            or string.joins
        ):
            continue
        like = any(
            kind_of(chemistry).family == kind_of(bank.chemistry).family for chemistry in able
        )
        yield Finding(
            id=f"array.cannot_set.{string.id}",
            severity="fix" if like else "stop",
            step="array",
            sentence=(
                f"{string.name}'s controller cannot be set for {kind_of(bank.chemistry).label}"
            ),
            why="A battery it is not made for is undercharged, overcharged, or cut off by its own "
            "electronics. It can be set for "
            f"{' and '.join(kind_of(chemistry).label for chemistry in able)}.",
            pointer=f"/array/strings/{index}/regulator/can_do",
        )


@rule
def more_watts_than_rated(station: StationModel, report: Report) -> Iterator[Finding]:
    """More panel watts than a controller is rated for at this bank's volts."""
    for index, string, _ in strings_of(station, report):
        limit, kind = string.regulator.max_array_w, controller_type(string.controller)
        if limit is None or string.joins or not kind.regulates:
            continue
        watts = sum(
            item.module.watts.value * item.series * item.parallel
            for item in group_of(string, station.design.array)
        )
        if watts > limit.value:
            told = more("watts", string.id, watts, limit.value, "W")
            yield Finding(
                id=f"array.watts.{string.id}",
                severity="fix" if kind.passes_current else "mind",
                step="array",
                sentence=(
                    f"{told.words[0]} of panels on a controller rated for {told.words[1]} at this "
                    "battery's voltage"
                ),
                why=f"A {kind.named} passes the panels' whole current, and may not be overloaded."
                if kind.passes_current
                else (
                    "An MPPT controller cuts off the excess, but its maker may set a limit "
                    "you must not exceed. The volts stay within its limit."
                ),
                pointer=f"/array/strings/{index}/regulator/max_array_w",
                claims=(told,),
            )


@mild_rule
def unlike_planes_on_one_tracker(station: StationModel, report: Report) -> Iterator[Finding]:
    """Strings that look another way on one MPPT."""
    for index, string, _ in strings_of(station, report):
        leader = leader_of(string, station.design.array)
        if leader is string or not controller_type(leader.controller).tracks:
            continue
        turned = abs((string.azimuth_deg - leader.azimuth_deg + 180.0) % 360.0 - 180.0)
        if (
            abs(string.tilt_deg - leader.tilt_deg) > UNLIKE_DEG
            or turned > UNLIKE_DEG
            or string.mount != leader.mount
        ):
            yield Finding(
                id=f"array.planes.{string.id}",
                severity="mind",
                step="array",
                sentence=(
                    f"{string.name} and {leader.name} face different ways but share one controller"
                ),
                why=(
                    "The controller finds one working point for both. In parallel this costs "
                    "little, in series much. With two MPPT controllers nothing is lost."
                ),
                pointer=f"/array/strings/{index}/joins",
            )


@mild_rule
def unknown_settings_in_parallel(station: StationModel, report: Report) -> Iterator[Finding]:
    """Several controllers on one bank, and nobody knows what one of them is set for."""
    leaders = [
        item
        for _, item, _ in strings_of(station, report)
        if not item.joins and controller_type(item.controller).regulates
    ]
    unknown = [item.name for item in leaders if item.regulator.set_for is None]
    if len(leaders) > 1 and unknown:
        yield Finding(
            id="array.settings_unknown",
            severity="mind",
            step="array",
            sentence=f"{len(leaders)} controllers charge one battery. Check the setting of: "
            f"{' and '.join(unknown)}",
            why=(
                "Different settings work against each other: one controller goes to float while "
                "another still charges."
            ),
            pointer="/array/strings",
        )


@mild_rule
def aged_without_a_measurement(station: StationModel, report: Report) -> Iterator[Finding]:
    """Panels said to be aged, with nothing measured, and a diode where none is needed."""
    for index, string, _ in strings_of(station, report):
        module = string.module
        measured = (
            module.measured_i_sc or module.measured_i_mp or module.age_share or module.readings
        )
        if module.condition == "aged" and not measured:
            yield Finding(
                id=f"array.aged.{string.id}",
                severity="mind",
                step="array",
                sentence=(f"{string.name} is old and not measured: we take off 10 % as a guess"),
                why=(
                    "Old panels differ by more than 10 %. Measure the short-circuit amps in "
                    "full sun at noon."
                ),
                pointer=f"/array/strings/{index}/module/measured_i_sc",
            )
        if (
            string.blocking_diode
            and controller_type(leader_of(string, station.design.array).controller).regulates
        ):
            yield Finding(
                id=f"array.diode.{string.id}",
                severity="mind",
                step="array",
                sentence=f"{string.name} has a blocking diode it does not need",
                why=(
                    "The diode costs half a volt all day. The controller already stops the battery "
                    "from feeding back at night."
                ),
                pointer=f"/array/strings/{index}/blocking_diode",
            )


@rule
def keyed_in_wrong(station: StationModel, report: Report) -> Iterator[Finding]:
    """Absorption or float as set on a controller, above all schools or too low to fill."""
    bank = station.design.store.bank
    if bank is None:
        return
    most_v, full_v, lead = (
        most_charge_v(bank),
        station.array.absorb_v,
        kind_of(bank.chemistry).is_lead,
    )
    for index, string, _ in strings_of(station, report):
        at = f"/array/strings/{index}/regulator"
        absorb, float_ = string.regulator.absorb_v, string.regulator.float_v
        if absorb is not None and absorb.value > most_v:
            yield Finding(
                id=f"array.absorb_high.{string.id}",
                severity="stop",
                step="array",
                sentence=f"{string.name}'s controller is set to absorb at {absorb.value:.1f} V; "
                f"this battery should get {most_v:.1f} V at most",
                why="The battery boils dry."
                if lead
                else "Its electronics cut off, or its cells are damaged.",
                pointer=f"{at}/absorb_v",
            )
        elif absorb is not None and absorb.value < full_v - 0.5:
            yield Finding(
                id=f"array.absorb_low.{string.id}",
                severity="fix",
                step="array",
                sentence=(
                    f"{string.name}'s controller is set to absorb at {absorb.value:.1f} V; this "
                    f"battery is full at {full_v:.1f} V"
                ),
                why="Charging stops short of full every day"
                + (": lead sulphates." if lead else ": its cells are never balanced."),
                pointer=f"{at}/absorb_v",
            )
        floats = (
            [setting.float_v for setting in report.store.settings if setting.float_v]
            if report.store
            else []
        )
        if float_ is not None and floats and float_.value > max(floats) + 0.15:
            yield Finding(
                id=f"array.float_high.{string.id}",
                severity="fix",
                step="array",
                sentence=f"{string.name}'s controller is set to float at {float_.value:.1f} V; "
                f"this battery should float at {max(floats):.1f} V at most",
                why="Held there for weeks, the battery "
                + ("dries out." if lead else "ages fast, because it stays full."),
                pointer=f"{at}/float_v",
            )
