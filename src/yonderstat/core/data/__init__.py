"""Tables of the trade, with provenance: one copy, read once, never written."""

import csv
import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np
from numpy.typing import NDArray

__all__ = ["Source", "arrays", "column", "rows", "rows_by", "sources", "toml_table"]


@dataclass(frozen=True, slots=True)
class Source:
    """A source of rules or figures. `mark` is P published, C common practice, M from memory, or
    empty."""

    title: str
    mark: str
    licence: str = ""
    """Of data shipped with the app; empty for rules and tables written here."""


@cache
def rows(name: str) -> tuple[dict[str, str], ...]:
    """The rows of a CSV table, as written."""
    text = files(__package__).joinpath(f"{name}.csv").read_text(encoding="utf-8")
    return tuple(csv.DictReader(text.splitlines()))


@cache
def rows_by(name: str, column_name: str) -> dict[str, dict[str, str]]:
    """The rows of a CSV table by one of its columns."""
    return {row[column_name]: row for row in rows(name)}


@cache
def column(name: str, column_name: str) -> NDArray[np.float64]:
    """One numeric column of a CSV table.

    Parameters
    ----------
    name : str
        Of the table.
    column_name : str
        Of its column.

    Returns
    -------
    ndarray of shape (rows,)
        The column, read-only.
    """
    values = np.array([float(row[column_name]) for row in rows(name)])
    values.setflags(write=False)
    return values


@cache
def arrays(name: str) -> dict[str, NDArray[Any]]:
    """The arrays of a packaged table of numbers, read-only.

    Parameters
    ----------
    name : str
        Of the file, without its ending.

    Returns
    -------
    dict of str to ndarray
        Its arrays, read-only.
    """
    with files(__package__).joinpath(f"{name}.npz").open("rb") as file, np.load(file) as packed:
        found = {key: packed[key] for key in packed}
    for part in found.values():
        part.setflags(write=False)
    return found


@cache
def toml_table(name: str) -> dict[str, Any]:
    """A TOML table, as written."""
    return tomllib.loads(files(__package__).joinpath(f"{name}.toml").read_text(encoding="utf-8"))


@cache
def sources() -> dict[str, Source]:
    """Every source by its id."""
    return {
        key: Source(entry["title"], entry["mark"], entry.get("licence", ""))
        for key, entry in toml_table("sources").items()
    }
