"""Journeys through Rehearse, as a person does them."""

from selenium.webdriver.common.by import By

from tests.browser.conftest import Person

TIMELINE = "article[aria-label^=Rehearsal]"


def lanes(person: Person) -> int:
    return len(person.driver.find_elements(By.CSS_SELECTOR, f"{TIMELINE} svg g text title"))


def test_rehearse_quay_streets_three_july_days(person: Person) -> None:
    """Played as sized and flat out from the second day, side by side, lanes and all; why is a press
    away."""
    person.expected_noise = ("422",)
    person.open("Quay Street shack")
    person.key("7")
    person.choose("Month", "July")
    person.press("Run it")
    person.sees("Loses power after", "[aria-label='Choose the outage']")
    person.sees("Vital loads: without power", "[aria-label='Choose the outage']")
    person.sees("Two more batteries in parallel", "[aria-label^='What would have saved it']")
    assert lanes(person) == 6
    person.choose("Activity level on day 2", "2: Heavy traffic")
    person.press("Run it")
    person.until(
        lambda: len(person.driver.find_elements(By.CSS_SELECTOR, TIMELINE)) == 2,
        "the one before is gone",
    )
    person.press("hours without power, vital loads")
    person.sees("Hours when the vital loads get less than they need")
    person.axe()
    person.type("How many days", "90")
    person.press("Run it")
    person.until(
        lambda: "30" in person.text("#scene-days-error"),
        "what is wrong is not said beside the field",
    )


def test_swap_a_bank_and_make_a_saver_the_design(person: Person) -> None:
    """A second box behind the bank, swapped on the second day; then a saver is made the design, and
    undone."""
    person.open("Quay Street shack")
    person.key("3")
    person.press("Add a second battery")
    person.saved()
    person.key("7")
    person.choose("Month", "July")
    person.choose("Add a failure or an action", "Swap batteries: take the main one out to charge")
    person.type("From", "day 2, 00:00")
    person.type("To", "40")
    person.press("Run it")
    person.sees("The main battery goes out to charge", TIMELINE)
    person.sees("The main battery is back", TIMELINE)
    person.press("Stretch the battery")
    person.sees("the other batteries run the station", "[aria-label='Swapping batteries']")
    person.press("Run an outage")
    before = person.verdict
    person.press("Change the design: ")
    person.until(lambda: person.verdict != before, "the verdict stays")
    person.saved()
    person.key("u")
    person.until(lambda: person.verdict == before, "it is not undone")


def test_practise_rationing(person: Person) -> None:
    """The mains fail, five evenings are decided, and the run stands beside the best simple rule."""
    person.open("Quay Street shack")
    person.key("7")
    person.press("Train")
    person.choose("How long", "3 days")
    person.press("Start the outage")
    person.sees("How will you run the first day?")
    for day in (1, 2, 3):
        person.sees(f"Activity level on day {day}")
        person.choose(f"Activity level on day {day}", "Listening")
        person.choose("What stays on", "vital loads only")
        person.press("Run this day")
    person.sees("The best simple rule")
    person.sees("The actual weather")
    person.axe()
    person.press("Start again with other weather")
    person.sees("Start the outage")


def test_how_much_is_enough_at_harrier_ridge(person: Person) -> None:
    """The map draws itself, follows the tilt, and its cheapest point is made a design of its own
    that does well."""
    person.open("Harrier Ridge repeater")
    person.until(lambda: "Loses power from" in person.verdict, "it keeps power already")
    person.key("7")
    person.press("How big must it be?")
    person.sees("Cheapest size for 99.9 % of", "[aria-label='How big must it be?']")
    person.until(lambda: person.text("[aria-busy=true]") == "", "the map is not refined")
    before = person.text("[aria-label='How big must it be?'] [aria-live=polite]")
    slider = person.find("Tilt as now", "input")
    slider.send_keys("\ue012" * 9)
    person.sees("Tilt 0° instead")
    person.until(
        lambda: person.text("[aria-label='How big must it be?'] [aria-live=polite]") != before,
        "the map does not follow",
    )
    person.press("Reset to present tilt")
    person.choose("Compare", "controllers")
    person.sees("MPPT", "[aria-label='Side by side']")
    person.axe()
    person.size(390, 844)
    person.axe()
    person.size(1280, 800)
    person.until(lambda: person.text("[aria-busy=true]") == "", "the map is not refined")
    person.press("Create a design with this size")
    person.until(
        lambda: "D" in person.text("nav[aria-label=Designs] [aria-current=page]"),
        "no new design is open",
    )
    person.until(lambda: "Loses power from" not in person.verdict, "the new design loses power too")


def test_the_years_and_what_is_lost(person: Person) -> None:
    """Thirty years with their band, the rule of thumb beside them, and every part lost; at phone
    width as well."""
    person.open("Quay Street shack")
    person.key("7")
    person.press("Weather years")
    person.sees("Chance of lasting")
    person.sees("Rule of thumb")
    person.press("typical year")
    person.press("If something breaks")
    person.sees("The station loses power at once", "[aria-label='If something breaks']")
    person.press("Stretch the battery", "Calculate")
    person.sees("To last 5 days")
    person.size(390, 844)
    person.press("Weather years")
    person.axe()
