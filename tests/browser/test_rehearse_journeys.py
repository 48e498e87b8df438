"""Journeys through Rehearse, as a person does them."""

from selenium.webdriver.common.by import By

from tests.browser.conftest import Person


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
