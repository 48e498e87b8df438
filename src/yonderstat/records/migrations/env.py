"""Alembic's entry: runs our migrations on the engine it is given."""

from alembic import context
from sqlalchemy import text

from yonderstat.records.database import open_engine
from yonderstat.records.schema import Base

MIGRATION_LOCK = 7_350_120
"""Two starters at once must not migrate side by side: the second waits on this advisory lock."""

engine = open_engine(context.config.attributes["url"])
with engine.connect() as connection:
    connection.execute(text("select pg_advisory_lock(:key)"), {"key": MIGRATION_LOCK})
    connection.commit()
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        context.run_migrations()
    connection.execute(text("select pg_advisory_unlock(:key)"), {"key": MIGRATION_LOCK})
    connection.commit()
engine.dispose()
