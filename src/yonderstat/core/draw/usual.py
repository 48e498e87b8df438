"""The loads and rails to start from, with the figures usual for their kind, all marked as
guesses."""

from typing import Any

from ..data import rows, rows_by
from ..design import (
    KnownAmps,
    KnownHours,
    KnownIdleWatts,
    KnownShare,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    Load,
    Rail,
)


def _slug(name: str, number: int) -> str:
    letters = "".join(char if char.isascii() and char.isalnum() else "-" for char in name.lower())
    return f"{'-'.join(part for part in letters.split('-') if part)[:40]}-{number}"


def load_of(entry: dict[str, Any], number: int) -> Load:
    """A load of a kind, with what the entry says otherwise."""
    usual = rows_by("load_kinds", "kind")[entry["kind"]]
    transmits = bool(usual["transmit_a"])
    return Load(
        id=_slug(entry["name"], number),
        name=entry["name"],
        kind=entry["kind"],
        receive_a=KnownAmps(value=float(entry.get("receive_a", usual["receive_a"]))),
        transmit_a=KnownAmps(value=float(entry.get("transmit_a", usual["transmit_a"])))
        if transmits
        else None,
        transmit_share=KnownShare(
            value=float(entry.get("transmit_share", usual["transmit_share"]))
        ),
        rated_w=KnownWatts(value=float(entry.get("rated_w", usual["rated_w"])))
        if transmits
        else None,
        mode=entry.get("mode", usual["mode"]) or None,
        behaviour=usual["behaviour"],  # type: ignore[arg-type]
        hours_per_day=KnownHours(value=float(entry.get("hours_per_day", usual["hours_per_day"]))),
        tier=entry.get("tier", usual["tier"]),
        interlock=entry.get("interlock", ""),
    )


def usual_load(kind: str) -> Load:
    """A load of a kind with the figures usual for it, all marked as guesses."""
    return load_of({"kind": kind, "name": rows_by("load_kinds", "kind")[kind]["label"]}, 1)


def usual_rails() -> list[Rail]:
    """The rails to choose from, with usual figures, all marked as guesses."""
    return [
        Rail(
            id=row["rail"],
            name=row["label"],
            kind=row["kind"],  # type: ignore[arg-type]
            volts=KnownVolts(value=float(row["volts"])),
            efficiency=KnownUsableShare(value=float(row["efficiency"])),
            idle_w=KnownIdleWatts(value=float(row["idle_w"])),
            limit_a=KnownAmps(value=float(row["limit_a"])) if row["limit_a"] else None,
            rated_w=KnownWatts(value=float(row["rated_w"])) if row["rated_w"] else None,
        )
        for row in rows("rail_kinds")
    ]
