"""The tables."""

from datetime import date, datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    REAL,
    CheckConstraint,
    Date,
    DateTime,
    Double,
    ForeignKey,
    Identity,
    Index,
    LargeBinary,
    Text,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Root of all tables."""


class SiteRow(Base):
    """A station: a home, a trailer, a hilltop. Deleting only marks it, so that it can be undone."""

    __tablename__ = "sites"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    place: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    """Where it really stands, once that is not where its design as built says; with its time
    zone."""


class DeviceRow(Base):
    """Something at a site that is read: by a person, or by itself."""

    __tablename__ = "devices"
    __table_args__ = (
        Index("devices_by_site", "site_id", "created_at"),
        CheckConstraint("kind in ('meter', 'controller', 'monitor', 'sensor')", name="known_kind"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("sites.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(Text)
    kind: Mapped[str] = mapped_column(Text)
    actor: Mapped[str] = mapped_column(Text, server_default="local")
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class ChannelRow(Base):
    """One quantity a device reads, in the unit its readings are kept in."""

    __tablename__ = "channels"
    __table_args__ = (UniqueConstraint("device_id", "quantity", name="a_quantity_once"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    device_id: Mapped[UUID] = mapped_column(ForeignKey("devices.id", ondelete="CASCADE"))
    quantity: Mapped[str] = mapped_column(Text)
    unit: Mapped[str] = mapped_column(Text)


class ReadingRow(Base):
    """What was read at a site: the line as it was said, what it was taken for, and its figure."""

    __tablename__ = "readings"
    __table_args__ = (
        Index("readings_by_site", "site_id", "taken_at"),
        Index("a_reading_once", "site_id", "key", unique=True),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("sites.id", ondelete="CASCADE"))
    taken_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    said: Mapped[str] = mapped_column(Text)
    who: Mapped[str] = mapped_column(Text, server_default="")
    actor: Mapped[str] = mapped_column(Text, server_default="local")
    kind: Mapped[str] = mapped_column(Text)
    value: Mapped[float | None] = mapped_column(Double)
    detail: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    """The figures of a guided test: which, of what, and its values."""
    key: Mapped[str | None] = mapped_column(Text)
    """What a phone that was out of reach calls it, so that sending it again makes no second one."""
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class SampleRow(Base):
    """What a meter recorded at a moment; by the minute or faster, so no row has an id of its
    own."""

    __tablename__ = "samples"
    __table_args__ = (
        CheckConstraint("at >= '1970-01-01Z' and at < '2101-01-01Z'", name="within_bounds"),
    )

    site_id: Mapped[UUID] = mapped_column(
        ForeignKey("sites.id", ondelete="CASCADE"), primary_key=True
    )
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), primary_key=True)
    volts: Mapped[float | None] = mapped_column(REAL)
    charge_a: Mapped[float | None] = mapped_column(REAL)
    load_a: Mapped[float | None] = mapped_column(REAL)
    charge_share: Mapped[float | None] = mapped_column(REAL)
    box_c: Mapped[float | None] = mapped_column(REAL)
    import_id: Mapped[int | None]
    """The file it came with; none where a device told it."""


class ImportRow(Base):
    """A file that was brought into a site's record."""

    __tablename__ = "imports"
    __table_args__ = (Index("imports_by_site", "site_id", "created_at"),)

    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("sites.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(Text)
    rows: Mapped[int]
    """How many of its rows were new."""
    first: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    last: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    actor: Mapped[str] = mapped_column(Text, server_default="local")
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class UploadRow(Base):
    """A piece of a file that waits to be read."""

    __tablename__ = "uploads"

    run_id: Mapped[UUID] = mapped_column(
        ForeignKey("runs.id", ondelete="CASCADE"), primary_key=True
    )
    number: Mapped[int] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class EndpointRow(Base):
    """Where a device is reached, by which protocol, and when it last answered."""

    __tablename__ = "endpoints"
    __table_args__ = (
        Index("endpoints_by_site", "site_id"),
        CheckConstraint("protocol in ('sunspec', 'telemetry', 'mqtt')", name="known_protocol"),
    )

    device_id: Mapped[UUID] = mapped_column(
        ForeignKey("devices.id", ondelete="CASCADE"), primary_key=True
    )
    site_id: Mapped[UUID] = mapped_column(ForeignKey("sites.id", ondelete="CASCADE"))
    protocol: Mapped[str] = mapped_column(Text)
    host: Mapped[str] = mapped_column(Text)
    port: Mapped[int]
    unit: Mapped[int] = mapped_column(server_default="1")
    """The Modbus unit behind the address."""
    topic: Mapped[str] = mapped_column(Text, server_default="")
    """Of the broker, for MQTT."""
    heard_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    trouble: Mapped[str] = mapped_column(Text, server_default="")
    """What went wrong when it was asked last; empty where it answered."""


class LiveSiteRow(Base):
    """How a site is watched, what is remembered of it, and what it said last."""

    __tablename__ = "live_sites"

    site_id: Mapped[UUID] = mapped_column(
        ForeignKey("sites.id", ondelete="CASCADE"), primary_key=True
    )
    interval_s: Mapped[float] = mapped_column(Double, server_default="60")
    speed: Mapped[float] = mapped_column(Double, server_default="1")
    """How fast its clock runs against ours: 1, but for stand-ins."""
    quiet_from_h: Mapped[int | None]
    quiet_to_h: Mapped[int | None]
    webhook: Mapped[str] = mapped_column(Text, server_default="")
    mail_to: Mapped[str] = mapped_column(Text, server_default="")
    watching: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    seen: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    forecast: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    device_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    """The newest moment by the site's own clock."""
    asked_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    heard_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class AlarmRow(Base):
    """An alarm from when it was raised until it was cleared; of each kind one is open at a site at
    most."""

    __tablename__ = "alarms"
    __table_args__ = (
        Index("alarms_by_site", "site_id", "raised_at"),
        Index(
            "an_alarm_once",
            "site_id",
            "kind",
            unique=True,
            postgresql_where=text("cleared_at is null"),
        ),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("sites.id", ondelete="CASCADE"))
    kind: Mapped[str] = mapped_column(Text)
    severity: Mapped[str] = mapped_column(Text)
    words: Mapped[str] = mapped_column(Text)
    raised_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    """By the site's own clock."""
    cleared_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    acknowledged_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    acknowledged_by: Mapped[str] = mapped_column(Text, server_default="")
    acknowledged_actor: Mapped[str | None] = mapped_column(Text)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class DeliveryRow(Base):
    """Somebody to be told of an alarm: by a webhook or by mail, tried until it is through or given
    up."""

    __tablename__ = "deliveries"
    __table_args__ = (Index("deliveries_due", "due_at", postgresql_where=text("sent_at is null")),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    alarm_id: Mapped[UUID] = mapped_column(ForeignKey("alarms.id", ondelete="CASCADE"))
    way: Mapped[str] = mapped_column(Text)
    goes_to: Mapped[str] = mapped_column(Text)
    body: Mapped[dict[str, Any]] = mapped_column(JSONB)
    due_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    tries: Mapped[int] = mapped_column(server_default="0")
    sent_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    trouble: Mapped[str] = mapped_column(Text, server_default="")


class ReaderRow(Base):
    """A reader's sign of life, and how many readings wait with it for the database."""

    __tablename__ = "readers"

    name: Mapped[str] = mapped_column(Text, primary_key=True)
    beat_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    waiting: Mapped[int] = mapped_column(server_default="0")


class UpkeepRow(Base):
    """Upkeep that was done at a site."""

    __tablename__ = "upkeep"
    __table_args__ = (Index("upkeep_by_site", "site_id", "done_on"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("sites.id", ondelete="CASCADE"))
    task: Mapped[str] = mapped_column(Text)
    done_on: Mapped[date] = mapped_column(Date)
    who: Mapped[str] = mapped_column(Text)
    actor: Mapped[str] = mapped_column(Text, server_default="local")
    note: Mapped[str] = mapped_column(Text, server_default="")
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class DesignRow(Base):
    """One design of a site; `revision` is the number of its newest revision."""

    __tablename__ = "designs"
    __table_args__ = (
        Index("one_as_built", "site_id", unique=True, postgresql_where=text("as_built")),
        Index("designs_by_site", "site_id", "position"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    site_id: Mapped[UUID] = mapped_column(ForeignKey("sites.id", ondelete="CASCADE"))
    position: Mapped[int]
    as_built: Mapped[bool] = mapped_column(default=False)
    revision: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class RevisionRow(Base):
    """A state of a design, never changed once written.

    `parent` is the revision an edit was made on; `restores` the revision an undo or redo went back
    to.
    """

    __tablename__ = "revisions"
    __table_args__ = (
        CheckConstraint("action in ('create', 'edit', 'undo', 'redo')", name="known_action"),
    )

    design_id: Mapped[UUID] = mapped_column(
        ForeignKey("designs.id", ondelete="CASCADE"), primary_key=True
    )
    number: Mapped[int] = mapped_column(primary_key=True)
    action: Mapped[str] = mapped_column(Text)
    actor: Mapped[str] = mapped_column(Text, server_default="local")
    """Who made it."""
    parent: Mapped[int | None]
    restores: Mapped[int | None]
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    line: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    """What a list of sites shows of it, and with `line_by` which program judged it; both may be
    made again."""
    line_by: Mapped[str | None] = mapped_column(Text)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class ShelfRevisionRow(Base):
    """A state of the club's shelf, never changed once written; `parent` 0 is the empty shelf it
    began as."""

    __tablename__ = "shelf_revisions"
    __table_args__ = (
        CheckConstraint("action in ('edit', 'undo', 'redo')", name="known_shelf_action"),
    )

    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    action: Mapped[str] = mapped_column(Text)
    actor: Mapped[str] = mapped_column(Text, server_default="local")
    parent: Mapped[int | None]
    restores: Mapped[int | None]
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class CreatedRow(Base):
    """What a create with an idempotency key made, so that a repeat gets the same answer."""

    __tablename__ = "created"

    actor: Mapped[str] = mapped_column(Text, primary_key=True, server_default="local")
    """A key is the actor's own: two people may use the same."""
    key: Mapped[str] = mapped_column(Text, primary_key=True)
    asked: Mapped[str] = mapped_column(Text, server_default="")
    """A digest of what was asked: the key is good for that alone."""
    resource_id: Mapped[UUID]
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class TownRow(Base):
    """A town of the packaged gazetteer. `plain` is its name in small letters without accents,
    `spellings` its other names likewise, each on a line of its own between two line ends."""

    __tablename__ = "towns"
    __table_args__ = (
        Index(
            "towns_by_plain",
            "plain",
            postgresql_using="gin",
            postgresql_ops={"plain": "gin_trgm_ops"},
        ),
        Index(
            "towns_by_spelling",
            "spellings",
            postgresql_using="gin",
            postgresql_ops={"spellings": "gin_trgm_ops"},
        ),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    plain: Mapped[str] = mapped_column(Text)
    spellings: Mapped[str] = mapped_column(Text, server_default="")
    country: Mapped[str] = mapped_column(Text)
    latitude_deg: Mapped[float] = mapped_column(Double)
    longitude_deg: Mapped[float] = mapped_column(Double)
    population: Mapped[int]


class RunRow(Base):
    """Long work that was asked for: its kind, of which revision, how far it is, and what came out.

    `updated_at` is the worker's sign of life while it runs.
    """

    __tablename__ = "runs"
    __table_args__ = (
        Index("runs_by_design", "design_id", "revision"),
        CheckConstraint(
            "state in ('waiting', 'running', 'cancelled', 'done', 'impossible', 'failed')",
            name="known_state",
        ),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    design_id: Mapped[UUID] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"))
    revision: Mapped[int]
    kind: Mapped[str] = mapped_column(Text)
    """Its word in the register of jobs: sizing_map."""
    ask: Mapped[dict[str, Any]] = mapped_column(JSONB)
    state: Mapped[str] = mapped_column(Text, default="waiting")
    actor: Mapped[str] = mapped_column(Text, server_default="local")
    progress: Mapped[float] = mapped_column(Double, default=0.0)
    result: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    updated_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
