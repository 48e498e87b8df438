"""The rehearsal of whole designs: against the Store's own hours, brute force, and what must never
get worse."""

import re

import numpy as np
import pytest

from tests.bench.plain_loop import plain_hours
from tests.core.rehearsed import played, station, value, with_layer, years
from tests.samples import ah, harrier_ridge, load, quay_street, with_bank, with_loads, with_string
from yonderstat.core import Report, evaluate, propose
from yonderstat.core.design import (
    Bank,
    Brief,
    ChargePath,
    Charger,
    Design,
    KnownAmpHours,
    KnownAmps,
    KnownHours,
    KnownVolts,
    KnownWatts,
    Place,
    Regulator,
    Store,
    design_from_document,
)
from yonderstat.core.rehearse import (
    Rationing,
    Scene,
    Training,
    carried_of,
    failures_report,
    hours_to_recharge,
    longest_true,
    ration,
    rehearse,
    rotation_report,
    run_all,
    served_of,
    spread_of,
    train,
    years_report,
)
from yonderstat.core.rehearse.kernel import OUT_VITAL
from yonderstat.core.rehearse.tally import AS_IT_IS, sums_of
from yonderstat.core.rehearse.years import served_by, too_harshly, too_kindly
from yonderstat.core.station import StationModel
from yonderstat.demo.patrol import PATROL_2


@pytest.mark.parametrize("design", [harrier_ridge(), quay_street()])
def test_hours_to_dark_are_the_stores_own(design: Design) -> None:
    """In the hard month with no sun: usable over the average draw, to the day's pattern and a day's
    temperature."""
    report, whole = evaluate(design), years(design)
    assert report.store is not None
    expected = report.working[report.store.hours_without_sun].number
    assert value(whole, whole.no_source_h) == pytest.approx(expected, rel=0.12)


def test_carry_through_by_brute_force() -> None:
    """[independent code] a few starts played hour by hour with the plain loop."""
    found = station(harrier_ridge())
    carried = carried_of(found, 30)
    for day in (10, 160, 175, 300):
        at = day * 24 + np.arange(30 * 24)
        rows, hours = at // 8760, at % 8760
        stretch = found.hours._replace(
            fixed_a=found.hours.fixed_a[hours],
            panels_a=found.hours.panels_a[rows, hours][None, :],
            backup_a=found.hours.backup_a[hours],
            load_a=found.hours.load_a[hours],
            floor_ah=found.hours.floor_ah[rows, hours][None, :],
            end_ah=found.hours.end_ah[rows, hours][None, :],
            locked=found.hours.locked[rows, hours][None, :],
            new_day=found.hours.new_day[hours],
        )
        out = np.array(plain_hours(found.rules, stretch, found.rules.full_ah))
        short = out[:, OUT_VITAL] < stretch.load_a[:, 0] - 1e-9
        assert carried.hours[day] == (int(np.argmax(short)) if short.any() else 30 * 24)


@pytest.mark.parametrize("more", ["panel", "bank", "less load"])
def test_more_is_never_darker(more: str) -> None:
    base = harrier_ridge()
    better = {
        "panel": with_string(base, parallel=3),
        "bank": with_bank(base, parallel=3),
        "less load": with_loads(base, *base.draw.loads[:2]),
    }[more]
    before, after = years(base), years(better)
    assert value(after, after.dark_h) <= value(before, before.dark_h) + 1e-9
    for month in range(12):
        for a, b in zip(before.carry[month], after.carry[month], strict=True):
            assert value(after, b) >= value(before, a) - 1e-9


def test_the_band_has_its_middle_inside() -> None:
    """Less sun and more load serve less; the other way round more."""
    design = harrier_ridge()
    found = station(design)
    spread = spread_of(found.model)
    cases = sums_of(found, [too_kindly(spread), AS_IT_IS, too_harshly(spread)])
    low, middle, high = (served_by(case).share for case in cases)
    assert low < middle < high


def test_a_better_known_station_has_a_narrower_band() -> None:
    base = quay_street()
    measured = [
        item.model_copy(
            update={"receive_a": item.receive_a.model_copy(update={"basis": "measured"})}
        )
        for item in base.draw.loads
    ]
    sure = with_loads(base, *measured)
    guessed = [
        item.model_copy(
            update={"receive_a": item.receive_a.model_copy(update={"basis": "default"})}
        )
        for item in base.draw.loads
    ]
    unsure = with_loads(base, *guessed)
    assert spread_of(StationModel(sure)).load < spread_of(StationModel(unsure)).load


def test_carry_falls_with_the_days_and_winter_is_worse() -> None:
    found = years(quay_street())
    for row in found.carry:
        chances = [value(found, key) for key in row]
        assert chances == sorted(chances, reverse=True)
    assert value(found, found.carry[6][1]) < value(found, found.carry[0][1])


@pytest.mark.parametrize(
    ("latitude", "longitude"), [(-45.0, 170.0), (-30.0, 146.0), (20.0, 77.0), (40.0, -100.0)]
)
def test_the_published_days_of_storage_stay_up(latitude: float, longitude: float) -> None:
    """[P] days of storage by Messenger & Ventre after Sandia, array-to-load ratio by IEEE Std 1562
    (from memory).

    A sanity band, not an equality: a station sized by both for a critical load serves 99 % and
    more, and at a quarter of those days clearly less or no more.
    """
    design = propose(
        "unattended", "continuous", Place(latitude_deg=latitude, longitude_deg=longitude)
    )
    report, found = evaluate(design), station(design, 10)
    assert report.store is not None
    days, ratio = (
        report.working["sizing.storage_days"].number,
        report.working["sizing.ratio"].number,
    )
    lasts = report.working[report.store.days_without_sun].number
    by_rule = served_of(found, 1.35 / ratio, days / lasts)
    assert by_rule.share > 0.99
    assert served_of(found, 1.35 / ratio, days / lasts / 4.0).share <= by_rule.share


def test_a_hand_that_is_weeks_away_keeps_it_dark() -> None:
    """Harrier Ridge, nobody there: a cut-off that must be reset by hand costs far more than one
    that closes itself."""
    base = harrier_ridge()
    by_hand = with_bank(base, restart="by_hand")
    assert served_of(station(by_hand)).share < served_of(station(base)).share - 0.05
    assert "rehearse.hand" in {finding.id for finding in evaluate(by_hand).findings}
    assert "rehearse.hand" not in {finding.id for finding in evaluate(base).findings}


def test_a_cut_off_set_high_goes_dark_sooner() -> None:
    base = harrier_ridge()
    early = with_bank(base, disconnect_v=KnownVolts(value=12.5))
    assert served_of(station(early)).share < served_of(station(base)).share


def test_mains_behind_an_everyday_bank_keep_it_up() -> None:
    """Everyday use is never dark while the mains are there, and the report says what they gave."""
    charger = Charger(
        id="m", name="Charger", amps=KnownAmps(value=20.0), hours_per_day=KnownHours(value=24.0)
    )
    base = quay_street()
    design = base.model_copy(
        update={
            "brief": Brief(purpose="everyday"),
            "array": base.array.model_copy(update={"chargers": [charger]}),
        }
    )
    report = evaluate(design)
    assert report.rehearsed is not None
    assert served_of(station(design)).share == pytest.approx(1.0)
    carried, used = (
        report.working[key or ""].number
        for key in (report.rehearsed.carried_kwh, report.rehearsed.used_kwh)
    )
    backed = report.working[report.rehearsed.backed_kwh or ""].number
    assert 0 < carried < used
    assert backed > 0.8 * (used - carried)


def test_what_cannot_be_rehearsed_says_so() -> None:
    assert years_report(harrier_ridge().model_copy(update={"place": None})) is None
    assert rehearse(Design(), Scene()) is None
    assert ration(Design(), Rationing()) is None
    assert rotation_report(quay_street()) is None
    assert train(Design(), Training()) is None
    assert rehearse(quay_street(), Scene(sky="record")) is None


@pytest.mark.parametrize(
    "design",
    [
        with_loads(quay_street()),
        with_loads(quay_street(), load("off", 0.0)),
        with_loads(quay_street(), *[load(f"l{n}", 0.05) for n in range(100)]),
        quay_street().model_copy(update={"array": Design().array}),
        with_bank(quay_street(), unit_ah=ah(0.001)),
        quay_street().model_copy(update={"brief": Brief(purpose="continuous", months=[2])}),
    ],
)
def test_odd_stations_have_an_answer(design: Design) -> None:
    """No loads, nothing drawn, a hundred loads, no panels, hardly a bank, one month: thirty years,
    and no exception."""
    report = years_report(design)
    assert report is not None
    assert 0.0 <= value(report, report.share) <= 1.0
    assert evaluate(design).verdict.headline
    assert played(design).sentence
    assert failures_report(design) is not None


def test_longest_true() -> None:
    assert longest_true(np.array([True, False, True, True, True, False])) == (3, 2)
    assert longest_true(np.zeros(4, dtype=np.bool_)) == (0, 0)


def test_the_year_band_is_the_run() -> None:
    """Three years of 365 days by 24 hours, in per cent, the worst no fuller than the typical."""
    found = years(harrier_ridge())
    means = {band.name: float(np.mean(band.percent)) for band in found.bands}
    assert means["worst"] <= means["poor"] <= means["typical"]
    assert all(np.array(band.percent).shape == (365, 24) for band in found.bands)


def test_every_part_is_lost_in_turn() -> None:
    """Harrier Ridge: without its only string it is dark once the bank is empty; half the bank costs
    less; a main fuse takes everything, a load's own only that load."""
    found = failures_report(harrier_ridge())
    assert found is not None
    told = {item.part: item for item in found.failures}
    main = next(item for part, item in told.items() if part.startswith("Main fuse"))
    own = next(item for part, item in told.items() if part.startswith("VHF repeater, 25 W: its"))
    assert main.served_vital == 0.0
    assert 0.0 < own.served_vital < found.served_vital
    assert told["Hut north wall, or its controller"].served_vital < 0.01
    assert {"One of 2 panels in parallel, Hut north wall", "One of 2 battery strings"} < set(told)
    assert all(item.served_vital < found.served_vital for item in found.failures)


def test_every_source_and_layer_is_among_the_parts() -> None:
    design = with_layer(design_from_document(PATROL_2))
    found = failures_report(design)
    assert found is not None
    assert {item.part for item in found.failures} >= {
        "Roof panel, or its controller",
        "The alternator charger",
        "Go-box",
        "The battery",
    }


def test_a_lone_battery_takes_everything_with_it() -> None:
    found = failures_report(quay_street())
    assert found is not None
    lost = next(item for item in found.failures if item.part == "The battery")
    assert lost.dark_hours_a_year == 8760.0
    assert found.failures[0].served_vital == lost.served_vital == 0.0
    networks = {item.part: item.sentence for item in found.failures}
    assert "no vital load needs it" in networks["The internet"]


def test_a_path_charges_a_layer() -> None:
    """With a path from the panels a layer is filled again; without one what it gives is gone."""
    alone = with_layer(with_loads(quay_street(), load("set", 2.0)))
    fed = alone.model_copy(
        update={
            "store": alone.store.model_copy(
                update={
                    "paths": [
                        ChargePath(source="shed-roof", bank=bank) for bank in ("main", "second")
                    ]
                }
            )
        }
    )
    assert station(fed).rules.reserve_charge_a > 0
    assert station(alone).rules.reserve_charge_a == 0
    assert served_of(station(fed)).share > served_of(station(alone)).share


def test_run_all_is_seeded() -> None:
    assert (run_all(station(harrier_ridge())) == run_all(station(harrier_ridge()))).all()


def test_a_bank_alone_needs_no_place() -> None:
    """[closed form] 24 A·h at 1 A, no place and no panels: a day, and no more."""
    bank = Bank(
        chemistry="lifepo4",
        unit_ah=KnownAmpHours(value=24.0),
        cold_c={"value": 25.0},
        depth={"value": 1.0},
    )
    design = with_loads(Design(store=Store(bank=bank)), load("set", 1.0))
    found = years_report(design, 1)
    assert found is not None
    assert value(found, found.no_source_h) == pytest.approx(24.0, abs=1.0)


def test_the_verdict_turns_through_the_edge() -> None:
    """More and more panel: short, then on the edge, then good, each once: tiny edits do not make it
    flicker."""
    base = harrier_ridge()
    states = []
    for watts in np.geomspace(60.0, 900.0, 16):
        module = base.array.strings[0].module.model_copy(
            update={"watts": KnownWatts(value=float(watts))}
        )
        better = with_bank(
            with_string(
                base, module=module, controller="mppt", tilt_deg=65.0, regulator=Regulator()
            ),
            parallel=4,
        )
        report = evaluate(better)
        assert report.rehearsed is not None
        states.append(["short", "edge", "good"].index(report.rehearsed.state))
    assert states == sorted(states)
    assert set(states) == {0, 1, 2}


def chargers(*made: Charger, purpose: str = "everyday") -> Design:
    base = quay_street()
    array = base.array.model_copy(update={"chargers": list(made)})
    return base.model_copy(
        update={"brief": Brief.model_validate({"purpose": purpose}), "array": array}
    )


def charger(key: str, amps: float, **more: object) -> Charger:
    return Charger.model_validate({"id": key, "name": key, "amps": {"value": amps}, **more})


def test_the_strongest_charger_that_fills_it_stands_behind_the_bank() -> None:
    """By name as by amps; one whose volts never fill the bank does not count, however strong."""
    weak, strong = charger("weak", 5.0), charger("strong", 20.0)
    useless = charger("useless", 50.0, volts={"value": 12.0})
    assert station(chargers(weak, strong)).backup == "strong"
    assert station(chargers(weak, useless)).backup == "weak"
    assert station(chargers(weak, purpose="standby")).backup == ""


def test_what_the_sun_carries_is_called_that() -> None:
    """Everyday: the share, its range and its months are the sun's part of the use, and say so when
    asked."""
    report = evaluate(chargers(charger("m", 20.0, hours_per_day={"value": 24.0})))
    assert report.rehearsed is not None
    keys = [
        report.rehearsed.share,
        report.rehearsed.low,
        *(key for key in report.rehearsed.by_month if key),
    ]
    assert all(report.working[key].label.startswith("Supplied by the sun") for key in keys)
    assert value_of(report, report.rehearsed.share) < 1.0


def value_of(report: Report, key: str) -> float:
    return report.working[key].number


def test_an_empty_bank_is_full_again_sooner_with_more_panel_and_never_with_too_little() -> None:
    def hours_h(parallel: int) -> float | None:
        return hours_to_recharge(station(with_string(harrier_ridge(), parallel=parallel), 3), 6)

    some, more = hours_h(12), hours_h(36)
    assert some is not None
    assert more is not None
    assert 0.0 < more < some < 60 * 24
    assert hours_h(1) is None


def test_more_years_than_the_verdicts_say_why_they_differ() -> None:
    many, few = years_report(harrier_ridge(), 30), years_report(harrier_ridge(), 10)
    assert many is not None
    assert few is not None
    assert "use 10 weather years" in many.surer
    assert few.surer == ""
    verdict = evaluate(harrier_ridge())
    assert few.working[few.share].number == pytest.approx(verdict.working["rehearse.share"].number)


def test_strip_and_sentence_never_disagree() -> None:
    """A single short month makes the whole short, however little it weighs in the year."""
    for parallel in range(2, 9):
        report = evaluate(
            with_bank(
                with_string(harrier_ridge(), parallel=parallel, controller="mppt"), parallel=3
            )
        )
        assert report.rehearsed is not None
        states = {state for state in report.rehearsed.month_states if state}
        worst = "short" if "short" in states else "edge" if "edge" in states else "good"
        assert report.verdict.state == worst
        if worst == "good" and report.rehearsed.dark and report.rehearsed.dark.longest:
            assert report.verdict.headline == "Stays up all year except for a few hours."


def test_box_in_the_sun_is_as_warm_as_the_store_says() -> None:
    """Month by month the rehearsed bank is the Store's cold day, give or take the days' spread."""
    design = with_bank(harrier_ridge(), housing="vented_box", cold_c=None, box_in_sun=True)
    report, found = evaluate(design), station(design)
    assert report.store is not None
    for month, key in enumerate(report.store.months_c):
        assert found.bank_c[:, found.months == month].mean() >= report.working[key].number - 0.5


def test_a_part_lost_from_a_spell_says_how_long_it_still_lasts() -> None:
    """Quay Street carries three days in no July, with or without its panel: the hours tell what the
    panel is worth."""
    found = failures_report(quay_street())
    assert found is not None
    told = {item.part: item.sentence for item in found.failures}
    assert re.match(
        r"Without it, the station lasts \d+ hours in the worst month, instead of \d+ hours",
        told["Shed roof, or its controller"],
    )
    assert told["Changeover unit, 20 A"] == "The station lasts just as long without it."
