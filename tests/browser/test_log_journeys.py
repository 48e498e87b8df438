"""Log as an operator keeps it: one line, what it means, and the plan set right."""

from selenium.webdriver import Keys

from tests.browser.conftest import Person


def test_a_tested_capacity_sets_the_plan_right(person: Person) -> None:
    """Patrol 2 → Log → a line that is none → a test → used in the design → the reading agrees → taken out."""
    person.open("Patrol 2")
    person.key("9")
    person.sees("Nothing logged here yet", "#sheet")
    person.expected_noise = ("422",)
    person.type("Reading", "12.6 foo", Keys.ENTER)
    person.sees("begins with a number and is no reading we know", "#sheet")
    assert person.field("Reading").get_attribute("value") == "12.6 foo"
    person.type("Reading", "test 41 Ah", Keys.ENTER)
    person.sees("1 reading; 1 of those shown speak against this design", "#sheet")
    person.press("Use 41 Ah as tested")
    person.sees("They agree", "#sheet")
    person.saved()
    person.axe()
    person.press("Take out test 41 Ah")
    person.sees("Nothing logged here yet", "#sheet")
