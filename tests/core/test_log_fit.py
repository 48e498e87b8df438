"""Plan against measured on made-up logs with one planted fault each: it must be named first, nine
times in ten."""

from datetime import UTC

import numpy as np
import pytest
from numpy.typing import NDArray

from tests.samples import with_bank
from yonderstat.core import propose
from yonderstat.core.design import Place, design_from_document
from yonderstat.core.log import Record, days_of, fit_of
from yonderstat.core.log.fit import TELLING
from yonderstat.core.rehearse import hourly_station, life_of
from yonderstat.core.station import StationModel
from yonderstat.core.store import bank_resistance_ohm
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.formats import read_meter_log

FloatArray = NDArray[np.float64]
SEEDS, DAYS = 60, 300
START_DAY = 20_454
"""1 January 2026, in days since 1970."""
HOURS = np.arange(24)
LIGHT = np.clip(np.sin((HOURS - 6) / 12 * np.pi), 0.0, None)


@pytest.fixture(scope="module")
def station() -> StationModel:
    return StationModel(design_from_document(HARRIER_AS_BUILT))


def months(days: int) -> NDArray[np.int64]:
    return (np.arange(days) + START_DAY).astype("datetime64[D]").astype("datetime64[M]").astype(
        int
    ) % 12


def taken(could: FloatArray, load: FloatArray, station: StationModel) -> FloatArray:
    """What a meter sees of the sun: a plain bucket, filled as far as it goes, hour by hour."""
    full_ah, kept = station.bank.rated_ah, station.array.kept_share
    found, held_ah = np.empty(could.size), 0.7 * full_ah
    for hour, (sun, drawn) in enumerate(zip(could.ravel(), load.ravel(), strict=True)):
        amps = min(sun, drawn + (full_ah - held_ah) / kept)
        net = amps - drawn
        held_ah = min(full_ah, max(0.0, held_ah + (net * kept if net > 0 else net)))
        found[hour] = amps
    return found.reshape(could.shape)


def log(station: StationModel, seed: int, fault: str, days: int = DAYS) -> Record:
    """A log by the hour of a station that does as planned, but for one fault and the weather."""
    chance = np.random.default_rng(seed)
    month = months(days)
    # A dull day and a bright one, so that the mean over many is the plan's.
    weather = np.exp(chance.normal(0.0, 0.5, days) - 0.125)
    harvest = station.array.harvest_ah[month] * weather
    if fault == "sun":
        harvest = harvest * 0.55
    elif fault == "soiling":
        harvest = harvest * np.linspace(1.0, 0.35, days)
    elif fault == "panel":
        harvest = np.where(np.arange(days) >= chance.integers(90, 210), 0.45, 1.0) * harvest
    drawn = station.draw.by_month[month] * (1.5 if fault == "use" else 1.0)
    night = sum(item.receive_a for item in station.draw.loads if item.load.hours_per_day.value > 20)
    keyed = sum(
        item.mean_on_a - item.receive_a
        for item in station.draw.loads
        if item.load.hours_per_day.value > 20
    )
    load = np.full((days, 24), night)
    # A meter that looks once an hour finds an over now and then, and nothing of it in between.
    load += np.where(chance.random(load.shape) < 1 / 12, 12 * keyed, 0.0)
    load[:, 8:22] += ((drawn - 24 * (night + keyed)) / 14)[:, None]
    load += 0.3 if fault == "uncounted" else 0.0
    load *= np.exp(chance.normal(0.0, 0.03, load.shape))
    # A long over now and then, in the dark, when the volts fall.
    load[::3, 22] += 6.0
    load[1::3, 5] += 6.0
    bank = station.bank
    ohm = bank_resistance_ohm(bank.bank, station.bus_v, bank.mean_c) * (
        4.0 if fault == "wiring" else 1.0
    )
    volts = 12.5 - load * ohm + chance.normal(0.0, 0.002, load.shape)
    charge = taken(harvest[:, None] * LIGHT / LIGHT.sum(), load, station)
    at_s = (START_DAY + np.arange(days))[:, None] * 86400.0 + HOURS * 3600.0
    return Record(at_s.ravel(), volts.ravel(), charge.ravel(), load.ravel())


@pytest.mark.parametrize("fault", ["none", "sun", "soiling", "panel", "use", "uncounted", "wiring"])
def test_a_planted_fault_is_named_first(station: StationModel, fault: str) -> None:
    named = []
    for seed in range(SEEDS):
        found = fit_of(days_of(log(station, seed, fault)), station)
        assert found is not None
        named.append(found.explanations[0].id)
    assert named.count(fault) >= 0.9 * SEEDS, {name: named.count(name) for name in set(named)}


def test_a_weak_bank_is_named_by_its_test(station: StationModel) -> None:
    days = days_of(log(station, 1, "none"))
    found = fit_of(days, station, tested_ah=0.6 * station.bank.aged_ah)
    assert found.explanations[0].id == "capacity"
    assert np.exp(found.explanations[0].size) == pytest.approx(0.6, abs=0.05)


def test_the_size_of_a_fault_comes_out(station: StationModel) -> None:
    """Planted: 0.3 A day and night; 55 % of the sun."""
    standby = fit_of(days_of(log(station, 3, "uncounted")), station).explanations[0]
    assert standby.size == pytest.approx(0.3, abs=0.05)
    assert standby.change.patch[0].value["receive_a"]["value"] == pytest.approx(0.3, abs=0.05)
    sun = fit_of(days_of(log(station, 3, "sun")), station).explanations[0]
    assert np.exp(sun.size) == pytest.approx(0.55, abs=0.08)


def test_likelihoods_add_up_and_the_likeliest_stands_first(station: StationModel) -> None:
    found = fit_of(days_of(log(station, 5, "use")), station)
    likelihoods = [item.likelihood for item in found.explanations]
    assert sum(likelihoods) == pytest.approx(1.0)
    assert likelihoods == sorted(likelihoods, reverse=True)
    assert f"{100 * likelihoods[0]:.0f} % likely" in found.words


def test_a_few_days_are_taken_as_a_hint(station: StationModel) -> None:
    assert "only a hint" in fit_of(days_of(log(station, 2, "sun", 9)), station).words


def test_nothing_measured_says_nothing(station: StationModel) -> None:
    assert fit_of(days_of(Record(np.zeros(0))), station) is None


def test_days_are_summed_by_the_clock_and_gaps_are_not_filled() -> None:
    """By hand: 2 A for 24 h is 48 Ah; a day with a silence of ten hours does not count."""
    at_s = START_DAY * 86400.0 + np.arange(0, 3 * 24) * 3600.0
    whole = days_of(Record(at_s, load_a=np.full(72, 2.0)))
    # The last reading stands for nothing: nobody knows how long.
    assert whole.drawn_ah.tolist() == pytest.approx([48.0, 48.0, 48.0])
    kept = np.r_[0:24, 34:72]
    holed = days_of(Record(at_s[kept], load_a=np.full(kept.size, 2.0)))
    assert (holed.first_day.size, holed.gaps) == (2, 1)


def test_resistance_comes_from_steps_in_the_dark(station: StationModel) -> None:
    """By hand: 20 mΩ, read back from steps of 10 A; with the sun on it is not read at all."""
    at_s = START_DAY * 86400.0 + np.arange(200) * 60.0
    load = np.where(np.arange(200) % 2, 12.0, 2.0)
    dark = days_of(Record(at_s, 13.0 - 0.02 * load, np.zeros(200), load))
    assert dark.resistance_ohm == pytest.approx(0.02)
    assert days_of(Record(at_s, 13.0 - 0.02 * load, np.full(200, 5.0), load)).resistance_ohm is None


def test_a_better_bank_than_planned_is_said_too(station: StationModel) -> None:
    weak = with_bank(
        station.design, health=station.design.store.bank.health.model_copy(update={"value": 0.4})
    )
    model = StationModel(weak)
    found = fit_of(days_of(log(station, 4, "none")), model, tested_ah=2.0 * model.bank.aged_ah)
    assert found.explanations[0].id == "capacity"
    assert found.explanations[0].size > 0


@pytest.mark.parametrize("fault", ["none", "use", "uncounted"])
def test_what_a_dark_station_did_not_get_hides_no_fault(station: StationModel, fault: str) -> None:
    # A station that goes dark draws nothing for hours; on the days with power the fault shows as
    # ever.
    named = []
    for seed in range(30):
        whole = log(station, seed, fault)
        load = whole.load_a.reshape(-1, 24).copy()
        load[np.random.default_rng(seed).random(DAYS) < 0.4, 2:11] = 0.0
        days = days_of(Record(whole.at_s, whole.volts, whole.charge_a, load.ravel()))
        assert (days.off_share > 0.3).mean() == pytest.approx(0.4, abs=0.12)
        named.append(fit_of(days, station).explanations[0].id)
    assert named.count(fault) >= 27, {name: named.count(name) for name in set(named)}


def test_the_demos_record_names_what_was_planted() -> None:
    from yonderstat.demo.harrier_log import UNCOUNTED_A, harrier_record

    table = read_meter_log("monitor.csv", harrier_record().encode(), [], UTC)
    columns = table.columns()
    found = fit_of(
        days_of(Record(columns[:, 0], columns[:, 1], columns[:, 2], columns[:, 3])),
        StationModel(design_from_document(HARRIER_AS_BUILT)),
    )
    assert found.explanations[0].id == "uncounted"
    assert found.explanations[0].size == pytest.approx(UNCOUNTED_A, abs=0.08)


KINDS = (
    ("home", "continuous"),
    ("unattended", "continuous"),
    ("home", "everyday"),
    ("vehicle", "mobile"),
)


@pytest.mark.parametrize(("kind", "purpose"), KINDS)
@pytest.mark.parametrize("place", [(50.0, 8.0), (-44.1, 171.2), (19.1, 72.9)])
def test_our_own_rehearsed_year_is_called_right(
    kind: str, purpose: str, place: tuple[float, float]
) -> None:
    """A station with sun to spare takes less than its panels could give, and nothing is wrong with
    it."""
    here = Place(latitude_deg=place[0], longitude_deg=place[1])
    model = StationModel(propose(kind, purpose, here))  # type: ignore[arg-type]
    hourly = hourly_station(model, 8)
    assert hourly is not None
    for year in (6, 7):
        life = life_of(hourly, year, 0, 8760, 1.0)
        at_s = 86400.0 * START_DAY + 3600.0 * np.arange(8760)
        found = fit_of(days_of(Record(at_s, life.volts, life.charge_a, life.load_a)), model)
        assert found is not None
        first = found.explanations[0]
        assert first.id == "none" or first.likelihood < TELLING, found.words
        assert "plan" in found.words
