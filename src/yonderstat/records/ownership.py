"""Which site a thing belongs to: whoever may see the site may see the thing."""

from typing import Any
from uuid import UUID

from sqlalchemy import Engine, Select, select
from sqlalchemy.orm import Session

from .schema import AlarmRow, DesignRow, DeviceRow, ReadingRow, RunRow, SiteRow, UpkeepRow


def _of_run(run_id: UUID) -> Select[Any]:
    of_design = RunRow.design_id == DesignRow.id
    return select(DesignRow.site_id).join(RunRow, of_design).where(RunRow.id == run_id)


OWNERS = {
    "site_id": lambda key: select(SiteRow.id).where(SiteRow.id == key),
    "design_id": lambda key: select(DesignRow.site_id).where(DesignRow.id == key),
    "reading_id": lambda key: select(ReadingRow.site_id).where(ReadingRow.id == key),
    "done_id": lambda key: select(UpkeepRow.site_id).where(UpkeepRow.id == key),
    "device_id": lambda key: select(DeviceRow.site_id).where(DeviceRow.id == key),
    "alarm_id": lambda key: select(AlarmRow.site_id).where(AlarmRow.id == key),
    "run_id": _of_run,
}
"""How the site of a thing is found, by what an address calls the thing."""


def owner_of(engine: Engine, called: str, key: UUID) -> UUID | None:
    """The site a thing belongs to, be it put away or not; None where there is no such thing.

    Parameters
    ----------
    called : str
        What an address calls it: `design_id`.
    key : UUID
        Its id.
    """
    with Session(engine) as session:
        site_id: UUID | None = session.scalar(OWNERS[called](key))
        return site_id
