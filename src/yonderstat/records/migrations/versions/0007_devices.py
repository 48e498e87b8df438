"""A site's own place, and what reports from it: devices and their channels, for readings to come."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.add_column("sites", sa.Column("place", postgresql.JSONB()))
    op.create_table(
        "devices",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "site_id", sa.Uuid(), sa.ForeignKey("sites.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()
        ),
        sa.CheckConstraint(
            "kind in ('meter', 'controller', 'monitor', 'sensor')", name="known_kind"
        ),
    )
    op.create_index("devices_by_site", "devices", ["site_id", "created_at"])
    op.create_table(
        "channels",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "device_id", sa.Uuid(), sa.ForeignKey("devices.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("quantity", sa.Text(), nullable=False),
        sa.Column("unit", sa.Text(), nullable=False),
        sa.UniqueConstraint("device_id", "quantity", name="a_quantity_once"),
    )


def downgrade() -> None:
    op.drop_table("channels")
    op.drop_table("devices")
    op.drop_column("sites", "place")
