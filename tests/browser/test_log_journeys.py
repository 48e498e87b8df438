"""Log as an operator keeps it: one line, what it means, and the plan set right."""

from pathlib import Path

from selenium.webdriver import Keys
from tools.cluster import Cluster
from tools.served import served

from tests.browser.conftest import Person
from tests.conftest import create_database
from yonderstat.demo import build_demo_sites
from yonderstat.demo.harrier_log import harrier_record
from yonderstat.web import create_app


def test_a_tested_capacity_sets_the_plan_right(person: Person) -> None:
    """Patrol 2 → Log → a line that is none → a test → used in the design → the reading agrees →
    taken out."""
    person.open("Patrol 2")
    person.key("9")
    person.sees("No readings yet", "#sheet")
    person.expected_noise = ("422",)
    person.type("Reading", "12.6 foo", Keys.ENTER)
    person.sees("begins with a number, but we can't read it", "#sheet")
    assert person.field("Reading").get_attribute("value") == "12.6 foo"
    person.type("Reading", "test 41 Ah", Keys.ENTER)
    person.sees("1 reading. 1 of those shown do not match this design", "#sheet")
    person.press("Use the tested 41 Ah")
    person.sees("They agree", "#sheet")
    person.saved()
    person.axe()
    person.press("Take out test 41 Ah")
    person.sees("No readings yet", "#sheet")


def test_a_discharge_test_changes_the_design_at_a_press(person: Person) -> None:
    """The Packhorse → discharge test → what to expect → a figure left out is said → logged → used
    in A."""
    person.open("The Packhorse")
    person.key("9")
    person.find("Discharge test", "button", exact=True).click()
    person.sees("Hours the plan expects", "#sheet")
    person.type("Load current, A", "5")
    person.type("Hours it lasted, h", "13")
    person.press("Save test")
    person.sees("is missing", "form[aria-label='Discharge test']")
    person.type("Stop at these volts, load still on, V", "10.5")
    person.press("Save test")
    person.sees("It gave 65.0 Ah", "#sheet")
    person.press("Use the tested 68 Ah in A · as built")
    person.saved()
    person.sees("This agrees with the plan", "#sheet")
    person.axe()


def test_a_meters_record_says_what_of_the_plan_is_wrong(person: Person, tmp_path: Path) -> None:
    """A file → its columns as guessed → brought in → what is most likely wrong → counted in the
    design."""
    record = tmp_path / "monitor.csv"
    record.write_text(harrier_record())
    person.open("Harrier Ridge repeater")
    person.key("9")
    person.sees("Nothing imported yet", "#sheet")
    field = person.driver.find_element("css selector", "input[aria-label='A meter’s record']")
    bad = tmp_path / "bad.csv"
    bad.write_text("time,volts\n2026-07-10 00:00,12.5\n2026-07-10 01:00,abc\n")
    field.send_keys(str(bad))
    person.press("Check the whole file")
    person.sees("Nothing was kept: line 3, column “volts”: “abc” isn't a number", "#sheet")
    person.press("Cancel")
    two_ways = tmp_path / "two_ways.csv"
    two_ways.write_text("Date,Volts\n03/04/2026 12:00,12.5\n04/04/2026 12:00,12.5\n")
    field.send_keys(str(two_ways))
    person.sees("The first date can be read two ways", "#sheet")
    person.sees("3 April 2026", "#sheet")
    person.axe()
    person.press("Cancel")
    field.send_keys(str(record))
    person.sees("Check what each column is taken for", "#sheet")
    person.press("Check the whole file")
    person.sees("Nothing is kept yet", "#sheet")
    person.press("Keep these rows")
    person.sees("rows are new, and were kept", "#sheet")
    person.press("Close")
    person.sees("day and night", "#sheet")
    person.choose("Show", "Load amps")
    person.sees("8 of 10 weather years", "#sheet")
    person.axe()
    person.press("A, all day in A · as built")
    person.saved()
    person.sees("Files on record: 1", "#sheet")
    person.click("Files on record: 1", "#sheet summary")
    person.press("Take monitor.csv out of the record")
    person.until(
        lambda: "Files on record" not in person.text("#sheet"), "the file is still on record"
    )
    person.sees("Nothing imported yet", "#sheet")
    person.key("2")
    person.find("Unknown night load: Load")


def test_upkeep_is_done_with_initials_and_taken_back(person: Person) -> None:
    """Build → initials → Log → glass is cleaned → due later → taken back."""
    person.open("Harrier Ridge repeater")
    person.driver.execute_script("localStorage.setItem('yonderstat.initials', 'QY')")
    person.key("9")
    person.sees("overdue", "[aria-label='Maintenance']")
    person.press("Clean terminals, check their torque: done today")
    # Others of the club have QY in their call signs too: it is the whole of the initials that is
    # looked for.
    person.until(lambda: ", QY\n" in history(person), "it is not in the history")
    person.press("Undo: ")
    person.until(lambda: ", QY\n" not in history(person), "it is still there")
    assert history(person).count("QY3RIM") == 3


def history(person: Person) -> str:
    """The service history, opened."""
    person.driver.execute_script(
        "document.querySelectorAll('[aria-label=Maintenance] details').forEach((d) => d.open "
        "= true)"
    )
    return person.text("[aria-label='Maintenance'] details")


def test_a_line_typed_on_the_hill_is_sent_once_when_the_server_is_back(
    person: Person, cluster: Cluster, template: str
) -> None:
    """The server is away → a line → it waits, with the page closed too → the server is back → it is
    logged once."""
    url = create_database(cluster, "hill", template)
    build_demo_sites(create_app(url), with_record=False)
    with served(url) as address:
        person.open_to_read_away(address, "Beech Hut digipeater")
        person.key("9")
        person.find("Save reading")
        person.sees("No readings yet", "#sheet")
        here, port = person.driver.current_url, int(address.rsplit(":", 1)[1])
    person.type("Reading", "12.31 rest 5h", "")
    person.press("Save reading")
    person.sees("One entry waits for the server: 12.31 rest 5h", "#sheet")
    person.driver.get("about:blank")
    person.driver.get(here)
    person.sees("One entry waits for the server", "#sheet")
    with served(url, port=port):
        person.sees("1 reading.", "#sheet")
        person.driver.refresh()
        person.sees("1 reading.", "#sheet")
