"""What reports from a site: devices, and the quantities each of them reads."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import Engine, delete, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from .archive import LOCAL, NotFoundError
from .schema import ChannelRow, DeviceRow, SiteRow


@dataclass(frozen=True, slots=True)
class Channel:
    """A quantity a device reads, and its unit: volts in V."""

    id: UUID
    quantity: str
    unit: str


@dataclass(frozen=True, slots=True)
class Device:
    """Something at a site that is read."""

    id: UUID
    name: str
    kind: str
    channels: tuple[Channel, ...]


class Devices:
    """The devices of all sites."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def at(self, site_id: UUID) -> list[Device]:
        """The devices of a site, oldest first."""
        with Session(self._engine) as session:
            there(session, site_id)
            query = (
                select(DeviceRow)
                .where(DeviceRow.site_id == site_id)
                .order_by(DeviceRow.created_at, DeviceRow.id)
            )
            return [_device(session, row) for row in session.scalars(query)]

    def add(
        self,
        site_id: UUID,
        name: str,
        kind: str,
        channels: list[tuple[str, str]],
        actor: str = LOCAL,
    ) -> Device:
        """A new device with its channels: pairs of a quantity and its unit.

        Parameters
        ----------
        kind : str
            What kind of device.
        channels : list of tuple[str, str]
            Pairs of a quantity and its unit.
        actor : str
            Who does it.
        """
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            row = DeviceRow(site_id=site_id, name=name, kind=kind, actor=actor)
            session.add(row)
            session.flush()
            session.add_all(
                ChannelRow(device_id=row.id, quantity=what, unit=unit) for what, unit in channels
            )
            try:
                session.flush()
            except IntegrityError:
                raise ValueError("names a quantity twice; give each once") from None
            return _device(session, row)

    def remove(self, device_id: UUID) -> None:
        """Take a device away, with its channels."""
        with Session(self._engine) as session, session.begin():
            gone = session.execute(
                delete(DeviceRow).where(DeviceRow.id == device_id).returning(DeviceRow.id)
            ).all()
            if not gone:
                raise NotFoundError(f"there is no device {device_id}")


def there(session: Session, site_id: UUID) -> None:
    """Refuse a site that is not there."""
    known = select(SiteRow.id).where(SiteRow.id == site_id, SiteRow.deleted_at.is_(None))
    if session.scalar(known) is None:
        raise NotFoundError(f"there is no site {site_id}")


def _device(session: Session, row: DeviceRow) -> Device:
    channels = session.scalars(
        select(ChannelRow).where(ChannelRow.device_id == row.id).order_by(ChannelRow.quantity)
    )
    return Device(
        row.id,
        row.name,
        row.kind,
        tuple(Channel(item.id, item.quantity, item.unit) for item in channels),
    )
