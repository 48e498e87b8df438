"""The two axes of a sizing map: whole panels and whole batteries like those at hand."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..changes import Operation, replace
from ..design import Design, PanelString, with_bank, with_string

FloatArray = NDArray[np.float64]

LEAST, MOST = 0.5, 8.0
"""Times what the design has; counts lie evenly on a log scale, and what it has is one of them."""
FEWEST_AT_MOST = 24
"""A map ends no earlier than at so many."""


def counts(now: int, steps: int) -> NDArray[np.int64]:
    """Whole numbers, from half of what there is to eight times.

    Parameters
    ----------
    now : int
        What there is; it is among them.
    steps : int
        About how many, fewer where there are not so many whole numbers.

    Returns
    -------
    ndarray of int
        Counts, least first.
    """
    low, high = max(1, math.ceil(now * LEAST)), max(now * MOST, FEWEST_AT_MOST)
    found = np.round(np.geomspace(low, high, steps)).astype(np.int64)
    return np.unique(np.append(found, now))


def label_watts(string: PanelString) -> float:
    """Label watts of a string's panels."""
    return string.module.watts.value * string.series * string.parallel


@dataclass(frozen=True, slots=True)
class Axes:
    """Panels in parallel on the largest string, the others as they are, and batteries in
    parallel."""

    design: Design
    main: int
    """Which string grows."""
    panels: NDArray[np.int64]
    batteries: NDArray[np.int64]

    @classmethod
    def of(cls, design: Design, steps: int) -> "Axes | None":
        """The axes of a design; None without a bank or panels."""
        bank, strings = design.store.bank, design.array.strings
        if bank is None or not strings:
            return None
        main = max(range(len(strings)), key=lambda index: label_watts(strings[index]))
        return cls(
            design, main, counts(strings[main].parallel, steps), counts(bank.parallel, steps)
        )

    @property
    def string(self) -> PanelString:
        """The string that grows."""
        return self.design.array.strings[self.main]

    @property
    def watts(self) -> FloatArray:
        """Label watts of all strings, by column.

        Returns
        -------
        ndarray
            [W]
        """
        one = label_watts(self.string) / self.string.parallel
        others = sum(label_watts(string) for string in self.design.array.strings) - label_watts(
            self.string
        )
        return others + one * self.panels.astype(float)

    @property
    def amp_hours(self) -> FloatArray:
        """Label amp-hours, by row.

        Returns
        -------
        ndarray
            [A·h]
        """
        bank = self.design.store.bank
        assert bank is not None
        return bank.unit_ah.value * self.batteries.astype(float)

    @property
    def here(self) -> tuple[int, int]:
        """Row and column of what the design has."""
        bank = self.design.store.bank
        assert bank is not None
        row = int(np.flatnonzero(self.batteries == bank.parallel)[0])
        return row, int(np.flatnonzero(self.panels == self.string.parallel)[0])

    def scales(self) -> tuple[FloatArray, FloatArray]:
        """Times what the design has.

        Returns
        -------
        tuple of ndarray
            Banks by row, panels by column.
        """
        row, column = self.here
        return self.amp_hours / self.amp_hours[row], self.watts / self.watts[column]

    def built(self, row: int, column: int) -> Design:
        """The design of a cell."""
        design = with_string(self.design, self.main, parallel=int(self.panels[column]))
        return with_bank(design, parallel=int(self.batteries[row]))

    def patch(self, row: int, column: int) -> list[Operation]:
        """What makes it of the design."""
        return [
            replace(f"/array/strings/{self.main}/parallel", int(self.panels[column])),
            replace("/store/bank/parallel", int(self.batteries[row])),
        ]
