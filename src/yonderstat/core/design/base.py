"""What every section of the design document is built from."""

from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

MAIN = "main"
"""The name of the main bank, wherever the document speaks of banks."""

Basis = Literal["measured", "label", "stated", "default"]
"""How a figure is known: measured on the bench, read off the label, typed by a person, or our own
guess."""


LEAST = 1e-6
"""No meter reads less: a figure above zero but under a millionth of its unit is kept as a
millionth, so that nothing it divides runs past what a number can hold."""


def _readable(value: float) -> float:
    return LEAST if 0.0 < value < LEAST else value


Readable = AfterValidator(_readable)


class Section(BaseModel):
    """A frozen, strict piece of the document: unknown fields and numbers written as text are
    refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False)


class Known(Section):
    """A figure that can be a guess, with how it is known. Subclasses add `value` in the unit of
    their name."""

    basis: Basis = "default"


MOST_A, MOST_AH, MOST_CM2 = 2000.0, 100_000.0, 100_000.0


class KnownAmps(Known):
    value: Annotated[float, Field(ge=0, le=MOST_A, description="A"), Readable]


class KnownAmpHours(Known):
    value: Annotated[float, Field(gt=0, le=MOST_AH, description="A·h"), Readable]


class KnownVolts(Known):
    value: Annotated[float, Field(gt=0, le=1000, description="V"), Readable]


class KnownWatts(Known):
    value: Annotated[float, Field(gt=0, le=100_000, description="W"), Readable]


class KnownIdleWatts(Known):
    value: Annotated[float, Field(ge=0, le=10_000, description="W"), Readable]


class KnownShare(Known):
    value: Annotated[float, Field(ge=0, le=1, description="fraction"), Readable]


class KnownUsableShare(Known):
    value: Annotated[float, Field(gt=0, le=1, description="fraction"), Readable]


class KnownHours(Known):
    value: Annotated[float, Field(ge=0, le=24, description="h a day"), Readable]


class KnownDays(Known):
    value: Annotated[float, Field(gt=0, le=366, description="d"), Readable]


class KnownCelsius(Known):
    value: Annotated[float, Field(ge=-70, le=80, description="°C")]


class KnownMetres(Known):
    value: Annotated[float, Field(ge=-450, le=9000, description="m")]


class KnownPrice(Known):
    value: Annotated[float, Field(ge=0, le=100, description="money per kW·h"), Readable]


class KnownWattHours(Known):
    value: Annotated[float, Field(gt=0, le=1_000_000, description="W·h"), Readable]


class KnownYears(Known):
    value: Annotated[float, Field(ge=0, le=60, description="years"), Readable]


class KnownKilos(Known):
    value: Annotated[float, Field(gt=0, le=20_000, description="kg"), Readable]


class KnownMoney(Known):
    value: Annotated[float, Field(ge=0, le=1_000_000, description="money"), Readable]


class KnownRate(Known):
    value: Annotated[float, Field(gt=0, le=1_000_000, description="money per US dollar"), Readable]


class KnownPercentPerKelvin(Known):
    value: Annotated[float, Field(ge=-2, le=2, description="%/K")]


class KnownLitres(Known):
    value: Annotated[float, Field(gt=0, le=1000, description="l/h"), Readable]


class KnownArea(Known):
    value: Annotated[float, Field(ge=0, le=MOST_CM2, description="cm²"), Readable]


MOST_MM2, MOST_M = 300.0, 5000.0


class KnownLength(Known):
    value: Annotated[float, Field(ge=0, le=MOST_M, description="m"), Readable]


class KnownWire(Known):
    value: Annotated[float, Field(gt=0, le=MOST_MM2, description="mm²"), Readable]


AnyKnown = (
    KnownAmps
    | KnownAmpHours
    | KnownVolts
    | KnownWatts
    | KnownIdleWatts
    | KnownShare
    | KnownUsableShare
    | KnownHours
    | KnownDays
    | KnownCelsius
    | KnownMetres
    | KnownPrice
    | KnownWattHours
    | KnownYears
    | KnownKilos
    | KnownMoney
    | KnownArea
    | KnownLength
    | KnownWire
    | KnownPercentPerKelvin
    | KnownRate
    | KnownLitres
)


def _plain_name(text: str) -> str:
    tidy = text.strip()
    if not tidy:
        raise ValueError("is empty; give it a name")
    if any(ord(char) < 32 or ord(char) == 127 for char in tidy):
        raise ValueError("contains a line break or control character; use plain text")
    return tidy


def _plain_text(text: str) -> str:
    if any(ord(char) < 32 and char not in "\n\t" for char in text):
        raise ValueError("contains a control character; use plain text")
    return text


def _months_once(months: list[int]) -> list[int]:
    if len(set(months)) != len(months):
        raise ValueError("names a month twice")
    return sorted(months)


Name = Annotated[str, Field(max_length=120), AfterValidator(_plain_name)]
Words = Annotated[str, AfterValidator(_plain_text)]
Slug = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,47}$")]
Months = Annotated[
    list[Annotated[int, Field(ge=1, le=12)]],
    Field(min_length=1, max_length=12),
    AfterValidator(_months_once),
]


def all_year() -> list[int]:
    """The months 1 to 12."""
    return list(range(1, 13))
