"""The leads from the panels to their controllers: what they carry and lose, and the conductor that
suits them.

They hang on no battery post and are laid as panel cable is, so they stand beside the schedule of
runs; the copper, the sizes and what a size carries are the same.
"""

from dataclasses import dataclass

from ..array import conductor_a, label_of
from ..design import Design, PanelString
from ..electrical import WARM_C, Tradition, ampacity_a, loop_ohm
from ..working import Input, Key, Quantity, Workings, given, stated, table, used

MOST_SHARE = 0.03
"""What a lead may lose of its panels' volts at their best. [C]"""
LEAD_INSULATION_C, LEAD_AIR_C, LEAD_PAIR = 90.0, 50.0, 2
"""Panel cable lies in the sun and stands 90 °C. [C]"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Lead:
    """A lead whose length is known. Amps and volts are the panels' own at their best point, by the
    label."""

    string: PanelString
    index: int
    amps: float
    volts: float
    must_carry_a: float
    """Half as much again and more than a short of the panels: what the conductor has to stand for
    good."""
    proposed_mm2: float
    mm2: float
    """As typed, else as proposed."""
    lost_v: float
    carries_a: float

    @property
    def lost_share(self) -> float:
        """Of the panels' volts."""
        return self.lost_v / self.volts if self.volts > 0 else 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class LeadFigures:
    """A lead explained."""

    string_id: str
    name: str
    index: int
    length_m: float
    mm2: float
    typed: bool
    proposed_mm2: Key
    amps: Key
    must_carry_a: Key
    lost_v: Key
    lost_share: Key
    ampacity_a: Key


def _carries_a(book: Tradition, mm2: float) -> float:
    return ampacity_a(book, mm2, LEAD_INSULATION_C, LEAD_AIR_C, LEAD_PAIR)


def _lead(string: PanelString, index: int, length_m: float, book: Tradition) -> Lead:
    label = label_of(string.module, string.series)
    amps, volts = label.i_mp * string.parallel, label.v_mp * string.series
    must_a = conductor_a(label, string.parallel)
    fits = (
        size.mm2
        for size in book.sizes
        if size.mm2 >= book.least_mm2 - 1e-9
        and _carries_a(book, size.mm2) >= must_a
        and amps * loop_ohm(length_m, size.mm2, WARM_C) <= MOST_SHARE * volts
    )
    proposed = next(fits, book.sizes[-1].mm2)
    mm2 = string.cable_mm2 or proposed
    # More than all of its volts no lead takes: less then flows than at the panels' best.
    lost_v = min(amps * loop_ohm(length_m, mm2, WARM_C), volts)
    return Lead(
        string=string,
        index=index,
        amps=amps,
        volts=volts,
        must_carry_a=must_a,
        proposed_mm2=proposed,
        mm2=mm2,
        lost_v=lost_v,
        carries_a=_carries_a(book, mm2),
    )


def leads_of(design: Design, book: Tradition) -> tuple[Lead, ...]:
    """Every lead whose length somebody has typed."""
    return tuple(
        _lead(string, index, string.cable_m.value, book)
        for index, string in enumerate(design.array.strings)
        if string.cable_m is not None and string.cable_m.value > 0
    )


def lead_figures(lead: Lead, book: Tradition, workings: Workings) -> LeadFigures:
    string, key, at = lead.string, f"bus.lead.{lead.string.id}", f"/array/strings/{lead.index}"
    assert string.cable_m is not None
    length = given("L", "length one way", string.cable_m, "m", f"{at}/cable_m")
    count = stated("p", "in parallel", string.parallel, "", f"{at}/parallel")

    def add(
        name: str,
        value: float,
        unit: str,
        label: str,
        *,
        formula: str,
        words: str,
        inputs: tuple[Input, ...],
    ) -> Quantity:
        return workings.add(
            f"{key}.{name}",
            value,
            unit,
            label=f"{string.name}: {label}",
            formula=formula,
            words=words,
            inputs=inputs,
            source=SOURCES[name],
        )

    amps = add(
        "amps",
        lead.amps,
        "A",
        "its cable carries",
        formula="I_mp · p",
        words="at the panels' best point",
        inputs=(count,),
    )
    must = add(
        "must_carry_a",
        lead.must_carry_a,
        "A",
        "its cable must withstand",
        formula="1.56 · I_sc · p",
        words="1.25 twice: brighter than the label, and for hours",
        inputs=(count,),
    )
    proposed = add(
        "proposed_mm2",
        lead.proposed_mm2,
        "mm²",
        "lead proposed",
        formula="thinnest with I_z ≥ I and 2 · L · I_mp · R ≤ 3 % · V_mp",
        words=f"of the {book.label} sizes; panel cable at 50 °C of air, 90 °C insulation",
        inputs=(length, used("I", must), used("I_mp", amps)),
    )
    size = (
        stated("A", "conductor", string.cable_mm2, "mm²", f"{at}/cable_mm2")
        if string.cable_mm2
        else used("A", proposed)
    )
    lost = add(
        "lost_v",
        lead.lost_v,
        "V",
        "lost in its lead",
        formula="min(2 · L · I_mp · R/m, V_mp)",
        words="copper there and back at 50 °C",
        inputs=(length, size, used("I_mp", amps)),
    )
    share = add(
        "lost_share",
        lead.lost_share,
        "share",
        "of its volts lost in its lead",
        formula="V / V_mp",
        words="of what the panels work at, by the label",
        inputs=(
            used("V", lost),
            table("V_mp", "panels at their best", lead.volts, "V", "module-class"),
        ),
    )
    carries = add(
        "ampacity_a",
        lead.carries_a,
        "A",
        "what its cable may carry continuously",
        formula="I_table · √((T_c − T_a)/(T_c − 30))",
        words=f"{book.label}; your local code rules",
        inputs=(size,),
    )
    return LeadFigures(
        string_id=string.id,
        name=string.name,
        index=lead.index,
        length_m=string.cable_m.value,
        mm2=lead.mm2,
        typed=string.cable_mm2 is not None,
        proposed_mm2=proposed.key,
        amps=amps.key,
        must_carry_a=must.key,
        lost_v=lost.key,
        lost_share=share.key,
        ampacity_a=carries.key,
    )


SOURCES = {
    "amps": "module-class",
    "must_carry_a": "nec-current",
    "proposed_mm2": "practice",
    "lost_v": "iec-60228",
    "lost_share": "arithmetic",
    "ampacity_a": "nec-310",
}
