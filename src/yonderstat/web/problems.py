"""Problem documents (RFC 9457): every refusal says what, where, why and what to do instead."""

import json
import logging
from collections.abc import Sequence
from dataclasses import asdict, dataclass

from flask import Flask, Response, request
from werkzeug.exceptions import HTTPException

from yonderstat.core.design import Fault, InvalidDesignError
from yonderstat.records import NotFoundError, NothingToDoError, StaleRevisionError

log = logging.getLogger("yonderstat.web")
PROBLEM_TYPE = "application/problem+json"


@dataclass(frozen=True, slots=True)
class ProblemDocument:
    """What the API answers when it refuses. `faults` point into the request body or the changed design."""

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
            f"urn:yonderstat:problem:{kind}", title, status, detail, list(faults), current_revision
        )

    def response(self) -> Response:
        """The refusal as an answer."""
        return Response(
            json.dumps(asdict(self.document), ensure_ascii=False), self.document.status, mimetype=PROBLEM_TYPE
        )


def invalid_design(error: InvalidDesignError, prefix: str = "") -> Problem:
    """The design would not be one: nothing is stored."""
    faults = [Fault(prefix + fault.pointer, fault.message) for fault in error.faults]
    return Problem(422, "invalid-design", "The design would not be valid", str(error)[:2000], faults)


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
        title = "The design has changed since you read it"
        detail = "Read the newest revision, make the change on it and send it again."
        return Problem(412, "stale-revision", title, detail, current_revision=error.current).response()

    @app.errorhandler(NothingToDoError)
    def _nothing(error: NothingToDoError) -> Response:
        return Problem(409, "nothing-to-do", "That cannot be done now", str(error)).response()

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> Response:
        status = error.code or 500
        return Problem(status, f"http-{status}", error.name, error.description or "").response()

    @app.errorhandler(Exception)
    def _unforeseen(error: Exception) -> Response:
        log.exception("unforeseen error on %s %s", request.method, request.path)
        title = "Something went wrong here"
        return Problem(500, "internal", title, "Nothing was stored. The log of the server says more.").response()
