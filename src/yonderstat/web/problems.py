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
    named = {"shelf": "list of club parts"}.get(what, what)
    return Problem(
        422,
        f"invalid-{what}",
        f"This change can't be saved: the {named} would have an error",
        str(error)[:2000],
        faults,
    )


NOT_STORED = "Nothing was saved."


def _of_database(error: DBAPIError) -> Problem | None:
    """A refusal for what a database can run out of, or be away for; None for a fault of ours."""
    if isinstance(error.orig, psycopg.errors.DiskFull):
        detail = (
            f"{NOT_STORED} What you saved before is safe. Free some space on the server's disk."
        )
        return Problem(507, "disk-full", "The server's disk is full", detail)
    if isinstance(error, DataError):
        detail = f"{NOT_STORED} A text, date or figure in it is beyond what can be stored."
        return Problem(422, "cannot-be-kept", "That cannot be stored", detail)
    if isinstance(error, OperationalError | InterfaceError):
        detail = f"{NOT_STORED} The database restarts by itself. Try again in a moment."
        return Problem(503, "database-away", "The database isn't answering", detail)
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
        f"This is a fault in the program, not in your design ({str(error)[:250]}). The "
        "server log says more."
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
        return Problem(404, "not-found", "Not found", str(error)).response()

    @app.errorhandler(StaleRevisionError)
    def _stale(error: StaleRevisionError) -> Response:
        title = "Somebody else changed this since you opened it"
        detail = "Load the newest version, make your change again and save."
        return Problem(
            412, "stale-revision", title, detail, current_revision=error.current
        ).response()

    @app.errorhandler(NothingToDoError)
    def _nothing(error: NothingToDoError) -> Response:
        return Problem(409, "nothing-to-do", "You can't do that now", str(error)).response()

    @app.errorhandler(KeyReusedError)
    def _reused(error: KeyReusedError) -> Response:
        return Problem(422, "key-reused", "This create key was used before", str(error)).response()

    @app.errorhandler(UnreadableDesignError)
    def _unreadable(error: UnreadableDesignError) -> Response:
        detail = (
            f"This program can't read the saved design: {str(error)[:500]}. Undo the last "
            "change, or download the design as a file."
        )
        title = "This design can't be read"
        return Problem(409, "unreadable", title, detail, current_revision=error.revision).response()

    @app.errorhandler(CannotJudgeError)
    def _unjudged(error: CannotJudgeError) -> Response:
        title = "We can't work out this design, so nothing was saved"
        title = title if request.method not in {"GET", "HEAD"} else "We can't work out this design"
        return cannot_judge(error, None, title).response()

    @app.errorhandler(UnknownOutcomeError)
    def _unknown(error: UnknownOutcomeError) -> Response:
        detail = (
            "The database stopped answering while saving. Reload the design to see whether "
            "your change is there."
        )
        return Problem(
            503, "unknown-outcome", "We don't know whether that was saved", detail
        ).response()

    @app.errorhandler(PoolTimeoutError)
    def _busy(error: PoolTimeoutError) -> Response:
        title = "The server is busy"
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
        title = "Something went wrong on the server"
        detail = "Reload the page to see what was saved. The server log says more."
        return Problem(500, "internal", title, detail).response()
