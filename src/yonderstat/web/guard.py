"""Any web page the user visits can reach loopback: what is let through, and what the browser may do
with it."""

import os
import re
from urllib.parse import urlsplit

from flask import Flask, Response, current_app, request

from .problems import Problem
from .transfer import UPLOAD_TYPE

MAX_BODY_BYTES = 4_000_000
MOST_UPLOAD_BYTES = 80_000_000
"""The largest file any operation takes."""
WRITES = {"POST", "PUT", "PATCH", "DELETE"}
LOOPBACK_HOSTS = frozenset({"127.0.0.1", "localhost", "[::1]"})
HOSTS_VARIABLE = "YONDERSTAT_HOSTS"
SECURITY_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src "
        "'self' data:; "
        "connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; "
        "frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=(), payment=(), serial=(), usb=()",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


HOST = re.compile(r"(\[[0-9a-f:.]+\]|[^\[\]:@/\s]*)(?::\d{1,5})?")


def _host_name(host: str) -> str | None:
    """The name in a Host header without its port; None where it is no such header."""
    match = HOST.fullmatch(host)
    return match[1] if match else None


def _known_hosts() -> frozenset[str]:
    extra = os.environ.get(HOSTS_VARIABLE, "")
    return LOOPBACK_HOSTS | {host.strip().lower() for host in extra.split(",") if host.strip()}


def _check_host(known: frozenset[str]) -> None:
    if _host_name(request.headers.get("Host", "").lower()) not in known:
        detail = f"Set {HOSTS_VARIABLE} to serve another name."
        raise Problem(421, "unknown-host", "This server does not go by that name", detail)


def _check_origin() -> None:
    """A page of another origin is told apart by fetch metadata, or in an old browser by its
    Origin."""
    site = request.headers.get("Sec-Fetch-Site")
    if site is not None and site not in {"same-origin", "none"}:
        raise Problem(403, "other-site", "Another site may not use this server")
    origin = request.headers.get("Origin")
    if (
        origin is not None
        and urlsplit(origin).netloc.lower() != request.headers.get("Host", "").lower()
    ):
        raise Problem(403, "other-site", "Another site may not use this server")


def _check_body() -> None:
    uploads: dict[str, int] = current_app.config.get("UPLOADS", {})
    # How much may come belongs to the operation: a record is larger than a design.
    most = max(uploads.get(request.endpoint or "", 0), MAX_BODY_BYTES)
    request.max_content_length = most
    if request.content_length is not None and request.content_length > most:
        raise Problem(413, "too-large", f"That is over {most / 1e6:g} MB", "Nothing was saved.")
    # Neither type may be sent by a page of another site without asking first.
    if request.endpoint in uploads:
        if request.mimetype != UPLOAD_TYPE:
            raise Problem(415, "not-a-file", "Send a file here", f"Send it as {UPLOAD_TYPE}.")
    elif request.mimetype != "application/json":
        detail = "Send application/json, with that content type."
        raise Problem(415, "not-json", "Send JSON here", detail)


def register_guard(app: Flask) -> None:
    """Check every request before anything reads it, and set the security headers on every
    answer."""
    app.config["MAX_CONTENT_LENGTH"] = MAX_BODY_BYTES
    known = _known_hosts()

    @app.before_request
    def _check() -> None:
        _check_host(known)
        if request.path.startswith("/api/"):
            _check_origin()
        if request.method in WRITES:
            _check_body()

    @app.after_request
    def _headers(response: Response) -> Response:
        response.headers.update(SECURITY_HEADERS)
        if request.path.startswith("/api/"):
            response.headers["Cache-Control"] = "no-store"
        return response
