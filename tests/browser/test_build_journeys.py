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
