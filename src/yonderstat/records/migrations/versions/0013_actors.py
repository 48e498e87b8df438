"""Every stored act has an actor: readings, upkeep, devices, runs, and who acknowledged an alarm."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
TABLES = ("readings", "upkeep", "devices", "runs")


def upgrade() -> None:
    for table in TABLES:
        column = sa.Column("actor", sa.Text(), nullable=False, server_default="local")
        op.add_column(table, column)
    op.add_column("alarms", sa.Column("acknowledged_actor", sa.Text()))


def downgrade() -> None:
    op.drop_column("alarms", "acknowledged_actor")
    for table in TABLES:
        op.drop_column(table, "actor")
