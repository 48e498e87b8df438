"""Copper against the published tables."""

import pytest

from yonderstat.core.electrical import awg_mm2, copper_ohm_per_m, loop_drop_v, loop_ohm

FOOT_M = 0.3048


@pytest.mark.parametrize(
    ("gauge", "ohm_per_1000_ft"),
    [(14, 2.525), (12, 1.588), (10, 0.999), (8, 0.628), (6, 0.395), (4, 0.2485)],
)
def test_solid_copper_at_20_c(gauge: int, ohm_per_1000_ft: float) -> None:
    """[P] ASTM B258 for the area, IEC 60028 for the copper; the usual wire tables, from memory."""
    assert copper_ohm_per_m(awg_mm2(gauge), 20.0) * 1000.0 * FOOT_M == pytest.approx(
        ohm_per_1000_ft, rel=2e-3
    )


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
def test_warm_copper_lies_just_under_the_codes_stranded_wire(
    gauge: int, ohm_per_1000_ft: float
) -> None:
    """[P] NEC chapter 9 table 8, stranded, 75 °C, from memory: its lay makes a strand 2 % longer
    than the wire."""
    solid = copper_ohm_per_m(awg_mm2(gauge), 75.0) * 1000.0 * FOOT_M
    assert 0.96 * ohm_per_1000_ft < solid < 1.01 * ohm_per_1000_ft


@pytest.mark.parametrize(
    ("area_mm2", "ohm_per_km"),
    [(1.5, 13.3), (4.0, 4.95), (10.0, 1.91), (25.0, 0.780), (70.0, 0.272)],
)
def test_metric_wire_at_20_c(area_mm2: float, ohm_per_km: float) -> None:
    """[P] IEC 60228 class 5 gives the most a wire of a nominal area may have, strands and all, from
    memory."""
    assert 0.80 * ohm_per_km < copper_ohm_per_m(area_mm2, 20.0) * 1000.0 <= ohm_per_km


def test_drop_of_the_handbook() -> None:
    """[P] 2 · L · I · R: 25 ft at 10 A lose 0.99 V in #12 and 0.62 V in #10 at 75 °C, by the
    stranded table."""
    for gauge, lost_v in ((12, 0.99), (10, 0.62)):
        assert loop_drop_v(25 * FOOT_M, awg_mm2(gauge), 10.0, 75.0) == pytest.approx(
            lost_v, rel=0.035
        )


def test_twice_the_length_loses_twice_and_twice_the_copper_half() -> None:
    assert loop_ohm(20.0, 4.0) == pytest.approx(2.0 * loop_ohm(10.0, 4.0))
    assert loop_ohm(10.0, 8.6) == pytest.approx(loop_ohm(10.0, 4.3) / 2.0)
