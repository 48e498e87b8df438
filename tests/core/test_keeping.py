"""What is kept is bounded by bytes: many places make no process grow."""

import random
import threading

import numpy as np

from yonderstat.core import evaluate, forget_places, propose
from yonderstat.core.design import Place
from yonderstat.core.keeping import (
    HOURS,
    HOURS_BYTES,
    PLACES,
    PLACES_BYTES,
    Keeper,
    kept_for_places,
    weight_of,
)


def test_a_weight_is_what_is_held_on_to() -> None:
    array = np.zeros(100_000)
    assert 800_000 <= weight_of(array) < 801_000
    # A view keeps all of its array; the same array twice counts once.
    assert 800_000 <= weight_of(array[:3]) < 801_000
    assert weight_of((array, {"a": array, "b": array[5:]})) < 802_000
    assert weight_of({"words": "x" * 10_000}) > 10_000


def test_the_room_is_never_exceeded_and_the_oldest_goes_first() -> None:
    keeper = Keeper(1_000_000)
    for number in range(50):
        keeper.keep(("a", number), np.zeros(10_000))
        assert keeper.bytes <= 1_000_000
        assert keeper.find(("a", 0))[0]
    assert not keeper.find(("a", 1))[0]
    assert keeper.find(("a", 49))[0]
    keeper.keep(("large",), np.zeros(1_000_000))
    assert not keeper.find(("large",))[0]
    assert keeper.find(("a", 49))[0]
    keeper.forget()
    assert keeper.bytes == 0


def test_what_is_kept_is_not_worked_out_again_and_arguments_count() -> None:
    asked: list[tuple[int, int]] = []

    @kept_for_places
    def added(one: int, other: int = 1) -> int:
        asked.append((one, other))
        return one + other

    assert [added(1), added(1), added(1, 2), added(1, other=2), added(1, other=2)] == [
        2,
        2,
        3,
        3,
        3,
    ]
    assert asked == [(1, 1), (1, 2), (1, 2)]


def test_two_threads_at_once_keep_the_count_right() -> None:
    keeper = Keeper(200_000)

    def work(seed: int) -> None:
        chance = random.Random(seed)
        for _ in range(2_000):
            key = (chance.randrange(40),)
            if not keeper.find(key)[0]:
                keeper.keep(key, np.zeros(1_000))

    threads = [threading.Thread(target=work, args=(seed,)) for seed in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert keeper.bytes == sum(weight for _, weight in keeper._entries.values()) <= 200_000


def test_many_places_stay_within_their_room() -> None:
    forget_places()
    chance = random.Random(3)
    for _ in range(12):
        place = Place(latitude_deg=chance.uniform(-55, 60), longitude_deg=chance.uniform(-120, 150))
        evaluate(propose("unattended", "continuous", place))
        assert PLACES.bytes <= PLACES_BYTES
        assert HOURS.bytes <= HOURS_BYTES
    assert PLACES.bytes > 1_000_000
    assert HOURS.bytes > 1_000_000
    forget_places()
    assert PLACES.bytes == HOURS.bytes == 0
