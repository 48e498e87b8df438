"""Who made each revision, and whose each create key is."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.add_column(
        "revisions", sa.Column("actor", sa.Text(), nullable=False, server_default="local")
    )
    op.add_column("created", sa.Column("actor", sa.Text(), nullable=False, server_default="local"))
    op.drop_constraint("created_pkey", "created", type_="primary")
    op.create_primary_key("created_pkey", "created", ["actor", "key"])


def downgrade() -> None:
    op.drop_constraint("created_pkey", "created", type_="primary")
    op.drop_column("created", "actor")
    op.create_primary_key("created_pkey", "created", ["key"])
    op.drop_column("revisions", "actor")
