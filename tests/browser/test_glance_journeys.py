"""What a newcomer and a hurried operator do: find, put right, put away, compare, and read on
without the server."""

import json
import urllib.request
from contextlib import suppress
from itertools import pairwise
from pathlib import Path

import pytest
from selenium.common.exceptions import NoAlertPresentException
from selenium.webdriver import Keys
from tools.cluster import Cluster
from tools.served import served

from tests.browser.conftest import SHEETS, Person
from tests.conftest import create_database
from yonderstat.demo import build_demo_sites
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.web import create_app


def test_the_palette_finds_a_field_a_figure_and_a_place(person: Person) -> None:
    person.open("Quay Street shack")
    person.key("/")
    person.keys("depth allowed")
    person.sees("field, Battery")
    person.keys(Keys.ENTER)
    person.until(
        lambda: (
            "Depth of discharge allowed"
            in person.driver.execute_script(
                "return document.activeElement.labels?.[0]?.innerText ?? ''"
            )
        ),
        "the field is not gone to",
    )
    for word, page in (("battery", "/store"), ("inverter", "/draw"), ("trainer", "page=practise")):
        person.key("/")
        person.keys(word, Keys.ENTER)
        person.until(lambda page=page: page in person.driver.current_url, f"“{word}” leads nowhere")  # type: ignore[misc]
    person.until(
        lambda: "Rehearse, Quay Street shack" in person.driver.title,
        "the page is not named after its step",
    )


def test_arriving_at_a_step_begins_at_its_top_and_a_working_gives_the_reader_back(
    person: Person,
) -> None:
    person.open("Quay Street shack")
    person.driver.execute_script("document.querySelector('main').scrollTo(0, 900)")
    person.key("3")
    person.until(lambda: person.focused() == "Battery", "the reader does not stand in the sheet")
    assert person.driver.execute_script("return document.querySelector('main').scrollTop") == 0
    figure = person.find("usable: ")
    figure.click()
    person.until(
        lambda: person.driver.execute_script("return document.activeElement.tagName") == "H2",
        "no working",
    )
    person.keys(Keys.ESCAPE)
    assert person.driver.switch_to.active_element == figure


def test_what_cannot_be_read_waits_in_its_field(person: Person) -> None:
    person.open("Quay Street shack")
    person.key("5")
    person.click("Cable, diode, shared controller", "summary")
    person.type("Wire size", "#10")
    person.saved()
    assert person.field("Wire size").get_attribute("value") == "5.26115"
    person.type("Cable, one way", "far")
    person.sees("We can’t read “far” as a number. Type something like 6.5 m")
    person.key("3")
    person.sees("Saved, except one field", "header")
    person.key("5")
    person.click("Cable, diode, shared controller", "summary")
    assert person.field("Cable, one way").get_attribute("value") == "far"
    person.type("Cable, one way", "30 ft")
    person.sees("Saved just now", "header")
    person.type("Wire size", "")
    person.type("Cable, one way", "")


def test_a_finding_is_lived_with_for_a_reason_and_said_again(person: Person) -> None:
    person.open("Quay Street shack")
    person.press("Findings of all steps")
    margin = "[aria-label='Side panel']"
    person.sees("Stop: does not work or can hurt", margin)
    person.press("Accept this: ")
    person.keys("Weighed and left", Keys.ENTER)
    person.click(" more", f"{margin} summary")
    person.sees("Accepted: Weighed and left", margin)
    person.axe()
    person.press("Show it again")
    person.until(lambda: "Weighed and left" not in person.text(margin), "it is not said again")
    person.saved()


def test_a_new_battery_leaves_the_old_ones_label_behind(person: Person) -> None:
    person.open("The Packhorse")
    person.key("3")
    person.choose("Chemistry", "LiFePO4")
    person.sees("Is this a new battery?")
    person.press("Yes, a new LiFePO4")
    person.until(
        lambda: person.field("Volts of one battery").get_attribute("value") == "12.8",
        "the volts are the old ones",
    )
    assert person.field("Amp-hours of one battery, on the label").get_attribute("value") == "100"
    person.type("Age", "6")
    person.sees("from its age")
    person.saved()
    for _ in range(3):
        person.key("u")
        person.saved()


def test_a_site_is_put_away_found_again_and_a_file_opened(person: Person, tmp_path: Path) -> None:
    person.go("/")
    person.sees("Loses power in every month", "main")
    person.press("Archive Beech Hut digipeater")
    person.sees("Nothing is deleted")
    person.press("Archive")
    person.until(
        lambda: "Loses power in every month" not in person.text("main"), "it is still there"
    )
    person.driver.refresh()
    person.click("Archived (1)", "summary")
    person.press("Restore Beech Hut digipeater")
    person.sees("Beech Hut digipeater", "main ul")
    bad, good = tmp_path / "bad.json", tmp_path / "over-there.yonderstat.json"
    bad.write_text(
        json.dumps(
            {"format": "yonderstat-design", "version": 3, "store": {"bank": {"parallel": 0}}}
        )
    )
    person.expected_noise = ("422", "404")
    picker = person.driver.find_element("css selector", "[aria-label='A design file']")
    picker.send_keys(str(bad))
    person.press("Open it")
    person.sees("Battery, parallel is 0; it must be at least 1")
    good.write_text(
        json.dumps({"format": "yonderstat-design", "version": 3, "name": "From a file"})
    )
    picker.send_keys(str(good))
    person.sees("a new site, over-there", "main")
    person.axe()
    person.press("Open it")
    person.sees("From a file", "header")
    assert "over-there" in person.text("header")
    person.go("/")
    good.write_text(
        json.dumps(
            {"format": "yonderstat-design", "version": 3, "name": "Beside", "site": "Elsewhere"}
        )
    )
    person.driver.find_element("css selector", "[aria-label='A design file']").send_keys(str(good))
    person.sees("a new site, Elsewhere", "main")
    person.choose("goes into", "Beech Hut digipeater, as another design")
    person.press("Open it")
    person.sees("Beside", "nav[aria-label=Designs]")
    assert "Beech Hut digipeater" in person.text("header")
    person.go("/no-such-page")
    person.sees("This page does not exist", "main")
    assert person.driver.title.startswith("Not found")


def test_designs_side_by_side_and_the_guide(person: Person) -> None:
    person.open("Harrier Ridge repeater")
    person.press("Compare")
    person.click("C · stays up", "input[type=checkbox]")
    person.sees("Stays up all year", "main")
    person.sees("Battery, chemistry", "[aria-label='What differs']")
    person.choose("Compare with another site", "Ferry Road shack")
    person.sees("Ferry Road shack, A", "[aria-label='Figures side by side']")
    person.axe()
    person.click("Ferry Road shack", "input[type=checkbox]")
    person.click("C · stays up. Show working", "[aria-label='Figures side by side'] button")
    person.sees("Usable", "[aria-label='Side panel']")
    person.sees("C · stays up", "nav[aria-label=Designs] [aria-current=page]")
    person.press("Guide")
    person.sees("Create a site in one minute", "main")
    person.click("Words", "nav[aria-label=Topics] a")
    person.sees("Chance of lasting", "main")
    person.axe()
    person.size(390, 844)
    person.axe()


def test_a_new_site_follows_its_kind_and_can_begin_with_nothing(person: Person) -> None:
    person.go("/")
    person.sees("Harrier Ridge")
    person.key("n")
    person.type("Name", "Bare site")
    person.choose("Kind", "Vehicle")
    assert person.field("Purpose").get_attribute("value") == "mobile"
    person.choose("Purpose", "Everyday")
    person.choose("Kind", "Unattended site")
    assert person.field("Purpose").get_attribute("value") == "everyday"
    person.choose("Start with", "empty, with no guesses")
    person.press("Create")
    person.sees("No loads yet")


def another_site(person: Person, name: str, document: dict[str, object]) -> None:
    """A site more, through the API."""
    request = urllib.request.Request(
        f"{person.address}/api/sites",
        json.dumps({"name": name, "document": document}).encode(),
        {"Content-Type": "application/json"},
    )
    with urllib.request.urlopen(request) as answer:
        assert answer.status == 201


def test_a_tour_on_a_phone_with_many_sites_long_names_and_many_loads(person: Person) -> None:
    """25 sites, forty letters, a name from right to left, fifteen loads, six strings: nothing
    scrolls sideways."""
    loads = [
        {
            **QUAY_STREET["draw"]["loads"][0],
            "id": f"set-{number}",
            "name": f"Set {number} " + "w" * 33,
        }
        for number in range(15)
    ]
    string = QUAY_STREET["array"]["strings"][0]
    strings = [
        {**string, "id": f"roof-{number}", "name": f"Roof {number} " + "m" * 32}
        for number in range(6)
    ]
    heavy = QUAY_STREET | {"draw": {"loads": loads}, "array": {"strings": strings}}
    another_site(person, "تجربة المحطة " + "W" * 27, heavy)
    for number in range(18):
        another_site(person, f"Site number {number} with a name of some forty", {**QUAY_STREET})
    person.size(390, 844)
    person.go("/")
    wide = "return document.documentElement.scrollWidth"
    person.until(
        lambda: len(person.driver.find_elements("css selector", "main li h2")) == 25,
        "not all sites are there",
    )
    assert person.driver.execute_script(wide) <= 390
    person.press("تجربة")
    for sheet in (*SHEETS, "Rehearse"):
        person.turn_to(sheet)
        person.fits_across(390, sheet)
    person.press("finding")
    person.sees("Stop: does not work or can hurt", "[aria-label='Side panel']")


@pytest.mark.parametrize("step", ["store", "rehearse"])
def test_a_step_prints_without_what_is_pressed(person: Person, step: str) -> None:
    person.open("Ferry Road shack")
    person.key({"store": "3", "rehearse": "7"}[step])
    person.sees("The sun supplies", "[aria-label=Verdict]")
    person.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
    try:
        person.sees("Ferry Road shack, A · as built", "main")
        assert not person.driver.find_element(
            "css selector", "nav[aria-label=Steps]"
        ).is_displayed()
        overflow = "return getComputedStyle(document.querySelector('main')).overflowY"
        assert person.driver.execute_script(overflow) == "visible"
    finally:
        person.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})


def test_what_was_seen_is_read_while_the_server_is_away(
    person: Person, cluster: Cluster, template: str
) -> None:
    """The server is stopped: the page opens again as it was, and says since when."""
    url = create_database(cluster, "away", template)
    build_demo_sites(create_app(url), with_record=False)
    with served(url) as address:
        person.open_to_read_away(address, "Ferry Road shack")
        person.sees("The sun supplies", "[aria-label=Verdict]")
        person.driver.refresh()
        person.sees("The sun supplies", "[aria-label=Verdict]")
    person.driver.refresh()
    person.sees("The sun supplies", "[aria-label=Verdict]")
    person.sees("The server does not answer. You see the data from")


def test_an_edit_typed_while_the_server_is_away_outlives_the_page(
    person: Person, cluster: Cluster, template: str
) -> None:
    """The server is stopped → a figure is typed → the page is closed and opened → the server is
    back → it is saved."""
    url = create_database(cluster, "away_edit", template)
    build_demo_sites(create_app(url), with_record=False)
    with served(url) as address:
        person.open_to_read_away(address, "Ferry Road shack")
        person.key("3")
        person.field("Amp-hours of one battery, on the label")
        here = person.driver.current_url
        port = int(address.rsplit(":", 1)[1])
    person.type("Amp-hours of one battery, on the label", "137")
    person.sees("Not saved: the server does not answer")
    left_and_come_back(person, here)
    person.until(
        lambda: (
            person.field("Amp-hours of one battery, on the label").get_attribute("value") == "137"
        ),
        "what was typed is gone",
    )
    with served(url, port=port):
        person.saved()
        person.driver.refresh()
        person.until(
            lambda: (
                person.field("Amp-hours of one battery, on the label").get_attribute("value")
                == "137"
            ),
            "it was not stored",
        )


def test_every_field_says_what_it_wants(person: Person) -> None:
    """Whatever field one stands in, the foot of the sheet says what it wants, in the units
    chosen."""
    person.open("Quay Street shack")
    person.field("HF radio, 100 W: Amps on receive, or while on").click()
    person.sees("so measure it; usually 0.05 to 3", "#sheet")
    without: dict[str, list[str]] = {}
    for key in "12345678":
        person.key(key)
        person.until(lambda: not person.driver.execute_script(OPENING), "a step that does not open")
        bare = person.driver.execute_script(BARE)
        if bare:
            without[key] = bare
    assert without == {}


def test_ticks_are_round_on_every_axis(person: Person) -> None:
    """Every axis of every chart of the demo steps in one, two, five or a quarter, times a power of
    ten."""
    found: dict[str, set[float]] = {}
    for site in ("Ferry Road shack", "Harrier Ridge repeater"):
        person.open(site)
        for key in "23457":
            person.key(key)
            person.until(
                lambda: not person.driver.execute_script(OPENING), "a step that does not open"
            )
            if key == "7":
                person.until(
                    lambda: person.driver.execute_script(AXES).get("days"), "no scene is played"
                )
                person.click("How big must it be?", "[role=tab]")
                person.until(
                    lambda: person.driver.execute_script(AXES).get("panels"), "no map is drawn"
                )
            for axis, texts in person.driver.execute_script(AXES).items():
                values = [float(text) for text in texts]
                for before, after in pairwise(values):
                    found.setdefault(axis, set()).add(abs(round(after - before, 9)))
    assert {"volts", "panels", "batteries", "days", "share"} <= set(found)
    for axis, steps in found.items():
        for step in steps:
            assert float(f"{step:e}".split("e")[0]) in {1.0, 2.0, 2.5, 5.0}, (axis, step)


def left_and_come_back(person: Person, to: str) -> None:
    """Close the page though edits are on their way, and open it again."""
    person.driver.get("about:blank")
    with suppress(NoAlertPresentException):
        person.driver.switch_to.alert.accept()
    person.driver.get(to)


OPENING = "return document.body.textContent.includes('Opening…')"
AXES = """
const found = {};
for (const node of document.querySelectorAll('[data-axis]')) {
  const text = /[−-]?[0-9.]+/.exec(node.firstChild.textContent)?.[0].replace('−', '-') ?? '';
  if (text !== '') (found[node.dataset.axis + ''] ??= []).push(text);
}
return found;
"""
BARE = """
const named = (e) => e.getAttribute('aria-label') || e.labels?.[0]?.textContent || e.outerHTML.slice(0, 80);
return [...document.querySelectorAll('#sheet :is(input, select, textarea)[data-field]')]
  .filter((e) => e.checkVisibility() && !e.dataset.help).map(named);
"""


KEPT = """
    const done = arguments[0];
    caches.open('yonderstat-1').then((kept) => kept.keys()).then((keys) => done(keys.map((key) => key.url)));
"""
OLD_PART = """
    const done = arguments[0];
    caches.open('yonderstat-1')
      .then((kept) => Promise.all([
        kept.put('/assets/of-an-older-version.js', new Response('x')),
        kept.put('/', new Response('an older page')),
      ]))
      .then(() => done(true));
"""


def test_what_is_kept_for_away_goes_with_its_site_and_its_version(
    person: Person, cluster: Cluster, template: str
) -> None:
    """A site is put away → nothing of it is kept any more; a newer page comes → parts only the old
    one named go."""
    url = create_database(cluster, "kept", template)
    build_demo_sites(create_app(url), with_record=False)
    with served(url) as address:
        person.open_to_read_away(address, "Ferry Road shack")
        design = person.driver.current_url.split("/designs/")[1].split("/")[0]

        def kept() -> list[str]:
            found: list[str] = person.driver.execute_async_script(KEPT)
            return found

        person.until(lambda: any(design in one for one in kept()), "nothing of the design is kept")
        person.driver.execute_async_script(OLD_PART)
        person.driver.get(f"{address}/")
        person.press("Archive Ferry Road shack")
        person.press("Archive")
        person.until(
            lambda: not any(design in one for one in kept()), "the put-away site is still kept"
        )
        assert not any("of-an-older-version" in one for one in kept())
        assert any("/assets/" in one for one in kept())


def test_the_next_step_stands_beside_the_verdict_and_is_taken_at_a_press(person: Person) -> None:
    """Free before bought; a press changes the design, and one undo takes it back."""
    person.open("Quay Street shack")
    cards = "document.querySelector('[aria-label=\"What to do next\"]')"
    person.until(lambda: person.driver.execute_script(f"return !!{cards}"), "no next step comes")
    text = person.driver.execute_script(f"return {cards}.innerText")
    assert text.index("Leave ") < text.index("more batteries")
    headline = "return document.querySelector('[aria-label=Verdict] h1').innerText"
    before = person.driver.execute_script(headline)
    person.driver.execute_script(f"{cards}.querySelector('button:enabled').focus()")
    person.keys(Keys.ENTER)
    person.until(
        lambda: person.driver.execute_script(headline) != before, "the verdict does not move"
    )
    person.saved()
    assert "On the edge" in person.driver.execute_script(headline)
    person.click("Undo")
    person.until(
        lambda: person.driver.execute_script(headline) == before, "the step is not taken back"
    )
