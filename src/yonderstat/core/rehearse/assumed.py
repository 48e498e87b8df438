"""The assumptions of the rehearsal."""

from ..data import toml_table


def assumed_figure(name: str, of: str = "") -> float:
    """An assumption by name, of a table of them where `of` is given."""
    table = toml_table("rehearsal")
    return float(table[of][name] if of else table[name])
