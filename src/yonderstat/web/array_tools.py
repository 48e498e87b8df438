"""What the Array step is asked on the spot: which strings fit."""

from uuid import UUID

from sqlalchemy import Engine

from yonderstat.core.array import Bench, strings_that_fit
from yonderstat.core.climate import equator_azimuth_deg
from yonderstat.core.design import PanelString
from yonderstat.core.station import StationModel
from yonderstat.records import Archive, ShelfBook

from .api import Api
from .bodies import FitsView
from .judged import report_on


def array_tools_api(archive: Archive, engine: Engine) -> Api:
    """The operations behind the Array step."""
    api, book = Api(), ShelfBook(engine)

    @api.operation(
        "GET", "/api/designs/{design_id}/strings-that-fit", access="read", answer=FitsView
    )
    def read_fits(design_id: UUID) -> FitsView:
        """Panels at hand on controllers at hand, the club's counted in, on the first string's
        plane."""
        stored = archive.design(design_id)
        design, report = stored.design, report_on(stored)
        sky, month = StationModel(design).sky, report.verdict.hard_month
        if sky is None or report.weather is None:
            return FitsView(stored.revision, month, ())
        latitude = sky.here.latitude_deg
        plane = (
            design.array.strings[0]
            if design.array.strings
            else PanelString(
                id="plane",
                name="Plane",
                tilt_deg=abs(latitude),
                azimuth_deg=equator_azimuth_deg(latitude),
            )
        )
        bench = Bench(
            sky=sky,
            plane=plane,
            charge_v=report.working[report.array.charge_v].number,
            absorb_v=report.working["array.absorb_v"].number,
            cold_c=report.working[report.weather.cold_c].number,
            hottest_c=report.working[report.weather.hot_c].number,
            month=month,
        )
        held = book.beside(design, stored.site_id)
        return FitsView(stored.revision, month, strings_that_fit(held, bench))

    return api
