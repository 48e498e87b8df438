"""Towns by name on real PostgreSQL."""

from collections.abc import Iterator

import pytest
from sqlalchemy import Engine

from tests.conftest import Cluster, create_database
from yonderstat.records import find_towns, load_towns, migrate, open_engine


@pytest.fixture(scope="module")
def towns(cluster: Cluster) -> Iterator[Engine]:
    url = create_database(cluster, "towns")
    migrate(url)
    engine = open_engine(url)
    assert load_towns(engine) > 30_000
    yield engine
    engine.dispose()


def test_a_second_load_does_nothing(towns: Engine) -> None:
    assert load_towns(towns) == 0


@pytest.mark.parametrize(
    ("text", "name", "country"),
    [
        ("Ashburton", "Ashburton", "New Zealand"),
        ("TIMARU", "Timaru", "New Zealand"),
        ("Timaruu", "Timaru", "New Zealand"),
        ("malaga", "Málaga", "Spain"),
        ("Birmingham", "Birmingham", "United Kingdom"),
        ("Birmingham, United States", "Birmingham", "United States"),
    ],
)
def test_the_likeliest_comes_first(towns: Engine, text: str, name: str, country: str) -> None:
    found = find_towns(towns, text)
    assert (found[0].name, found[0].country) == (name, country)


@pytest.mark.parametrize(
    ("text", "name", "known_as"),
    [
        ("Lucerne", "Luzern", "Lucerne"),
        ("cologne, germany", "Köln", "Cologne"),
        ("München", "Munich", "Munchen"),
        ("Florence, It", "Florence", ""),
        ("Peking", "Beijing", "Peking"),
    ],
)
def test_other_spellings_are_known(towns: Engine, text: str, name: str, known_as: str) -> None:
    """[P] GeoNames: what towns are called elsewhere."""
    found = {town.name: town.known_as for town in find_towns(towns, text)}
    assert name in found
    assert found[name] == known_as


def test_of_towns_called_alike_the_larger_comes_first_and_the_nearer_before_it(
    towns: Engine,
) -> None:
    """Birmingham in England is the larger; from Georgia, its namesake in Alabama is meant."""
    from_georgia = find_towns(towns, "Birmingham", near=(33.5, -84.5))
    assert [town.country for town in from_georgia][:2] == ["United States", "United Kingdom"]
    assert find_towns(towns, "Birmingham", near=(51.0, 0.0))[0].country == "United Kingdom"


def test_the_way_round_the_date_line_is_the_short_one(towns: Engine) -> None:
    """Hamilton in New Zealand from Fiji across the line, not its larger namesake in Canada."""
    assert find_towns(towns, "Hamilton", near=(-17.0, -179.5))[0].country == "New Zealand"


def test_where_it_is(towns: Engine) -> None:
    """[P] GeoNames: Timaru at 44.4° S 171.3° E."""
    town = find_towns(towns, "Timaru")[0]
    assert (town.latitude_deg, town.longitude_deg) == pytest.approx((-44.4, 171.25), abs=0.05)


@pytest.mark.parametrize("text", ["", "x", "qqqqzzzz", "%", "'; drop table towns; --", "a" * 500])
def test_nonsense_finds_nothing_and_harms_nothing(towns: Engine, text: str) -> None:
    assert find_towns(towns, text) == []
    assert find_towns(towns, "Timaru")
