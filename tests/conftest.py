"""A throw-away PostgreSQL for the whole run, and a fresh database for each test that asks for
one."""

from collections.abc import Iterator
from typing import Any
from uuid import uuid4

import psycopg
import pytest
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import create_engine, text
from tools.cluster import Cluster
from tools.served import throwaway_cluster

from yonderstat.records import Archive, migrate, open_engine
from yonderstat.web import create_app


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    """A server that trusts loopback, forgets everything, and dies with us."""
    with throwaway_cluster("test-postgres") as server:
        yield server


def create_database(cluster: Cluster, name: str, template: str = "template1") -> str:
    engine = create_engine(
        cluster.url.replace("postgresql:", "postgresql+psycopg:"), isolation_level="AUTOCOMMIT"
    )
    with engine.connect() as connection:
        connection.execute(text(f'create database "{name}" template "{template}"'))
    engine.dispose()
    return cluster.url.rsplit("/", 1)[0] + f"/{name}"


@pytest.fixture(scope="session")
def template(cluster: Cluster) -> str:
    """A migrated database that others are copied from."""
    migrate(create_database(cluster, "migrated"))
    return "migrated"


@pytest.fixture
def empty_url(cluster: Cluster) -> str:
    """The address of a database without tables."""
    return create_database(cluster, f"test-{uuid4()}")


@pytest.fixture
def url(cluster: Cluster, template: str) -> str:
    """The address of a fresh, migrated database."""
    return create_database(cluster, f"test-{uuid4()}", template)


@pytest.fixture
def archive(url: str) -> Iterator[Archive]:
    engine = open_engine(url)
    yield Archive(engine)
    engine.dispose()


class LocalClient(FlaskClient):
    """Asks as a page of ours would."""

    def open(self, *args: Any, **kwargs: Any) -> Any:
        kwargs.setdefault("base_url", "http://127.0.0.1")
        return super().open(*args, **kwargs)


@pytest.fixture(scope="session")
def shared_app(cluster: Cluster, template: str) -> Flask:
    """One application for all tests of the API: making it costs more than most of them."""
    app = create_app(create_database(cluster, "web", template))
    app.test_client_class = LocalClient
    return app


@pytest.fixture
def client(cluster: Cluster, shared_app: Flask) -> FlaskClient:
    """A page of ours on an empty database."""
    with psycopg.connect(cluster.url.rsplit("/", 1)[0] + "/web", autocommit=True) as connection:
        connection.execute("truncate sites, created, shelf_revisions cascade")
    return shared_app.test_client()
