"""Other spellings of the towns; the gazetteer is read anew at the next start to fill them."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"


def upgrade() -> None:
    op.execute("delete from towns")
    op.add_column("towns", sa.Column("spellings", sa.Text(), nullable=False, server_default=""))
    op.create_index(
        "towns_by_spelling",
        "towns",
        ["spellings"],
        postgresql_using="gin",
        postgresql_ops={"spellings": "gin_trgm_ops"},
    )


def downgrade() -> None:
    op.drop_index("towns_by_spelling", "towns")
    op.drop_column("towns", "spellings")
