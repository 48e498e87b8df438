"""Where a site opens, and the ways on from there."""

from selenium.webdriver import Keys

from tests.browser.conftest import Person


def test_a_site_opens_at_what_is_to_be_done(person: Person) -> None:
    """Sites → Harrier Ridge → the gravest job leads to its step → 0 leads back → a reading is typed
    and stands there → the way to stretching the battery."""
    person.go("/")
    person.press("Harrier Ridge repeater")
    person.sees("Next jobs", "#sheet")
    jobs = person.driver.find_elements("css selector", "[aria-label='Next jobs'] li a")
    assert 1 <= len(jobs) <= 5
    sentence = jobs[0].text.split("\n")[0]
    jobs[0].click()
    person.sees(sentence, "[aria-label='Side panel']")
    person.key("0")
    person.sees("Maintenance due", "#sheet")
    person.type("Reading", "12.62 rest 3h", Keys.ENTER)
    person.sees("12.62 rest 3h", "[aria-label='Readings']")
    person.press("Stretch the battery")
    person.until(lambda: "page=last" in person.driver.current_url, "it does not lead there")
    person.sees("Stretch the battery", "[role=tab][aria-selected=true]")


def test_a_word_people_use_leads_to_where_it_is_done(person: Person) -> None:
    """/ → “rfi” → the noise survey; / → a field by name, and what is typed next goes into it."""
    person.open("Quay Street shack")
    person.key("/")
    person.keys("rfi")
    person.sees("Noise on the bands", "[role=option][aria-selected=true]")
    person.keys(Keys.ENTER)
    person.sees("Noise survey", "#sheet")
    person.key("/")
    person.keys("Amp-hours of one battery")
    person.sees("Amp-hours of one battery", "[role=option][aria-selected=true]")
    person.keys(Keys.ENTER)
    person.until(
        lambda: person.driver.execute_script(
            "return document.activeElement?.labels?.[0]?.textContent ?? ''"
        ).startswith("Amp-hours of one battery"),
        "the field has no focus",
    )
    person.keys("123", Keys.TAB)
    person.saved()
    assert person.field("Amp-hours of one battery, on the label").get_attribute("value") == "123"


def test_a_town_is_found_by_what_others_call_it(person: Person) -> None:
    person.go("/")
    person.key("n")
    person.field("Place (locator, coordinates or town)").send_keys("Lucerne")
    person.sees("Luzern (Lucerne), Switzerland", "[role=option]")
