"""Whole journeys, as a person does them."""

import json
import urllib.request
from pathlib import Path

import pytest
from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.by import By

from tests.browser.conftest import Person
from tests.formats.test_weather_files import changed, epw_year


def strip(person: Person) -> list[str]:
    """What the month strip says, month by month."""
    words = "return [...document.querySelectorAll('[aria-label=Verdict] li button')].map(b => b.ariaLabel)"
    return list(person.driver.execute_script(words))


def test_raise_a_load_and_watch_the_verdict(person: Person) -> None:
    """Sites → Quay Street → raise a load → verdict and strip move → w → undo → reload → still there."""
    person.open("Quay Street shack")
    person.sees("Falls short of the 3 days", "[aria-label=Verdict] h1")
    verdict, months = person.verdict, strip(person)
    person.type("HF set, 100 W: Receiving or on, amps", "5 A")
    person.until(lambda: person.verdict != verdict, "the verdict did not move")
    assert strip(person) != months
    person.key("w")
    person.sees("Hours without sun", "[aria-label=Margin]")
    person.press("Days without sun")
    person.sees("amp-hours over the amp-hours drawn in a day", "[aria-label=Margin]")
    person.saved()
    person.key("u")
    person.until(lambda: person.verdict == verdict, "undo did not bring the verdict back")
    person.key("U")
    person.until(lambda: person.verdict != verdict, "redo did not bring the change back")
    raised = person.verdict
    person.saved()
    person.driver.refresh()
    person.until(lambda: person.verdict == raised, "the change is gone after a reload")
    assert person.field("HF set, 100 W: Receiving or on, amps").get_attribute("value") == "5"
    person.key("u")
    person.until(lambda: person.verdict == verdict, "undo does not reach across visits")


def test_a_new_site_by_locator_already_runs(person: Person) -> None:
    person.go("/")
    person.sees("Harrier Ridge")
    person.key("n")
    person.type("Name", "Hill digipeater")
    person.choose("Kind", "Unattended site")
    person.choose("Purpose", "Continuous")
    person.type("Place (locator, coordinates or town)", "ZZ99", Keys.ENTER)
    person.sees("ZZ99 is not a grid locator")
    person.expected_noise = ("422",)
    person.type("Place (locator, coordinates or town)", "KP20", Keys.ENTER)
    person.until(lambda: "/designs/" in person.driver.current_url, "no design was opened")
    person.sees("days without sun", "[aria-label=Verdict] h1")
    assert person.field("Repeater, 25 W: Load").get_attribute("value") == "Repeater, 25 W"
    person.press("All steps")
    person.sees("figures nobody has checked", "[aria-label=Margin]")


def test_every_number_on_every_step_opens_its_working(person: Person) -> None:
    person.open("Harrier Ridge repeater")
    for key in "12345":
        person.sees("Goes dark", "[aria-label=Verdict] h1")
        person.key(key)
        person.until(lambda: "Opening" not in person.text("main"), "the step does not open")
        figures = person.driver.execute_script("return [...document.querySelectorAll('[data-figure]')].length")
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
    assert person.field("Scanner: Receiving or on, amps").get_attribute("value") == "0.45"
    person.field("Scanner: Hours a day").click()
    person.ctrl("d")
    person.until(lambda: person.field("Scanner: Hours a day").get_attribute("value") == "5", "Ctrl+D did not fill down")
    person.field("New load: Load").click()
    person.ctrl(Keys.DELETE)
    person.until(lambda: "New load: Load" not in person.driver.page_source, "Ctrl+Delete did not remove the row")
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
    person.sees("Line 1, Receiving or on, amps: “parsecs” is not a unit")
    person.driver.execute_script(PASTE, cell, "a\n" * 10_000)
    person.sees("at most 200")
    person.driver.execute_script(
        PASTE, cell, "Scanner\t1\t450 mA\t\t\t12\tUseful\nBeacon\t2\t0,2 A\t1.5\t10 %\t24\tVital\n"
    )
    person.saved()
    assert person.field("Scanner: Receiving or on, amps").get_attribute("value") == "0.45"
    assert person.field("Beacon: Share of its hours on the key, percent").get_attribute("value") == "10"


def test_what_is_wrong_is_said_beside_the_field_and_kept(person: Person) -> None:
    person.expected_noise = ("422",)
    person.open("Quay Street shack")
    name = "HF set, 100 W: Receiving or on, amps"
    person.type(name, "12 parsecs")
    person.sees("“parsecs” is not a unit for this")
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
    router, lights = "Router: Receiving or on, amps", "Lights: Receiving or on, amps"
    person.field(router)
    design_id = person.driver.current_url.split("/designs/")[1].split("/")[0]
    path = "/draw/loads/{}/receive_a/value"
    other_window(person.address, design_id, [{"op": "replace", "path": path.format(3), "value": 0.5}])
    person.type(lights, "2")
    person.saved()
    person.until(lambda: person.field(router).get_attribute("value") == "0.5", "their edit is lost")
    assert person.field(lights).get_attribute("value") == "2"
    other_window(person.address, design_id, [{"op": "replace", "path": path.format(3), "value": 0.7}])
    person.type(router, "3")
    person.sees("Another window set this to 0.7 while you typed 3.")
    person.press("Keep mine")
    person.saved()
    person.until(lambda: person.field(router).get_attribute("value") == "3", "mine was not kept")


def test_a_remedy_is_applied_with_one_press(person: Person) -> None:
    person.open("Harrier Ridge repeater")
    person.key("5")
    person.press("Hut north wall: MPPT in place of PWM")
    person.saved()
    person.sees("MPPT", "nav[aria-label=Steps]")


def test_what_a_keyboard_reaches(person: Person) -> None:
    person.open("Harrier Ridge repeater")
    person.sees("Goes dark", "[aria-label=Verdict] h1")
    person.key("?")
    person.sees("They rest while you type")
    person.keys(Keys.ESCAPE)
    person.until(lambda: "They rest while you type" not in person.text(), "the list does not close")
    person.key("/")
    person.field("Find a step, a site or a load")
    person.keys("quay", Keys.ENTER)
    person.sees("Quay Street shack", "header")
    person.until(lambda: "Falls short" in person.verdict, "the palette did not go there")
    person.key("m")
    person.until(lambda: not person.text("[aria-label=Margin]"), "the margin does not close")
    person.key("c")
    person.sees("A battery drives thousands of amps", "[aria-label=Margin]")
    person.open("Harrier Ridge repeater")
    person.sees("B · heated lithium", "header")
    person.key("]")
    person.until(lambda: 'aria-current="page" title="B' in person.driver.page_source, "] does not go to design B")


@pytest.mark.parametrize("width", [1280, 390])
def test_axe_finds_nothing_serious_in_either_theme(person: Person, width: int) -> None:
    person.size(width, 800)
    person.go("/")
    person.sees("Harrier Ridge")
    person.axe()
    person.press("Harrier Ridge repeater")
    for theme in ("lamplight", "daylight"):
        person.press(f"Switch to {theme}")
        for step in ("Brief", "Draw", "Store", "Sun", "Array", "Rehearse"):
            person.find(step, "nav[aria-label=Steps] a").click()
            person.until(lambda: "Opening" not in person.text("main"), "the step does not open")
            person.axe()
            wide = person.driver.execute_script("return document.documentElement.scrollWidth")
            assert wide <= width, f"{step} scrolls sideways at {width}"


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
    person.sees("Sun follows from the place")
    person.key("5")
    person.press("Remove Main panels")
    person.sees("No panels yet")
    person.axe()
    person.go("/designs/00000000-0000-0000-0000-000000000000/draw")
    person.expected_noise = ("404",)
    person.sees("There is no such design.")


LOG = "exported by hand <EOH>\n" + "".join(
    f"<CALL:6>QY3KOW<QSO_DATE:8>202506{day:02d}<TIME_ON:4>{hour:02d}{minute:02d}<BAND:3>40m<MODE:3>SSB<EOR>\n"
    for day in (14, 15)
    for hour in (7, 8, 19, 20, 21)
    for minute in (5, 15, 25, 35, 45)
)


def test_build_the_ledger_by_keyboard_paste_rows_and_accept_a_logged_tempo(person: Person, tmp_path: Path) -> None:
    """Quay Street's ledger from empty, three pasted rows, a contact log, and the tempo it proposes."""
    person.go("/")
    person.find("Quay Street shack")
    person.key("n")
    person.type("Name", "Quay Street again")
    person.type("Place (locator, coordinates or town)", "RE55ov", Keys.ENTER)
    person.find("New load")
    for _ in range(4):
        person.field(": Load").click()
        person.ctrl(Keys.DELETE)
        person.saved()
    person.sees("No loads yet")
    person.key("n")
    person.until(lambda: person.focused() == "New load: Load", "the new row has no focus")
    person.keys("HF set, 100 W", Keys.TAB, Keys.TAB, "1.6", Keys.TAB, "22", Keys.TAB, "6", Keys.TAB, "8", Keys.TAB)
    person.saved()
    assert person.field("HF set, 100 W: Transmitting, amps").get_attribute("value") == "22"
    person.press("More about HF set, 100 W")
    person.choose("Kind", "HF set")
    person.type("Rated power", "100 W")
    person.choose("Mode", "SSB speech")
    person.saved()
    table = "name\treceive\ttransmit a\tduty %\thours\nVHF set\t0.7\t11\t3\t16\nRouter\t0.9\t\t\t24\nLights\t0.8\t\t\t5"
    area = person.field("Table of loads to paste")
    person.driver.execute_script(
        "Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set.call(arguments[0], arguments[1]);"
        "arguments[0].dispatchEvent(new Event('input', { bubbles: true }));",
        area,
        table,
    )
    person.sees("Columns by their heading: name, receive_a, transmit_a, transmit_share_percent, hours_per_day.")
    person.press("Add these 3 loads")
    person.saved()
    before = person.text("[aria-label^='Energy line']")
    log = tmp_path / "log.adi"
    log.write_text(LOG + "<CALL:60>cut<EOR>\n")
    person.driver.find_element(By.CSS_SELECTOR, "[aria-label='Contact log file']").send_keys(str(log))
    person.sees("50 contacts on 2 days.")
    person.sees("1 record left out: not readable")
    assert person.text("[aria-label^='Energy line']") == before
    person.press("Size on “As logged”")
    person.saved()
    person.until(lambda: person.text("[aria-label^='Energy line']") != before, "the amp-hours did not change")
    person.sees("As logged", "[aria-label='Tempos side by side']")


def test_turn_it_down_and_choose_a_tempo(person: Person) -> None:
    person.open("Quay Street shack")
    daily = "[aria-label^='Energy line']"
    before = person.text(daily)
    person.press("HF set, 100 W: run 25 W")
    person.until(lambda: person.text(daily) != before, "less power draws as much")
    person.saved()
    before = person.text(daily)
    person.press("Full tilt")
    person.until(lambda: person.text(daily) != before, "another tempo draws as much")
    person.saved()
    full = person.text("[aria-label='Tempos side by side']")
    person.driver.find_element(By.XPATH, "//summary[.='Load by load']").click()
    person.type("Full tilt, Router: hours a day", "2")
    person.until(lambda: person.text("[aria-label='Tempos side by side']") != full, "the override changes nothing")
    person.type("Lights: Receiving or on, amps", "25.6 W")
    person.saved()
    assert person.field("Lights: Receiving or on, amps").get_attribute("value") == "2"
    person.press("Monitors straight from the bus")
    person.saved()
    person.sees("nothing hangs on it", "[aria-label=Rails]")
    person.press("Remove Inverter 230 V")
    person.saved()
    person.axe()


def test_a_broken_log_says_so(person: Person, tmp_path: Path) -> None:
    person.expected_noise = ("422",)
    person.open("Quay Street shack")
    log = tmp_path / "empty.adi"
    log.write_text("no records here")
    person.driver.find_element(By.CSS_SELECTOR, "[aria-label='Contact log file']").send_keys(str(log))
    person.sees("None of its 1 records could be read")


def test_the_sun_on_another_plane_and_from_own_figures(person: Person) -> None:
    """The map by keyboard, a skyline typed, and an island that needs figures of its own."""
    person.expected_noise = ("422",)
    person.open("Harrier Ridge repeater")
    person.key("4")
    person.sees("would give", "[aria-label='Tilt and direction']")
    line = "[aria-label^='Energy line']"
    before = person.text(line)
    marked = person.find("90° tilt, facing 0°")
    person.driver.execute_script("arguments[0].focus()", marked)
    person.keys(*[Keys.ARROW_DOWN] * 6)
    person.until(lambda: person.focused().startswith("60° tilt, facing 0°"), "the arrows do not walk the map")
    person.keys(Keys.ENTER)
    person.until(lambda: person.text(line) != before, "another plane brings as much")
    person.saved()
    person.type("Skyline: direction and height", "90 somewhere")
    person.sees("is not a direction and a height")
    person.type("Skyline: direction and height", "90 5, 80 5")
    person.sees("must go round the compass once")
    before = person.text(line)
    person.type("Skyline: direction and height", "0 40")
    person.until(lambda: person.text(line) != before, "a wall all round takes nothing")
    person.saved()
    person.key("1")
    person.type("Place (locator, coordinates or town)", "21.3 -157.8", Keys.ENTER)
    person.saved()
    person.key("4")
    person.sees("too far to stand for")
    person.choose("Source", "Own monthly sun-hours")
    person.saved()
    person.type("Sun-hours a day on the flat, June", "5.5")
    person.saved()
    person.sees("Your own monthly figures")
    person.axe()


def test_a_weather_file_and_a_skyline_by_hand(person: Person, tmp_path: Path) -> None:
    """A broken file is refused with its line, a good one looked at and taken; the skyline moves by key and pointer."""
    person.expected_noise = ("422",)
    person.open("Harrier Ridge repeater")
    person.key("4")
    person.sees("poor days can follow one another")
    file = tmp_path / "valley.epw"
    file.write_text(changed(20, ",500.0,", ",-900,"))
    chooser = person.field("Weather file of a station near by")
    chooser.send_keys(str(file))
    person.sees("valley.epw: line 20 has -900 W/m²")
    file.write_text(epw_year())
    chooser.send_keys(str(file))
    person.sees("Nothing had to be mended", "[aria-label='The file read']")
    person.sees("4.0", "[aria-label='The file read']")
    person.axe()
    person.press("Rest the figures on it")
    person.saved()
    person.sees("“Tarn Valley”, a typical year (EPW file)")
    person.sees("The air is the weather file's", "[aria-label='The air']")

    corner = person.find("Skyline at 295°", "[role=slider]")
    person.driver.execute_script("arguments[0].focus()", corner)
    person.keys(Keys.ARROW_UP, Keys.ARROW_UP)
    person.until(
        lambda: "295 32" in str(person.field("Skyline: direction").get_attribute("value")), "the arrows move nothing"
    )
    sky = person.driver.find_element(By.CSS_SELECTOR, "svg.touch-none")
    person.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", sky)
    ActionChains(person.driver).move_to_element_with_offset(sky, 200, 30).click_and_hold().move_by_offset(
        0, 20
    ).release().perform()
    person.until(
        lambda: str(person.field("Skyline: direction").get_attribute("value")).count(",") == 4, "the pointer adds none"
    )
    person.saved()
    person.press("all months in use")
    person.sees("over the months in use", "[aria-label='Tilt and direction']")


def test_a_town_is_found_by_name(person: Person) -> None:
    person.open("Quay Street shack")
    person.key("1")
    field = person.field("Place (locator, coordinates or town)")
    field.click()
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("Reykjav")
    person.find("Reykjavík, Iceland", "[role=option]")
    person.axe()
    field.send_keys(Keys.ENTER)
    person.sees("64.1")
    person.saved()
    person.until(
        lambda: person.field("Time zone").get_attribute("value") == "Atlantic/Reykjavik", "the zone did not follow"
    )
    person.go("/about")
    person.sees("CC-BY 4.0")
    person.axe()


def test_the_packhorse_chooses_its_chemistry_by_weight(person: Person) -> None:
    """Enough AGM is too heavy for the hitch; the table says what LiFePO4 would weigh; chosen, the Stop goes."""
    person.expected_noise = ("422",)
    person.open("The Packhorse")
    person.key("3")
    person.type("In parallel", "3")
    person.saved()
    person.sees("Batteries weigh 93 kg, and 60 kg may be carried", "[aria-label=Margin]")
    person.sees("LiFePO4", "[aria-label='The same use in every chemistry']")
    person.axe()
    person.choose("Chemistry", "LiFePO4")
    person.saved()
    person.type("Volts of one unit", "12.8")
    person.saved()
    person.driver.find_element(By.XPATH, "//summary[.='Limits, weight, price, life']").click()
    person.type("Weight of one unit", "27 lb")
    person.saved()
    person.until(
        lambda: "Batteries weigh" not in person.text("[aria-label=Margin]"), "the lighter bank is still too heavy"
    )
    person.type("Cycle life from the data sheet", "80 deep")
    person.sees("is not a depth and a number of cycles")
    person.type("Cycle life from the data sheet", "80 4000, 50 6000")
    person.sees("go from shallow to deep")
    person.type("Cycle life from the data sheet", "50 9000, 80 4000")
    person.saved()


def test_a_reading_a_charge_and_a_second_layer(person: Person) -> None:
    """A reading on the flat part is a range; a charger's hours; a layer nobody charges until it is told who does."""
    person.open("Quay Street shack")
    person.key("3")
    person.type("A reading at rest", "13.08")
    person.sees("lithium hardly changes its volts here")
    person.type("Charger of", "20 A")
    person.sees("h at full current to")
    person.press("Add a layer")
    person.saved()
    person.sees("Nothing charges Second bank", "[aria-label=Margin]")
    person.press("Shed roof charges Second bank")
    person.saved()
    person.until(lambda: "Nothing charges" not in person.text("[aria-label=Margin]"), "the path charges nobody")
    person.type("Shed roof to Second bank: switch position", "2")
    person.saved()
    person.press("Add a power pack")
    person.saved()
    person.sees("Takes for itself")
    person.axe()


def test_mend_harrier_ridge_by_a_remedy(person: Person) -> None:
    """The old controller is set wrong and clips nothing; MPPT by one press: the ladder and June change."""
    person.open("Harrier Ridge repeater")
    person.key("5")
    person.sees("the controller's limit in the cold", "[aria-label='Voltage ladder']")
    person.sees("PWM would need", "[aria-label='PWM beside MPPT']")
    ladder, line = person.text("[aria-label='Voltage ladder']"), person.text("[aria-label^='Energy line']")
    person.press("Hut north wall: MPPT in place of PWM")
    person.saved()
    person.until(lambda: person.text("[aria-label^='Energy line']") != line, "June is as poor as before")
    person.until(lambda: person.text("[aria-label='Voltage ladder']") != ladder, "the ladder stands as before")
    person.type("In series", "2")
    person.saved()
    person.sees("is more than the 30 V the controller stands", "[aria-label='Voltage ladder']")
    person.axe()


def test_the_clubs_shelf_becomes_strings(person: Person) -> None:
    """Three odd panels and two old controllers: told what works, what does not and why; one press uses it."""
    person.open("The Packhorse")
    person.key("5")
    person.sees("scrap for planning", "[aria-label='Strings that fit']")
    person.sees("the controller stands 25 V", "[aria-label='Strings that fit']")
    person.press("Use it")
    person.saved()
    person.until(
        lambda: person.field("String 1: name").get_attribute("value") == "Spare 85 W", "the shelf was not used"
    )
    person.sees("open-circuit volts alone do not prove watts", "[aria-label=Margin]")
    person.press("Remove Mains charger, 10 A")
    person.saved()
    person.choose("Add a source", "Supply on panel terminals")
    person.saved()
    person.choose("Feeds the controller of", "Spare 85 W")
    person.saved()
    person.type("Volts, set or stated", "14")
    person.saved()
    person.sees("never fills the bank", "[aria-label=Margin]")
    person.axe()


def test_rehearse_quay_streets_three_july_days(person: Person) -> None:
    """Played as sized and flat out, side by side; a length nobody can play is refused beside its field."""
    person.expected_noise = ("422",)
    person.open("Quay Street shack")
    person.key("7")
    person.sees("Carry-through")
    person.sees("of vital service takes", "[aria-label='How much is enough']")
    person.sees("Everything is dark at once", "[aria-label='Single failures']")
    person.choose("Month", "July")
    person.press("Play it")
    person.sees("Dark after", "[aria-label='Set the scene']")
    person.sees("Vital service dark", "[aria-label='Set the scene']")
    person.choose("Tempo", "Full tilt")
    person.press("Play it")
    person.until(
        lambda: len(person.driver.find_elements(By.CSS_SELECTOR, "article[aria-label^=Rehearsal]")) == 2,
        "the one before is gone",
    )
    person.axe()
    person.type("How many days", "90")
    person.press("Play it")
    person.until(lambda: "30" in person.text("#scene-days-error"), "what is wrong is not said beside the field")
