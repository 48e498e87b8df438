"""What the core says of seventeen stations, down to the figure, is what somebody read and approved.

A change that means to move a figure is shown by `python -m tools.frozen compare` and taken with
`approve`.
"""

import pytest
from tools.frozen import approved, design_of, moved, said_of, stations

STATIONS = stations()


@pytest.mark.parametrize("name", STATIONS)
def test_the_core_says_what_was_approved(name: str) -> None:
    changes = moved(approved(name), said_of(design_of(STATIONS[name])))

    assert not changes, "\n".join(changes[:20])


def test_a_figure_that_moves_is_seen() -> None:
    name, path = next(iter(STATIONS.items()))
    design = design_of(path)
    assert design.store.bank is not None
    bank = design.store.bank.model_copy(update={"series": design.store.bank.series + 1})

    changes = moved(
        approved(name),
        said_of(
            design.model_copy(update={"store": design.store.model_copy(update={"bank": bank})})
        ),
    )

    assert any(line.startswith("report=store.usable") for line in changes)
