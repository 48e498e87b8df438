"""Sizing maps as jobs: what was asked, how far it is, what came out; and the queue's own tables."""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects.postgresql import JSONB

revision = "0003"
down_revision = "0002"

DROP_QUEUE = r"""
do $$
declare found record;
begin
  for found in select p.oid::regprocedure as name from pg_proc p where p.proname like 'procrastinate\_%' loop
    execute 'drop function if exists ' || found.name || ' cascade';
  end loop;
  for found in select c.oid::regclass as name from pg_class c
    where c.relname like 'procrastinate\_%' and c.relkind = 'r' loop
    execute 'drop table if exists ' || found.name || ' cascade';
  end loop;
  for found in select t.oid::regtype as name from pg_type t
    where t.typname like 'procrastinate\_%' and t.typtype in ('e', 'c') loop
    execute 'drop type if exists ' || found.name || ' cascade';
  end loop;
end $$
"""


def _as_it_is(statements: str) -> None:
    """Run a script whose per cent signs are its own, in the migration's transaction."""
    driver = op.get_bind().connection.driver_connection
    if driver is None:
        raise RuntimeError("the migration has no connection of its own")
    driver.execute(statements)


def upgrade() -> None:
    stamp, now = sa.DateTime(timezone=True), sa.func.now()
    op.create_table(
        "map_runs",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column(
            "design_id", sa.Uuid(), sa.ForeignKey("designs.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("ask", JSONB(), nullable=False),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("progress", sa.Double(), nullable=False),
        sa.Column("result", JSONB()),
        sa.Column("created_at", stamp, server_default=now, nullable=False),
        sa.Column("updated_at", stamp, server_default=now, nullable=False),
        sa.CheckConstraint(
            "state in ('waiting', 'running', 'cancelled', 'done', 'impossible', 'failed')",
            name="known_state",
        ),
    )
    op.create_index("map_runs_by_design", "map_runs", ["design_id", "revision"])
    # The queue's library ships its schema for this very version; Alembic is the one place that applies it.
    _as_it_is(SchemaManager.get_schema())


def downgrade() -> None:
    _as_it_is(DROP_QUEUE)
    op.drop_table("map_runs")
