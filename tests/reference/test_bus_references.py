"""Conductors, fuses and networks against published tables and closed forms."""

import math

import numpy as np
import pytest

from yonderstat.core.bus import Beside, Carried, Network, fuse_for, precharge
from yonderstat.core.design import WiringSchool
from yonderstat.core.draw import inverter_input_a
from yonderstat.core.electrical import (
    ambient_factor,
    ampacity_a,
    awg_mm2,
    bundle_factor,
    cable_ohm_per_m,
    loop_drop_v,
    size_name,
    tradition,
)

FOOT_M = 0.3048


@pytest.mark.parametrize(
    ("mm2", "ohm_km"),
    [
        (1.5, 13.3),
        (2.5, 7.98),
        (4.0, 4.95),
        (6.0, 3.30),
        (10.0, 1.91),
        (16.0, 1.21),
        (25.0, 0.780),
        (70.0, 0.272),
    ],
)
def test_metric_cable_is_the_published_class_5(mm2: float, ohm_km: float) -> None:
    """[P] IEC 60228, class 5, 20 °C, from memory."""
    assert cable_ohm_per_m(mm2, 20.0) * 1000.0 == pytest.approx(ohm_km)


@pytest.mark.parametrize(
    ("gauge", "ohm_per_1000_ft"),
    [
        (14, 3.14),
        (12, 1.98),
        (10, 1.24),
        (8, 0.778),
        (6, 0.491),
        (4, 0.308),
        (2, 0.194),
        (0, 0.122),
        (-1, 0.0967),
    ],
)
def test_gauged_cable_is_the_published_stranded_one(gauge: int, ohm_per_1000_ft: float) -> None:
    """[P] NEC chapter 9 table 8, stranded, 75 °C, from memory."""
    assert cable_ohm_per_m(awg_mm2(gauge), 75.0) * 1000.0 * FOOT_M == pytest.approx(
        ohm_per_1000_ft, rel=0.02
    )


def test_copper_warms_by_its_coefficient() -> None:
    """[P] IEC 60028: 0.00393/K at 20 °C."""
    assert cable_ohm_per_m(4.0, 70.0) / cable_ohm_per_m(4.0, 20.0) == pytest.approx(
        1.0 + 0.00393 * 50.0
    )


@pytest.mark.parametrize(
    ("size", "cool_a", "warm_a", "hot_a"),
    [("#18", 10, 10, 14), ("#16", 13, 13, 18), ("#3/0", 165, 200, 225), ("300 kcmil", 240, 285, 320),
     ("400 kcmil", 280, 335, 380), ("#14", 15, 20, 25),
     ("#12", 20, 25, 30), ("#10", 30, 35, 40), ("#8", 40, 50, 55), ("#6", 55, 65, 75),
     ("#4", 70, 85, 95), ("#2", 95, 115, 130), ("#1/0", 125, 150, 170), ("#4/0", 195, 230, 260)],
)  # fmt: skip
def test_ampacity_of_the_code(size: str, cool_a: float, warm_a: float, hot_a: float) -> None:
    """[P] NEC 310.16, copper, 30 °C; small conductors held to 7 to 30 A [P: NEC 240.4(D)];
    terminals good for 60 °C up to #1 and for 75 °C above, unless marked [P: NEC 110.14(C)]; from
    memory."""
    book = tradition("nec")
    found = next(item for item in book.sizes if item.size == size)
    assert (found.cool_a, found.warm_a, found.hot_a) == (cool_a, warm_a, hot_a)
    limit = {"#18": 7.0, "#16": 10.0, "#14": 15.0, "#12": 20.0, "#10": 30.0}.get(size, math.inf)
    terminals_a = warm_a if "/" in size or "kcmil" in size else cool_a
    for insulation_c, amps in ((60, cool_a), (75, warm_a), (90, hot_a)):
        assert ampacity_a(book, found.mm2, insulation_c, 30.0, 2) == pytest.approx(
            min(amps, limit, terminals_a)
        )


def test_hot_insulation_makes_up_for_hot_air() -> None:
    """[P] NEC 310.15(B)(1), from memory: at 50 °C a 90 °C conductor keeps 0.82 of its 95 A, a 60 °C
    one 0.58 of 70."""
    book, mm2 = tradition("nec"), awg_mm2(4)
    assert ampacity_a(book, mm2, 90, 50.0, 2) == pytest.approx(70.0)
    assert ampacity_a(book, mm2, 60, 50.0, 2) == pytest.approx(0.577 * 70.0, rel=0.01)


def test_ampacity_of_the_metric_tradition() -> None:
    """[P] IEC 60364-5-52, method B1, PVC, two loaded, from memory: 4 mm² 32 A, 16 mm² 76 A."""
    book = tradition("iec")
    assert ampacity_a(book, 4.0, 70, 30.0, 2) == pytest.approx(32.0)
    assert ampacity_a(book, 16.0, 70, 30.0, 2) == pytest.approx(76.0)


@pytest.mark.parametrize(("ambient_c", "factor"), [(30, 1.0), (40, 0.82), (50, 0.58)])
def test_hot_air_takes_its_part(ambient_c: float, factor: float) -> None:
    """[P] NEC table 310.15(B)(1), 60 °C column, from memory; √((60 − T)/30)."""
    assert ambient_factor(60.0, ambient_c) == pytest.approx(factor, abs=0.006)


def test_air_as_hot_as_the_insulation_leaves_nothing() -> None:
    assert ambient_factor(60.0, 60.0) == 0.0
    assert ampacity_a(tradition("nec"), 5.26, 60, 70.0, 2) == 0.0


@pytest.mark.parametrize(
    ("school", "many", "factor"),
    [
        ("nec", 3, 1.0),
        ("nec", 6, 0.8),
        ("nec", 9, 0.7),
        ("iec", 4, 0.8),
        ("nec", 40, 0.4),
        ("iec", 40, 0.38),
    ],
)
def test_bundles_take_their_part(school: WiringSchool, many: int, factor: float) -> None:
    """[P] NEC 310.15(C)(1); IEC 60364-5-52 table B.52.17; from memory."""
    assert bundle_factor(school, many) == factor


def test_the_published_worked_drop() -> None:
    """[P] 25 ft, 10 A, #12 stranded at 75 °C: 0.99 V; #10: 0.62 V."""
    for gauge, lost_v in ((12, 0.99), (10, 0.62)):
        assert loop_drop_v(25 * FOOT_M, awg_mm2(gauge), 10.0, 75.0) == pytest.approx(
            lost_v, rel=0.01
        )


@pytest.mark.parametrize(
    ("on_end_a", "peak_a", "rating_a"),
    [
        (3.0, 3.0, 4.0),
        (10.0, 10.0, 15.0),
        (1.5, 22.0, 25.0),
        (20.0, 24.0, 30.0),
        (0.1, 0.1, 2.0),
        (20.0, 45.0, 50.0),
    ],
)
def test_the_smallest_standard_fuse_that_holds(
    on_end_a: float, peak_a: float, rating_a: float
) -> None:
    """[C] standard sizes; a quarter over what flows on end [P: NEC 210.20], a tenth over the
    peak."""
    assert fuse_for(Carried(on_end_a, peak_a)) == rating_a


def test_an_inverters_input_is_more_than_its_watts_over_twelve() -> None:
    """[C] 375 W at 0.90 and 12.0 V take 34.7 A: a 30 A breaker is too small."""
    assert inverter_input_a(375.0, 0.90, 12.0) == pytest.approx(34.7, abs=0.05)


def test_precharge_is_the_closed_form() -> None:
    """V (1 − e^(−t/RC)): 95 % after three time constants, near enough; ½ C V² whatever the ohms."""
    found = precharge(0.010, 12.0, 4.0)
    assert found.wait_s == pytest.approx(3.0 * 0.040, rel=0.002)
    assert 12.0 * (1.0 - math.exp(-found.wait_s / 0.040)) == pytest.approx(0.95 * 12.0)
    assert found.energy_j == pytest.approx(0.72)
    assert found.first_a == pytest.approx(3.0)
    # The same by adding up V²/R as it falls.
    t = np.linspace(0.0, 2.0, 200_001)
    left_v = 12.0 * np.exp(-t / 0.040)
    assert float(np.trapezoid(left_v**2 / 4.0, t)) == pytest.approx(found.energy_j, rel=1e-4)


def test_one_load_of_constant_power_is_the_quadratic() -> None:
    """[closed form] V = (E + √(E² − 4 P R)) / 2 for a load of P watts behind R ohms."""
    network = Network(np.ones((1, 1)), np.array([0.05]), np.zeros(1), 12.0)
    volts, amps = network.settled(
        np.array([12.5]), np.array([0.02]), np.zeros((1, 1)), np.array([[200.0 / 12.0]])
    )
    by_hand = (12.5 + math.sqrt(12.5**2 - 4.0 * 200.0 * 0.07)) / 2.0
    assert float(volts[0, 0]) == pytest.approx(by_hand, abs=1e-5)
    assert float(volts[0, 0] * amps[0, 0]) == pytest.approx(200.0, abs=1e-3)


def test_more_power_than_the_wire_carries_stalls_and_does_not_hang() -> None:
    network = Network(np.ones((1, 1)), np.array([1.0]), np.zeros(1), 12.0)
    volts, _ = network.settled(
        np.array([12.5]), np.array([0.02]), np.zeros((1, 1)), np.array([[50.0]])
    )
    assert 0.0 <= float(volts[0, 0]) < 6.0


@pytest.mark.parametrize("at_the_bus", [True, False])
def test_a_battery_beside_the_sets_is_a_source_of_the_net(at_the_bus: bool) -> None:
    """[closed form] nodal analysis: conductances, currents injected, one linear system, by no code
    of ours.

    Nodes: post, bus, two sets. A battery of 13.0 V behind 25 mΩ at the bus (or at the post), the
    main one of 12.8 V behind 20 mΩ at the post.
    """
    main_ohm, branch_ohm, bank_ohm, beside_ohm = 0.03, np.array([0.04, 0.06]), 0.02, 0.025
    drawn = np.array([[20.0, 1.0], [3.0, 15.0]])
    paths = np.array([[1.0, 1.0, 0.0], [1.0, 0.0, 1.0]])
    network = Network(paths, np.array([main_ohm, *branch_ohm]), np.zeros(3), 12.0)
    way = np.array([[1.0 if at_the_bus else 0.0, 0.0, 0.0]])
    beside = Beside(way, np.full((1, 2), beside_ohm), np.full((1, 2), 13.0))
    volts, _ = network.settled(
        np.full(2, 12.8), np.full(2, bank_ohm), drawn, np.zeros((2, 2)), beside
    )
    given = network.source(np.full(2, 12.8), np.full(2, bank_ohm), beside).beside_a(drawn)
    for case in range(2):
        siemens = np.zeros((4, 4))
        for one, other, ohm in ((0, 1, main_ohm), (1, 2, branch_ohm[0]), (1, 3, branch_ohm[1])):
            siemens[[one, other], [one, other]] += 1.0 / ohm
            siemens[[one, other], [other, one]] -= 1.0 / ohm
        amps = np.array([0.0, 0.0, -drawn[0, case], -drawn[1, case]])
        for node, ohm, rest_v in ((0, bank_ohm, 12.8), (1 if at_the_bus else 0, beside_ohm, 13.0)):
            siemens[node, node] += 1.0 / ohm
            amps[node] += rest_v / ohm
        nodes = np.linalg.solve(siemens, amps)
        assert volts[:, case] == pytest.approx(nodes[2:], abs=1e-9)
        assert given[0, case] == pytest.approx(
            (nodes[1 if at_the_bus else 0] - 13.0) / beside_ohm, abs=1e-9
        )


def test_sizes_are_called_as_the_trade_calls_them() -> None:
    assert [size_name(tradition("nec"), mm2) for mm2 in (5.26, 53.5, 5.0)] == [
        "#10",
        "#1/0",
        "5 mm²",
    ]
    assert size_name(tradition("iec"), 4.0) == "4 mm²"
