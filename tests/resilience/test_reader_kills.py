"""The reader and the database are killed in turn while devices are read: what was read is there
once, and true."""

import os
import signal
from pathlib import Path
from typing import Any

import psycopg
import pytest

from tests.resilience.conftest import Installation
from yonderstat.demo.standins import standin_config
from yonderstat.standins import Lived, Station, lived

KILLS = ("reader", "postgres", "reader", "postgres", "reader")
BETWEEN_ROWS = 4
NEAR = {"volts": 0.02, "charge_a": 0.02, "load_a": 0.02, "charge_share": 0.002, "box_c": 0.2}


def _rows(installation: Installation) -> list[tuple[Any, ...]]:
    """The record of the sites that report themselves, from when the stand-ins began."""
    state = installation.state()
    url = state.cluster(Path(state.data_folder)).url
    query = """
        select sites.name, extract(epoch from at)::float8, volts, charge_a, load_a, charge_share, box_c
        from samples join sites on sites.id = site_id where at >= '2026-05-23T18:00:00Z' order by at
    """
    with psycopg.connect(url, connect_timeout=5) as connection:
        return connection.execute(query).fetchall()


def _count(installation: Installation) -> int:
    try:
        return len(_rows(installation))
    except psycopg.Error:
        return -1


def _grown(installation: Installation, since: int) -> int:
    """How many rows there are, once some have come since."""
    installation.until(
        lambda: _count(installation) >= since + BETWEEN_ROWS,
        told=lambda: installation.log("reader"),
    )
    return _count(installation)


@pytest.fixture(scope="module")
def true() -> dict[str, Lived]:
    config = standin_config(1, "")
    ridge, beech = (lived(Station(**row)) for row in config["stations"])
    return {"Harrier Ridge repeater": ridge, "Beech Hut digipeater": beech}


def test_no_reading_is_lost_or_doubled(installation: Installation, true: dict[str, Lived]) -> None:
    seen = 0
    for victim in KILLS:
        seen = _grown(installation, seen)
        os.kill(installation.pid_of(victim), signal.SIGKILL)
    _grown(installation, seen)

    rows = _rows(installation)
    assert len({row[:2] for row in rows}) == len(rows) >= len(KILLS) * BETWEEN_ROWS
    names = ("volts", "charge_a", "load_a", "charge_share", "box_c")
    for site, at_s, *values in rows:
        state = true[site].at(at_s)
        for name, value in zip(names, values, strict=True):
            # A device tells whole seconds and its monitor a moment later: half a minute of theirs
            # at their speed.
            around = [
                getattr(true[site].at(at_s + late_s), name) for late_s in (-60.0, 0.0, 60.0, 120.0)
            ]
            low, high = min(around) - NEAR[name], max(around) + NEAR[name]
            assert low <= value <= high, (site, at_s, name, value, state)
    spool = installation.work / "spool" / "readings.jsonl"
    installation.until(lambda: spool.stat().st_size == 0 or _count(installation) > len(rows))
    opened = installation.ask("GET", "/api/live")["sites"]
    for site in opened:
        kinds = [alarm["kind"] for alarm in site["alarms"]]
        assert len(set(kinds)) == len(kinds)
