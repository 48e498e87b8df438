"""The verdict: a sentence, twelve months, the weakest link, and the band of energy through the
station."""

from dataclasses import dataclass
from typing import Literal

from ..claim import Claim
from ..working import Key

State = Literal["good", "edge", "short", "unknown"]
Link = Literal["sun", "array", "store", "draw", ""]


@dataclass(frozen=True, slots=True, kw_only=True)
class MonthCell:
    """One month of the strip; `share` is None where the month is not in use or nothing is known."""

    month: int
    in_use: bool
    share: Key | None
    """Of the weather years: vital service, the chance of a spell, or what the sun carries."""
    mean: Key | None
    """The rule of thumb beside it: the same month on its mean sun."""
    state: State | None
    wears: bool = False
    """Whether it stays up only by going under the planned depth."""


@dataclass(frozen=True, slots=True)
class VerdictFigure:
    """A figure under the verdict, with the range that guessed sun and draw leave open where there
    is one."""

    label: str
    key: Key
    low: Key | None = None
    high: Key | None = None
    beside: str = ""
    """A word or two on it: what was asked."""


@dataclass(frozen=True, slots=True)
class Sentence:
    """The verdict in words: a headline, one short line, and the figures they rest on."""

    headline: str
    rest: str
    state: State
    figures: tuple[VerdictFigure, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Verdict:
    """What the design comes to. `figure` is the number its purpose asks for."""

    headline: str
    rest: str
    state: State
    hard_month: int
    weakest: Link
    judged_on: str
    share_of: str
    figure: Key | None
    figures: tuple[VerdictFigure, ...]
    """Three or four, in the order to be read."""
    months: tuple[MonthCell, ...]
    claims: tuple[Claim, ...] = ()
    """What headline, line and figures assert, to be worked out again."""


@dataclass(frozen=True, slots=True, kw_only=True)
class EnergyLine:
    """W·h a day in the hard month, in the direction energy flows. A positive gap is missing, a
    negative one spare."""

    month: int
    sun_hours: Key | None
    sun_wh: Key | None
    array_wh: Key | None
    store_wh: Key | None
    draw_wh: Key
    gap_wh: Key | None
