"""Journeys through Draw, as a person does them."""

from pathlib import Path

from selenium.webdriver import Keys
from selenium.webdriver.common.by import By

from tests.browser.conftest import Person

LOG = "exported by hand <EOH>\n" + "".join(
    f"<CALL:6>QY3KOW<QSO_DATE:8>202506{day:02d}<TIME_ON:4>{hour:02d}{minute:02d}<BAND:3>40m<MODE:3>SSB<EOR>\n"
    for day in (14, 15)
    for hour in (7, 8, 19, 20, 21)
    for minute in (5, 15, 25, 35, 45)
)


def test_build_the_ledger_by_keyboard_paste_rows_and_accept_a_logged_tempo(
    person: Person, tmp_path: Path
) -> None:
    """Quay Street's ledger from empty, three pasted rows, a contact log, and the tempo it
    proposes."""
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
    person.keys(
        "HF radio, 100 W",
        Keys.TAB,
        Keys.TAB,
        "1.6",
        Keys.TAB,
        "22",
        Keys.TAB,
        "6",
        Keys.TAB,
        "8",
        Keys.TAB,
    )
    person.saved()
    assert person.field("HF radio, 100 W: Transmitting, amps").get_attribute("value") == "22"
    person.press("More about HF radio, 100 W")
    person.choose("Kind", "HF radio")
    person.type("Rated power", "100 W")
    person.choose("Mode", "SSB speech")
    person.saved()
    table = (
        "name\treceive\ttransmit a\tduty %\thours\nVHF "
        "set\t0.7\t11\t3\t16\nRouter\t0.9\t\t\t24\nLights\t0.8\t\t\t5"
    )
    area = person.field("Table of loads to paste")
    person.driver.execute_script(
        "Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, "
        "'value').set.call(arguments[0], arguments[1]);"
        "arguments[0].dispatchEvent(new Event('input', { bubbles: true }));",
        area,
        table,
    )
    person.sees(
        "Columns found by their headings: name, receive_a, transmit_a, "
        "transmit_share_percent, hours_per_day."
    )
    person.press("Add these 3 loads")
    person.saved()
    before = person.text("[aria-label^='Energy flow']")
    log = tmp_path / "log.adi"
    log.write_text(LOG + "<CALL:60>cut<EOR>\n")
    person.driver.find_element(By.CSS_SELECTOR, "[aria-label='Contact log file']").send_keys(
        str(log)
    )
    person.sees("50 contacts in 2 days.")
    person.sees("1 record skipped: not readable")
    assert person.text("[aria-label^='Energy flow']") == before
    person.press("Use “From your contact log” for sizing")
    person.saved()
    person.until(
        lambda: person.text("[aria-label^='Energy flow']") != before,
        "the amp-hours did not change",
    )
    person.sees("From your contact log", "[aria-label='How long it lasts at each activity level']")


def test_turn_it_down_and_choose_a_tempo(person: Person) -> None:
    person.open("Quay Street shack")
    daily = "[aria-label^='Energy flow']"
    before = person.text(daily)
    person.press("HF radio, 100 W: run 25 W")
    person.until(lambda: person.text(daily) != before, "less power draws as much")
    person.saved()
    before = person.text(daily)
    person.press("Heavy traffic")
    person.until(lambda: person.text(daily) != before, "another tempo draws as much")
    person.saved()
    full = person.text("[aria-label='How long it lasts at each activity level']")
    person.driver.find_element(By.XPATH, "//summary[.='Change single loads']").click()
    person.type("Heavy traffic, Router: hours a day", "2")
    person.until(
        lambda: person.text("[aria-label='How long it lasts at each activity level']") != full,
        "the override changes nothing",
    )
    person.type("Lights: Amps on receive, or while on", "25.6 W")
    person.saved()
    assert person.field("Lights: Amps on receive, or while on").get_attribute("value") == "2"
    person.press("Run Monitors straight from the battery bus")
    person.saved()
    person.sees("no load on it", "[aria-label='Supply lines']")
    person.press("Remove Inverter 230 V")
    person.saved()
    person.axe()


def test_a_broken_log_says_so(person: Person, tmp_path: Path) -> None:
    person.expected_noise = ("422",)
    person.open("Quay Street shack")
    log = tmp_path / "empty.adi"
    log.write_text("no records here")
    person.driver.find_element(By.CSS_SELECTOR, "[aria-label='Contact log file']").send_keys(
        str(log)
    )
    person.sees("None of the 1 records could be read")
