"""What was read at a site: one line each, as it was said, with what it was taken for."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.create_table(
        "readings",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "site_id", sa.Uuid(), sa.ForeignKey("sites.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("taken_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("said", sa.Text(), nullable=False),
        sa.Column("who", sa.Text(), nullable=False, server_default=""),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("value", sa.Double()),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()
        ),
    )
    op.create_index("readings_by_site", "readings", ["site_id", "taken_at"])


def downgrade() -> None:
    op.drop_table("readings")
