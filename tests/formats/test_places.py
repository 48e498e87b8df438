"""Places as people write them."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yonderstat.formats import PlaceTextError, locator_of, read_place


@pytest.mark.parametrize(
    ("text", "latitude", "longitude"),
    [
        ("KP24", 64.5, 25.0),
        ("re66tv", -43.10417, 173.625),
        ("-43.10, 171.60", -43.10, 171.60),
        ("-43.10 171.60", -43.10, 171.60),
        ("−43.10; 171.60", -43.10, 171.60),
        ("43.1 S, 171.6 E", -43.1, 171.6),
        ("S 43.1 E 171.6", -43.1, 171.6),
        ("43°06′S 171°36′E", -43.1, 171.6),
        ("43°06'30\" S, 171°36'00\" E", -43.108333, 171.6),
        ("171.6E 43.1S", -43.1, 171.6),
        ("90 180", 90, 180),
    ],
)
def test_reads(text: str, latitude: float, longitude: float) -> None:
    place = read_place(text)
    assert place.latitude_deg == pytest.approx(latitude, abs=1e-4)
    assert place.longitude_deg == pytest.approx(longitude, abs=1e-4)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "is empty"),
        ("ZZ99", "isn't a grid locator"),
        ("RE6", "isn't a grid locator or coordinates"),
        ("RE56tz9", "isn't a grid locator"),
        ("95 171", "latitude 95"),
        ("-43 181", "longitude 181"),
        ("43 S 171 S", "isn't a grid locator or coordinates"),
        ("43°75′S 171°36′E", "minutes and seconds"),
        ("somewhere nice", "isn't a grid locator or coordinates"),
        ("1" * 200, "longer than"),
        ("43.1S" * 10, "isn't a grid locator or coordinates"),
    ],
)
def test_refuses_in_words(text: str, words: str) -> None:
    with pytest.raises(PlaceTextError, match=words):
        read_place(text)


@settings(deadline=None)
@given(st.floats(-90, 90), st.floats(-180, 180))
def test_a_locator_reads_back_near_where_it_came_from(latitude: float, longitude: float) -> None:
    place = read_place(locator_of(latitude, longitude))
    assert abs(place.latitude_deg - latitude) <= 1.3 / 60
    assert abs(place.longitude_deg - longitude) <= 2.6 / 60
