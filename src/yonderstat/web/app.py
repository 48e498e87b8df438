"""The Flask application."""

import os
from dataclasses import asdict

from flask import Flask
from flask_compress import Compress
from sqlalchemy import Engine

from yonderstat.core.design import Design
from yonderstat.jobs import standing_of
from yonderstat.records import Archive, database_url, open_engine

from .access import Rule, register_access
from .api import Api, openapi_document
from .array_tools import array_tools_api
from .catalogue import api as catalogue_api
from .check_tools import check_api
from .club_tools import club_api
from .designs import designs_api
from .devices import devices_api
from .draw_tools import draw_tools_api
from .guard import register_guard
from .live_events import register_live_events
from .live_tools import live_api
from .log_tools import log_api
from .pages import register_pages
from .problems import register_problems
from .record_tools import record_api
from .rehearse_tools import rehearse_tools_api
from .shelf_tools import shelf_api
from .sites import sites_api
from .store_tools import store_tools_api
from .upkeep_tools import upkeep_api
from .weather_tools import weather_tools_api

SECRET_VARIABLE = "YONDERSTAT_SECRET_KEY"
SERVICES = {
    "alive": Rule("open", "nothing"),
    "ready": Rule("open", "nothing"),
    "openapi": Rule("open", "nothing"),
    "schema": Rule("open", "nothing"),
    "live_events": Rule("read", "each site"),
    "page": Rule("open", "nothing"),
    "asset": Rule("open", "nothing"),
    "favicon": Rule("open", "nothing"),
}
"""What is served beside the operations: the page itself and what describes it holds nothing of
anybody's."""
COMPRESSION = {
    "COMPRESS_ALGORITHM": ["zstd", "br", "gzip"],
    # Quick ones: an answer is worked out and sent once, and somebody waits for it.
    "COMPRESS_ZSTD_LEVEL": 4,
    "COMPRESS_BR_LEVEL": 4,
    "COMPRESS_LEVEL": 4,
    "COMPRESS_MIN_SIZE": 1000,
}


def all_operations(archive: Archive, engine: Engine) -> Api:
    """Every operation of the API."""
    whole = Api()
    for part in (
        sites_api,
        check_api,
        draw_tools_api,
        store_tools_api,
        weather_tools_api,
    ):
        whole.endpoints += part(archive).endpoints
    whole.endpoints += designs_api(archive, engine).endpoints
    whole.endpoints += rehearse_tools_api(archive, engine).endpoints
    whole.endpoints += devices_api(engine).endpoints
    for keeping in (
        array_tools_api,
        log_api,
        record_api,
        upkeep_api,
        shelf_api,
        club_api,
        live_api,
    ):
        whole.endpoints += keeping(archive, engine).endpoints
    whole.endpoints += catalogue_api.endpoints
    return whole


def create_app(url: str | None = None) -> Flask:
    """The application on a database, the environment's unless one is given. It connects when first
    asked."""
    app = Flask("yonderstat", static_folder=None)
    app.json.ensure_ascii = False  # type: ignore[attr-defined]
    app.config["SECRET_KEY"] = os.environ.get(SECRET_VARIABLE)
    app.config["DATABASE_URL"] = url or database_url()
    app.config.update(COMPRESSION)
    Compress(app)
    register_guard(app)
    register_problems(app)
    engine = open_engine(app.config["DATABASE_URL"])
    archive = Archive(engine)
    operations = all_operations(archive, engine)
    operations.register(app)
    rules = {endpoint.name: endpoint.rule for endpoint, _ in operations.endpoints}
    register_access(app, engine, (rules | SERVICES).items())
    document = openapi_document(operations)

    @app.get("/api/openapi.json")
    def openapi() -> dict[str, object]:
        return document

    @app.get("/api/schema.json")
    def schema() -> dict[str, object]:
        return Design.model_json_schema()

    @app.get("/api/alive")
    def alive() -> dict[str, bool]:
        return {"alive": True}

    @app.get("/api/ready")
    def ready() -> tuple[dict[str, object], int]:
        parts = standing_of(engine)
        well = all(part.ok for part in parts)
        return {"ready": well, "parts": [asdict(part) for part in parts]}, 200 if well else 503

    register_live_events(app, engine)
    register_pages(app)
    return app
