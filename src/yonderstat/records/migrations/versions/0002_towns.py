"""Towns to search by name, with a trigram index so that a misspelt one is found."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.execute("create extension if not exists pg_trgm")
    op.create_table(
        "towns",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("plain", sa.Text(), nullable=False),
        sa.Column("country", sa.Text(), nullable=False),
        sa.Column("latitude_deg", sa.Double(), nullable=False),
        sa.Column("longitude_deg", sa.Double(), nullable=False),
        sa.Column("population", sa.Integer(), nullable=False),
    )
    op.create_index(
        "towns_by_plain",
        "towns",
        ["plain"],
        postgresql_using="gin",
        postgresql_ops={"plain": "gin_trgm_ops"},
    )


def downgrade() -> None:
    op.drop_table("towns")
