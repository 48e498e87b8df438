"""Build as a crew does it: what to buy, what is ticked, the papers."""

import urllib.request
from pathlib import Path

from tests.browser.conftest import Person


def opened(person: Person, site: str) -> None:
    """At a site's Build."""
    person.open(site)
    person.key("8")
    person.find("I have all of it")


def test_what_is_there_is_not_bought(person: Person) -> None:
    """Quay Street → Build → a battery there, its price → the sum moves → undo."""
    opened(person, "Quay Street shack")
    battery = "Battery LiFePO4, 12.8 V 100 Ah"
    person.sees("28 to buy: about 1,400 to 4,500 NZD. The price of all of them", "#sheet")
    person.type(f"{battery}: price of one", "690")
    person.sees("28 to buy: about 1,800 to 4,000 NZD. The price of 27 of them", "#sheet")
    person.sees("690", "#sheet")
    person.type(f"{battery}: in hand", "1")
    person.sees("27 to buy: about 1,100 to 3,300 NZD. The price of all of them", "#sheet")
    person.saved()
    person.key("u")
    person.sees("28 to buy: about 1,800 to 4,000 NZD. The price of 27 of them", "#sheet")


def test_a_checklist_is_ticked_with_initials_and_kept(person: Person) -> None:
    """The Packhorse → initials → tick → reload → still ticked, by whom."""
    opened(person, "The Packhorse")
    person.sees("type your initials to tick items", "#sheet")
    person.type("Your initials", "QY")
    person.click("Weigh and measure the parts", "input[type=checkbox]")
    person.sees("1 of 49 done", "#sheet")
    person.saved()
    person.driver.refresh()
    person.find("I have all of it")
    person.sees("1 of 49 done", "#sheet")
    person.sees("QY, ", "#sheet")
    person.axe()


def test_the_papers_are_there_to_take_away(person: Person) -> None:
    """The card's link gives one PDF, the parts' link a table."""
    opened(person, "The Packhorse")
    for name, start in (
        ("Wall card, A4 (PDF)", b"%PDF-"),
        ("Download CSV", b"group,part,unit"),
    ):
        link = person.find(name, "a").get_attribute("href")
        with urllib.request.urlopen(str(link), timeout=60) as answer:
            assert answer.read().startswith(start)


def test_a_column_of_a_spreadsheet_is_pasted_into_the_parts(person: Person) -> None:
    """Prices copied from a spreadsheet → pasted from the first price on → each line has its own;
    one cannot be read."""
    opened(person, "Quay Street shack")
    person.sees("The price of all of them is our guess", "#sheet")
    first = "input[aria-label$='price of one']"
    person.driver.execute_script(PASTE, first, "210\t9.5\n45\t\nabc\t")
    person.sees("The price of 26 of them is our guess", "#sheet")
    person.sees("“abc”", "#sheet")
    assert "9.5" in str(person.driver.execute_script(WEIGHT))
    person.press("Copy the table")
    person.sees("Copied", "#sheet")


def test_panels_are_taken_from_the_shelf_and_shown_there(person: Person) -> None:
    """The Packhorse → take the spare panels → the shelf says who has them → their label changes →
    so it says."""
    opened(person, "The Packhorse")
    person.sees("can't be used: its glass is cracked", "[aria-label='From the club stores']")
    person.press("Take it: Spare 85 W for Panel 85 W, 36 cells, Folding stand")
    person.sees("taken", "[aria-label='From the club stores']")
    person.saved()
    person.go("/shelf")
    person.sees("2 reserved", "#sheet")
    person.sees("The Packhorse A", "#sheet")
    person.axe()
    person.press("More about Spare 85 W")
    person.type("Watts on the label", "84")
    person.sees("data changed since", "#sheet")
    person.key("u")
    person.until(
        lambda: "data changed since" not in person.text("#sheet"), "undo did not take it back"
    )


def test_a_battery_is_taken_where_the_bank_is_typed(person: Person) -> None:
    """Packhorse B gives its lithium back → Quay Street → Store → take it from the shelf → it is in
    Build as there."""
    person.open("The Packhorse")
    person.press("B · two stands, lithium")
    person.sees("Lasts the 2 days away", "[aria-label=Verdict]")
    person.key("8")
    person.type("Battery LiFePO4, 12.8 V 100 Ah: in hand", "0")
    person.saved()
    person.open("Quay Street shack")
    person.key("3")
    person.click("Use parts from the club stores", "summary")
    person.press("Take it: LiFePO4 100 Ah of 2023 for Battery LiFePO4, 12.8 V 100 Ah")
    person.saved()
    person.key("8")
    person.until(
        lambda: (
            person.field("Battery LiFePO4, 12.8 V 100 Ah: in hand").get_attribute("value") == "1"
        ),
        "it is not counted as there",
    )


def test_kit_on_an_outing_is_missing_where_it_is_used(person: Person) -> None:
    """The shelf → an outing with the lithium → out → the Packhorse B says what is left without
    it."""
    person.go("/shelf")
    person.press("Add an outing", "Add a part to take")
    person.choose("Outing 1: takes, 1", "LiFePO4 100 Ah of 2023")
    person.click("Away now", "input[type=checkbox]")
    person.sees("out now: Outing 1", "#sheet")
    person.open("The Packhorse")
    person.press("B · two stands, lithium")
    person.sees("Lasts the 2 days away", "[aria-label=Verdict]")
    person.key("8")
    person.sees("Away on an outing: LiFePO4 100 Ah of 2023 (Outing 1)", "#sheet")


def test_three_designs_side_by_side_and_what_each_frees(person: Person) -> None:
    """Harrier Ridge → compare → all three → from A to B the old bank is free → C is marked as what
    stands there."""
    person.open("Harrier Ridge repeater")
    person.press("Compare")
    person.click("C · stays up", "input[type=checkbox]")
    person.sees("Back to the club stores", "main")
    person.sees("4 × Battery AGM, 6 V 225 Ah", "main")
    person.press("Mark as built: C · stays up")
    person.find("Mark as built: A · as built")
    person.axe()


def test_a_trailer_is_weighed(person: Person) -> None:
    """The Packhorse → water moved behind the axle → less on the hitch → too heavy in front is a
    Stop."""
    opened(person, "The Packhorse")
    person.sees("39 kg of", "#sheet")
    person.type("Water and food: ahead of the axle", "-1 m")
    person.sees("19 kg of", "#sheet")
    person.type("Water and food: weight", "90")
    person.type("Water and food: ahead of the axle", "2")
    person.sees("on the hitch; its limit is 60 kg")


def test_the_club_goes_out_as_a_file_and_comes_in_again(person: Person, tmp_path: Path) -> None:
    """Sites → the club's file → a site is put away → the file is brought in: nothing twice, nothing
    lost."""
    person.go("/")
    link = person.find("Download the whole club as one file", "a").get_attribute("href")
    with urllib.request.urlopen(str(link), timeout=60) as answer:
        (tmp_path / "club.zip").write_bytes(answer.read())
    field = person.driver.find_element("css selector", "input[aria-label='A club’s file']")
    field.send_keys(str(tmp_path / "club.zip"))
    person.sees("All of it was here already.")
    (tmp_path / "half.zip").write_bytes((tmp_path / "club.zip").read_bytes()[:5000])
    field.send_keys(str(tmp_path / "half.zip"))
    person.sees("Nothing was imported.")
    person.sees("isn't a complete zip file")
    person.expected_noise = ("422",)


PASTE = """
const cell = document.querySelector(arguments[0]);
cell.focus();
const data = new DataTransfer();
data.setData('text', arguments[1]);
cell.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}));
"""
WEIGHT = "return document.querySelector(`input[aria-label$='weight of one']`).value"
