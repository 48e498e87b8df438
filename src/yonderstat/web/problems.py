"""Problem documents (RFC 9457): every refusal says what, where, why and what to do instead."""

import json
import logging
from collections.abc import Sequence
from dataclasses import asdict, dataclass

import psycopg
from flask import Flask, Response, request
from sqlalchemy.exc import DataError, DBAPIError, InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeoutError
from werkzeug.exceptions import HTTPException

from yonderstat.core.design import Fault, InvalidDesignError
from yonderstat.core.shelf import InvalidShelfError
from yonderstat.jobs import CannotJudgeError
from yonderstat.records import (
    KeyReusedError,
    NotFoundError,
    NothingToDoError,
    StaleRevisionError,
    UnknownOutcomeError,
    UnreadableDesignError,
)

log = logging.getLogger("yonderstat.web")
PROBLEM_TYPE = "application/problem+json"


@dataclass(frozen=True, slots=True, kw_only=True)
class ProblemDocument:
    """What the API answers when it refuses. `faults` point into the request body or the changed
    design."""

    type: str
    title: str
    status: int
    detail: str
    faults: list[Fault]
    current_revision: int | None = None


class Problem(Exception):  # noqa: N818 - a refusal, named as the standard names it
    """A refusal on its way to the caller."""

    def __init__(
        self,
        status: int,
        kind: str,
        title: str,
        detail: str = "",
        faults: Sequence[Fault] = (),
        current_revision: int | None = None,
    ) -> None:
        super().__init__(title)
        self.document = ProblemDocument(
            type=f"urn:yonderstat:problem:{kind}",
            title=title,
            status=status,
            detail=detail,
            faults=list(faults),
            current_revision=current_revision,
        )

    def response(self) -> Response:
        """The refusal as an answer."""
        text = json.dumps(asdict(self.document), ensure_ascii=False)
        return Response(
            text.encode("utf-8", "replace"), self.document.status, mimetype=PROBLEM_TYPE
        )


def invalid_design(error: InvalidDesignError, prefix: str = "") -> Problem:
    """The design would not be one: nothing is stored."""
    faults = [Fault(prefix + fault.pointer, fault.message, fault.bound) for fault in error.faults]
    what = "shelf" if isinstance(error, InvalidShelfError) else "design"
    return Problem(
        422, f"invalid-{what}", f"The {what} would not be valid", str(error)[:2000], faults
    )


NOT_STORED = "Nothing was stored."


def _of_database(error: DBAPIError) -> Problem | None:
    """A refusal for what a database can run out of, or be away for; None for a fault of ours."""
    if isinstance(error.orig, psycopg.errors.DiskFull):
        detail = (
            f"{NOT_STORED} Free some space where the data lie; what was kept before is as it was."
        )
        return Problem(507, "disk-full", "The disk of the server is full", detail)
    if isinstance(error, DataError):
        detail = f"{NOT_STORED} A text, date or figure in it is beyond what can be kept."
        return Problem(422, "cannot-be-kept", "That cannot be kept", detail)
    if isinstance(error, OperationalError | InterfaceError):
        detail = f"{NOT_STORED} It starts again by itself; try again in a moment."
        return Problem(503, "database-away", "The database does not answer now", detail)
    return None


def cannot_judge(error: Exception, revision: int | None, title: str) -> Problem:
    """The program cannot say what a design comes to: its own fault, told as such.

    Parameters
    ----------
    error : Exception
        What was raised.
    revision : int or None
        Of the design; None where it has none yet.
    title : str
        What could not be done, in words.
    """
    detail = (
        f"The program has a fault this design brings out ({str(error)[:250]}); its log says more."
    )
    return Problem(500, "cannot-judge", title, detail, current_revision=revision)


def register_problems(app: Flask) -> None:
    """Turn every error into a problem document; what is not foreseen is logged, not shown."""

    @app.errorhandler(Problem)
    def _problem(error: Problem) -> Response:
        return error.response()

    @app.errorhandler(InvalidDesignError)
    def _invalid(error: InvalidDesignError) -> Response:
        return invalid_design(error).response()

    @app.errorhandler(NotFoundError)
    def _missing(error: NotFoundError) -> Response:
        return Problem(404, "not-found", "There is nothing there", str(error)).response()

    @app.errorhandler(StaleRevisionError)
    def _stale(error: StaleRevisionError) -> Response:
        title = "It has changed since you read it"
        detail = "Read the newest revision, make the change on it and send it again."
        return Problem(
            412, "stale-revision", title, detail, current_revision=error.current
        ).response()

    @app.errorhandler(NothingToDoError)
    def _nothing(error: NothingToDoError) -> Response:
        return Problem(409, "nothing-to-do", "That cannot be done now", str(error)).response()

    @app.errorhandler(KeyReusedError)
    def _reused(error: KeyReusedError) -> Response:
        return Problem(422, "key-reused", "That create key is used", str(error)).response()

    @app.errorhandler(UnreadableDesignError)
    def _unreadable(error: UnreadableDesignError) -> Response:
        detail = (
            f"The stored document cannot be read by this program: {str(error)[:500]}. "
            "Undo, or take it away as a file."
        )
        title = "This design cannot be read"
        return Problem(409, "unreadable", title, detail, current_revision=error.revision).response()

    @app.errorhandler(CannotJudgeError)
    def _unjudged(error: CannotJudgeError) -> Response:
        title = "This cannot be judged, so nothing was stored"
        title = title if request.method not in {"GET", "HEAD"} else "This cannot be judged"
        return cannot_judge(error, None, title).response()

    @app.errorhandler(UnknownOutcomeError)
    def _unknown(error: UnknownOutcomeError) -> Response:
        detail = (
            "The database went away in the middle of it. Read the design again: it shows "
            "whether it was stored."
        )
        return Problem(
            503, "unknown-outcome", "It is not known whether that was stored", detail
        ).response()

    @app.errorhandler(PoolTimeoutError)
    def _busy(error: PoolTimeoutError) -> Response:
        title = "The server is too busy just now"
        return Problem(503, "busy", title, f"{NOT_STORED} Try again in a moment.").response()

    @app.errorhandler(DBAPIError)
    def _database(error: DBAPIError) -> Response:
        known = _of_database(error)
        return known.response() if known else _unforeseen(error)

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> Response:
        status = error.code or 500
        return Problem(status, f"http-{status}", error.name, error.description or "").response()

    @app.errorhandler(Exception)
    def _unforeseen(error: Exception) -> Response:
        log.exception("unforeseen error on %s %s", request.method, request.path)
        title = "Something went wrong here"
        detail = (
            "The log of the server says more. Read again what you were changing: it shows "
            "what was stored."
        )
        return Problem(500, "internal", title, detail).response()
