"""Telling people of alarms: a web address, a mailbox. Tried again for hours, then given up, and it
says so.

Deliveries run side by side, each in a time of its own; whatever goes wrong with one is one try of
that one.
"""

import contextlib
import http.client
import json
import logging
import os
import smtplib
import socket
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor, wait
from datetime import UTC, datetime, timedelta
from email.message import EmailMessage
from email.policy import SMTP
from urllib.parse import quote, urlsplit

from yonderstat.addresses import AddressError, address_of, web_address
from yonderstat.records import Delivery, LiveBook

LOG = logging.getLogger(__name__)
SMTP_VARIABLE, FROM_VARIABLE = "YONDERSTAT_SMTP", "YONDERSTAT_MAIL_FROM"
TIMEOUT_S, WHOLE_S = 5.0, 15.0
"""A silence of the other side ends a try, and so does its whole time, however it drips."""
MOST_TRIES = 12
FIRST_WAIT, LONGEST_WAIT = timedelta(seconds=20), timedelta(hours=1)
AT_ONCE = 20
LEASE = timedelta(minutes=2)
"""For so long a delivery is in one reader's hands."""
IN_A_PATH = "/?&=:@%+,;~!$'()*#[]"
NOT_SENT = (AddressError, OSError, http.client.HTTPException)
Cut = Callable[[socket.socket | None], None]


class NotSentError(Exception):
    """It could not be sent; why."""


@contextlib.contextmanager
def _in_time() -> Iterator[Cut]:
    """Shuts the socket it is given once the whole time is over."""
    held: list[socket.socket] = []

    def shut() -> None:
        for one in held:
            with contextlib.suppress(OSError):
                one.shutdown(socket.SHUT_RDWR)

    timer = threading.Timer(WHOLE_S, shut)
    timer.daemon = True
    timer.start()
    try:
        yield lambda one: held.append(one) if one is not None else None
    finally:
        timer.cancel()


def _post(delivery: Delivery) -> None:
    host, port, path = web_address(delivery.goes_to)
    # Whoever answers is the address that was checked, not what the name stands for a moment later.
    address = address_of(host, port)
    secure = urlsplit(delivery.goes_to).scheme == "https"
    made = http.client.HTTPSConnection if secure else http.client.HTTPConnection
    connection = made(host, port, timeout=TIMEOUT_S)
    body = json.dumps(delivery.body).encode()
    headers = {
        "Content-Type": "application/json",
        "Idempotency-Key": str(delivery.id),
        "Host": f"{host}:{port}",
    }
    with _in_time() as cut, contextlib.closing(connection):

        def connected(at: tuple[str, int], *rest: object) -> socket.socket:
            found = socket.create_connection((address, at[1]), TIMEOUT_S)
            cut(found)
            return found

        connection._create_connection = connected  # type: ignore[attr-defined]
        # Letters outside ASCII are written as the web writes them.
        connection.request("POST", quote(path, safe=IN_A_PATH), body, headers)
        status = connection.getresponse().status
    if status >= 300:
        raise NotSentError(f"it answered {status}")


def header_text(text: str) -> str:
    """A text for one header line: no line ends of any alphabet, no control characters, no hidden
    encoding."""
    plain = "".join(char for char in " ".join(text.split()) if char.isprintable())
    return plain.replace("=?", "= ?")


def _mail(delivery: Delivery) -> None:
    server = os.environ.get(SMTP_VARIABLE, "")
    host, _, port = server.rpartition(":")
    if not host or not port.isdigit():
        raise NotSentError(f"no mail server is set up here; give {SMTP_VARIABLE} as host:port")
    body = delivery.body
    message = EmailMessage(policy=SMTP)
    message["From"] = header_text(os.environ.get(FROM_VARIABLE, "yonderstat@localhost"))
    message["To"] = header_text(delivery.goes_to)
    message["Subject"] = header_text(f"{body['site']}: {body['what']}: {str(body['words'])[:120]}")
    message["Message-ID"] = f"<{delivery.id}@yonderstat.localhost>"
    message.set_content(
        f"{body['words']}\n\n{header_text(body['site'])}, {body['at']} by its own clock\n"
    )
    with (
        _in_time() as cut,
        smtplib.SMTP(address_of(host, int(port)), int(port), timeout=TIMEOUT_S) as connection,
    ):
        cut(connection.sock)
        connection.send_message(message)


WAYS = {"webhook": _post, "mail": _mail}


def _tried(delivery: Delivery) -> str:
    """Send it; what went wrong, in words."""
    try:
        WAYS[delivery.way](delivery)
    except NotSentError as error:
        return str(error)
    except NOT_SENT as error:
        return str(error) or type(error).__name__
    except Exception as error:
        LOG.exception("a delivery that cannot be sent: %s", delivery.id)
        return f"it cannot be sent: {type(error).__name__}"
    return ""


def _keep(book: LiveBook, delivery: Delivery, trouble: str) -> None:
    tries = delivery.tries + 1
    wait_for = min(FIRST_WAIT * 2**delivery.tries, LONGEST_WAIT)
    plain = header_text(trouble)[:200]
    book.delivered(
        delivery.id, plain, datetime.now(UTC) + wait_for if plain and tries < MOST_TRIES else None
    )


def deliver_due(book: LiveBook) -> int:
    """Send what is due, side by side; how many were tried."""
    due = book.claim_deliveries(datetime.now(UTC), AT_ONCE, LEASE)
    if not due:
        return 0
    # One that hangs keeps its thread and nothing else: the pool is not waited for.
    pool = ThreadPoolExecutor(len(due), thread_name_prefix="delivery")
    tries: dict[Future[str], Delivery] = {
        pool.submit(_tried, delivery): delivery for delivery in due
    }
    waiting = set(tries)
    while waiting:
        done, waiting = wait(
            waiting, timeout=WHOLE_S + 2 * TIMEOUT_S, return_when="FIRST_COMPLETED"
        )
        for one in done:
            _keep(book, tries[one], one.result())
        if not done:
            for one in waiting:
                _keep(book, tries[one], f"it took over {WHOLE_S:g} s")
            break
    pool.shutdown(wait=False, cancel_futures=True)
    return len(due)
