"""One table for all long work: maps now, imports, papers and forecasts to come."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.rename_table("map_runs", "runs")
    op.execute("alter index map_runs_by_design rename to runs_by_design")
    op.add_column("runs", sa.Column("kind", sa.Text(), nullable=False, server_default="sizing_map"))
    op.alter_column("runs", "kind", server_default=None)
    # What still waited is in the queue under the old task's name, which no worker knows: it can be asked again.
    op.execute("update runs set state = 'cancelled' where state in ('waiting', 'running')")


def downgrade() -> None:
    op.execute("delete from runs where kind <> 'sizing_map'")
    op.drop_column("runs", "kind")
    op.execute("alter index runs_by_design rename to map_runs_by_design")
    op.rename_table("runs", "map_runs")
