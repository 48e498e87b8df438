"""A real gunicorn on a fresh database, a real browser, and a person's hands: find by label and
role, type, look."""

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver import ActionChains, Chrome, Keys
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait
from sqlalchemy import Table
from tools.browser import chromium, resize
from tools.cluster import Cluster
from tools.served import served

from tests.browser.afresh import Row, put_afresh, rows_of
from tests.conftest import create_database
from yonderstat.demo import build_demo_sites
from yonderstat.records import load_towns, open_engine
from yonderstat.web import create_app

ROOT = Path(__file__).resolve().parents[2]
AXE = ROOT / "ui" / "node_modules" / "axe-core" / "axe.min.js"
WAIT_S = float(os.environ.get("YONDERSTAT_WAIT_S", "60"))
"""A map of 24 × 24 sizes beside another lane, on a slow machine, takes more than ten."""
SERIOUS = {"moderate", "serious", "critical"}
NAMED = "button, a, input, select, textarea, [role=option], [role=tab]"
FIND = """
const [selector, name, exact] = arguments;
const nameOf = (e) => (e.getAttribute('aria-label')
  || (e.labels && [...e.labels].map((l) => l.textContent).join(' ')) || e.textContent || '').trim()
  .replaceAll('\\u00a0', ' ');
const called = [...document.querySelectorAll(selector)].filter(
  (e) => (exact ? nameOf(e) === name : nameOf(e).includes(name)));
const found = called.find((e) => e.checkVisibility());
if (found) return found;
// Behind another tab of the step, or among further findings: somebody who looks opens that.
const folded = called.map((e) => e.closest('aside details:not([open])')).find((e) => e);
if (folded) folded.querySelector('summary').click();
const panel = called.map((e) => e.closest('[role=tabpanel].hidden')).find((e) => e);
if (panel) document.getElementById(panel.getAttribute('aria-labelledby'))?.click();
"""


SHEETS = (
    "Overview",
    "Brief",
    "Loads",
    "Battery",
    "Sun",
    "Panels",
    "Wiring",
    "Rehearse",
    "Build",
    "Log",
    "Live",
    "Check a reading",
)
"""Every page of a design, by its line in the list of steps."""
REVEAL = """
const plain = (e) => e.textContent.replaceAll('\\u00a0', ' ');
const panel = [...document.querySelectorAll('[role=tabpanel].hidden')]
  .find((e) => plain(e).includes(arguments[0]));
if (panel) document.getElementById(panel.getAttribute('aria-labelledby'))?.click();
const folded = [...document.querySelectorAll('aside details:not([open])')]
  .find((e) => plain(e).includes(arguments[0]));
if (folded) folded.querySelector('summary').click();
"""


@pytest.fixture(scope="session")
def server(cluster: Cluster, template: str) -> Iterator[tuple[str, str]]:
    """The app served as in life: its address, and that of its database."""
    url = create_database(cluster, "browser", template)
    engine = open_engine(url)
    load_towns(engine)
    engine.dispose()
    with served(url) as address:
        yield address, url


@pytest.fixture(scope="session")
def demo(cluster: Cluster, template: str) -> list[tuple[Table, list[Row]]]:
    """The rows of the demo, built as for a user."""
    url = create_database(cluster, "demo", template)
    build_demo_sites(create_app(url), with_record=False)
    engine = open_engine(url)
    found = rows_of(engine)
    engine.dispose()
    return found


@pytest.fixture
def address(server: tuple[str, str], demo: list[tuple[Table, list[Row]]]) -> str:
    """The app with nothing in it but the demo sites."""
    where, url = server
    engine = open_engine(url)
    put_afresh(engine, demo)
    engine.dispose()
    return where


@pytest.fixture(scope="session")
def browser() -> Iterator[Chrome]:
    with chromium() as driver:
        yield driver


class Person:
    """Somebody at the screen."""

    def __init__(self, driver: Chrome, address: str) -> None:
        self.driver = driver
        self.address = address
        self.expected_noise: tuple[str, ...] = ()

    def go(self, path: str) -> None:
        self.driver.get(self.address + path)

    def open(self, site: str) -> None:
        """From the sites over a site's overview to its loads, once they are on screen."""
        self.go("/")
        self.press(site)
        self.to_loads()

    def to_loads(self) -> None:
        """From the overview, where a site opens."""
        self.sees("Next jobs", "#sheet")
        self.key("2")
        self.find("New load")

    def open_to_read_away(self, address: str, site: str) -> None:
        """A site opened once the service worker is there, so that it can be read while the server
        is away."""
        self.expected_noise = ("Failed to load", "ERR_CONNECTION_REFUSED", "fetch")
        self.driver.get(f"{address}/")
        self.sees(site)
        ready = "return navigator.serviceWorker.controller !== null"
        self.until(lambda: self.driver.execute_script(ready), "no service worker")
        self.driver.refresh()
        self.sees(site)
        self.press(site)
        self.to_loads()

    def size(self, width: int, height: int) -> None:
        resize(self.driver, width, height)

    def find(self, name: str, selector: str = NAMED, exact: bool = False) -> WebElement:
        """The visible control by its accessible name."""
        found = self.until(
            lambda: self.driver.execute_script(FIND, selector, name, exact),
            f"nothing is called “{name}”",
        )
        assert isinstance(found, WebElement)
        return found

    def field(self, name: str) -> WebElement:
        return self.find(name, "input, select, textarea")

    def press(self, *names: str) -> None:
        for name in names:
            self.click(name)

    def click(self, name: str, selector: str = NAMED) -> None:
        """By its name; found again where the page was drawn anew between finding and pressing
        it."""

        def pressed() -> bool:
            try:
                element = self.find(name, selector)
                self.driver.execute_script(
                    "arguments[0].scrollIntoView({block: 'center'})", element
                )
                element.click()
            except StaleElementReferenceException:
                return False
            return True

        self.until(pressed, f"“{name}” cannot be pressed")

    def type(self, name: str, text: str, end: str = Keys.TAB) -> None:
        element = self.field(name)
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", element)
        element.click()
        element.send_keys(Keys.CONTROL, "a")
        element.send_keys(text + end)

    def choose(self, name: str, option: str) -> None:
        self.until(lambda: option in self.field(name).text, f"“{name}” has no “{option}”")
        for item in self.field(name).find_elements(By.TAG_NAME, "option"):
            if item.text == option:
                item.click()
                return

    def key(self, *keys: str) -> None:
        """Keys to the page, as when no field has focus."""
        self.driver.execute_script("document.activeElement?.blur()")
        ActionChains(self.driver).send_keys(*keys).perform()

    def keys(self, *keys: str) -> None:
        """Keys to whatever has focus."""
        ActionChains(self.driver).send_keys(*keys).perform()

    def ctrl(self, key: str) -> None:
        """A key with Ctrl held, to whatever has focus."""
        ActionChains(self.driver).key_down(Keys.CONTROL).send_keys(key).key_up(
            Keys.CONTROL
        ).perform()

    def text(self, selector: str = "body") -> str:
        """What is read there; a space that does not break a line is read as one that does."""
        read = (
            "return document.querySelector(arguments[0])?.innerText.replaceAll('\\u00a0', ' "
            "') ?? ''"
        )
        return str(self.driver.execute_script(read, selector))

    @property
    def verdict(self) -> str:
        return self.text("[aria-label=Verdict] h1 b")

    def sees(self, words: str, selector: str = "body") -> None:
        """Words that are on screen, or behind a tab of the step, which is then opened."""

        def there() -> bool:
            if words in self.text(selector):
                return True
            self.driver.execute_script(REVEAL, words)
            return False

        self.until(there, f"“{words}” is not there")

    def saved(self) -> None:
        """Wait until everything typed is stored."""
        self.until(lambda: self.text("header [role=status]").startswith("Saved"), "it is not saved")

    def until(self, condition: Any, otherwise: str) -> Any:
        return WebDriverWait(self.driver, WAIT_S, 0.03).until(
            lambda _: condition(), f"{otherwise}; page: {self.text()[:600]}"
        )

    def turn_to(self, sheet: str) -> None:
        """One of the design's pages, once it is open."""
        self.click(sheet, "nav[aria-label=Steps] a")
        self.at_sheet(sheet)

    def at_sheet(self, sheet: str) -> None:
        """Wait until a page of the design is open: until then the one before stands there."""
        named = "return document.querySelector('main')?.ariaLabel"
        self.until(
            lambda: (
                self.driver.execute_script(named) == sheet and "Opening" not in self.text("main")
            ),
            f"{sheet} does not open",
        )

    def each_tab(self) -> Iterator[str]:
        """The parts of a sheet, each opened in turn; one that has none is a single part."""
        tabs = "main [role=tablist] [role=tab]"
        count = len(self.driver.find_elements(By.CSS_SELECTOR, tabs))
        if count == 0:
            yield ""
        for number in range(count):
            tab = self.driver.find_elements(By.CSS_SELECTOR, tabs)[number]
            self.driver.execute_script("arguments[0].click()", tab)
            yield tab.text

    def fits_across(self, width: int, where: str) -> None:
        """Nothing makes the page scroll sideways."""
        wide = self.driver.execute_script("return document.documentElement.scrollWidth")
        assert wide <= width, f"{where} scrolls sideways at {width}"

    def focused(self) -> str:
        return str(
            self.driver.execute_script(
                "return document.activeElement?.getAttribute('aria-label') ?? ''"
            )
        )

    def axe(self) -> None:
        """Nothing serious by axe, what it could not decide looked at for contrast aside."""
        self.driver.execute_script(AXE.read_text())
        result = self.driver.execute_async_script("axe.run(document).then(arguments[0])")
        serious = [item for item in result["violations"] if item["impact"] in SERIOUS]
        told = [
            (item["id"], [node["html"][:160] for node in item["nodes"][:3]]) for item in serious
        ]
        assert not serious, told

    def console(self) -> list[str]:
        return [
            entry["message"]
            for entry in self.driver.get_log("browser")
            if entry["level"] in {"SEVERE", "WARNING"}
            and not any(word in entry["message"] for word in self.expected_noise)
        ]


@pytest.fixture
def person(browser: Chrome, address: str) -> Iterator[Person]:
    """At 1280×800 by daylight, nothing remembered; the console must stay clean."""
    resize(browser, 1280, 800)
    someone = Person(browser, address)
    someone.go("/icon.svg")
    browser.execute_script("localStorage.clear()")
    browser.get_log("browser")
    yield someone
    assert someone.console() == []
