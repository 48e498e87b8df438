"""No sentence speaks of a source that the station has not: mains, a generator, sun, an engine."""

import re
from collections.abc import Iterator

from yonderstat.core import Report
from yonderstat.core.design import Design
from yonderstat.core.draw import has_mains
from yonderstat.core.words import plain

SAYS = {
    "mains": r"the mains (take|make|come|keep|hold|carry|return|fill|are back)|pull(ing)? the plug|"
    r"after the mains return|charge it from the mains",
    "generator": r"the generator (makes|takes|carries|fills|runs|starts|charges)|run the generator",
    "sun": r"the sun (only|that|of a|left|supplies|carries|brings|gives|fills|covers|is then)|"
    r"morning sun|usual sun|average sun|mean sun|solar charge|panels (help|give|replace|fill)|"
    r"more panels?|half as many panels|without sun lasts|with the sun|sun and engine",
    "engine": r"the engine (gives|makes|fills|brings|supplies)|sun and engine|with the driving",
}
"""How a sentence sounds that counts on a source."""
SIZES_UP = ("array.none", "sizing", "rehearse.")
"""Says that there is none, or what one would do."""


def there(design: Design) -> set[str]:
    """The sources a station has."""
    found = set()
    if has_mains(design):
        found.add("mains")
    if any(charger.kind == "generator" for charger in design.array.chargers):
        found.add("generator")
    if design.array.strings:
        found.add("sun")
    if design.array.alternator is not None:
        found.add("engine")
    return found


def troubles_of_words(design: Design, report: Report) -> Iterator[str]:
    """Sentences that count on what is not there."""
    have = there(design)
    said = [("verdict", report.verdict.headline), ("verdict", report.verdict.rest)]
    said += [("verdict", f"{figure.label} {figure.beside}") for figure in report.verdict.figures]
    for finding in report.findings:
        said += [(finding.id, finding.sentence), (finding.id, finding.why)]
    for at, text in said:
        for source, pattern in SAYS.items():
            found = re.search(pattern, plain(text), re.IGNORECASE)
            if source not in have and found and not at.startswith("array.none"):
                yield (
                    f"{at}: speaks of {source} (“{found.group()}”), which is not there: "
                    f"{plain(text)[:160]}"
                )
