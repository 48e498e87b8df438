"""What must hold for any design: more of a good thing never hurts, and documents survive the round
trip."""

import json

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter

from tests.samples import (
    ah,
    harrier_ridge,
    load,
    quay_street,
    station,
    with_bank,
    with_loads,
    with_string,
)
from yonderstat.core import Report, evaluate, propose
from yonderstat.core.design import (
    Bank,
    Design,
    KnownCelsius,
    KnownUsableShare,
    Place,
    Store,
    design_from_document,
    design_from_json,
    document_of,
)
from yonderstat.core.draw import peak_a

QUICK = settings(max_examples=12, deadline=None)
amps = st.floats(0.0, 50.0)
shares = st.floats(0.0, 1.0)
chemistries = st.sampled_from(["flooded", "agm", "gel", "lifepo4", "nmc", "starting"])


def days(design: Design) -> float:
    report = evaluate(design)
    assert report.store is not None
    value = report.working[report.store.days_without_sun].value
    return float("inf") if value is None else value


@QUICK
@given(amps, amps, shares, st.floats(0, 24))
def test_more_load_never_raises_autonomy(
    receive: float, transmit: float, share: float, hours: float
) -> None:
    before = quay_street()
    extra = load("extra", receive, transmit_a=transmit, transmit_share=share, hours_per_day=hours)
    assert days(with_loads(before, *before.draw.loads, extra)) <= days(before) + 1e-9


@QUICK
@given(st.integers(1, 6), st.integers(1, 6), st.sampled_from(["pwm", "mppt"]), st.floats(0, 90))
def test_more_panel_never_lowers_harvest(few: int, more: int, controller: str, tilt: float) -> None:
    base = with_string(harrier_ridge(), controller=controller, tilt_deg=tilt)
    one = evaluate(with_string(base, parallel=min(few, few + more)))
    two = evaluate(with_string(base, parallel=few + more))
    for small, large in zip(one.array.harvest_ah, two.array.harvest_ah, strict=True):
        assert two.working[large].number >= one.working[small].number
    shares = [
        (a.share, b.share) for a, b in zip(one.verdict.months, two.verdict.months, strict=True)
    ]
    assert all(two.working[b].number >= one.working[a].number for a, b in shares if a and b)


@QUICK
@given(st.integers(1, 8), st.integers(1, 8), st.floats(1, 500), st.floats(2, 24), chemistries)
def test_series_adds_volts_and_parallel_adds_amp_hours(
    series: int, parallel: int, unit_ah: float, unit_v: float, chemistry: str
) -> None:
    bank = Bank(
        chemistry=chemistry, unit_v=unit_v, unit_ah=ah(unit_ah), series=series, parallel=parallel
    )  # type: ignore[arg-type]
    figures = evaluate(Design(store=Store(bank=bank)))
    assert figures.working["draw.bus_v"].number == series * unit_v
    assert figures.working["store.label_ah"].number == parallel * unit_ah


@QUICK
@given(chemistries, st.floats(-60, 60), st.floats(-60, 60))
def test_colder_never_holds_more_in_the_cold(chemistry: str, one: float, two: float) -> None:
    cold, warm = sorted((one, two))
    base = with_bank(quay_street(), chemistry=chemistry, depth=KnownUsableShare(value=0.5))
    assert days(with_bank(base, cold_c=KnownCelsius(value=cold))) <= days(
        with_bank(base, cold_c=KnownCelsius(value=warm))
    )


@QUICK
@given(st.lists(st.tuples(amps, amps, st.sampled_from(["", "a", "b"])), max_size=6))
def test_interlocks_never_raise_the_peak(parts: list[tuple[float, float, str]]) -> None:
    grouped = [
        load(f"l{n}", rx, transmit_a=tx, interlock=group) for n, (rx, tx, group) in enumerate(parts)
    ]
    free = [item.model_copy(update={"interlock": ""}) for item in grouped]
    assert peak_a(station(*grouped).loads) <= peak_a(station(*free).loads) + 1e-9


@QUICK
@given(
    st.sampled_from(["home", "trailer", "go_box", "vehicle", "unattended"]),
    st.sampled_from(["continuous", "standby", "deployment", "everyday", "mobile"]),
    st.none() | st.tuples(st.floats(-90, 90), st.floats(-180, 180)),
)
def test_any_new_site_has_a_report_that_survives_json(
    kind: str, purpose: str, where: tuple[float, float] | None
) -> None:
    """Total: every kind, purpose and place on Earth gives a report without NaN, and every key leads
    somewhere."""
    place = Place(latitude_deg=where[0], longitude_deg=where[1]) if where else None
    design = propose(kind, purpose, place)  # type: ignore[arg-type]
    assert design_from_document(document_of(design)) == design
    report = json.loads(
        TypeAdapter(Report).dump_json(evaluate(design)),
        parse_constant=lambda name: (_ for _ in ()).throw(ValueError(name)),
    )
    keys = set(report["working"])
    for quantity in report["working"].values():
        assert all(not item["ref"] or item["ref"] in keys for item in quantity["inputs"])
        assert all(
            not item["source"] or item["source"] in report["sources"] for item in quantity["inputs"]
        )
        assert quantity["value"] is not None or quantity["note"]
    assert report["verdict"]["headline"]


def test_document_round_trip_is_exact() -> None:
    for design in (harrier_ridge(), quay_street(), Design()):
        text = json.dumps(document_of(design))
        assert design_from_json(text) == design
        assert document_of(design_from_json(text)) == document_of(design)


def test_evaluate_is_deterministic() -> None:
    assert evaluate(harrier_ridge()) == evaluate(harrier_ridge())
