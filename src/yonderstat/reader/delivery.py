"""Telling people of alarms: a web address, a mailbox. Tried again for hours, then given up, and it says so."""

import http.client
import json
import os
import smtplib
import socket
from datetime import UTC, datetime, timedelta
from email.message import EmailMessage
from urllib.parse import urlsplit

from yonderstat.addresses import AddressError, address_of, web_address
from yonderstat.records import Delivery, LiveBook

SMTP_VARIABLE, FROM_VARIABLE = "YONDERSTAT_SMTP", "YONDERSTAT_MAIL_FROM"
TIMEOUT_S = 5.0
MOST_TRIES = 12
FIRST_WAIT, LONGEST_WAIT = timedelta(seconds=20), timedelta(hours=1)
AT_ONCE = 20


class NotSentError(Exception):
    """It could not be sent; why."""


def _post(delivery: Delivery) -> None:
    host, port, path = web_address(delivery.goes_to)
    # Whoever answers is the address that was checked, not what the name stands for a moment later.
    address = address_of(host, port)
    secure = urlsplit(delivery.goes_to).scheme == "https"
    made = http.client.HTTPSConnection if secure else http.client.HTTPConnection
    connection = made(host, port, timeout=TIMEOUT_S)
    connection._create_connection = lambda at, *rest: _connected(address, at[1])  # type: ignore[attr-defined]
    try:
        body = json.dumps(delivery.body).encode()
        headers = {"Content-Type": "application/json", "Idempotency-Key": str(delivery.id), "Host": f"{host}:{port}"}
        connection.request("POST", path, body, headers)
        status = connection.getresponse().status
    finally:
        connection.close()
    if status >= 300:
        raise NotSentError(f"it answered {status}")


def _connected(address: str, port: int):  # type: ignore[no-untyped-def]  # the library's own socket
    return socket.create_connection((address, port), TIMEOUT_S)


def _mail(delivery: Delivery) -> None:
    server = os.environ.get(SMTP_VARIABLE, "")
    host, _, port = server.rpartition(":")
    if not host or not port.isdigit():
        raise NotSentError(f"no mail server is set up here; give {SMTP_VARIABLE} as host:port")
    body = delivery.body
    message = EmailMessage()
    message["From"], message["To"] = os.environ.get(FROM_VARIABLE, "yonderstat@localhost"), delivery.goes_to
    message["Subject"] = f"{body['site']}: {body['what']}: {str(body['words'])[:120]}".replace("\n", " ")
    message["Message-ID"] = f"<{delivery.id}@yonderstat.localhost>"
    message.set_content(f"{body['words']}\n\n{body['site']}, {body['at']} by its own clock\n")
    with smtplib.SMTP(address_of(host, int(port)), int(port), timeout=TIMEOUT_S) as connection:
        connection.send_message(message)


WAYS = {"webhook": _post, "mail": _mail}


def deliver_due(book: LiveBook) -> int:
    """Send what is due; how many were tried."""
    now = datetime.now(UTC)
    due = book.due_deliveries(now, AT_ONCE)
    for delivery in due:
        try:
            WAYS[delivery.way](delivery)
            trouble = ""
        except (NotSentError, AddressError, OSError, http.client.HTTPException) as error:
            trouble = str(error)[:200] or type(error).__name__
        tries = delivery.tries + 1
        wait = min(FIRST_WAIT * 2**delivery.tries, LONGEST_WAIT)
        book.delivered(delivery.id, trouble, now + wait if trouble and tries < MOST_TRIES else None)
    return len(due)
