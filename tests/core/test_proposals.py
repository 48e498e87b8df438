"""Our own first designs obey our own rules."""

import pytest

from yonderstat.core import evaluate, propose
from yonderstat.core.climate import climate_of
from yonderstat.core.design import Place
from yonderstat.core.purposes import all_purposes

PLACES = {
    "the Southern Alps": (-43.1, 171.6),
    "London": (51.5, -0.1),
    "the equator": (0.0, -78.5),
    "the desert": (33.0, -112.0),
    "the monsoon coast": (19.1, 72.9),
    "the middle of Europe": (50.06, 14.4),
}
KINDS = ("home", "trailer", "go_box", "vehicle", "unattended")


@pytest.mark.parametrize("where", PLACES)
def test_a_proposal_raises_no_stop_and_no_fix(where: str) -> None:
    latitude, longitude = PLACES[where]
    for kind in KINDS:
        for purpose in all_purposes():
            place = Place(latitude_deg=latitude, longitude_deg=longitude)
            grave = [
                item
                for item in evaluate(propose(kind, purpose.purpose, place)).findings  # type: ignore[arg-type]
                if item.severity in {"stop", "fix"}
            ]
            assert not [item.sentence for item in grave], (kind, purpose.purpose)


def test_a_proposal_takes_lead_where_lithium_would_freeze() -> None:
    cold = propose("go_box", "deployment", Place(latitude_deg=49.9, longitude_deg=-97.1))
    warm = propose("go_box", "deployment", Place(latitude_deg=0.0, longitude_deg=-78.5))
    assert climate_of(cold).mean_c.min() < -10.0
    assert (cold.store.bank and cold.store.bank.chemistry) == "agm"
    assert (warm.store.bank and warm.store.bank.chemistry) == "lifepo4"
