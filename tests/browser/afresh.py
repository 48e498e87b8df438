"""The demo's rows, built once through the app's own doors and put into the database anew for each
test.

Every time under other ids: the server and the browser remember what they saw by those.
"""

from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import Engine, Table, insert, text
from sqlalchemy.sql import select

from yonderstat.records.schema import Base

Row = dict[str, Any]
KEPT = {"towns"}
"""What is there for all tests."""
EMPTY = "truncate sites, created, shelf_revisions cascade"


def rows_of(engine: Engine) -> list[tuple[Table, list[Row]]]:
    """All rows of all tables, in the order in which they refer to each other."""
    with engine.connect() as connection:
        tables = [table for table in Base.metadata.sorted_tables if table.name not in KEPT]
        found = [
            (table, [dict(row) for row in connection.execute(select(table)).mappings()])
            for table in tables
        ]
    return [(table, rows) for table, rows in found if rows]


def put_afresh(engine: Engine, held: list[tuple[Table, list[Row]]]) -> None:
    """Empty the database and put the rows into it, under ids that nobody has seen."""
    ids = {
        value
        for _, rows in held
        for row in rows
        for value in row.values()
        if isinstance(value, UUID)
    }
    fresh = {str(one): uuid4() for one in ids}

    def renamed(value: Any) -> Any:
        match value:
            case UUID():
                return fresh[str(value)]
            case dict():
                return {key: renamed(item) for key, item in value.items()}
            case list():
                return [renamed(item) for item in value]
            case str() if value in fresh:
                return str(fresh[value])
            case _:
                return value

    with engine.begin() as connection:
        connection.execute(text(EMPTY))
        for table, rows in held:
            connection.execute(insert(table), [renamed(row) for row in rows])
