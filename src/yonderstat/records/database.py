"""The way to PostgreSQL: address, engine, migrations."""

import os
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, make_url

URL_VARIABLE = "YONDERSTAT_DATABASE_URL"


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


def migrate(url: str, revision: str = "head") -> None:
    """Bring the database to a revision of the schema, the newest unless told otherwise."""
    command.upgrade(alembic_config(url), revision)
