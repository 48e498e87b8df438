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
    person.press("Play it")
    person.sees("Dark after", "[aria-label='Set the scene']")
    person.sees("Vital service dark", "[aria-label='Set the scene']")
    person.sees("Two battery strings more", "[aria-label^='What would have saved it']")
    assert lanes(person) == 6
    person.choose("Tempo on day 2", "2: Full tilt")
    person.press("Play it")
    person.until(
        lambda: len(person.driver.find_elements(By.CSS_SELECTOR, TIMELINE)) == 2,
        "the one before is gone",
    )
    person.press("vital hours dark")
    person.sees("in which the vital loads are not served in full")
    person.axe()
    person.type("How many days", "90")
    person.press("Play it")
    person.until(
        lambda: "30" in person.text("#scene-days-error"),
        "what is wrong is not said beside the field",
    )


def test_swap_a_bank_and_make_a_saver_the_design(person: Person) -> None:
    """A second box behind the bank, swapped on the second day; then a saver is made the design, and
    undone."""
    person.open("Quay Street shack")
    person.key("3")
    person.press("Add a layer")
    person.saved()
    person.key("7")
    person.choose("Month", "July")
    person.choose(
        "Add what goes wrong, or what somebody does", "Swap banks: the main one out to charge"
    )
    person.type("From", "day 2, 00:00")
    person.type("To", "40")
    person.press("Play it")
    person.sees("The main bank goes out to charge", TIMELINE)
    person.sees("The main bank is back", TIMELINE)
    person.press("Make it last")
    person.sees("the layers carry the station", "[aria-label=Rotation]")
    person.press("Play an outage")
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
    person.press("Practise")
    person.choose("How long", "3 days")
    person.press("The mains fail")
    person.sees("How will the first day be worked?")
    for day in (1, 2, 3):
        person.sees(f"Tempo on day {day}")
        person.choose(f"Tempo on day {day}", "Listening")
        person.choose("What stays on", "vital loads alone")
        person.press("Work the day")
    person.sees("Best simple rule")
    person.sees("The weather it was")
    person.axe()
    person.press("Again, with other weather")
    person.sees("The mains fail")


def test_how_much_is_enough_at_harrier_ridge(person: Person) -> None:
    """The map draws itself, follows the tilt, and its cheapest point is made a design of its own
    that does well."""
    person.open("Harrier Ridge repeater")
    person.key("7")
    person.press("How much is enough")
    person.sees(
        "The cheapest that holds 99.9 % of vital service", "[aria-label='How much is enough']"
    )
    person.until(lambda: person.text("[aria-busy=true]") == "", "the map is not refined")
    before = person.text("[aria-label='How much is enough'] [aria-live=polite]")
    slider = person.find("Tilted as they are", "input")
    slider.send_keys("\ue012" * 9)
    person.sees("As if tilted at 0°")
    person.until(
        lambda: person.text("[aria-label='How much is enough'] [aria-live=polite]") != before,
        "the map does not follow",
    )
    person.press("As they are")
    person.choose("Set side by side", "controllers")
    person.sees("MPPT", "[aria-label='Side by side']")
    person.axe()
    person.size(390, 844)
    person.axe()
    person.size(1280, 800)
    person.until(lambda: person.text("[aria-busy=true]") == "", "the map is not refined")
    person.press("Make this a new design")
    person.until(
        lambda: "D" in person.text("nav[aria-label=Designs] [aria-current=page]"),
        "no new design is open",
    )
    person.until(
        lambda: "Goes dark from April" not in person.verdict, "the new design goes dark as before"
    )


def test_the_years_and_what_is_lost(person: Person) -> None:
    """Thirty years with their band, the rule of thumb beside them, and every part lost; at phone
    width as well."""
    person.open("Quay Street shack")
    person.key("7")
    person.press("Weather years")
    person.sees("Carry-through")
    person.sees("Rule of thumb")
    person.press("typical year")
    person.press("If a part is lost")
    person.sees("Everything is dark at once", "[aria-label='Single failures']")
    person.press("Make it last", "Work it out")
    person.sees("To last 5 days")
    person.size(390, 844)
    person.press("Weather years")
    person.axe()
