"""Whole journeys, as a person does them."""

import json
import urllib.request

import pytest
from selenium.webdriver import Keys

from tests.browser.conftest import SHEETS, Person


def strip(person: Person) -> list[str]:
    """What the month strip says, month by month."""
    words = (
        "return [...document.querySelectorAll('[aria-label=Verdict] li button')].map(b => "
        "b.ariaLabel)"
    )
    return list(person.driver.execute_script(words))


def answer(person: Person) -> str:
    """The verdict's figures, as they stand."""
    return person.text("[aria-label='Figures of the verdict']")


def test_raise_a_load_and_watch_the_verdict(person: Person) -> None:
    """Sites → Quay Street → raise a load → verdict and strip move → w → undo → reload → still
    there."""
    person.open("Quay Street shack")
    person.sees("Does not last the 3 days", "[aria-label=Verdict] h1")
    verdict, months = answer(person), strip(person)
    person.type("HF radio, 100 W: Amps on receive, or while on", "5 A")
    person.until(lambda: answer(person) != verdict, "the verdict did not move")
    assert strip(person) != months
    person.key("w")
    person.sees("Hours it lasts without sun", "[aria-label='Side panel']")
    person.press("Days it lasts without sun")
    person.sees("amp-hours divided by the amp-hours used in a day", "[aria-label='Side panel']")
    person.saved()
    person.key("u")
    person.until(lambda: answer(person) == verdict, "undo did not bring the verdict back")
    person.key("U")
    person.until(lambda: answer(person) != verdict, "redo did not bring the change back")
    raised = answer(person)
    person.saved()
    person.driver.refresh()
    person.until(lambda: answer(person) == raised, "the change is gone after a reload")
    assert (
        person.field("HF radio, 100 W: Amps on receive, or while on").get_attribute("value") == "5"
    )
    person.key("u")
    person.until(lambda: answer(person) == verdict, "undo does not reach across visits")


def test_a_new_site_by_locator_already_runs(person: Person) -> None:
    person.go("/")
    person.sees("Harrier Ridge")
    person.key("n")
    person.type("Name", "Hill digipeater")
    person.choose("Kind", "Unattended site")
    person.choose("Purpose", "Continuous")
    person.type("Place (locator, coordinates or town)", "ZZ99", Keys.ENTER)
    person.sees("ZZ99 isn't a grid locator")
    person.expected_noise = ("422",)
    person.type("Place (locator, coordinates or town)", "KP20", Keys.ENTER)
    person.until(lambda: "/designs/" in person.driver.current_url, "no design was opened")
    person.sees("Days it lasts without sun", "[aria-label='Figures of the verdict']")
    assert person.field("Repeater, 25 W: Load").get_attribute("value") == "Repeater, 25 W"
    person.key("m")
    person.press("Findings of all steps")
    person.sees("that we guessed", "[aria-label='Side panel']")


def test_every_number_on_every_step_opens_its_working(person: Person) -> None:
    person.open("Harrier Ridge repeater")
    for key in "12345":
        person.sees("Loses power", "[aria-label=Verdict] h1")
        person.key(key)
        person.until(lambda: "Opening" not in person.text("main"), "the step does not open")
        figures = person.driver.execute_script(
            "return [...document.querySelectorAll('[data-figure]')].length"
        )
        assert figures >= 4
        unexplained = person.driver.execute_async_script(
            """
            const done = arguments[0];
            const wait = () => new Promise((r) => requestAnimationFrame(r));
            (async () => {
              const missing = [];
              for (const figure of [...document.querySelectorAll('[data-figure]')]) {
                const number = figure.innerText.split('\\u2009')[0].trim();
                figure.click();
                let told = false;
                for (let frame = 0; frame < 60 && !told; frame++) {
                  await wait();
                  told = (document.querySelector('#margin-panel')?.innerText ?? '').includes(number);
                }
                if (!told) missing.push(figure.ariaLabel);
              }
              done(missing);
            })();
            """
        )
        assert unexplained == []


def test_the_ledger_by_keyboard_alone(person: Person) -> None:
    person.open("Quay Street shack")
    person.sees("Loads", "main")
    person.key("n")
    person.until(lambda: person.focused() == "New load: Load", "the new row has no focus")
    person.keys("Scanner", Keys.ENTER)
    person.until(lambda: person.focused() == "New load: Load", "Enter on the last row adds another")
    person.keys(Keys.ARROW_UP)
    assert person.focused() == "Scanner: Load"
    person.keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, "450 mA", Keys.TAB)
    person.saved()
    assert person.field("Scanner: Amps on receive, or while on").get_attribute("value") == "0.45"
    person.field("Scanner: Hours a day").click()
    person.ctrl("d")
    person.until(
        lambda: person.field("Scanner: Hours a day").get_attribute("value") == "5",
        "Ctrl+D did not fill down",
    )
    person.field("New load: Load").click()
    person.ctrl(Keys.DELETE)
    person.until(
        lambda: "New load: Load" not in person.driver.page_source,
        "Ctrl+Delete did not remove the row",
    )
    person.saved()
    person.key("u")
    person.find("New load: Load")


PASTE = """
const data = new DataTransfer();
data.setData('text', arguments[1]);
arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
"""


def test_paste_from_a_spreadsheet(person: Person) -> None:
    person.open("Quay Street shack")
    person.key("n")
    person.until(lambda: person.focused() == "New load: Load", "the new row has no focus")
    person.saved()
    cell = person.field("New load: Load")
    person.driver.execute_script(PASTE, cell, "Scanner\t1\t12 parsecs\n")
    person.sees("Line 1, Amps on receive, or while on: We can’t use the unit “parsecs”")
    person.driver.execute_script(PASTE, cell, "a\n" * 10_000)
    person.sees("can hold 200")
    person.driver.execute_script(
        PASTE, cell, "Scanner\t1\t450 mA\t\t\t12\tUseful\nBeacon\t2\t0,2 A\t1.5\t10 %\t24\tVital\n"
    )
    person.saved()
    assert person.field("Scanner: Amps on receive, or while on").get_attribute("value") == "0.45"
    assert person.field("Beacon: Transmit % of the time").get_attribute("value") == "10"


def test_what_is_wrong_is_said_beside_the_field_and_kept(person: Person) -> None:
    person.expected_noise = ("422",)
    person.open("Quay Street shack")
    name = "HF radio, 100 W: Amps on receive, or while on"
    person.type(name, "12 parsecs")
    person.sees("We can’t use the unit “parsecs”")
    assert person.field(name).get_attribute("value") == "12 parsecs"
    assert person.field(name).get_attribute("aria-invalid") == "true"
    person.type(name, "-5")
    person.sees("it must be at least 0")
    assert person.field(name).get_attribute("value") == "-5"
    person.type(name, "1.6")
    person.saved()
    assert person.field(name).get_attribute("aria-invalid") is None


def other_window(address: str, design_id: str, operations: list[dict[str, object]]) -> None:
    with urllib.request.urlopen(f"{address}/api/designs/{design_id}") as answer:
        revision = json.load(answer)["revision"]
    request = urllib.request.Request(
        f"{address}/api/designs/{design_id}",
        json.dumps(operations).encode(),
        {"Content-Type": "application/json", "If-Match": str(revision)},
        method="PATCH",
    )
    urllib.request.urlopen(request).close()


def test_two_windows(person: Person) -> None:
    """Another window's edit of another field is kept; of the same field, it is asked about."""
    person.expected_noise = ("412",)
    person.open("Quay Street shack")
    router, lights = "Router: Amps on receive, or while on", "Lights: Amps on receive, or while on"
    person.field(router)
    design_id = person.driver.current_url.split("/designs/")[1].split("/")[0]
    path = "/draw/loads/{}/receive_a/value"
    other_window(
        person.address, design_id, [{"op": "replace", "path": path.format(3), "value": 0.5}]
    )
    person.type(lights, "2")
    person.saved()
    person.until(lambda: person.field(router).get_attribute("value") == "0.5", "their edit is lost")
    assert person.field(lights).get_attribute("value") == "2"
    other_window(
        person.address, design_id, [{"op": "replace", "path": path.format(3), "value": 0.7}]
    )
    person.type(router, "3")
    person.sees("Another window set this to 0.7 while you typed 3.")
    person.press("Keep mine")
    person.saved()
    person.until(lambda: person.field(router).get_attribute("value") == "3", "mine was not kept")


def test_a_remedy_is_applied_with_one_press(person: Person) -> None:
    person.open("Harrier Ridge repeater")
    person.key("5")
    person.press("Hut north wall: MPPT controller instead of PWM")
    person.saved()
    person.sees("MPPT", "nav[aria-label=Steps]")


def test_what_a_keyboard_reaches(person: Person) -> None:
    person.open("Harrier Ridge repeater")
    person.sees("Loses power", "[aria-label=Verdict] h1")
    person.key("?")
    person.sees("Shortcuts are off while you type")
    person.keys(Keys.ESCAPE)
    person.until(
        lambda: "Shortcuts are off while you type" not in person.text(), "the list does not close"
    )
    person.key("/")
    person.field("Search for a field, finding, figure, load, site or command")
    person.keys("quay", Keys.ENTER)
    person.sees("Quay Street shack", "header")
    person.until(
        lambda: "Does not last" in person.text("[aria-label=Verdict] h1"),
        "the palette did not go there",
    )
    person.key("2")
    person.sees("Findings", "[aria-label='Side panel']")
    person.key("m")
    person.until(lambda: not person.text("[aria-label='Side panel']"), "the margin does not close")
    person.key("c")
    person.sees("A short in a box starts a fire", "[aria-label='Side panel']")
    person.open("Harrier Ridge repeater")
    person.sees("B · heated lithium", "header")
    person.key("]")
    person.until(
        lambda: 'aria-current="page" title="B' in person.driver.page_source,
        "] does not go to design B",
    )


@pytest.mark.parametrize("width", [1280, 390])
def test_axe_finds_nothing_serious_in_either_theme(person: Person, width: int) -> None:
    person.size(width, 800)
    person.go("/")
    person.sees("Harrier Ridge")
    person.axe()
    person.press("Harrier Ridge repeater")
    for theme in ("lamplight", "daylight"):
        person.press(f"Switch to {theme}")
        for sheet in SHEETS:
            person.turn_to(sheet)
            person.axe()
            person.fits_across(width, sheet)
            # Each part once, in one theme at either width.
            if (theme == "daylight") == (width == 1280):
                for tab in person.each_tab():
                    person.axe()
                    person.fits_across(width, f"{sheet}, {tab}")


def test_every_part_fits_a_very_narrow_screen(person: Person) -> None:
    """320 px across, as on an old phone or at 400 %."""
    person.size(320, 640)
    person.open("Quay Street shack")
    for sheet in SHEETS:
        person.turn_to(sheet)
        for tab in person.each_tab():
            person.fits_across(320, f"{sheet}, {tab}")


def test_axe_finds_nothing_serious_at_twice_the_size(person: Person) -> None:
    """At 200 % a page of 1280 × 800 has half of that to stand in: nothing overprints, nothing
    scrolls sideways."""
    person.size(640, 400)
    for page, words in (
        ("/shelf", "The club stores"),
        ("/guide", "Guide"),
        ("/", "Harrier Ridge"),
    ):
        person.go(page)
        person.sees(words)
        person.axe()
        assert person.driver.execute_script("return document.documentElement.scrollWidth") <= 640, (
            page
        )
    person.press("Quay Street shack")
    for sheet in SHEETS:
        person.turn_to(sheet)
        person.axe()
        person.fits_across(640, sheet)


def test_empty_places_offer_the_next_step(person: Person) -> None:
    """A site without a place, its loads, bank and panels taken away one by one."""
    person.go("/")
    person.key("n")
    person.type("Name", "Bare", Keys.ENTER)
    person.sees("Loads", "main")
    for _ in range(4):
        person.press("Remove ")
        person.saved()
    person.sees("No loads yet")
    person.sees("Nothing to power yet.", "[aria-label=Verdict] h1")
    person.key("4")
    person.sees("We need the location")
    person.key("5")
    person.press("Remove Main panels")
    person.sees("No panels yet")
    person.axe()
    person.go("/designs/00000000-0000-0000-0000-000000000000/draw")
    person.expected_noise = ("404",)
    person.sees("This design does not exist. It may have been removed.")
