"""A meter in hand: from what is noticed to the cause, and into the log."""

import pytest
from selenium.webdriver import Keys

from tests.browser.conftest import Person


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (390, 844)])
def test_a_radio_that_shuts_off_leads_to_its_lug(person: Person, width: int, height: int) -> None:
    """Quay Street → Check a reading → shuts off → three readings → the lug → mended → in the log."""
    person.open("Quay Street shack")
    person.size(width, height)
    person.key("r")
    person.find("Reading", "input")
    person.choose("What do you notice?", "The radio shuts off when I transmit")
    person.sees("Nothing is measured yet", "#sheet")
    person.press("half")
    # At night, whatever the clock says when the test runs: by day the panels would be in it.
    person.find("night", "button", exact=True).click()
    person.choose("Hour", "21:00")
    # What a plain walk gives for 60 mΩ at the lug of the HF lead, the battery half charged.
    person.type("Volts at the fuse block", "12.42", Keys.ENTER)
    person.sees("That fits", "#sheet")
    person.type("Volts at the HF radio, 100 W", "10.35", Keys.ENTER)
    person.sees("Too low", "#sheet")
    person.sees("Several causes fit", "#sheet")
    person.type("Volts across the fuse and holder of the HF radio, 100 W", "0.09", Keys.ENTER)
    person.sees("A bad joint, lug or plug: HF radio, 100 W, most likely.", "#sheet")
    person.axe()
    person.press("Mended: put it in the log")
    person.sees("It is in the log", "#sheet")
    person.key("9")
    person.sees("Mended: A bad joint, lug or plug: HF radio, 100 W", "#sheet")


def test_a_line_is_understood_or_says_why_not(person: Person) -> None:
    """Patrol 2 → a line that is none → it stays, with what to say instead → a reading that fits."""
    person.open("Patrol 2")
    person.key("r")
    person.expected_noise = ("422",)
    person.type("Reading", "all is well", Keys.ENTER)
    person.sees("has no figure in it", "#sheet")
    assert person.field("Reading").get_attribute("value") == "all is well"
    person.type("Reading", "13.1 at the battery posts, night", Keys.ENTER)
    person.sees("at the battery posts", "#sheet")
    person.sees("to expect", "#sheet")


def test_what_is_dangerous_says_first_what_to_do(person: Person) -> None:
    """Something smells → stop, before anything is measured."""
    person.open("Harrier Ridge repeater")
    person.key("r")
    person.choose("What do you notice?", "Something smells, hisses, or a lead is warm")
    person.sees("touch nothing metal at the battery", "#sheet")
