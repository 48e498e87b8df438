"""Live as a keeper sees it: a panel is lost on the hill, the page says so, it is seen, and the
failure sheet opens."""

import json
import urllib.request
from collections.abc import Iterator
from typing import Any

import pytest
from selenium.webdriver import Keys
from tools.cluster import free_ports
from tools.served import reporting

from tests.browser.conftest import Person
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.live_commands import asked_of_standins

SPEED = 3600.0
"""An hour of theirs a second."""
RIDGE = "Harrier Ridge repeater"


def ask(address: str, method: str, path: str, body: Any = None) -> Any:
    data = None if body is None else json.dumps(body).encode()
    headers = {"Content-Type": "application/json"}
    with urllib.request.urlopen(
        urllib.request.Request(f"{address}{path}", data, headers, method=method)
    ) as answer:
        return json.load(answer)


@pytest.fixture
def port(address: str, server: tuple[str, str]) -> Iterator[int]:
    """Harrier Ridge reports itself from a summer's morning on, an hour a second; where its
    stand-ins hear words."""
    first = free_ports(3)
    site = next(item for item in ask(address, "GET", "/api/sites") if item["name"] == RIDGE)
    for name, kind, place in (
        ("Charge controller", "controller", 0),
        ("Battery monitor", "monitor", 1),
    ):
        endpoint = {
            "name": name,
            "kind": kind,
            "protocol": "sunspec",
            "host": "127.0.0.1",
            "port": first + place,
        }
        ask(address, "POST", f"/api/sites/{site['id']}/endpoints", endpoint)
    ask(address, "PUT", f"/api/sites/{site['id']}/live", {"interval_s": 1.0, "speed": SPEED})
    station = {
        "name": "ridge",
        "design": HARRIER_AS_BUILT,
        "from_at": "2026-01-20T06:00+13:00",
        "dull_month": 6,
        "ports": {"sunspec-controller": first, "sunspec-monitor": first + 1},
        "speed": SPEED,
    }
    with reporting(server[1], {"control_port": first + 2, "stations": [station]}):
        yield first + 2


def test_a_panel_is_lost_on_the_hill(person: Person, port: int) -> None:
    """Sites → its strip → Live → a panel is lost → the alarm comes by itself → seen → the failure
    sheet opens."""
    person.go("/")
    person.sees("charged", "main")
    person.sees("A in,", "main")
    person.find("Live", "a", exact=True).click()
    person.sees("site time", "#sheet")
    person.sees("no open alarms", "#sheet")
    person.sees("in every weather year", "#sheet [aria-label='The next ten days']")
    person.axe()

    asked_of_standins(port, {"fault": "panel_lost", "on": True})
    person.sees("Not charging in the sun", "[aria-label='Open alarms']")
    person.sees("1 open alarm", "#sheet")
    person.driver.execute_script("localStorage.setItem('yonderstat.initials', 'QY3RIM')")
    person.press("Acknowledge: Not charging in the sun")
    person.sees("acknowledged by QY3RIM", "[aria-label='Open alarms']")
    person.click("If something breaks", "[aria-label='Open alarms'] a")
    person.find("If something breaks", "[role=tab][aria-selected=true]")

    asked_of_standins(port, {"fault": "panel_lost", "on": False})
    person.driver.back()
    person.sees("no open alarms", "#sheet")
    person.size(390, 844)
    assert person.driver.execute_script("return document.documentElement.scrollWidth") <= 390
    person.axe()
    person.size(1280, 800)


def test_a_device_that_may_not_be_asked_and_a_reader_that_is_down_are_said(person: Person) -> None:
    """Live of a site without devices → one with a public address is refused → a private one is kept
    → no reader."""
    person.open("Patrol 2")
    person.press("Live")
    person.sees("No devices yet", "#sheet")
    person.press("Add a device")
    person.expected_noise = ("422",)
    person.type("Device name", "Monitor")
    person.type("Host or address", "11.22.33.44")
    person.press("Connect")
    person.sees("not a private address", "#sheet")
    assert person.field("Device name").get_attribute("value") == "Monitor"
    person.type("Host or address", "127.0.0.1")
    person.press("Connect")
    person.sees("No alarms will come while the reader", "#sheet")
    person.sees("No readings yet", "#sheet")
    person.type("Quiet hours from", "22")
    person.press("Save")
    person.sees("is missing; give both ends of the quiet hours", "#sheet")
    person.type("to", "7", Keys.ENTER)
    person.until(lambda: "is missing" not in person.text("#sheet"), "it is still refused")
    person.axe()
    person.press("Remove Monitor")
    person.sees("No devices yet", "#sheet")
