"""What the tests of the rehearsal share: stations, scenes played, figures read."""

from yonderstat.core.design import (
    Bank,
    Design,
    Layer,
)
from yonderstat.core.rehearse import (
    HourlyStation,
    Scene,
    SceneReport,
    YearsReport,
    hourly_station,
    rehearse,
    years_report,
)
from yonderstat.core.station import StationModel

YEARS = 4


def station(design: Design, years: int = YEARS) -> HourlyStation:
    found = hourly_station(StationModel(design), years)
    assert found is not None
    return found


def played(design: Design, **scene: object) -> SceneReport:
    report = rehearse(design, Scene.model_validate({"month": 7, "day": 10, "days": 3, **scene}))
    assert report is not None
    return report


def dark(report: SceneReport) -> float:
    return report.working[report.dark_hours].number


def value(report: YearsReport, key: str | None) -> float:
    assert key is not None
    return report.working[key].number


def years(design: Design, count: int = YEARS) -> YearsReport:
    found = years_report(design, count)
    assert found is not None
    return found


def with_layer(design: Design, **layer: object) -> Design:
    """A second 100 A·h lithium bank beside the main one."""
    second = Layer.model_validate(
        {
            "id": "second",
            "name": "Go-box",
            "bank": Bank(chemistry="lifepo4", unit_v=12.8),
            **layer,
        }
    )
    return design.model_copy(update={"store": design.store.model_copy(update={"layers": [second]})})
