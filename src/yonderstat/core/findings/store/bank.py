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
    label = f"{need} in parallel in place of {bank.parallel}"
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
            sentence=f"Lasts {counted(days, 'day', 1)} without sun, {asked:g} asked",
            why="Usable amp-hours over the day's draw in the hard month.",
            claims=(Claim(kind="lasts", of=str(station.hard_month), value=days, unit="days"),),
        )
        return
    told = less("lasts", str(station.hard_month), days, asked, "days")
    yield Finding(
        id="store.too_small",
        severity="stop" if days < FAR_SHORT * asked and not holds(report) else "fix",
        step="store",
        sentence=(
            f"Lasts {told.words[0].removesuffix(' days')} of the {counted(asked, 'day', 2)} "
            "asked without sun"
        ),
        why=(
            "Usable is the label less age, rate, cold and the part that should stay in: see "
            "the waterfall."
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
        sentence=f"Takes out {bank.depth.value:.0%} where {usual:.0%} is usual".replace("%", " %"),
        why=(
            "Deeper cycles cost years of life; lead suffers most. Deeper is accepted where "
            "outages are rare."
        ),
        pointer="/store/bank/depth",
        remedies=(
            try_change(
                station,
                f"Back to {usual * 100:.0f} %",
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
    takes = f"The longest night takes {share * 100:.0f} % of what the bank holds"
    charger = backup_of(station.design, station.array.absorb_v)
    if charger is not None and charger.kind in MAINS_KINDS:
        severity, then, why = (
            "mind",
            "the mains take over before dawn",
            "What is left in it is used up by then.",
        )
    elif holds(report):
        severity, then, why = (
            "mind",
            "too much on the coldest days",
            "The usual night is shorter or warmer, and holds.",
        )
    else:
        # Where a spell must be carried it is dark on the first night; one that stays up says by its
        # years how often.
        severity, then = "stop", "dark before dawn"
        why = "A day's sum can close and the station still go dark at night."
    yield Finding(
        id="store.night",
        severity=severity,
        step="store",
        sentence=f"{takes}: {then}",
        why=f"{why} Loads run in their given or usual hours.",
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
                f"At {celsius(temperature_c)} the bank is colder than the published figures reach"
            ),
            why="What it holds there is extrapolated.",
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
            sentence="There is no battery",
            why=(
                "Without a bank nothing runs after sunset, and a panel alone cannot feed a "
                "transmitter."
            ),
            pointer="/store/bank",
        )
