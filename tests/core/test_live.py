"""Alarms raised once and cleared once, by rule and by delay; the next days, and that they beat
saying “as now”."""

import json
from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Any

import numpy as np
import pytest

from tests.samples import harrier_ridge
from yonderstat.core.calendar import hour_of_year
from yonderstat.core.design import design_from_document
from yonderstat.core.live import (
    KINDS,
    AlarmEvent,
    Expected,
    Moment,
    Watching,
    expected_of,
    forecast_of,
    next_moment,
    silence,
    silence_limit_s,
    title_of,
)
from yonderstat.core.rehearse import HourlyStation, Life, dullest_year, hourly_station, life_of
from yonderstat.core.station import StationModel
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT, HARRIER_HEATED_LITHIUM
from yonderstat.demo.standins import DULL_MONTH, FROM_AT
from yonderstat.standins import FAULTS, Broken, Fault, Lived, State
from yonderstat.standins.living import FULL_SHARE
from yonderstat.web.patching import apply_patch

HOUR_S = 3600.0
NOON = datetime(2026, 2, 3, 12, tzinfo=UTC).timestamp()
EXPECTED = Expected(
    bright_a=np.tile(np.clip(8.0 * np.sin((np.arange(24) - 6) / 12 * np.pi), 0.0, None), (12, 1)),
    full_ah=200.0,
    efficiency=0.95,
    leak_per_h=0.0,
    idle_a=0.0,
    absorb_v=14.4,
    least_v=11.8,
    most_v=15.2,
    charge_low_c=0.0,
    coldest_c=-20.0,
    hottest_c=45.0,
    blocks=1,
    is_lead=False,
)


def fine(hour: float, **bent: Any) -> Moment:
    """A day on which nothing is wrong: charged by day, drawn all day, counted right."""
    charge_a = float(np.clip(6.0 * np.sin((hour % 24 - 6) / 12 * np.pi), 0.0, None))
    share = 0.55 + 0.001 * np.sin(hour)
    usual = {
        "volts": 12.8 + 0.1 * charge_a + 0.01 * np.sin(hour),
        "charge_a": charge_a,
        "load_a": 1.5,
        "charge_share": share,
        "box_c": 15.0,
        "clock_off_s": 0.0,
        "dark_share": 0.0,
    }
    return Moment(at_s=NOON + hour * HOUR_S, month=2, hour=(12 + hour) % 24, **{**usual, **bent})


def played(
    moments: Iterator[Moment], was: Watching | None = None
) -> tuple[Watching, list[AlarmEvent]]:
    """What a row of moments raises and clears; what goes on is left out."""
    watching, events = was or Watching(), []
    for moment in moments:
        watching, more = next_moment(watching, moment, EXPECTED)
        events += [event for event in more if event.what != "still"]
    return watching, events


def told(events: list[AlarmEvent]) -> list[tuple[str, str]]:
    return [(event.kind, event.what) for event in events]


def balanced(first: int, last: int, **bent: Callable[[float], float | None]) -> Iterator[Moment]:
    """Moments every half hour whose monitor counts what flows; figures are bent from an hour on."""
    share = 0.55
    for step in range(2 * first, 2 * last):
        hour = step / 2
        charge_a = float(np.clip(4.4 * np.sin(((12 + hour) % 24 - 6) / 12 * np.pi), 0.0, None))
        changed = {name: bend(hour) for name, bend in bent.items()}
        flowing = {"charge_a": charge_a, "load_a": 1.5, **changed}
        net_a = (flowing["charge_a"] or 0.0) - (flowing["load_a"] or 0.0)
        share += (net_a * (0.95 if net_a > 0 else 1.0)) / 2 / EXPECTED.full_ah
        yield fine(hour, **{"charge_share": round(share, 4), **flowing})


def test_nothing_is_raised_on_days_on_which_nothing_is_wrong() -> None:
    assert played(balanced(0, 24 * 6))[1] == []


FROM, TO = 30.0, 60.0


def within(bad: float, good: Callable[[float], float] | float) -> Callable[[float], float]:
    return lambda hour: bad if FROM <= hour < TO else good(hour) if callable(good) else good


def sun(hour: float) -> float:
    return float(np.clip(4.4 * np.sin(((12 + hour) % 24 - 6) / 12 * np.pi), 0.0, None))


@pytest.mark.parametrize(
    ("kind", "bent"),
    [
        ("not_charging", {"charge_a": within(0.0, sun)}),
        ("cold_lock", {"charge_a": within(0.0, sun), "box_c": within(-7.0, 12.0)}),
        ("low_charge", {"dark_share": within(0.7, 0.1), "dark_in_h": within(40.0, 200.0)}),
        ("temperature", {"box_c": within(52.0, 20.0)}),
        ("temperature", {"box_c": within(-25.0, 5.0), "charge_a": within(0.0, sun)}),
        (
            "regulation",
            {
                "volts": lambda hour: (
                    (15.9 if FROM <= hour < TO and sun(hour) > 0 else 13.1) + 0.01 * np.sin(hour)
                )
            },
        ),
        (
            "volts",
            {"volts": lambda hour: (11.2 if FROM <= hour < TO else 12.9) + 0.01 * np.sin(hour)},
        ),
        ("clock", {"clock_off_s": within(7200.0, 3.0)}),
        (
            "stuck",
            {
                "volts": within(12.41, lambda hour: 12.9 + 0.01 * np.sin(hour)),
                "load_a": within(6.0, 1.5),
            },
        ),
    ],
)
def test_each_fault_raises_its_alarm_once_and_clears_it_once(
    kind: str, bent: dict[str, Any]
) -> None:
    _, events = played(balanced(0, 24 * 5, **bent))
    assert told(events) == [(kind, "raised"), (kind, "cleared")]
    assert FROM <= (events[0].at_s - NOON) / HOUR_S < TO <= (events[1].at_s - NOON) / HOUR_S + 1e-9


def test_a_monitor_that_drifts_is_told_from_the_amps_it_saw() -> None:
    moments = list(balanced(0, 24 * 3))
    drifting = [
        replace(
            moment,
            charge_share=min(1.0, (moment.charge_share or 0.0) + 0.01 * max(0.0, index / 2 - 20)),
        )
        for index, moment in enumerate(moments)
    ]
    _, events = played(iter(drifting))
    assert told(events) == [("disagree", "raised")]
    assert "points more" in events[0].words


def test_an_alarm_waits_and_a_short_dip_raises_none() -> None:
    dip = {"charge_a": lambda hour: 0.0 if 20.0 <= hour < 22.0 else sun(hour)}
    assert played(balanced(0, 48, **dip))[1] == []


def test_one_cause_is_one_alarm_and_grows_worse_instead_of_raising_another() -> None:
    bent = {
        "charge_a": within(0.0, sun),
        "dark_share": lambda hour: 0.8 if 50.0 <= hour < TO else 0.0,
        "dark_in_h": within(30.0, 300.0),
    }
    _, events = played(balanced(0, 24 * 4, **bent))
    assert told(events) == [
        ("not_charging", "raised"),
        ("not_charging", "worse"),
        ("not_charging", "cleared"),
    ]
    assert events[1].severity == "stop"
    assert "in 30 hours" in events[1].words


def test_silence_is_raised_goes_on_and_is_over_and_what_is_still_heard_is_judged() -> None:
    was, events = silence(Watching(), 100.0, 10.0, NOON, "Monitor")
    assert told(events) == [("silent", "raised")]
    assert "Monitor: no data for 100 seconds" in events[0].words
    quiet, again = silence(was, 120.0, 10.0, NOON + 20, "Monitor")
    assert [event.what for event in again] == ["still"]
    _, others = played(iter([fine(0, volts=16.5), fine(1, volts=16.5)]), quiet)
    # The other device still answers, and what it says is grave.
    assert told(others) == [("regulation", "raised")]
    _, over = silence(quiet, 0.0, 10.0, NOON + 40, "Monitor")
    assert told(over) == [("silent", "cleared")]


def test_what_ruins_cells_is_never_held_back_by_what_explains_it() -> None:
    watching, _ = played(balanced(0, 50, charge_a=within(0.0, sun), box_c=within(-7.0, 12.0)))
    assert "cold_lock" in watching.open
    charged = [fine(50.0 + hour, box_c=-7.0, charge_a=5.0) for hour in (0.5, 1.0, 1.5, 2.0)]
    _, events = played(iter(charged), watching)
    grave = next(event for event in events if event.kind == "temperature")
    assert (grave.what, grave.severity) == ("raised", "stop")
    assert "ruins lithium" in grave.words


def test_a_moment_sent_twice_says_nothing_twice() -> None:
    moments = list(balanced(0, 24 * 4, charge_a=within(0.0, sun)))
    doubled = [moment for moment in moments for _ in range(2)]
    assert told(played(iter(doubled))[1]) == told(played(iter(moments))[1])
    watching, _ = played(iter(moments))
    assert next_moment(watching, moments[3], EXPECTED) == (watching, [])


def test_what_is_remembered_survives_being_kept() -> None:
    moments = list(balanced(0, 24 * 3, charge_a=within(0.0, sun)))
    watching, _ = played(iter(moments[:70]))
    kept = Watching.from_json(json.loads(json.dumps(watching.as_json())))
    assert kept == watching
    with pytest.raises(ValueError, match="still"):
        Watching.from_json({**watching.as_json(), "still": {"volts": [12.5, 0.0]}})
    assert played(iter(moments[70:]), kept) == played(iter(moments[70:]), watching)


def test_what_cannot_be_told_changes_nothing() -> None:
    watching, _ = played(balanced(0, 50, charge_a=within(0.0, sun)))
    assert "not_charging" in watching.open
    unknown = fine(
        51.0,
        charge_a=None,
        volts=None,
        charge_share=None,
        box_c=None,
        dark_share=None,
        clock_off_s=None,
    )
    after, events = next_moment(watching, unknown, EXPECTED)
    assert events == []
    assert after.open == watching.open


def test_every_kind_has_a_title_and_silence_a_limit() -> None:
    assert all(title_of(kind) for kind in KINDS)
    assert silence_limit_s(60.0) == 180.0
    assert silence_limit_s(1.0) == 30.0


@cache
def ridge() -> HourlyStation:
    found = hourly_station(StationModel(harrier_ridge()), 6)
    assert found is not None
    return found


@cache
def heated() -> HourlyStation:
    lithium = apply_patch(design_from_document(HARRIER_AS_BUILT), HARRIER_HEATED_LITHIUM)
    found = hourly_station(StationModel(lithium), 6)
    assert found is not None
    return found


def test_the_next_days_begin_at_what_is_left_and_keep_their_order() -> None:
    found = forecast_of(ridge(), 140 * 24 + 9, 0.83)
    first = found.charge.low[0], found.charge.middle[0], found.charge.high[0]
    assert all(abs(share - 0.83) < 0.04 for share in first)
    for band in (found.charge, found.planned):
        assert all(
            low <= middle <= high
            for low, middle, high in zip(band.low, band.middle, band.high, strict=True)
        )
    # Where what may be used ends, dark begins: no year is dark above it, and it can be asked why.
    floor = found.working[found.floor_share]
    assert floor.value == pytest.approx(found.floor[0])
    assert 0.3 < floor.number < 0.83
    assert len(floor.inputs) == 2
    hours = {row.tempo: found.working[row.middle_h].value for row in found.tempos}
    assert hours.keys() == {tempo.id for tempo in harrier_ridge().draw.tempos}


def test_more_charge_is_dark_no_sooner_and_shedding_buys_no_less() -> None:
    at = 150 * 24
    by_share = [forecast_of(ridge(), at, share) for share in (0.15, 0.25, 0.4, 0.95)]
    dark = [found.working[found.soon_dark_share].number for found in by_share]
    assert dark == sorted(dark, reverse=True)
    assert dark[0] > dark[-1]
    for found in by_share:
        own = next(row for row in found.tempos if row.tempo == ridge().model.design.draw.sized_on)
        for shed in found.shed:
            assert (
                found.working[shed.dark_share].number <= found.working[own.dark_share].number + 1e-9
            )


def lived() -> Lived:
    year = dullest_year(ridge(), 6)
    life = life_of(ridge(), year, 130 * 24, 60 * 24, 0.95)
    rows = {
        name: getattr(life, name)
        for name in ("volts", "unfed_v", "charge_a", "load_a", "charge_share", "box_c")
    }
    return Lived(
        from_s=datetime(2026, 5, 11, tzinfo=UTC).timestamp(), full_ah=ridge().rules.full_ah, **rows
    )


def test_the_forecast_beats_persistence_on_the_stand_in() -> None:
    # Skill against “as it is now”: 1 − MAE of the middle year over MAE of persistence, three days
    # ahead.
    life: Life = life_of(ridge(), dullest_year(ridge(), 6), 110 * 24, 70 * 24, 0.95)
    mine, persistence = [], []
    for start in range(24, 60 * 24, 36):
        now = float(life.charge_share[start - 1])
        found = forecast_of(ridge(), 110 * 24 + start, now)
        true = life.charge_share[start : start + 72]
        mine.append(np.abs(np.array(found.charge.middle[:72]) - true).mean())
        persistence.append(np.abs(now - true).mean())
    skill = 1.0 - float(np.mean(mine)) / float(np.mean(persistence))
    assert skill > 0.1, f"skill {skill:.2f}"


def test_a_life_is_the_plan_played_and_its_charge_closes() -> None:
    life = life_of(ridge(), 0, 100 * 24, 30 * 24, 0.9)
    assert life.charge_share.min() >= 0.0
    assert life.charge_share.max() <= 1.0
    assert (life.unfed_v <= life.volts + 1e-9).all()
    net_ah = (life.charge_a * ridge().rules.efficiency - life.load_a).sum()
    gained = (life.charge_share[-1] - 0.9) * ridge().rules.full_ah
    # What charge takes the direct way to the loads is not lost on the way in and out: the bank
    # gains no less.
    assert gained >= net_ah - 0.05 * ridge().rules.full_ah


RAISES: dict[Fault, str] = {
    "panel_lost": "not_charging",
    "sensor_stuck": "stuck",
    "monitor_drift": "disagree",
    "regulation_lost": "regulation",
}


def moments_of(broken: Broken, fault: Fault, hours: tuple[int, int], days: int) -> Iterator[Moment]:
    """Every half hour of a stand-in, broken for a while."""
    for step in range(48 * days):
        at_s = broken.lived.from_s + step * HOUR_S / 2
        if step == 2 * hours[0]:
            broken.set_fault(fault, True, at_s)
        if step == 2 * hours[1]:
            broken.set_fault(fault, False, at_s)
        yield moment_of(broken.told(at_s))


def moment_of(state: State) -> Moment:
    at = datetime.fromtimestamp(state.at_s, UTC)
    return Moment(
        at_s=state.at_s,
        month=at.month,
        hour=at.hour + at.minute / 60,
        volts=round(state.volts, 2),
        charge_a=round(state.charge_a, 2),
        load_a=round(state.load_a, 2),
        charge_share=round(state.charge_share, 3),
        box_c=round(state.box_c, 1),
    )


@pytest.mark.parametrize("fault", RAISES)
def test_a_stand_in_that_fails_raises_its_own_alarm_once_and_clears_it_once(fault: Fault) -> None:
    assert fault in FAULTS
    whole = lived()
    expected = expected_of(ridge())
    watching, events = Watching(), []
    for moment in moments_of(Broken(whole, whole.from_s), fault, (50, 105), 9):
        watching, more = next_moment(watching, moment, expected)
        events += [event for event in more if event.what in ("raised", "cleared")]
    mine = [(event.kind, event.what) for event in events if event.kind == RAISES[fault]]
    assert mine == [(RAISES[fault], "raised"), (RAISES[fault], "cleared")]
    others = {event.kind for event in events} - {RAISES[fault], "volts"}
    assert not others, told(events)


def test_lithium_locked_by_the_cold_says_so() -> None:
    expected = expected_of(heated())
    assert expected.charge_low_c > -5.0
    watching, events = Watching(), []
    for hour in range(0, 48):
        now = fine(float(hour), charge_a=0.0, box_c=-8.0)
        watching, more = next_moment(watching, now, replace(expected, bright_a=EXPECTED.bright_a))
        events += [event for event in more if event.what == "raised"]
    assert told(events) == [("cold_lock", "raised")]


def test_the_demos_keeper_is_warned_days_before_it_goes_dark() -> None:
    station = hourly_station(StationModel(harrier_ridge()), 10)
    assert station is not None
    began = datetime.fromisoformat(FROM_AT)
    first = hour_of_year(began)
    life = life_of(station, dullest_year(station, DULL_MONTH), first, 30 * 24, FULL_SHARE)
    dark_at = int(np.argmax(life.dark))
    assert 2 * 24 < dark_at < 20 * 24
    expected, watching, raised = expected_of(station), Watching(), None
    soon: dict[str, Any] = {}
    for hour in range(dark_at + 1):
        share = float(life.charge_share[hour])
        if hour % 3 == 0:
            found = forecast_of(station, (first + hour) % 8760, share)
            key = found.soon_dark_h
            soon = {
                "dark_share": found.working[found.soon_dark_share].value,
                "dark_in_h": found.working[key].value if key else None,
            }
        at = began + timedelta(hours=hour)
        told = {
            name: float(getattr(life, name)[hour])
            for name in ("volts", "charge_a", "load_a", "box_c")
        }
        moment = Moment(
            at_s=at.timestamp(),
            month=at.month,
            hour=float(at.hour),
            charge_share=round(share, 3),
            **told,
            **soon,
        )
        watching, events = next_moment(watching, moment, expected)
        if raised is None and any(event.kind == "low_charge" for event in events):
            raised = hour
    assert raised is not None
    assert dark_at - raised >= 12, (dark_at, raised)
