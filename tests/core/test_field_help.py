"""Every field a person can fill has its line of help; the table says nothing of fields that are not
there."""

from yonderstat.core.data import toml_table
from yonderstat.core.design import Design, field_help
from yonderstat.core.design.help import ways
from yonderstat.core.shelf import Shelf

WITHOUT = {"id", "basis", "format", "version", "finding", "at", "by"}
"""Fields that name a row, or are written by the program."""
NOT_TYPED = {"RecordHours", "WeatherRecord", "MonthWarmth", "Tick"}
"""Sections that come out of a file or of a tick."""


def test_every_field_has_a_line():
    table = toml_table("field_help")
    parents = {
        way.rsplit("/", 2)[0] if way.endswith("/*") else way.rsplit("/", 1)[0]
        for way, _, _ in ways()
    }
    parents |= {way.removesuffix("/*") for way in parents}
    bare = [
        f"{section}.{name}"
        for way, section, name in ways()
        if name not in WITHOUT
        and section not in NOT_TYPED
        and name not in table.get(section, {})
        and way not in parents
    ]
    assert bare == []


def test_the_table_names_only_fields_that_are_there():
    there = {(section, name) for model in (Design, Shelf) for _, section, name in ways(model)}
    told = {
        (section, name) for section, names in toml_table("field_help").items() for name in names
    }
    assert told <= there


def test_a_line_is_short_and_its_range_rises():
    for way, item in field_help().items():
        assert 8 <= len(item.words) <= 110, way
        assert not item.words.endswith("."), way
        if item.low is not None and item.high is not None:
            assert item.low < item.high, way


def test_a_usual_figure_is_one_the_field_takes():
    """What we call usual must not be refused: every end of every range is put in the field and
    read."""
    schema = Design.model_json_schema()["$defs"] | Shelf.model_json_schema()["$defs"]
    for section, names in toml_table("field_help").items():
        for name, entry in names.items():
            if len(entry) < 3:
                continue
            limits = _limits(schema, schema[section]["properties"][name])
            for figure in entry[1:]:
                assert limits.get("minimum", figure) <= figure <= limits.get("maximum", figure), (
                    section,
                    name,
                )
                assert limits.get("exclusiveMinimum", figure - 1) < figure, (section, name)


def _limits(schema, field):
    for part in [field, *field.get("anyOf", [])]:
        if part.get("type") in {"number", "integer"}:
            return part
        if part.get("type") == "array":
            return _limits(schema, part["items"])
        if "$ref" in part:
            return _limits(
                schema, schema[part["$ref"].rsplit("/", 1)[1]]["properties"].get("value", {})
            )
    return {}


def test_the_way_goes_through_rows():
    help_of = field_help()
    assert help_of["draw/loads/*/receive_a"].words.startswith(
        "Current while on and not transmitting"
    )
    assert help_of["array/strings/*/module/watts"].high == 450
    assert help_of["store/layers/*/bank/unit_ah"] == help_of["store/bank/unit_ah"]
