"""Telling of alarms: a web address and a mailbox on loopback, tried again, and given up with a
word."""

import contextlib
import json
import socket
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from http.server import BaseHTTPRequestHandler, HTTPServer
from typing import Any
from uuid import UUID

import pytest
from aiosmtpd.controller import Controller
from aiosmtpd.handlers import Message
from sqlalchemy import Connection, text
from sqlalchemy.orm import Session
from tools.cluster import free_port

from tests.reader.test_rounds import book, devices, keep, round_at, site_id
from yonderstat.reader import SMTP_VARIABLE, deliver_due, delivery
from yonderstat.records import Archive, Lease, LiveBook

__all__ = ["book", "devices", "site_id"]


class Mailbox(Message):
    """Keeps what comes."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[Any] = []

    def handle_message(self, message: Any) -> None:
        self.found.append(message)


@pytest.fixture
def mailbox(monkeypatch: pytest.MonkeyPatch) -> Iterator[Mailbox]:
    box, port = Mailbox(), free_port()
    server = Controller(box, hostname="127.0.0.1", port=port)
    server.start()
    monkeypatch.setenv(SMTP_VARIABLE, f"127.0.0.1:{port}")
    yield box
    server.stop()


class Hook:
    """A web address that answers with a status, and keeps what it is told."""

    def __init__(self) -> None:
        self.status, self.found = 204, []  # type: ignore[var-annotated]
        hook = self

        class Handler(BaseHTTPRequestHandler):
            def do_POST(self) -> None:
                body = self.rfile.read(int(self.headers["Content-Length"]))
                hook.found.append((self.path, self.headers["Idempotency-Key"], json.loads(body)))
                self.send_response(hook.status)
                self.end_headers()

            def log_message(self, *words: object) -> None:
                del words

        self.server = HTTPServer(("127.0.0.1", 0), Handler)
        self.url = f"http://127.0.0.1:{self.server.server_port}/alarms"
        threading.Thread(target=self.server.serve_forever, daemon=True).start()


@pytest.fixture
def hook() -> Iterator[Hook]:
    one = Hook()
    yield one
    one.server.shutdown()


def waiting(archive: Archive) -> list[Any]:
    with Session(archive._engine) as session:
        query = (
            "select way, tries, sent_at is not null, trouble, due_at from deliveries order "
            "by way, due_at"
        )
        return [tuple(row) for row in session.execute(text(query))]


def due_now(archive: Archive) -> None:
    with Session(archive._engine) as session, session.begin():
        session.execute(
            text("update deliveries set due_at = now() - interval '1 second' where sent_at is null")
        )


def test_an_alarm_reaches_a_web_address_and_a_mailbox_once(
    archive: Archive,
    book: LiveBook,
    site_id: UUID,
    devices: tuple[str, str],
    mailbox: Mailbox,
    hook: Hook,
) -> None:
    book.keep_settings(site_id, webhook=hook.url, mail_to="keeper@club.example")
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    due_now(archive)
    assert deliver_due(book) == 2
    assert deliver_due(book) == 0
    ((path, key, body),) = hook.found
    assert (path, body["kind"], body["what"], body["severity"]) == (
        "/alarms",
        "regulation",
        "raised",
        "stop",
    )
    assert UUID(key)
    (mail,) = mailbox.found
    assert mail["To"] == "keeper@club.example"
    assert mail["Subject"].startswith("Ridge: raised: 16.40 V at the battery posts")
    keep(
        archive, book, *(round_at(site_id, devices, 1 + hour / 4, volts=13.2) for hour in range(8))
    )
    due_now(archive)
    deliver_due(book)
    assert [body["what"] for _, _, body in hook.found] == ["raised", "cleared"]


def test_what_does_not_get_through_is_tried_later_and_then_given_up(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str], hook: Hook
) -> None:
    hook.status = 503
    book.keep_settings(site_id, webhook=hook.url)
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    due_now(archive)
    deliver_due(book)
    ((_, tries, sent, trouble, due_at),) = waiting(archive)
    assert (tries, sent, trouble) == (1, False, "it answered 503")
    assert timedelta(seconds=5) < due_at - datetime.now(UTC) < timedelta(minutes=1)
    for _ in range(11):
        due_now(archive)
        deliver_due(book)
    ((_, tries, sent, trouble, _),) = waiting(archive)
    assert (tries, sent, trouble) == (12, True, "it answered 503")
    assert len(hook.found) == 12


def test_without_a_mail_server_it_says_what_is_missing(
    archive: Archive,
    book: LiveBook,
    site_id: UUID,
    devices: tuple[str, str],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.delenv(SMTP_VARIABLE, raising=False)
    book.keep_settings(site_id, mail_to="keeper@club.example", webhook="http://11.22.33.44/")
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    due_now(archive)
    deliver_due(book)
    troubles = {way: trouble for way, _, _, trouble, _ in waiting(archive)}
    assert SMTP_VARIABLE in troubles["mail"]
    assert "not a private address" in troubles["webhook"]


HOSTILE_SETTINGS = (
    {"webhook": "http://127.0.0.1:9/al\u00e4rm?\u00fc=\u2028"},
    {"webhook": "http://\u00e4.example/x"},
    {"webhook": "http://127.0.0.1:9/\r\nX: y"},
    {"webhook": "http://[::1"},
    {"mail_to": "k\u00e9eper@club.example"},
    {"mail_to": "a@b\r\nBcc: c@d"},
)


@pytest.mark.parametrize("hostile", HOSTILE_SETTINGS, ids=str)
def test_a_delivery_that_cannot_be_sent_is_one_try_of_that_one(
    archive: Archive,
    book: LiveBook,
    site_id: UUID,
    devices: tuple[str, str],
    mailbox: Mailbox,
    hook: Hook,
    hostile: dict[str, str],
) -> None:
    """A letter outside ASCII ended the reader once, at every start again."""
    good = {"webhook": hook.url} if "mail_to" in hostile else {"mail_to": "keeper@club.example"}
    book.keep_settings(site_id, **hostile, **good)
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    due_now(archive)
    assert deliver_due(book) == 2
    assert len(hook.found) + len(mailbox.found) >= 1
    bad = next(
        row for row in waiting(archive) if row[0] == ("mail" if "mail_to" in hostile else "webhook")
    )
    assert bad[1] == 1
    assert (bad[2] and not bad[3]) or bad[3]


@pytest.mark.parametrize(
    "name",
    [
        "Ridge\u2028Bcc: x@y",
        "Ridge =?utf-8?q?=0d=0aBcc:_x=40y?=",
        "R\u0085idge\x0b\x1c",
        "\u202eegdiR",
    ],
)
def test_no_name_puts_a_header_into_a_mail(
    archive: Archive,
    book: LiveBook,
    site_id: UUID,
    devices: tuple[str, str],
    mailbox: Mailbox,
    name: str,
) -> None:
    archive.change_site(site_id, {"name": name})
    book.keep_settings(site_id, mail_to="keeper@club.example")
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    due_now(archive)
    deliver_due(book)
    (mail,) = mailbox.found
    assert mail["Bcc"] is None
    assert mail["To"] == "keeper@club.example"
    assert waiting(archive)[0][3] == ""


def test_a_slow_address_holds_up_nobody_and_is_cut(
    archive: Archive,
    book: LiveBook,
    site_id: UUID,
    devices: tuple[str, str],
    mailbox: Mailbox,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """It drips a letter of its answer every little while, so that no silence is long enough to end
    it."""
    monkeypatch.setattr(delivery, "WHOLE_S", 3.0)
    slow = socket.create_server(("127.0.0.1", 0))

    def drip() -> None:
        with contextlib.suppress(OSError):
            line, _ = slow.accept()
            for _ in range(600):
                line.sendall(b"H")
                time.sleep(0.05)

    threading.Thread(target=drip, daemon=True).start()
    book.keep_settings(
        site_id, webhook=f"http://127.0.0.1:{slow.getsockname()[1]}/", mail_to="keeper@club.example"
    )
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    due_now(archive)
    threading.Thread(target=deliver_due, args=(book,), daemon=True).start()

    def webhook() -> Any:
        return next(row for row in waiting(archive) if row[0] == "webhook")

    began = time.monotonic()
    while not mailbox.found:
        # The mail comes while the slow address still drips.
        assert not webhook()[1]
        assert time.monotonic() - began < 25.0
        time.sleep(0.02)
    while not (state := webhook())[1]:
        assert time.monotonic() - began < 28.0
        time.sleep(0.05)
    assert state[3]
    slow.close()


def test_two_readers_send_a_message_once(
    archive: Archive, book: LiveBook, site_id: UUID, devices: tuple[str, str], hook: Hook
) -> None:
    book.keep_settings(site_id, webhook=hook.url)
    keep(archive, book, *(round_at(site_id, devices, hour / 4, volts=16.4) for hour in range(4)))
    due_now(archive)
    with ThreadPoolExecutor(4) as pool:
        sent = list(pool.map(lambda _: deliver_due(book), range(4)))
    assert sorted(sent) == [0, 0, 0, 1]
    assert len(hook.found) == 1


def test_of_several_readers_one_leads_and_another_takes_over(archive: Archive) -> None:
    first, second = Lease(archive._engine, "a word"), Lease(archive._engine, "a word")
    assert first.hold()
    assert first.hold()
    assert not second.hold()
    first.let_go()
    assert second.hold()
    assert not first.hold()
    second.let_go()


def test_a_lease_given_back_is_free_before_the_server_has_noticed_the_closing(
    archive: Archive, monkeypatch: pytest.MonkeyPatch
) -> None:
    first, second = Lease(archive._engine, "a word"), Lease(archive._engine, "a word")
    assert first.hold()
    held = first._connection
    assert held is not None
    with monkeypatch.context() as slow:
        slow.setattr(Connection, "invalidate", lambda _self: None)
        slow.setattr(Connection, "close", lambda _self: None)
        first.let_go()
    assert second.hold()
    second.let_go()
    held.close()
