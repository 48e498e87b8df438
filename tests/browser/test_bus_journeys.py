"""Bus as a person wires it: why the set cuts out, what mends it, and the same in drawing and
rehearsal."""

from tests.browser.conftest import Person


def opened(person: Person, site: str) -> None:
    """At a site's Bus."""
    person.open(site)
    person.key("6")
    person.find("New fuse block")


def walk_words(person: Person) -> str:
    """What the loss walk says in figures."""
    return person.text("[aria-label='Voltage drop in figures']")


def test_why_the_set_cuts_out_and_what_mends_it(person: Person) -> None:
    """Quay Street → Bus → window check → remedy → walk, drawing, ladder and rehearsal follow."""
    opened(person, "Quay Street shack")
    person.sees("HF radio, 100 W, transmitting: full output only with the battery full", "#sheet")
    person.sees("F3", "[aria-label='One-line diagram']")
    person.sees("6 mm² · 4 m", "[aria-label='One-line diagram']")
    before = walk_words(person)
    person.press("Use 16 mm² for the cable to HF radio, 100 W")
    person.until(lambda: walk_words(person) != before, "the loss walk did not follow the remedy")
    person.sees("16 mm² · 4 m", "[aria-label='One-line diagram']")
    assert person.field("HF radio, 100 W: conductor").get_attribute("value") == "16"
    person.saved()
    person.key("u")
    person.until(lambda: walk_words(person) == before, "undo did not bring the thin wire back")


def test_a_run_is_typed_over_and_put_back(person: Person) -> None:
    """Schedule → length and conductor of a proposed run → the rules object → back to what is
    proposed."""
    opened(person, "Patrol 2")
    before = walk_words(person)
    person.type("VHF radio, 25 W: length one way", "9 m")
    person.until(lambda: walk_words(person) != before, "the walk did not follow the length")
    person.type("VHF radio, 25 W: conductor", "#16")
    person.sees("9 m of 1.31 mm² wire", "[aria-label='Side panel']")
    person.saved()
    person.press("Reset to proposed for VHF radio, 25 W")
    person.until(lambda: walk_words(person) == before, "the run is not as it was proposed")


def test_the_rehearsal_browns_out_where_the_bus_says_so(person: Person) -> None:
    """The Packhorse's thin lead: its set fails in Bus and in the timeline alike."""
    opened(person, "The Packhorse")
    person.sees("too few volts even from a full battery", "#sheet")
    person.key("7")
    person.press("Run it")
    person.sees("HF radio, 100 W distorts or resets from", "#sheet")
    person.sees("fewest volts at a transmitting radio", "#sheet")


def test_the_bus_has_nothing_serious_against_it(person: Person) -> None:
    """Axe on the whole step, in both themes, with a run opened."""
    opened(person, "The Packhorse")
    person.press("More about HF radio, 100 W")
    person.sees("A short circuit at its start", "#sheet")
    person.axe()
    person.press("Switch to lamplight")
    person.axe()


def test_sentences_are_said_in_the_units_chosen(person: Person) -> None:
    """The Packhorse in feet and Fahrenheit: findings, schedule and drawing alike, and back
    again."""
    opened(person, "The Packhorse")
    person.sees("5 m of 4 mm² wire", "[aria-label='Side panel']")
    person.choose("Units", "Feet, AWG · °F")
    person.sees("16.4 ft of 4 mm² wire", "[aria-label='Side panel']")
    person.sees("4 mm² · 16.4 ft", "[aria-label='The diagram']")
    assert person.field("HF radio, 100 W: length one way").get_attribute("value") == "16.4"
    person.choose("Units", "Metric · °C")
    person.sees("5 m of 4 mm² wire", "[aria-label='Side panel']")
