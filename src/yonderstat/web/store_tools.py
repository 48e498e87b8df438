"""What the Store step is asked on the spot: what a reading means, and how long a charge takes."""

from dataclasses import dataclass
from uuid import UUID

from yonderstat.core import Report
from yonderstat.core.design import Bank
from yonderstat.core.store import (
    METER_SHARE,
    Reading,
    charge_low_c,
    charge_range_from_rest,
    charge_times,
    kind_of,
    reading_in_words,
    rest_hours,
)
from yonderstat.core.words import celsius
from yonderstat.records import Archive

from .api import Api, model_fault
from .judged import report_on
from .problems import Problem

MOST_V, MOST_A = 1000.0, 2000.0


@dataclass(frozen=True, slots=True)
class RestView:
    """The charge a resting reading can mean, from least to most, and how long the bank must have
    rested."""

    low_share: float
    high_share: float
    rest_h: float
    words: str


@dataclass(frozen=True, slots=True)
class ChargeView:
    """How a charge goes, or why it does not."""

    bulk_h: float | None
    tail_h: float | None
    knee_share: float | None
    words: str


def _number(name: str, text: str, low: float, high: float) -> float:
    try:
        value = float(text)
    except ValueError:
        raise model_fault(
            f"/{name}", f"{text[:20]!r} is not a number; type one such as 13.1"
        ) from None
    if not low <= value <= high:
        raise model_fault(
            f"/{name}", f"{value:g} is out of range; it must lie between {low:g} and {high:g}"
        )
    return value


def _bank(archive: Archive, design_id: UUID) -> tuple[Bank, Report]:
    stored = archive.design(design_id)
    if stored.design.store.bank is None:
        raise Problem(
            409, "no-bank", "The design has no battery yet; choose one in the step Battery"
        )
    return stored.design.store.bank, report_on(stored)


def _as_taken(report: Report, rested: bool) -> Reading:
    """With an ordinary hand meter, on some day of the year."""
    if report.store is None:
        return Reading(METER_SHARE, rested=rested)
    temperatures = [
        report.working[key].number for key in (*report.store.months_c, report.store.temperature_c)
    ]
    return Reading(METER_SHARE, min(temperatures), max(temperatures), rested)


def store_tools_api(archive: Archive) -> Api:
    """The operations behind the Store step."""
    api = Api()

    @api.operation(
        "GET",
        "/api/designs/{design_id}/rest",
        access="read",
        answer=RestView,
        query=("volts",),
        options=("rested",),
    )
    def read_rest(design_id: UUID, volts: str, rested: str) -> RestView:
        """The charge of the main bank from its resting volts; `rested` is no after a charge or a
        load."""
        bank, report = _bank(archive, design_id)
        if rested not in {"", "yes", "no"}:
            raise model_fault("/rested", f"{rested[:20]!r} is neither yes nor no; type one of them")
        bus_v = report.working[report.draw.bus_v].number
        reading = _as_taken(report, rested != "no")
        low, high = charge_range_from_rest(
            bank.chemistry, bus_v, _number("volts", volts, 0.0, MOST_V), reading
        )
        words = reading_in_words(bank.chemistry, low, high, reading.rested)
        return RestView(low, high, rest_hours(bank.chemistry), words)

    @api.operation(
        "GET",
        "/api/designs/{design_id}/charge",
        access="read",
        answer=ChargeView,
        query=("amps", "from_share"),
    )
    def read_charge(design_id: UUID, amps: str, from_share: str) -> ChargeView:
        """How long a charger of so many amps fills the main bank, in the hard month."""
        bank, report = _bank(archive, design_id)
        current_a, start = (
            _number("amps", amps, 0.0, MOST_A),
            _number("from_share", from_share, 0.0, 1.0),
        )
        store = report.store
        if store is None:
            raise Problem(
                409, "no-bank", "The design has no battery yet; choose one in the step Battery"
            )
        kind, cold_c = kind_of(bank.chemistry), report.working[store.temperature_c].number
        if not kind.is_lead and cold_c < charge_low_c(bank):
            return ChargeView(
                None, None, None, f"At {celsius(cold_c)} it must not be charged: warm it first."
            )
        held_ah = report.working[store.held_share].number * report.working[store.label_ah].number
        times = charge_times(bank, held_ah, start, current_a)
        if times is None:
            return ChargeView(None, None, None, "No current goes in.")
        return ChargeView(
            times.bulk_h,
            times.tail_h,
            times.knee_share,
            f"{times.bulk_h:.1f} h at full current to {times.knee_share * 100:.0f} %, "
            f"then a tail of {times.tail_h:.1f} h.",
        )

    return api
