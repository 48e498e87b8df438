"""The way to PostgreSQL: address, engine, migrations."""

import os
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, NullPool, create_engine, make_url
from sqlalchemy.exc import OperationalError

URL_VARIABLE = "YONDERSTAT_DATABASE_URL"
LOOK_S = 0.2


def database_url() -> str:
    """The database's address from the environment.

    Raises
    ------
    RuntimeError
        If it is not set.
    """
    url = os.environ.get(URL_VARIABLE, "")
    if not url:
        raise RuntimeError(f"{URL_VARIABLE} is not set; ./start sets it, elsewhere give a postgresql:// address")
    return url


def open_engine(url: str) -> Engine:
    """An engine on the database. It connects when first used, so that it can be made before a fork."""
    return create_engine(make_url(url).set(drivername="postgresql+psycopg"), pool_pre_ping=True, pool_size=5)


def alembic_config(url: str) -> Config:
    """Alembic set up for our migrations on one database."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.attributes["url"] = url
    return config


def await_answer(url: str, holds: Callable[[Connection], bool] = lambda connection: True) -> None:
    """Wait until the database answers, and something holds of it."""
    engine = create_engine(make_url(url).set(drivername="postgresql+psycopg"), poolclass=NullPool)
    while True:
        with suppress(OperationalError), engine.connect() as connection:
            if holds(connection):
                return
        time.sleep(LOOK_S)


def await_current(url: str) -> None:
    """Wait until the database has the newest schema: whoever starts beside a migration waits for it."""
    newest = ScriptDirectory.from_config(alembic_config(url)).get_current_head()
    await_answer(url, lambda connection: MigrationContext.configure(connection).get_current_revision() == newest)


def migrate(url: str, revision: str = "head") -> None:
    """Bring the database to a revision of the schema, the newest unless told otherwise."""
    command.upgrade(alembic_config(url), revision)
