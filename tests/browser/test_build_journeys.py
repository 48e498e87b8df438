"""Build as a crew does it: what to buy, what is ticked, the papers."""

import urllib.request

from tests.browser.conftest import Person


def opened(person: Person, site: str) -> None:
    """At a site's Build."""
    person.open(site)
    person.key("8")
    person.find("All of it is there")


def test_what_is_there_is_not_bought(person: Person) -> None:
    """Quay Street → Build → a battery there, its price → the sum moves → undo."""
    opened(person, "Quay Street shack")
    battery = "Battery LiFePO4, 12.8 V 100 Ah"
    person.sees("25 to buy, 25 without a price yet", "#sheet")
    person.type(f"{battery}: price of one", "690")
    person.sees("25 to buy, 24 without a price yet", "#sheet")
    person.sees("690", "#sheet")
    person.type(f"{battery}: there already", "1")
    person.sees("24 to buy, 24 without a price yet", "#sheet")
    person.saved()
    person.key("u")
    person.sees("25 to buy, 24 without a price yet", "#sheet")


def test_a_checklist_is_ticked_with_initials_and_kept(person: Person) -> None:
    """The Packhorse → initials → tick → reload → still ticked, by whom."""
    opened(person, "The Packhorse")
    person.sees("type them to tick", "#sheet")
    person.type("Your initials", "QY")
    person.click("Weigh and measure what must fit", "input[type=checkbox]")
    person.sees("1 of 49 done", "#sheet")
    person.saved()
    person.driver.refresh()
    person.find("All of it is there")
    person.sees("1 of 49 done", "#sheet")
    person.sees("QY, ", "#sheet")
    person.axe()


def test_the_papers_are_there_to_take_away(person: Person) -> None:
    """The card's link gives one PDF, the parts' link a table."""
    opened(person, "The Packhorse")
    for name, start in (("Site card, A4 (PDF)", b"%PDF-"), ("Take them away as CSV", b"group,part,unit")):
        link = person.find(name, "a").get_attribute("href")
        with urllib.request.urlopen(str(link), timeout=60) as answer:
            assert answer.read().startswith(start)


def test_a_column_of_a_spreadsheet_is_pasted_into_the_parts(person: Person) -> None:
    """Prices copied from a spreadsheet → pasted from the first price on → each line has its own; one cannot be read."""
    opened(person, "Quay Street shack")
    person.sees("25 without a price yet", "#sheet")
    first = "input[aria-label$='price of one']"
    person.driver.execute_script(PASTE, first, "210\t9.5\n45\t\nabc\t")
    person.sees("23 without a price yet", "#sheet")
    person.sees("“abc”", "#sheet")
    assert "9.5" in str(person.driver.execute_script(WEIGHT))
    person.press("Copy the table")
    person.sees("Copied", "#sheet")


PASTE = """
const cell = document.querySelector(arguments[0]);
cell.focus();
const data = new DataTransfer();
data.setData('text', arguments[1]);
cell.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}));
"""
WEIGHT = "return document.querySelector(`input[aria-label$='weight of one']`).value"
