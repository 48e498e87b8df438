"""Where a site opens, and the ways on from there."""

from selenium.webdriver import Keys
from tools.cluster import Cluster
from tools.served import served

from tests.browser.conftest import Person
from tests.conftest import create_database
from yonderstat.demo import build_demo_sites
from yonderstat.web import create_app

CARD = "[...document.querySelectorAll('a')].find((a) => a.textContent.includes('Wall card')).href"
KEPT_CARD = f"""
const done = arguments[0];
caches.match({CARD}).then((kept) => done(!!kept));
"""
FIRST_BYTES = f"""
const done = arguments[0];
fetch({CARD}).then((answer) => answer.text()).then((text) => done(text.slice(0, 5)));
"""


def test_a_site_opens_at_what_is_to_be_done(person: Person) -> None:
    """Sites → Harrier Ridge → the gravest job leads to its step → 0 leads back → a reading is typed
    and stands there → the way to stretching the battery."""
    person.go("/")
    person.press("Harrier Ridge repeater")
    person.sees("Next jobs", "#sheet")
    jobs = person.driver.find_elements("css selector", "[aria-label='Next jobs'] li a")
    assert 1 <= len(jobs) <= 5
    sentence, step = jobs[0].text.split("\n")
    jobs[0].click()
    person.at_sheet(step)
    person.sees(sentence, "[aria-label='Side panel']")
    person.key("0")
    person.at_sheet("Overview")
    person.sees("Maintenance due", "#sheet")
    person.type("Reading", "12.62 rest 3h", Keys.ENTER)
    person.sees("12.62 rest 3h", "[aria-label='Readings']")
    person.press("Stretch the battery")
    person.until(lambda: "page=last" in person.driver.current_url, "it does not lead there")
    person.sees("Stretch the battery", "[role=tab][aria-selected=true]")


def test_a_word_people_use_leads_to_where_it_is_done(person: Person) -> None:
    """/ → “rfi” → the noise survey; / → a field by name, and what is typed next goes into it."""
    person.open("Quay Street shack")
    person.key("/")
    person.keys("rfi")
    person.sees("Noise on the bands", "[role=option][aria-selected=true]")
    person.keys(Keys.ENTER)
    person.sees("Noise of a device", "#sheet")
    person.key("/")
    person.keys("Amp-hours of one battery")
    person.sees("Amp-hours of one battery", "[role=option][aria-selected=true]")
    person.keys(Keys.ENTER)
    person.until(
        lambda: person.driver.execute_script(
            "return document.activeElement?.labels?.[0]?.textContent ?? ''"
        ).startswith("Amp-hours of one battery"),
        "the field has no focus",
    )
    person.keys("123", Keys.TAB)
    person.saved()
    assert person.field("Amp-hours of one battery, on the label").get_attribute("value") == "123"


def test_a_town_is_found_by_what_others_call_it(person: Person) -> None:
    person.go("/")
    person.key("n")
    person.field("Place (locator, coordinates or town)").send_keys("Lucerne")
    person.sees("Luzern (Lucerne), Switzerland", "[role=option]")


def test_the_wall_card_opens_at_the_site_without_a_network(
    person: Person, cluster: Cluster, template: str
) -> None:
    """The overview of a station as built is looked at → its card is kept → the server is stopped →
    the card is there, and a paper that was never opened says so; the page itself is still the
    page."""
    url = create_database(cluster, "card_away", template)
    build_demo_sites(create_app(url), with_record=False)
    with served(url) as address:
        person.open_to_read_away(address, "Ferry Road shack")
        person.key("0")
        person.sees("Wall card (PDF)", "#sheet")
        person.until(lambda: person.driver.execute_async_script(KEPT_CARD), "no card is kept")
        here = person.driver.current_url
    assert person.driver.execute_async_script(FIRST_BYTES) == "%PDF-"
    design = here.split("/designs/")[1].split("/")[0]
    person.driver.get(f"{address}/api/designs/{design}/report?paper=a4")
    person.sees("this printout was not opened here before")
    person.driver.get(here)
    person.sees("Next jobs", "#sheet")
