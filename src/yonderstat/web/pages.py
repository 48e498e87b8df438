"""The built user interface: one page for every address, its parts for ever, nothing else."""

import os
import re
from pathlib import Path

from flask import Flask, Response, abort, send_from_directory
from werkzeug.routing import PathConverter

UI_VARIABLE = "YONDERSTAT_UI_DIR"
DEFAULT_UI = Path(__file__).resolve().parents[3] / "ui" / "dist"


AT_THE_ROOT = frozenset({"icon.svg", "manifest.webmanifest", "offline.js"})
"""What a browser asks for at the root, beside the one page."""


UUID_FORM = r"[0-9a-fA-F-]{36}"
KNOWN_PAGES = re.compile(rf"|about|shelf|guide(/[\w-]+)?|designs/{UUID_FORM}(/[\w-]+)?")
"""The addresses the page itself knows; of any other it says that there is none."""


class PageConverter(PathConverter):
    """Any address but the API's: what is asked of it there must not be told that a page would be
    had."""

    regex = r"(?!api/)[^/].*?"


def register_pages(app: Flask) -> None:
    """Serve the built interface."""
    root = Path(os.environ.get(UI_VARIABLE, DEFAULT_UI))

    @app.get("/assets/<path:name>")
    def asset(name: str) -> Response:
        response = send_from_directory(root / "assets", name)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    app.url_map.converters["page"] = PageConverter

    @app.get("/favicon.ico")
    def favicon() -> Response:
        """What a browser asks for by itself where a page names no icon of its own: a picture, or
        this very address."""
        response = send_from_directory(root, "icon.svg")
        response.headers["Cache-Control"] = "public, max-age=86400"
        return response

    @app.get("/", defaults={"path": ""})
    @app.get("/<page:path>")
    def page(path: str) -> Response:
        if path in AT_THE_ROOT:
            response = send_from_directory(root, path)
            response.headers["Cache-Control"] = "no-cache"
            return response
        if not (root / "index.html").is_file():
            abort(503, "the interface is not built; run ./start")
        response = send_from_directory(root, "index.html")
        if not KNOWN_PAGES.fullmatch(path.rstrip("/")):
            response.status_code = 404
        response.headers["Cache-Control"] = "no-cache"
        return response
