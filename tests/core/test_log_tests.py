"""Guided tests and upkeep: worked examples by hand, and what is refused."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.samples import harrier_ridge, packhorse, quay_street, with_bank
from yonderstat.core.design import Design, KnownAmpHours, Module, design_from_document, document_of
from yonderstat.core.live import forecast_of
from yonderstat.core.log import (
    FigureError,
    at_label_rate,
    dbm_of,
    due_of,
    judged_test,
    left_of,
    likely_source,
    line_of_test,
    months_later,
    notices_of,
    panel_verdict,
    procedures_of,
    tasks_of,
)
from yonderstat.core.rehearse import hourly_station
from yonderstat.core.station import StationModel
from yonderstat.core.store import peukert_hours

NOON = 24 * 180 + 12
"""Of a day at the end of June."""


def judged(design: Design, kind: str, subject: str, **values: float):
    return judged_test(StationModel(design), kind, subject, values)


def test_peukert_is_undone() -> None:
    """W. Peukert 1897: what a battery of 100 Ah at 20 h gives at 20 A, read back, is 100 Ah at its
    label's rate."""
    hours = peukert_hours(100.0, 20.0, 20.0, 1.25)
    assert at_label_rate(20.0 * hours, 20.0, 20.0, 1.25) == pytest.approx(100.0)
    # At the label's own rate, or slower, there is nothing to undo.
    assert at_label_rate(80.0, 4.0, 20.0, 1.25) == pytest.approx(80.0)


@given(ah=st.floats(5, 500), amps=st.floats(0.5, 100), exponent=st.floats(1.0, 1.4))
def test_a_label_is_never_less_than_what_was_taken(ah: float, amps: float, exponent: float) -> None:
    assert at_label_rate(ah, amps, 20.0, exponent) >= ah - 1e-6


def test_a_discharge_test_goes_into_the_design_at_a_press() -> None:
    """5 A for 15 h to 10.6 V out of a 105 Ah AGM: by the label's rate and at 25 °C some 75 Ah and
    more."""
    meaning = judged(
        packhorse(), "discharge", "bank", amps=5.0, hours=15.0, end_v=10.6, celsius=25.0
    )
    assert meaning.change is not None
    assert meaning.contradicts == "/store/bank/health"
    operation = meaning.change.patch[0]
    assert operation.path == "/store/bank/tested_ah"
    assert operation.value["basis"] == "measured"
    assert 75.0 <= operation.value["value"] <= 80.0


def test_a_test_in_the_cold_is_read_at_room_temperature() -> None:
    warm = judged(packhorse(), "discharge", "bank", amps=5.0, hours=10.0, end_v=10.6, celsius=25.0)
    cold = judged(packhorse(), "discharge", "bank", amps=5.0, hours=10.0, end_v=10.6, celsius=0.0)
    assert cold.change.patch[0].value["value"] > 1.1 * warm.change.patch[0].value["value"]


def test_a_test_that_ended_early_says_at_least() -> None:
    meaning = judged(packhorse(), "discharge", "bank", amps=5.0, hours=6.0, end_v=12.3)
    assert "at least" in meaning.words
    assert meaning.change is None


def test_a_test_that_agrees_changes_nothing() -> None:
    design = with_bank(quay_street(), tested_ah=KnownAmpHours(value=96.0))
    meaning = judged(design, "discharge", "bank", amps=5.0, hours=19.2, end_v=10.0)
    assert "This agrees with the plan" in meaning.words
    assert meaning.change is None


def test_two_batteries_side_by_side_share_the_test() -> None:
    design = with_bank(quay_street(), parallel=2)
    value = (
        judged(design, "discharge", "bank", amps=10.0, hours=14.0, end_v=10.0).change.patch[0].value
    )
    assert value["value"] == pytest.approx(70.0, rel=0.02)


def test_resistance_is_told_beside_the_plans() -> None:
    meaning = judged(
        quay_street(),
        "discharge",
        "bank",
        amps=10.0,
        hours=9.6,
        end_v=10.0,
        before_v=13.3,
        first_v=13.0,
    )
    assert "Its resistance is 30 mΩ" in meaning.words


@pytest.mark.parametrize(
    ("v_oc", "i_sc", "sun", "cell", "found"),
    [
        (21.0, 6.4, 1000.0, 25.0, "healthy"),
        (19.3, 3.2, 500.0, 50.0, "healthy"),
        (21.0, 4.0, 1000.0, 25.0, "weak"),
        (14.0, 6.4, 1000.0, 25.0, "diode"),
        (7.0, 6.4, 1000.0, 25.0, "dark"),
    ],
)
def test_a_panel_is_judged_in_its_light_and_warmth(
    v_oc: float, i_sc: float, sun: float, cell: float, found: str
) -> None:
    """By hand on a 110 W panel of 36 cells: 21.5 V open, 6.6 A short by its class; amps go with the
    light."""
    module = Module(watts={"value": 110.0}, v_oc={"value": 21.5}, i_sc={"value": 6.6})
    assert panel_verdict(module, v_oc, i_sc, sun, cell)[0] == found


def test_a_panel_without_its_light_changes_nothing() -> None:
    meaning = judged(packhorse(), "panel", "folding-stand", v_oc=21.0, i_sc=2.0)
    assert "The light was not measured" in meaning.words
    assert meaning.change is None
    measured = judged(
        packhorse(), "panel", "folding-stand", v_oc=21.0, i_sc=2.0, sun_w_m2=950.0, cell_c=40.0
    )
    assert measured.change.patch[0].path == "/array/strings/0/module/measured_i_sc"


def test_a_load_survey_sets_what_was_measured() -> None:
    design = quay_street()
    load = design.draw.loads[0]
    agreed = judged(design, "survey", load.id, receive_a=load.receive_a.value)
    assert "This agrees with the plan" in agreed.words
    told = judged(design, "survey", load.id, receive_a=2.4, standby_a=0.03)
    assert [item.path for item in told.change.patch] == [
        "/draw/loads/0/receive_a",
        "/draw/loads/0/standby_a",
    ]


def test_a_drop_over_plan_is_a_bad_joint() -> None:
    design = packhorse()
    bad = judged(design, "drop", "hf-set", amps=20.0, post_v=12.4, load_v=9.8)
    assert "bad joint" in bad.words
    assert bad.contradicts == "/bus/runs"
    with pytest.raises(FigureError, match="swap the two"):
        judged(design, "drop", "hf-set", amps=20.0, post_v=12.0, load_v=13.0)


def test_a_charge_held_too_low_never_fills() -> None:
    assert "never gets full" in judged(packhorse(), "charge", "bank", held_v=13.6, tail_a=2.0).words
    assert "Not full yet" in judged(packhorse(), "charge", "bank", held_v=14.4, tail_a=4.0).words
    assert (
        "Full: it took"
        in judged(packhorse(), "charge", "bank", held_v=14.4, tail_a=0.8, ah=60.0).words
    )


@pytest.mark.parametrize(
    ("kind", "values", "field"),
    [
        ("discharge", {"amps": 5.0, "end_v": 11.0}, "hours"),
        ("discharge", {"amps": 5000.0, "hours": 2.0, "end_v": 11.0}, "amps"),
        ("panel", {"v_oc": 21.0, "i_sc": 900.0}, "i_sc"),
    ],
)
def test_a_figure_no_test_gives_is_refused_where_it_stands(
    kind: str, values: dict, field: str
) -> None:
    subject = "bank" if kind == "discharge" else "folding-stand"
    with pytest.raises(FigureError) as refusal:
        judged(packhorse(), kind, subject, **values)
    assert refusal.value.field == field


def test_every_test_says_what_to_expect_before_it_is_done() -> None:
    made = {item.id: item for item in procedures_of(StationModel(packhorse()))}
    tested = ["power-up", "discharge", "charge", "panel", "survey", "drop"]
    assert list(made) == [*tested, "noise", "claim-hours", "claim-mppt"]
    for procedure in made.values():
        assert procedure.caution
        assert len(procedure.steps) >= 2
        for subject in procedure.subjects:
            assert all(item.value > 0 for item in subject.expects), (procedure.id, subject.name)
    bare = design_from_document({**document_of(packhorse()), "store": {}, "array": {}})
    assert [item.id for item in procedures_of(StationModel(bare))] == ["survey", "noise"]


def test_the_log_keeps_a_line_of_a_test() -> None:
    assert line_of_test("drop", "HF radio", {"amps": 20.0, "post_v": 12.4, "load_v": 11.9}) == (
        "Voltage drop test, HF radio: current during the test 20 A, volts at the posts 12.4 V, "
        "volts at the load 11.9 V"
    )


def test_upkeep_follows_what_is_there() -> None:
    agm = {task.id for task in tasks_of(packhorse())}
    assert "water" not in agm
    assert {"terminals", "capacity", "glass"} <= agm
    flooded = {task.id for task in tasks_of(with_bank(packhorse(), chemistry="flooded"))}
    assert {"water", "gravity", "equalise"} <= flooded
    assert "outage" in {task.id for task in tasks_of(quay_street())}


def test_what_was_done_is_due_again_later() -> None:
    """By hand: glass is cleaned every three months; done on 30 November it is due on 28
    February."""
    today = date(2026, 11, 26)
    due = {item.task.id: item for item in due_of(packhorse(), {"glass": date(2025, 11, 30)}, today)}
    assert due["glass"].due == date(2026, 2, 28)
    assert due["glass"].overdue_days == (today - date(2026, 2, 28)).days
    assert due["terminals"].due == today
    order = [item.due for item in due_of(packhorse(), {"glass": today}, today)]
    assert order == sorted(order)


@given(day=st.dates(date(2000, 1, 1), date(2100, 1, 1)), months=st.integers(1, 24))
def test_some_months_on_is_the_same_day_or_the_months_last(day: date, months: int) -> None:
    found = months_later(day, months)
    assert (found.year * 12 + found.month) - (day.year * 12 + day.month) == months
    assert found.day <= day.day
    assert found.day == day.day or found.day >= 28


@pytest.mark.parametrize(
    ("level", "band", "dbm"),
    [
        (9, 7.1, -73),
        (9, 145.0, -93),
        (1, 14.2, -121),
        (0, 3.6, -127),
        (29, 7.1, -53),
        (-97, 50.0, -97),
    ],
)
def test_s_units_are_those_of_the_recommendation(level: float, band: float, dbm: float) -> None:
    """IARU Region 1 Technical Recommendation R.1: S9 is -73 dBm on HF, -93 dBm above 30 MHz, 6 dB a
    unit."""
    assert dbm_of(level, band) == pytest.approx(dbm)


def test_a_comb_names_its_likely_source() -> None:
    assert "rectifier" in likely_source(0.1)
    assert "MPPT" in likely_source(150.0)
    assert likely_source(3000.0) == ""


def test_noise_under_half_a_unit_is_inconclusive() -> None:
    assert (
        "That proves nothing"
        in judged(packhorse(), "noise", "string-folding-stand", band_mhz=7.1, off=3.0, on=3.3).words
    )
    loud = judged(
        packhorse(), "noise", "rail-inverter", band_mhz=7.1, off=2.0, on=7.0, spacing_khz=25.0
    ).words
    assert loud.startswith("It adds +30 dB of noise on 7.1 MHz. It covers weak stations.")
    assert "inverter" in loud


def test_a_claim_of_hours_is_worked_out_here() -> None:
    """By hand: what may be used over what a day draws, in hours."""
    station = StationModel(quay_street())
    hours = 24.0 * station.bank.usable_ah / station.daily_ah
    assert (
        "The claim holds for this station"
        in judged(quay_street(), "claim-hours", "net", hours=hours).words
    )
    assert (
        "The claim doesn't hold for this station"
        in judged(quay_street(), "claim-hours", "net", hours=3.0 * hours).words
    )
    assert (
        "This station does better"
        in judged(quay_street(), "claim-hours", "net", hours=0.5 * hours).words
    )


def test_a_claim_about_trackers_is_worked_out_for_these_panels() -> None:
    """A 12 V-class panel gains some per cent; one of 60 cells on a 12 V bank gains far more than a
    quarter."""
    few = judged(packhorse(), "claim-mppt", "array", percent=25.0).words
    assert "The claim doesn't hold for this station" in few
    many = packhorse()
    string = many.array.strings[0].model_copy(
        update={"module": Module(watts={"value": 250.0}, cells=60)}
    )
    array = many.array.model_copy(update={"strings": [string]})
    assert (
        "This station does better"
        in judged(
            many.model_copy(update={"array": array}), "claim-mppt", "array", percent=25.0
        ).words
    )


def test_what_is_left_lasts_longer_from_a_fuller_bank() -> None:
    station = StationModel(packhorse())
    full, half = left_of(station, 12.8, 12.0, NOON), left_of(station, 12.3, 12.0, NOON)
    assert full.low_share > half.high_share
    for more, less in zip(full.tempos, half.tempos, strict=True):
        assert more.low_h >= less.high_h
    assert "may already be gone" in left_of(station, 11.6, 12.0, NOON).words
    bare = StationModel(design_from_document({**document_of(packhorse()), "store": {}}))
    assert left_of(bare, 12.5, 3.0, NOON) is None


@pytest.mark.parametrize("design", [packhorse(), harrier_ridge(), quay_street()])
def test_the_log_and_live_say_the_same_of_what_is_left(design: Design) -> None:
    """Live's forecast of the same charge at the same hour, in a weather of nothing: to the hour at
    every tempo."""
    station = StationModel(design)
    left = left_of(station, 12.5, 12.0, NOON)
    hourly = hourly_station(station)
    assert left is not None
    assert hourly is not None
    still = hourly.hours._replace(
        panels_a=np.zeros_like(hourly.hours.panels_a),
        fixed_a=np.zeros_like(hourly.hours.fixed_a),
        backup_a=np.zeros_like(hourly.hours.backup_a),
    )
    told = forecast_of(replace(hourly, hours=still), NOON, left.low_share)
    for mine, theirs in zip(left.tempos, told.tempos, strict=True):
        years = [told.working[key].value for key in (theirs.soonest_h, theirs.middle_h)]
        for value in years:
            if value is None:
                assert mine.high_h is None or mine.high_h >= told.hours
            else:
                assert mine.low_h is not None
                assert mine.low_h <= value
                assert mine.high_h is None or mine.high_h >= value
    assert any(row.low_h is not None for row in left.tempos)


def test_notices_tell_what_stands_out() -> None:
    today = date(2026, 11, 26)
    due = due_of(packhorse(), {"glass": date(2025, 11, 30)}, today)
    found = notices_of("nobody", date(2026, 1, 1), today, due, [("Inverter", 30.0), ("Lamp", 1.0)])
    words = [item.words for item in found]
    assert any("Clean the panel glass" in text and "Overdue" in text for text in words)
    assert "Last reading: 329 days ago" in words
    assert "Loudest noise source: Inverter, +30 dB" in words
    assert notices_of("present", today, today, (), []) == ()
