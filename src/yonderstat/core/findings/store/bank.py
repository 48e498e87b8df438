"""Findings about the bank."""

from collections.abc import Iterator

from ...changes import Change, replace
from ...claim import Claim, less
from ...design import with_bank
from ...draw import MAINS_KINDS
from ...finding import Finding, Severity
from ...rehearse import backup_of
from ...report import Report
from ...station import StationModel
from ...store import below_temperature_table
from ...words import celsius, counted
from ..register import mild_rule, rule
from ..remedies import lasting, parallel_that_lasts, try_change
from ..severity import holds, may_still_be_rehearsed

FAR_SHORT = 0.5


def _more_in_parallel(station: StationModel) -> list[Change]:
    bank, need = station.design.store.bank, parallel_that_lasts(station)
    if bank is None or need is None:
        return []
    label = f"{need} batteries in parallel instead of {bank.parallel}"
    return [
        try_change(
            station,
            label,
            with_bank(station.design, parallel=need),
            [replace("/store/bank/parallel", need)],
            lasting(station),
        )
    ]


@rule
def bank_too_small(station: StationModel, report: Report) -> Iterator[Finding]:
    """The bank against the days asked without sun: asked of a station that stays up, or that has
    nothing else."""
    rehearsed = report.rehearsed is not None or may_still_be_rehearsed(station, report)
    if station.bank is None or (not station.purpose.all_year and rehearsed):
        # Days away, or without mains, are days with the weather there is: the weather years judge
        # them.
        return
    days, asked = station.days_without_sun(station.hard_month), station.asked_days
    if days is None:
        return
    if days >= asked:
        yield Finding(
            id="store.lasts",
            severity="good",
            step="store",
            sentence=f"Lasts {counted(days, 'day', 1)} without sun; you asked for {asked:g}",
            why="Usable amp-hours divided by what you use in a day of the worst month.",
            claims=(Claim(kind="lasts", of=str(station.hard_month), value=days, unit="days"),),
        )
        return
    told = less("lasts", str(station.hard_month), days, asked, "days")
    yield Finding(
        id="store.too_small",
        severity="stop" if days < FAR_SHORT * asked and not holds(report) else "fix",
        step="store",
        sentence=(
            f"Lasts only {told.words[0].removesuffix(' days')} of the "
            f"{counted(asked, 'day', 2)} without sun you asked for"
        ),
        why=(
            "Age, cold, fast discharge and the reserve that must stay in all take from the "
            "label's amp-hours. The waterfall chart in Battery shows each step."
        ),
        pointer="/store/bank/parallel",
        remedies=tuple(_more_in_parallel(station)),
        claims=(told,),
    )


@rule
def depth_beyond_default(station: StationModel, report: Report) -> Iterator[Finding]:
    """A depth set deeper than what the chemistry usually takes in this use."""
    bank, store = station.design.store.bank, report.store
    if bank is None or store is None or bank.depth is None:
        return
    usual = report.working[store.default_depth].number
    if bank.depth.value <= usual + 1e-9:
        return
    yield Finding(
        id="store.too_deep",
        severity="fix",
        step="store",
        sentence=f"Uses {bank.depth.value:.0%} of the battery; {usual:.0%} is usual".replace(
            "%", " %"
        ),
        why=(
            "Deeper cycles take years off a battery's life, most of all with lead. Going "
            "deeper is accepted where outages are rare."
        ),
        pointer="/store/bank/depth",
        remedies=(
            try_change(
                station,
                f"Set it back to {usual * 100:.0f} %",
                with_bank(station.design, depth=None),
                [replace("/store/bank/depth", None)],
                lasting(station),
            ),
        ),
    )


@rule
def night_too_long(station: StationModel, report: Report) -> Iterator[Finding]:
    """The longest night against the store."""
    share = report.number(report.night.share) if report.night else None
    if share is None or share <= 1.0:
        return
    severity: Severity
    takes = f"The longest night takes {share * 100:.0f} % of the battery's usable charge"
    charger = backup_of(station.design, station.array.absorb_v)
    if charger is not None and charger.kind in MAINS_KINDS:
        severity, then, why = (
            "mind",
            "the mains take over before dawn",
            "By then the usable charge is gone.",
        )
    elif holds(report):
        severity, then, why = (
            "mind",
            "too much on the coldest days only",
            "On a usual night, shorter or warmer, the battery lasts.",
        )
    else:
        # Where a spell must be carried it is dark on the first night; one that stays up says by its
        # years how often.
        severity, then = "stop", "no power before dawn"
        why = (
            "The day's sun may cover the day's use, and the station can still lose power at night."
        )
    yield Finding(
        id="store.night",
        severity=severity,
        step="store",
        sentence=f"{takes}: {then}",
        why=f"{why} This counts loads at the hours you entered, or else their usual hours.",
        pointer="/store/bank/parallel",
    )


@mild_rule
def below_the_table(station: StationModel, report: Report) -> Iterator[Finding]:
    """A bank colder than the published figures reach."""
    bank, store = station.design.store.bank, report.store
    if bank is None or store is None:
        return
    temperature_c = report.working[store.temperature_c].number
    if below_temperature_table(bank.chemistry, temperature_c):
        yield Finding(
            id="store.below_table",
            severity="mind",
            step="store",
            sentence=(
                f"At {celsius(temperature_c)} the battery is colder than the published figures "
                "cover"
            ),
            why="The capacity shown here is an extrapolation.",
            pointer="/store/bank/cold_c",
        )


@rule
def no_bank(station: StationModel, report: Report) -> Iterator[Finding]:
    """Nothing to store energy in."""
    if station.design.store.bank is None:
        yield Finding(
            id="store.none",
            severity="stop",
            step="store",
            sentence="No battery yet",
            why=(
                "Without a battery nothing runs after sunset, and a panel alone cannot power a "
                "transmitter."
            ),
            pointer="/store/bank",
        )
