"""Findings about the leads from the panels."""

from collections.abc import Iterator

from ...bus import leads_of
from ...changes import replace
from ...claim import less, more
from ...design import with_string
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...words import metres, wire
from ..register import rule
from ..remedies import covering, mending, try_change
from ..severity import holds

MUCH, FAR_TOO_MUCH = 0.03, 0.10


@rule
def lead_too_thin(station: StationModel, report: Report) -> Iterator[Finding]:
    """A lead that loses much of the panels' volts, or that a short of them overheats."""
    for lead in leads_of(station.design, station.bus.book):
        string, at = lead.string, f"/array/strings/{lead.index}/cable_mm2"
        if string.cable_mm2 is None or string.cable_m is None:
            continue
        changed = with_string(station.design, lead.index, cable_mm2=lead.proposed_mm2)
        patch = [replace(at, lead.proposed_mm2)]
        label = f"{wire(lead.proposed_mm2)} for the lead of {string.name}"
        if lead.carries_a < lead.must_carry_a:
            told = less("amps", f"lead {string.id}", lead.carries_a, lead.must_carry_a, "A")
            yield Finding(
                id=f"bus.lead_hot.{string.id}",
                severity="fix",
                step="bus",
                sentence=f"{string.name}: its {wire(lead.mm2)} cable may carry {told.words[0]} "
                f"continuously, but must withstand {told.words[1]}",
                why="Counted as panel cable in the sun, 90 °C insulation in air of 50 °C. Bright "
                "cloud and cold "
                "give more than the label, and for hours; the local code has the last word.",
                pointer=at,
                remedies=(
                    mending(station, label, "withstands what the panels give", changed, patch),
                ),
                claims=(told,),
            )
        elif lead.lost_share > MUCH:
            told = more("share", f"lead {string.id}", 100.0 * lead.lost_share, 100.0 * MUCH, "%")
            grave = lead.lost_share > FAR_TOO_MUCH and not holds(report)
            yield Finding(
                id=f"bus.lead_long.{string.id}",
                severity="fix" if grave else "mind",
                step="bus",
                sentence=f"{string.name}: {metres(string.cable_m.value)} of {wire(lead.mm2)} lose "
                f"{told.words[0]} "
                "of its volts at its best",
                why=f"Aim for {told.words[1]} or less: {lead.lost_v:.1f} V of {lead.volts:.1f} V "
                "are lost in the wire. Use thicker or shorter cable, or put panels in series "
                "behind an MPPT controller: fewer amps then flow.",
                pointer=at,
                remedies=(
                    try_change(
                        station, label, changed, patch, covering(station, report.verdict.hard_month)
                    ),
                ),
                claims=(told,),
            )
