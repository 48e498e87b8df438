"""What is not JSON: files brought in, files taken away (whole or a range of them), and lists a page
at a time."""

import hashlib
import tempfile
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any, BinaryIO, cast

from flask import Response, request

from yonderstat.core.design import Fault

from .problems import Problem

UPLOAD_TYPE = "application/octet-stream"
ODS_TYPE = "application/vnd.oasis.opendocument.spreadsheet"
MOST_ON_A_PAGE = 500
MOST_NAME = 200
PIECE_BYTES, IN_MEMORY_BYTES = 256_000, 2_000_000
TOTAL_HEADER = "X-Total-Count"


@dataclass(frozen=True, slots=True)
class Uploaded:
    """A file brought in: the name it went by, and its bytes."""

    name: str
    data: bytes

    @property
    def text(self) -> str:
        """The file as text, in UTF-8."""
        try:
            return self.data.decode("utf-8-sig")
        except UnicodeDecodeError as error:
            where = self.data[: error.start].count(b"\n") + 1
            message = (
                f"{self.name}: line {where} isn't UTF-8 text; save the file as plain text and "
                "import it again"
            )
            raise Problem(
                422, "not-text", "The file is no text", message, [Fault("/upload", message)]
            ) from None


@dataclass(frozen=True, slots=True)
class UploadedFile:
    """A large file brought in: the name it went by, and its bytes on disk rather than in memory."""

    name: str
    file: BinaryIO


@dataclass(frozen=True, slots=True)
class TakenAway:
    """A file to take away."""

    name: str
    data: bytes


@dataclass(frozen=True, slots=True)
class Page:
    """Which part of a list is asked for."""

    offset: int
    limit: int


@dataclass(frozen=True, slots=True)
class Part:
    """A part of a list, and how long the whole is."""

    items: Sequence[Any]
    total: int


def _upload_name() -> str:
    """The name a file goes by; one that no file can have is made plain."""
    told = request.args.get("name", "").strip() or "the file"
    return "".join(char if char.isprintable() else " " for char in told)[:MOST_NAME]


def _too_large(name: str, most_bytes: int) -> Problem:
    title = f"That is over {most_bytes / 1e6:g} MB"
    return Problem(413, "too-large", title, f"“{name}” is too large. Nothing was stored.")


def read_upload(most_bytes: int) -> Uploaded:
    """The request's body as a file of at most so many bytes."""
    name, data = _upload_name(), request.get_data()
    if len(data) > most_bytes:
        raise _too_large(name, most_bytes)
    return Uploaded(name, data)


@contextmanager
def upload_on_disk(most_bytes: int) -> Iterator[UploadedFile]:
    """The request's body as a file on disk, of at most so many bytes; it is gone after this."""
    name, came = _upload_name(), 0
    with tempfile.SpooledTemporaryFile(max_size=IN_MEMORY_BYTES) as file:
        while piece := request.stream.read(PIECE_BYTES):
            came += len(piece)
            if came > most_bytes:
                raise _too_large(name, most_bytes)
            file.write(piece)
        file.seek(0)
        yield UploadedFile(name, cast(BinaryIO, file))


def file_response(file: TakenAway, mimetype: str) -> Response:
    """A file as an answer: the whole of it, the range asked for, or nothing where the reader has it
    already."""
    headers = {"Content-Disposition": f'attachment; filename="{file.name}"'}
    response = Response(file.data, mimetype=mimetype, headers=headers)
    response.set_etag(hashlib.sha256(file.data).hexdigest()[:32])
    response.make_conditional(request, accept_ranges=True, complete_length=len(file.data))
    return response


def _count(name: str, usual: int, most: int) -> int:
    text = request.args.get(name, "")
    if not text:
        return usual
    if not (text.isascii() and text.isdigit() and len(text) < 10 and int(text) <= most):
        raise Problem(
            400,
            "bad-query",
            f"“{name}” must be a whole number up to {most}",
            f"It is “{text[:20]}”.",
        )
    return int(text)


def read_page() -> Page:
    """The part asked for by `offset` and `limit`; the first page unless told otherwise."""
    return Page(
        _count("offset", 0, 10**9 - 1), max(1, _count("limit", MOST_ON_A_PAGE, MOST_ON_A_PAGE))
    )


def with_links(response: Response, page: Page, part: Part) -> Response:
    """The answer with the length of the whole list, and where the next page is (RFC 8288).

    Parameters
    ----------
    page : Page
        Which piece of the list.
    part : Part
        The piece, with the length of the whole.
    """
    response.headers[TOTAL_HEADER] = str(part.total)
    following = page.offset + len(part.items)
    if part.items and following < part.total:
        response.headers["Link"] = (
            f'<{request.path}?offset={following}&limit={page.limit}>; rel="next"'
        )
    return response
