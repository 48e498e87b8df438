"""Journeys through Store and Array, as a person does them."""

from selenium.webdriver.common.by import By

from tests.browser.conftest import Person


def test_the_packhorse_chooses_its_chemistry_by_weight(person: Person) -> None:
    """Enough AGM is too heavy for the hitch; the table says what LiFePO4 would weigh; chosen, the
    Stop goes."""
    person.expected_noise = ("422",)
    person.open("The Packhorse")
    person.key("3")
    person.type("In parallel", "3")
    person.saved()
    person.sees("The batteries weigh 93 kg; the limit is 60 kg", "[aria-label='Side panel']")
    person.sees("LiFePO4", "[aria-label='The same usable energy in every chemistry']")
    person.axe()
    person.choose("Chemistry", "LiFePO4")
    person.saved()
    person.type("Volts of one battery", "12.8")
    person.saved()
    person.driver.find_element(By.XPATH, "//summary[.='Limits, weight, price, life']").click()
    person.type("Weight of one unit", "27 lb")
    person.saved()
    person.until(
        lambda: "The batteries weigh" not in person.text("[aria-label='Side panel']"),
        "the lighter bank is still too heavy",
    )
    person.type("Cycle life from the data sheet", "80 deep")
    person.sees("a depth and a number of cycles")
    person.type("Cycle life from the data sheet", "80 4000, 50 6000")
    person.sees("go from shallow to deep")
    person.type("Cycle life from the data sheet", "50 9000, 80 4000")
    person.saved()


def test_a_reading_a_charge_and_a_second_layer(person: Person) -> None:
    """A reading on the flat part is a range; a charger's hours; a layer nobody charges until it is
    told who does."""
    person.open("Quay Street shack")
    person.key("3")
    person.type("Battery volts at rest", "13.08")
    person.sees("lithium voltage hardly changes in this range")
    person.type("Charger amps", "20 A")
    person.sees("h at full current to")
    person.press("Add a second battery")
    person.saved()
    person.sees("Nothing charges Second battery", "[aria-label='Side panel']")
    person.press("Shed roof charges Second battery")
    person.saved()
    person.until(
        lambda: "Nothing charges" not in person.text("[aria-label='Side panel']"),
        "the path charges nobody",
    )
    person.type("Shed roof to Second battery: switch position", "2")
    person.saved()
    person.press("Add a power pack")
    person.saved()
    person.sees("Own consumption")
    person.axe()


def test_mend_harrier_ridge_by_a_remedy(person: Person) -> None:
    """The old controller is set wrong and clips nothing; MPPT by one press: the ladder and June
    change."""
    person.open("Harrier Ridge repeater")
    person.key("5")
    person.sees("below the controller's limit", "[aria-label='Voltages from panel to radio']")
    person.sees("PWM would need", "[aria-label='PWM compared with MPPT']")
    ladder, line = (
        person.text("[aria-label='Voltages from panel to radio']"),
        person.text("[aria-label^='Energy flow']"),
    )
    person.press("Hut north wall: MPPT controller instead of PWM")
    person.saved()
    person.until(
        lambda: person.text("[aria-label^='Energy flow']") != line, "June is as poor as before"
    )
    person.until(
        lambda: person.text("[aria-label='Voltages from panel to radio']") != ladder,
        "the ladder stands as before",
    )
    person.type("In series", "2")
    person.saved()
    person.sees(
        "and it is rated for 30 V",
        "[aria-label='Voltages from panel to radio']",
    )
    person.axe()


def test_the_clubs_shelf_becomes_strings(person: Person) -> None:
    """Three odd panels and two old controllers: told what works, what does not and why; one press
    uses it."""
    person.open("The Packhorse")
    person.key("5")
    person.sees("don't plan with it", "[aria-label='Strings that fit']")
    person.sees("it is rated for 25 V", "[aria-label='Strings that fit']")
    person.press("Use this")
    person.saved()
    person.until(
        lambda: person.field("String 1: name").get_attribute("value") == "Spare 85 W",
        "the shelf was not used",
    )
    person.sees("open-circuit volts alone do not prove watts", "[aria-label='Side panel']")
    person.press("Remove Mains charger, 10 A")
    person.saved()
    person.choose("Add a charger", "Supply on panel terminals")
    person.saved()
    person.choose("Feeds the controller of string", "Spare 85 W")
    person.saved()
    person.type("Output volts", "14")
    person.saved()
    person.sees("never fills the battery", "[aria-label='Side panel']")
    person.axe()
