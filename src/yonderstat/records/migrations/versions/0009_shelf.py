"""The club's shelf, begun with what stood on the shelves of single designs: each panel and controller once."""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0009"
down_revision = "0008"

NEWEST = """
    select revisions.document -> 'array' from designs
    join sites on sites.id = designs.site_id and sites.deleted_at is null
    join revisions on revisions.design_id = designs.id and revisions.number = designs.revision
    order by sites.created_at, designs.position
"""


def upgrade() -> None:
    op.create_table(
        "shelf_revisions",
        sa.Column("number", sa.Integer(), primary_key=True, autoincrement=False),
        sa.Column("action", sa.Text(), nullable=False),
        sa.Column("actor", sa.Text(), nullable=False, server_default="local"),
        sa.Column("parent", sa.Integer()),
        sa.Column("restores", sa.Integer()),
        sa.Column("document", JSONB(), nullable=False),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()
        ),
        sa.CheckConstraint("action in ('edit', 'undo', 'redo')", name="known_shelf_action"),
    )
    parts = _parts(
        [array for (array,) in op.get_bind().execute(sa.text(NEWEST)) if isinstance(array, dict)]
    )
    if parts:
        document = {"format": "yonderstat-shelf", "version": 1, "parts": parts, "outings": []}
        insert = sa.text(
            "insert into shelf_revisions (number, action, parent, document) values (1, 'edit', 0, cast(:it as jsonb))"
        )
        op.get_bind().execute(insert, {"it": json.dumps(document)})


def _parts(arrays: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """What designs had on shelves of their own; a copy of a design has the same, and that is one thing."""
    found: dict[str, dict[str, Any]] = {}
    for array in arrays:
        for item in array.get("shelf_modules") or []:
            part = {
                "kind": "panel",
                "name": item["name"],
                "count": float(item["count"]),
                "module": item["module"],
            }
            _keep(found, part)
        for item in array.get("shelf_controllers") or []:
            part = {"kind": "controller", "name": item["name"], "count": 1.0}
            _keep(found, part | {"controller": item["kind"], "regulator": item["regulator"]})
    return [
        {"id": f"part-{number}", **part} for number, part in enumerate(found.values(), start=1)
    ][:500]


def _keep(found: dict[str, dict[str, Any]], part: dict[str, Any]) -> None:
    key = json.dumps(part, sort_keys=True)
    found.setdefault(key, part)


def downgrade() -> None:
    op.drop_table("shelf_revisions")
