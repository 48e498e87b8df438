"""Sites, designs and their revisions."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0001"
down_revision = None


def upgrade() -> None:
    now = sa.func.now()
    stamp = sa.DateTime(timezone=True)
    op.create_table(
        "sites",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("created_at", stamp, server_default=now, nullable=False),
        sa.Column("deleted_at", stamp),
    )
    op.create_table(
        "designs",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "site_id", sa.Uuid(), sa.ForeignKey("sites.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("as_built", sa.Boolean(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("created_at", stamp, server_default=now, nullable=False),
    )
    op.create_index(
        "one_as_built", "designs", ["site_id"], unique=True, postgresql_where=sa.text("as_built")
    )
    op.create_index("designs_by_site", "designs", ["site_id", "position"])
    op.create_table(
        "revisions",
        sa.Column(
            "design_id",
            sa.Uuid(),
            sa.ForeignKey("designs.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("action", sa.Text(), nullable=False),
        sa.Column("parent", sa.Integer()),
        sa.Column("restores", sa.Integer()),
        sa.Column("document", JSONB(), nullable=False),
        sa.Column("created_at", stamp, server_default=now, nullable=False),
        sa.CheckConstraint("action in ('create', 'edit', 'undo', 'redo')", name="known_action"),
    )
    op.create_table(
        "created",
        sa.Column("key", sa.Text(), primary_key=True),
        sa.Column("resource_id", sa.Uuid(), nullable=False),
        sa.Column("created_at", stamp, server_default=now, nullable=False),
    )


def downgrade() -> None:
    for table in ("created", "revisions", "designs", "sites"):
        op.drop_table(table)
