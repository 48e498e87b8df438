"""Conductors as they are sold: standard sizes, what they resist, and what they carry by the tables
of two traditions.

References
----------
.. [1] NEC 310.16 and 240.4(D), copper, 30 °C; #18 and #16 after 400.5, from memory.
.. [2] IEC 60364-5-52, two loaded copper conductors, method B1, 30 °C, from memory.
"""

import math
from dataclasses import dataclass
from functools import cache, lru_cache

from ..data import rows, rows_by
from ..design import WiringSchool

TERMINALS_COOL_MM2 = 42.5
"""Up to #1, circuits of 100 A and less, terminals are good for 60 °C unless they are marked; above
for 75 °C. NEC 110.14(C), from memory."""
SAME_SIZE = 0.015
"""Labels round: 5.26 and 5.3 mm² are both #10."""


@dataclass(frozen=True, slots=True, kw_only=True)
class WireSize:
    """A standard size. Amps are those of a cable in 30 °C of air, by what its insulation stands."""

    size: str
    mm2: float
    cool_a: float
    warm_a: float
    hot_a: float
    limit_a: float | None
    """The largest fuse a small conductor may have whatever its insulation stands."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Tradition:
    """Whose tables are read. Temperatures are those its columns are for."""

    school: WiringSchool
    label: str
    cool_c: float
    warm_c: float
    hot_c: float
    reference_c: float
    least_mm2: float
    """The thinnest that is strong enough to be laid. [mm²]"""
    source: str
    sizes: tuple[WireSize, ...]


@cache
def tradition(school: WiringSchool) -> Tradition:
    """A tradition by id."""
    row = rows_by("wiring_schools", "school")[school]
    sizes = tuple(
        WireSize(
            size=item["size"],
            mm2=float(item["mm2"]),
            cool_a=float(item["cool_a"]),
            warm_a=float(item["warm_a"]),
            hot_a=float(item["hot_a"]),
            limit_a=float(item["limit_a"]) if item["limit_a"] else None,
        )
        for item in rows("wire_sizes")
        if item["school"] == school
    )
    return Tradition(
        school=school,
        label=row["label"],
        cool_c=float(row["cool_c"]),
        warm_c=float(row["warm_c"]),
        hot_c=float(row["hot_c"]),
        reference_c=float(row["reference_c"]),
        least_mm2=float(row["least_mm2"]),
        source=row["source"],
        sizes=sizes,
    )


def ambient_factor(insulation_c: float, ambient_c: float, reference_c: float = 30.0) -> float:
    """What the air leaves of a table's amps: √((T_c − T_a) / (T_c − 30)); none where it is as
    hot.

    Parameters
    ----------
    insulation_c : float
        The most its insulation stands. [°C]
    ambient_c : float
        The air where it lies. [°C]
    reference_c : float
        The air of the table. [°C]
    """
    return math.sqrt(max(0.0, insulation_c - ambient_c) / (insulation_c - reference_c))


def bundle_factor(school: WiringSchool, conductors: int) -> float:
    """What lying side by side leaves of a table's amps, by the number of conductors that carry
    current."""
    known = [row for row in rows("bundling") if row["school"] == school]
    return next(
        (float(row["factor"]) for row in known if conductors <= float(row["upto"])),
        float(known[-1]["factor"]),
    )


def table_a(book: Tradition, mm2: float, insulation_c: float) -> tuple[float, float | None]:
    """Amps of the table for an area, and the largest fuse of a small conductor [A].

    Between two sizes the smaller one's amps go; under the smallest they fall with the area.

    Parameters
    ----------
    book : Tradition
        The tradition whose table it is.
    mm2 : float
        Area of the conductor. [mm²]
    insulation_c : float
        The most its insulation stands. [°C]
    """
    below = [size for size in book.sizes if size.mm2 <= mm2 * (1.0 + SAME_SIZE)]
    size = below[-1] if below else book.sizes[0]
    share = 1.0 if below else mm2 / size.mm2
    amps = (
        size.hot_a
        if insulation_c >= book.hot_c
        else size.warm_a
        if insulation_c >= book.warm_c
        else size.cool_a
    )
    return amps * share, size.limit_a


def ampacity_a(
    book: Tradition, mm2: float, insulation_c: float, ambient_c: float, conductors: int
) -> float:
    """What a conductor carries for good where it lies [A]: table × air × bundle, within the limit
    of a small one.

    Parameters
    ----------
    book : Tradition
        The tradition whose table it is.
    mm2 : float
        Area of the conductor. [mm²]
    insulation_c : float
        The most its insulation stands. [°C]
    ambient_c : float
        The air where it lies. [°C]
    conductors : int
        How many that carry current lie together.
    """
    return _ampacity_a(book.school, mm2, insulation_c, ambient_c, conductors)


@lru_cache(maxsize=4096)
def _ampacity_a(
    school: WiringSchool, mm2: float, insulation_c: float, ambient_c: float, conductors: int
) -> float:
    book = tradition(school)
    amps, limit = table_a(book, mm2, insulation_c)
    column_c = (
        book.hot_c
        if insulation_c >= book.hot_c
        else book.warm_c
        if insulation_c >= book.warm_c
        else book.cool_c
    )
    left = (
        amps
        * ambient_factor(column_c, ambient_c, book.reference_c)
        * bundle_factor(book.school, conductors)
    )
    if school == "nec":
        # Insulation that stands more serves to make up for heat; what the terminals stand is the
        # end of it [1]_.
        left = min(
            left, table_a(book, mm2, book.cool_c if mm2 <= TERMINALS_COOL_MM2 else book.warm_c)[0]
        )
    return min(left, limit) if limit is not None else left


def size_name(book: Tradition, mm2: float) -> str:
    """What a size is called by a tradition; its area where it is none of its sizes."""
    for size in book.sizes:
        if abs(mm2 / size.mm2 - 1.0) < SAME_SIZE:
            return size.size if book.school == "nec" else f"{size.mm2:g} mm²"
    return f"{mm2:.3g} mm²"
