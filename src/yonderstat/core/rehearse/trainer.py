"""The trainer: an outage played day by day with the weather hidden, and at the end beside the best
plan."""

from dataclasses import dataclass
from itertools import product
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from ..design import Design, Section
from ..design.base import Slug
from ..station import StationModel
from .kernel import OUT_DEFERRED, OUT_VITAL
from .playing import ALWAYS_SHED, Played, Sheds, Stage, play, stage_at
from .scene import MOST_DAYS, FromADay, Happening, Scene
from .scene_report import SceneReport, report_of
from .station import HOURS, hourly_station

Keep = Literal["all", "no_comfort", "vital_only"]
KEEPS: tuple[Keep, ...] = ("all", "no_comfort", "vital_only")
GENERATOR_FROM = 17


class Evening(Section):
    """What is decided for a day, the evening before."""

    tempo: Slug
    keep: Keep = "all"
    low_power_w: Annotated[float, Field(gt=0, le=2000)] | None = None
    generator_h: Annotated[int, Field(ge=0, le=6)] = 0


class Training(FromADay):
    """An outage to be played; `secret` picks the weather, and nobody sees it."""

    days: Annotated[int, Field(ge=2, le=14)] = 5
    secret: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    generator_a: Annotated[float, Field(ge=0, le=200)] = 0.0
    """What a generator at hand gives; 0 is none."""
    evenings: Annotated[list[Evening], Field(max_length=MOST_DAYS)] = Field(default_factory=list)


@dataclass(frozen=True, slots=True)
class DayTold:
    """What the crew knows at the end of a day."""

    day: int
    left_share: float
    brought_ah: float
    drawn_ah: float
    dark_hours: int


@dataclass(frozen=True, slots=True)
class Plan:
    """A whole run: its dark hours, what it served, what it left."""

    words: str
    dark_hours: int
    served_ah: float
    left_share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TrainerReport:
    """The run so far. `mine`, `best` and `whole` only once it is over."""

    days_played: int
    over: bool
    told: tuple[DayTold, ...]
    sentence: str
    mine: Plan | None
    best: Plan | None
    whole: SceneReport | None


def _scene(training: Training, evenings: list[Evening]) -> Scene:
    """The days decided so far as a scene."""
    happenings = []
    for number, evening in enumerate(evenings):
        first = number * HOURS
        if evening.low_power_w is not None:
            happenings.append(
                Happening(
                    kind="low_power", from_h=first, to_h=first + HOURS, amount=evening.low_power_w
                )
            )
        if evening.generator_h > 0 and training.generator_a > 0:
            start = first + GENERATOR_FROM
            end = start + evening.generator_h
            happenings.append(
                Happening(kind="generator", from_h=start, to_h=end, amount=training.generator_a)
            )
    return Scene(
        month=training.month,
        day=training.day,
        days=len(evenings),
        tempos=[evening.tempo for evening in evenings],
        happenings=happenings,
    )


def _sheds(evenings: list[Evening]) -> Sheds:
    useful = np.array(
        [ALWAYS_SHED if evening.keep == "vital_only" else 0.0 for evening in evenings]
    )
    comfort = np.array([0.0 if evening.keep == "all" else ALWAYS_SHED for evening in evenings])
    return Sheds(useful, comfort)


def _played(design: Design, stage: Stage, training: Training, evenings: list[Evening]) -> Played:
    scene = _scene(training, evenings)
    part = stage_at(stage.station, scene, stage.year)
    return play(design, part, scene, sheds=_sheds(evenings))


def _plan(words: str, played: Played) -> Plan:
    served = float(played.out[:, OUT_VITAL : OUT_DEFERRED + 1].sum())
    return Plan(words, int(played.dark.sum()), served, float(played.share[-1]))


KEEP_WORDS = {
    "all": "everything on",
    "no_comfort": "nice-to-have loads off",
    "vital_only": "only vital loads",
}
SWITCH_SHARES = (0.0, 0.4, 0.6, 0.8)


def _policies(
    design: Design, training: Training
) -> list[tuple[str, tuple[Evening, Evening, float]]]:
    """Simple rules of rationing: a way while there is plenty, another below a share in the
    evening."""
    ways = [
        (f"{tempo.name}, {KEEP_WORDS[keep]}", Evening(tempo=tempo.id, keep=keep))
        for tempo, keep in product(design.draw.tempos, KEEPS)
    ]
    found = []
    for (first_words, first), (second_words, second) in product(ways, ways):
        for share in SWITCH_SHARES:
            if share == 0.0:
                if first is second:
                    found.append((first_words, (first, second, share)))
            elif first is not second:
                words = (
                    f"{first_words}; if less than {share * 100:.0f} % is left in the evening, "
                    f"{second_words}"
                )
                found.append((words, (first, second, share)))
    return found


Way = tuple[str, Keep]
"""How a day is worked by a rule: tempo, and what is kept on."""


def _best(design: Design, stage: Stage, training: Training) -> Plan:
    """The rule with fewest dark hours, and of those the one that serves most."""
    known: dict[tuple[Way, ...], Played] = {}

    def so_far(evenings: list[Evening]) -> Played:
        """Played once, though many rules begin alike."""
        ways = tuple((evening.tempo, evening.keep) for evening in evenings)
        if ways not in known:
            known[ways] = _played(design, stage, training, evenings)
        return known[ways]

    def by(policy: tuple[Evening, Evening, float]) -> Played:
        """Play a rule to the end: every evening it looks at the bank, as the crew does."""
        plenty, scarce, share = policy
        evenings = [plenty]
        while len(evenings) < training.days:
            evenings.append(scarce if float(so_far(evenings).share[-1]) < share else plenty)
        return so_far(evenings)

    plans = [_plan(words, by(policy)) for words, policy in _policies(design, training)]
    return min(plans, key=lambda plan: (plan.dark_hours, -plan.served_ah))


def _told(played: Played, days: int) -> tuple[DayTold, ...]:
    rows = []
    for day in range(days):
        part = slice(day * HOURS, (day + 1) * HOURS)
        rows.append(
            DayTold(
                day + 1,
                float(played.share[part][-1]),
                float(played.panels_a[part].sum()),
                float(played.out[part, OUT_VITAL : OUT_DEFERRED + 1].sum()),
                int(played.dark[part].sum()),
            )
        )
    return tuple(rows)


def _verdict(mine: Plan, best: Plan) -> str:
    if mine.dark_hours > best.dark_hours:
        return (
            f"You were off the air for {mine.dark_hours} hours. With “{best.words}” it "
            f"would have been {best.dark_hours}."
        )
    # Between the figures as they are shown: their difference is what a reader works out.
    more = round(best.served_ah) - round(mine.served_ah)
    if more > 0.02 * best.served_ah:
        mine_left, best_left = round(100 * mine.left_share), round(100 * best.left_share)
        kept = (
            f", but left only {best_left} % in the battery; you have {mine_left} %"
            if mine_left > best_left
            else ""
        )
        return (
            f"You were off the air no longer than with the best rule, “{best.words}”. That "
            f"rule gave the loads {more} Ah more{kept}."
        )
    return "As good as the best simple rule, or better."


def train(design: Design, training: Training) -> TrainerReport | None:
    """The outage as far as it is decided; None where the design cannot be rehearsed."""
    station = hourly_station(StationModel(design))
    if station is None:
        return None
    whole = Scene(month=training.month, day=training.day, days=training.days)
    stage = stage_at(station, whole, training.secret % station.years)
    evenings = training.evenings[: training.days]
    if not evenings:
        return TrainerReport(
            days_played=0,
            over=False,
            told=(),
            sentence="The mains have failed. How will you run the first day?",
            mine=None,
            best=None,
            whole=None,
        )
    played = _played(design, stage, training, evenings)
    told = _told(played, len(evenings))
    if len(evenings) < training.days:
        sentence = (
            f"Evening of day {len(evenings)}: {told[-1].left_share * 100:.0f} % of the "
            "usable charge is left."
        )
        return TrainerReport(
            days_played=len(evenings),
            over=False,
            told=told,
            sentence=sentence,
            mine=None,
            best=None,
            whole=None,
        )
    mine = _plan("Your run", played)
    best = _best(design, stage, training)
    scene = _scene(training, evenings)
    return TrainerReport(
        days_played=len(evenings),
        over=True,
        told=told,
        sentence=_verdict(mine, best),
        mine=mine,
        best=best,
        whole=report_of(design, scene, played, saving=False),
    )
