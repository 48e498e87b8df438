"""Cold, heat, gas and darkness, each shown by a small station that once had it wrong."""

import pytest

from tests.core.judged import PLACED, find, ids, lithium
from tests.core.rehearsed import station, with_layer
from tests.samples import quay_street, with_bank, with_string
from yonderstat.core import evaluate
from yonderstat.core.design import (
    Design,
    KnownAmpHours,
    KnownAmps,
    KnownCelsius,
    KnownIdleWatts,
    Limits,
)
from yonderstat.core.rehearse import run_all, served_of
from yonderstat.core.rehearse.kernel import COLD_SLOW, OUT_INTO
from yonderstat.core.rehearse.station import hourly_station
from yonderstat.core.station import StationModel

# -- cold and heat
# -----------------------------------------------------------------------------------------------------


def test_a_heated_box_draws_its_watts() -> None:
    """[closed form] air at −5 °C without any spread needs 10 K / 0.8 K/W = 12.5 W."""
    cold, warm = (lithium(housing=housing) for housing in ("vented_box", "heated"))
    drawn = StationModel(warm).draw.heating_ah
    assert drawn[6] > drawn[0] > 0
    assert StationModel(cold).draw.heating_ah.max() == 0.0
    assert StationModel(warm).daily_ah > StationModel(cold).daily_ah
    assert served_of(station(warm)).share < 1.0
    report = evaluate(warm)
    month = report.verdict.hard_month
    assert report.number("draw.heating_w") == pytest.approx(
        drawn[month - 1] * StationModel(warm).bus_v / 24.0
    )


def test_a_heater_too_small_unlocks_nothing() -> None:
    """A maker's heater of any size cleared the frost and unlocked charging within the hour."""
    weak, strong = (
        lithium(limits=Limits(heater_w=KnownIdleWatts(value=watts))) for watts in (1.0, 60.0)
    )
    assert ids(weak)["store.lithium_frost"] == "stop"
    assert "store.lithium_frost" not in ids(strong)
    assert (station(weak).hours.locked == 2).any()
    assert not (station(strong).hours.locked == 2).any()


def test_lithium_that_is_cold_but_not_too_cold_is_charged_at_its_makers_slow_rate() -> None:
    """Between freezing and 10 °C the maker of these allows 1 A a unit."""
    gentle = lithium(
        series=1,
        limits=Limits(slow_below_c=KnownCelsius(value=10.0), slow_charge_a=KnownAmps(value=1.0)),
    )
    hours = station(gentle)
    units = gentle.store.bank.parallel if gentle.store.bank else 0
    assert hours.rules.slow_charge_a == 1.0 * units
    assert (hours.hours.locked == COLD_SLOW).any()
    cold = hours.hours.locked == COLD_SLOW
    into, freely = (run_all(item)[:, :, OUT_INTO] for item in (hours, station(lithium(series=1))))
    assert 0.0 < into[cold].max() <= 1.0 * units + 1e-9 < freely[cold].max()
    # Cold is not frost: no hour of it counts as too cold to charge.
    assert not (hours.shut & cold).any()
    assert not (station(lithium()).hours.locked == COLD_SLOW).any()


def test_frost_is_judged_by_hours_in_which_charging_is_locked() -> None:
    """Outdoors at 48° N nothing was said while some hundred hours a year are locked."""
    place = PLACED.place.model_copy(
        update={"latitude_deg": 48.0, "longitude_deg": 2.0, "elevation_m": None}
    )  # type: ignore[union-attr]
    report = evaluate(lithium().model_copy(update={"place": place}))
    assert report.rehearsed is not None
    locked = report.number(report.rehearsed.locked_h)
    assert locked is not None
    assert locked > 10
    found = find(report, "store.lithium_frost")
    assert found is not None
    assert f"{locked:.0f} hours a year" in found.sentence


def test_heat_is_judged_on_the_hottest_day_of_any_month() -> None:
    place = PLACED.place.model_copy(
        update={"latitude_deg": 33.0, "longitude_deg": -112.0, "elevation_m": None}
    )  # type: ignore[union-attr]
    boxed = lithium(housing="insulated_box", box_in_sun=True, box_w=KnownIdleWatts(value=12.0))
    winter = boxed.brief.model_copy(update={"months": [12, 1]})
    assert ids(boxed.model_copy(update={"place": place, "brief": winter}))["store.too_hot"] == "fix"


def test_a_room_follows_the_summer() -> None:
    place = PLACED.place.model_copy(
        update={"latitude_deg": 19.1, "longitude_deg": 72.9, "elevation_m": None}
    )  # type: ignore[union-attr]
    model = StationModel(lithium(housing="indoors").model_copy(update={"place": place}))
    assert model.bank is not None
    assert model.bank.month_c.min() > 20.0


def test_no_hour_is_colder_than_the_coldest_night() -> None:
    found = station(lithium(cold_c=None))
    assert found.bank_c.min() >= found.model.climate.coldest_c - 1e-9


# -- hydrogen
# ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("housing", ["insulated_box", "heated"])
def test_too_small_a_vent_in_a_closed_box_is_a_stop(housing: str) -> None:
    from yonderstat.core.design import KnownArea

    closed = with_bank(PLACED, chemistry="flooded", housing=housing, vent_cm2=KnownArea(value=1.0))
    assert ids(closed)["store.vent_small"] == "stop"


def test_flooded_cells_indoors_speak_of_their_vent() -> None:
    assert (
        ids(with_bank(PLACED, chemistry="flooded", housing="indoors", vent_cm2=None))[
            "store.vent_unknown"
        ]
        == "mind"
    )


def test_the_safety_distance() -> None:
    """[P] EN IEC 62485-2, from memory: d = 28.8 · ∛I_gas · ∛C_rt; 20 mA/A·h and 100 A·h give 363
    mm."""
    from yonderstat.core.store import safety_distance_mm

    assert safety_distance_mm(20.0, 100.0) == pytest.approx(362.9, rel=1e-3)


# -- what put it out
# ---------------------------------------------------------------------------------------------------


def days_dark(design: Design) -> str:
    found = find(evaluate(design), "rehearse.days")
    assert found is not None
    return found.why


def test_a_month_that_is_short_on_mean_sun_is_not_put_on_a_dull_run() -> None:
    """The digipeater gets a fifth of June's draw; “a dull run emptied it” was said of it."""
    assert "Even average sun replaces only 60 % of what you use in June" in days_dark(PLACED)


def test_a_dull_run_is_named_with_its_sun() -> None:
    many = with_bank(with_string(PLACED, parallel=4), unit_ah=KnownAmpHours(value=90.0))
    assert (StationModel(many).covered(6) or 0.0) > 1.0
    assert "In this dull spell the loads emptied the battery" in days_dark(many)


def test_a_bank_too_cold_to_charge_is_named() -> None:
    assert "too cold to charge" in days_dark(lithium(cold_c=KnownCelsius(value=-15.0)))


def test_a_wait_for_a_hand_is_named() -> None:
    design = with_bank(PLACED, restart="by_hand")
    assert "waited for somebody" in days_dark(design)


def test_what_more_panel_or_bank_would_do_was_tried() -> None:
    """“More panel does less” was said wherever it went dark before dawn; on the demo it does ten
    times more."""
    model = StationModel(PLACED)
    hours = hourly_station(model, 10)
    assert hours is not None
    panel, bank = (
        round(served_of(hours, **{scale: 1.5}).dark_hours_a_year)
        for scale in ("panel_scale", "bank_scale")
    )
    why = days_dark(PLACED)
    assert f"more panels it is without power {panel} hours" in why
    assert f"more battery, {bank} hours" in why


def test_a_layer_that_nothing_joins_is_not_counted() -> None:
    assert station(with_layer(quay_street(), joining="apart")).rules.reserve_ah == 0.0
    for joining, counted in (("automatic", True), ("apart", False)):
        store = evaluate(with_layer(quay_street(), joining=joining)).store
        assert store is not None
        assert (store.layered is not None) == counted
