"""The log grows: figures of a guided test, what a meter recorded by the minute, and upkeep that was done."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.add_column("readings", sa.Column("detail", JSONB()))
    op.add_column("readings", sa.Column("key", sa.Text()))
    op.create_index("a_reading_once", "readings", ["site_id", "key"], unique=True)
    op.create_table(
        "samples",
        sa.Column(
            "site_id", sa.Uuid(), sa.ForeignKey("sites.id", ondelete="CASCADE"), primary_key=True
        ),
        sa.Column("at", sa.DateTime(timezone=True), primary_key=True),
        sa.Column("volts", sa.REAL()),
        sa.Column("charge_a", sa.REAL()),
        sa.Column("load_a", sa.REAL()),
        sa.Column("charge_share", sa.REAL()),
        sa.Column("box_c", sa.REAL()),
    )
    op.create_table(
        "upkeep",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "site_id", sa.Uuid(), sa.ForeignKey("sites.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("task", sa.Text(), nullable=False),
        sa.Column("done_on", sa.Date(), nullable=False),
        sa.Column("who", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False, server_default=""),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()
        ),
    )
    op.create_index("upkeep_by_site", "upkeep", ["site_id", "done_on"])


def downgrade() -> None:
    op.drop_table("upkeep")
    op.drop_table("samples")
    op.drop_index("a_reading_once", "readings")
    op.drop_column("readings", "key")
    op.drop_column("readings", "detail")
