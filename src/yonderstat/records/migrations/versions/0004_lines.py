"""Each revision's line on the list of sites, by which program it was judged; what a create key was used for."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.add_column("revisions", sa.Column("line", JSONB(none_as_null=True)))
    op.add_column("revisions", sa.Column("line_by", sa.Text()))
    op.add_column("created", sa.Column("asked", sa.Text(), nullable=False, server_default=""))


def downgrade() -> None:
    op.drop_column("created", "asked")
    op.drop_column("revisions", "line_by")
    op.drop_column("revisions", "line")
