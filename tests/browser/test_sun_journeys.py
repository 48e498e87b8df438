"""Journeys through Sun, as a person does them."""

from pathlib import Path

from selenium.webdriver import ActionChains, Keys
from selenium.webdriver.common.by import By

from tests.browser.conftest import Person
from tests.formats.test_weather_files import changed, epw_year


def test_the_sun_on_another_plane_and_from_own_figures(person: Person) -> None:
    """The map by keyboard, a skyline typed, and an island that needs figures of its own."""
    person.expected_noise = ("422",)
    person.open("Harrier Ridge repeater")
    person.key("4")
    person.sees("% less", "[aria-label='Tilt and direction']")
    line = "[aria-label^='Energy flow']"
    before = person.text(line)
    marked = person.find("90° tilt, facing 0°")
    person.driver.execute_script("arguments[0].focus()", marked)
    person.keys(*[Keys.ARROW_DOWN] * 6)
    person.until(
        lambda: person.focused().startswith("60° tilt, facing 0°"),
        "the arrows do not walk the map",
    )
    person.keys(Keys.ENTER)
    person.until(lambda: person.text(line) != before, "another plane brings as much")
    person.saved()
    person.type("Skyline: direction (clockwise", "90 somewhere")
    person.sees("is not a direction and a height")
    person.type("Skyline: direction (clockwise", "90 5, 80 5")
    person.sees("must go round the compass in order")
    before = person.text(line)
    person.type("Skyline: direction (clockwise", "0 40")
    person.until(lambda: person.text(line) != before, "a wall all round takes nothing")
    person.saved()
    person.key("1")
    person.type("Place (locator, coordinates or town)", "21.3 -157.8", Keys.ENTER)
    person.saved()
    person.key("4")
    person.sees("too far to use")
    person.choose("Source", "Own monthly sun-hours")
    person.saved()
    person.type("Full-sun hours per day on level ground, June", "5.5")
    person.saved()
    person.sees("Your own monthly figures")
    person.axe()


def test_a_weather_file_and_a_skyline_by_hand(person: Person, tmp_path: Path) -> None:
    """A broken file is refused with its line, a good one looked at and taken; the skyline moves by
    key and pointer."""
    person.expected_noise = ("422",)
    person.open("Harrier Ridge repeater")
    person.key("4")
    person.sees("dull days can come in a row")
    file = tmp_path / "valley.epw"
    file.write_text(changed(20, ",500.0,", ",-900,"))
    chooser = person.field("Weather file from a nearby station")
    chooser.send_keys(str(file))
    person.sees("valley.epw: line 20 has -900 W/m²")
    file.write_text(epw_year())
    chooser.send_keys(str(file))
    person.sees("No errors in the file", "[aria-label='File preview']")
    person.sees("4.0", "[aria-label='File preview']")
    person.axe()
    person.press("Use this file")
    person.saved()
    person.sees("“Tarn Valley”, a typical year (EPW file)")
    person.sees("Air temperatures come from the weather file", "[aria-label='Air temperature']")

    corner = person.find("Skyline at 295°", "[role=slider]")
    person.driver.execute_script("arguments[0].focus()", corner)
    person.keys(Keys.ARROW_UP, Keys.ARROW_UP)
    person.until(
        lambda: "295 32" in str(person.field("Skyline: direction").get_attribute("value")),
        "the arrows move nothing",
    )
    sky = person.driver.find_element(By.CSS_SELECTOR, "svg.touch-none")
    person.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", sky)
    ActionChains(person.driver).move_to_element_with_offset(
        sky, 200, 30
    ).click_and_hold().move_by_offset(0, 20).release().perform()
    person.until(
        lambda: str(person.field("Skyline: direction").get_attribute("value")).count(",") == 4,
        "the pointer adds none",
    )
    person.saved()
    person.press("all months in use")
    person.sees("over the months in use", "[aria-label='Tilt and direction']")


def test_a_town_is_found_by_name(person: Person) -> None:
    person.open("Quay Street shack")
    person.key("1")
    field = person.field("Place (locator, coordinates or town)")
    field.click()
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("Reykjav")
    person.find("Reykjavík, Iceland", "[role=option]")
    person.axe()
    field.send_keys(Keys.ENTER)
    person.sees("64.1")
    person.saved()
    person.until(
        lambda: person.field("Time zone").get_attribute("value") == "Atlantic/Reykjavik",
        "the zone did not follow",
    )
    person.go("/about")
    person.sees("CC-BY 4.0")
    person.axe()
