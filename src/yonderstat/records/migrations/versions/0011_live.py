"""Sites that report themselves: where their devices are reached, what is watched, alarms, and who is told."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0011"
down_revision = "0010"


def _site(primary_key: bool = False) -> sa.Column[object]:
    return sa.Column(
        "site_id",
        sa.Uuid(),
        sa.ForeignKey("sites.id", ondelete="CASCADE"),
        nullable=False,
        primary_key=primary_key,
    )


def upgrade() -> None:
    op.create_table(
        "endpoints",
        sa.Column(
            "device_id",
            sa.Uuid(),
            sa.ForeignKey("devices.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        _site(),
        sa.Column("protocol", sa.Text(), nullable=False),
        sa.Column("host", sa.Text(), nullable=False),
        sa.Column("port", sa.Integer(), nullable=False),
        sa.Column("unit", sa.Integer(), nullable=False, server_default="1"),
        sa.Column("topic", sa.Text(), nullable=False, server_default=""),
        sa.Column("heard_at", sa.DateTime(timezone=True)),
        sa.Column("trouble", sa.Text(), nullable=False, server_default=""),
        sa.CheckConstraint("protocol in ('sunspec', 'telemetry', 'mqtt')", name="known_protocol"),
    )
    op.create_index("endpoints_by_site", "endpoints", ["site_id"])
    op.create_table(
        "live_sites",
        _site(primary_key=True),
        sa.Column("interval_s", sa.Double(), nullable=False, server_default="60"),
        sa.Column("speed", sa.Double(), nullable=False, server_default="1"),
        sa.Column("quiet_from_h", sa.Integer()),
        sa.Column("quiet_to_h", sa.Integer()),
        sa.Column("webhook", sa.Text(), nullable=False, server_default=""),
        sa.Column("mail_to", sa.Text(), nullable=False, server_default=""),
        sa.Column("watching", JSONB()),
        sa.Column("seen", JSONB()),
        sa.Column("forecast", JSONB()),
        sa.Column("device_at", sa.DateTime(timezone=True)),
        sa.Column("asked_at", sa.DateTime(timezone=True)),
        sa.Column("heard_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "alarms",
        sa.Column("id", sa.Uuid(), primary_key=True),
        _site(),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("severity", sa.Text(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("raised_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("cleared_at", sa.DateTime(timezone=True)),
        sa.Column("acknowledged_at", sa.DateTime(timezone=True)),
        sa.Column("acknowledged_by", sa.Text(), nullable=False, server_default=""),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()
        ),
    )
    op.create_index("alarms_by_site", "alarms", ["site_id", "raised_at"])
    op.create_index(
        "an_alarm_once",
        "alarms",
        ["site_id", "kind"],
        unique=True,
        postgresql_where=sa.text("cleared_at is null"),
    )
    op.create_table(
        "deliveries",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "alarm_id", sa.Uuid(), sa.ForeignKey("alarms.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("way", sa.Text(), nullable=False),
        sa.Column("goes_to", sa.Text(), nullable=False),
        sa.Column("body", JSONB(), nullable=False),
        sa.Column("due_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("tries", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("sent_at", sa.DateTime(timezone=True)),
        sa.Column("trouble", sa.Text(), nullable=False, server_default=""),
    )
    op.create_index(
        "deliveries_due", "deliveries", ["due_at"], postgresql_where=sa.text("sent_at is null")
    )
    op.create_table(
        "readers",
        sa.Column("name", sa.Text(), primary_key=True),
        sa.Column("beat_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("waiting", sa.Integer(), nullable=False, server_default="0"),
    )


def downgrade() -> None:
    for table in ("readers", "deliveries", "alarms", "live_sites", "endpoints"):
        op.drop_table(table)
