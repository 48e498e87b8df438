"""Pictures of the main views from the demo data, into docs/screenshots.

python -m tools.shots [NAME ...]
"""

import json
import sys
import time
import urllib.request
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from selenium.webdriver import Chrome

from tools.browser import chromium, resize
from tools.cluster import free_ports
from tools.served import reporting, served, throwaway_cluster
from yonderstat.demo import build_demo_sites
from yonderstat.demo.standins import PORTS, standin_config
from yonderstat.records import migrate
from yonderstat.web import create_app

ROOT = Path(__file__).resolve().parents[1]
FOLDER = ROOT / "docs" / "screenshots"
WIDE, PHONE = (1280, 800), (390, 844)


@dataclass(frozen=True, slots=True)
class Shot:
    """One picture: which page, in which theme and size, after pressing what."""

    name: str
    page: str
    theme: str = "daylight"
    size: tuple[int, int] = WIDE
    press: tuple[str, ...] = ()


MAP = (
    "#tab-enough",
    "#page-enough [aria-busy=false] svg[role=application]",
    "form[aria-label='Sizing map']",
)
SHOTS = (
    Shot("sites", "/"),
    Shot("overview", "/designs/{ridge}/overview"),
    Shot("brief", "/designs/{ridge}/brief"),
    Shot("draw", "/designs/{quay}/draw"),
    Shot("store", "/designs/{quay}/store", "lamplight"),
    Shot("sun", "/designs/{ridge}/sun", press=("[data-figure='sun.hut-north-wall.hours.06']",)),
    Shot(
        "array-ladder",
        "/designs/{ridge}/array?page=voltages",
        press=("[data-figure='array.string.hut-north-wall.conductor_a']",),
    ),
    Shot("bus", "/designs/{quay}/bus"),
    Shot("bus-diagram", "/designs/{packhorse}/bus?page=diagram", "lamplight"),
    Shot(
        "rehearse",
        "/designs/{quay}/rehearse",
        press=("article [data-figure$='scene.dark_h']", "article ol"),
    ),
    Shot("rehearse-years", "/designs/{ridge}/rehearse?page=years", press=("canvas",)),
    Shot("rehearse-map", "/designs/{ridge}/rehearse", press=MAP),
    Shot(
        "build",
        "/designs/{packhorse_b}/build?page=stores",
        press=("[aria-label='From the club stores'] li",),
    ),
    Shot("check", "/designs/{quay}/check", press=("[aria-label='Measure at the battery posts']",)),
    Shot(
        "log",
        "/designs/{ridge}/log?page=record",
        press=("[aria-label='Plan against measured'] polyline",),
    ),
    Shot(
        "live",
        "/designs/{ridge}/live",
        press=("[aria-label='Battery charge over the next ten days'] svg",),
    ),
    Shot("shelf", "/shelf"),
    Shot("compare", "/designs/{ridge}/compare"),
    Shot("draw-phone", "/designs/{quay}/draw", size=PHONE),
)


def take(driver: Chrome, address: str, designs: dict[str, str], shot: Shot) -> None:
    """One picture, once the page has settled.

    Parameters
    ----------
    designs : dict[str, str]
        Ids of the demo's designs, by name.
    shot : Shot
        What to go to, and what to wait for.
    """
    resize(driver, *shot.size)
    driver.get(f"{address}/icon.svg")
    settings = {
        "state": {"theme": shot.theme, "units": {"length": "metric", "temperature": "C"}},
        "version": 1,
    }
    driver.execute_script(
        "localStorage.setItem('yonderstat.settings', arguments[0])", json.dumps(settings)
    )
    driver.get(address + shot.page.format(**designs))
    until = time.monotonic() + 20
    while not driver.execute_script(
        "return document.querySelector('h1') && !document.body.innerText.includes('Opening')"
    ):
        if time.monotonic() > until:
            raise RuntimeError(f"{shot.page} does not settle")
        time.sleep(0.1)
    driver.execute_async_script("document.fonts.ready.then(() => setTimeout(arguments[0], 400))")
    _await_next_steps(driver)
    for selector in shot.press:
        _press(driver, selector)
    driver.save_screenshot(str(FOLDER / f"{shot.name}.png"))


STEPS_WITHIN_S = 6.0
"""The page asks for the next steps when nothing was typed for a while; a verdict that is good has
none."""


def _await_next_steps(driver: Chrome) -> None:
    until = time.monotonic() + STEPS_WITHIN_S
    there = (
        "return !document.querySelector('[aria-label=Verdict]') || "
        "!!document.querySelector(arguments[0])"
    )
    while (
        not driver.execute_script(there, "[aria-label='What to do next']")
        and time.monotonic() < until
    ):
        time.sleep(0.2)


def _press(driver: Chrome, selector: str) -> None:
    """Press what a selector finds, once it is there, and let the page settle."""
    until = time.monotonic() + 40
    while not driver.execute_script(
        "return document.querySelector(arguments[0])?.checkVisibility() ?? false", selector
    ):
        if time.monotonic() > until:
            raise RuntimeError(f"{selector} does not come")
        time.sleep(0.1)
    reveal = (
        "const e = document.querySelector(arguments[0]); e.click?.(); "
        "e.scrollIntoView({block: 'nearest'})"
    )
    driver.execute_script(reveal, selector)
    time.sleep(1.2)


def main() -> int:
    """Serve the demo and take every picture, or those named."""
    named = frozenset(sys.argv[1:])
    unknown = named - {shot.name for shot in SHOTS}
    if unknown:
        print(f"There is no picture called {', '.join(sorted(unknown))}.", file=sys.stderr)
        return 2
    FOLDER.mkdir(parents=True, exist_ok=True)
    with throwaway_cluster("shots-postgres") as cluster:
        migrate(cluster.url)
        port = free_ports(PORTS)
        build_demo_sites(create_app(cluster.url), standin_port=port)
        stand_ins = standin_config(port, "")
        with (
            served(cluster.url, quiet=False) as address,
            reporting(cluster.url, stand_ins),
            chromium() as driver,
        ):
            designs = dict(_designs(address))
            _await_word(address)
            for shot in SHOTS:
                if named and shot.name not in named:
                    continue
                take(driver, address, designs, shot)
                print(f"docs/screenshots/{shot.name}.png")
    return 0


def _await_word(address: str) -> None:
    """Until the sites that report themselves have been heard."""
    until = time.monotonic() + 60
    while True:
        with urllib.request.urlopen(f"{address}/api/live", timeout=10) as answer:
            if all(site["now"] for site in json.load(answer)["sites"]):
                return
        if time.monotonic() > until:
            raise RuntimeError("nothing is heard of the stand-ins")
        time.sleep(0.5)


def _designs(address: str) -> list[tuple[str, str]]:
    until = time.monotonic() + 60
    while True:
        try:
            with urllib.request.urlopen(f"{address}/api/sites", timeout=10) as answer:
                sites: list[Any] = json.load(answer)
            keys = ("ridge", "quay", "packhorse", "patrol", "beech", "ferry")
            found = [(key, site["design_id"]) for key, site in zip(keys, sites, strict=True)]
            return [*found, ("packhorse_b", sites[keys.index("packhorse")]["designs"][-1]["id"])]
        except OSError:
            if time.monotonic() > until:
                raise
            time.sleep(0.2)


if __name__ == "__main__":
    sys.exit(main())
