"""Records come in with a name of their own and can be taken back; what is too large to be read at once waits in pieces.

Moments that no clock of a station shows are let go: they once came in unseen, and every page that read them failed.
"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    op.create_table(
        "imports",
        sa.Column("id", sa.Integer(), sa.Identity(), primary_key=True),
        sa.Column(
            "site_id", sa.Uuid(), sa.ForeignKey("sites.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("rows", sa.Integer(), nullable=False),
        sa.Column("first", sa.DateTime(timezone=True)),
        sa.Column("last", sa.DateTime(timezone=True)),
        sa.Column("actor", sa.Text(), nullable=False, server_default="local"),
        sa.Column(
            "created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()
        ),
    )
    op.create_index("imports_by_site", "imports", ["site_id", "created_at"])
    op.add_column("samples", sa.Column("import_id", sa.Integer()))
    op.execute("delete from samples where at < '1970-01-01Z' or at >= '2101-01-01Z'")
    op.create_check_constraint(
        "within_bounds", "samples", "at >= '1970-01-01Z' and at < '2101-01-01Z'"
    )
    op.create_table(
        "uploads",
        sa.Column(
            "run_id", sa.Uuid(), sa.ForeignKey("runs.id", ondelete="CASCADE"), primary_key=True
        ),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("uploads")
    op.drop_constraint("within_bounds", "samples")
    op.drop_column("samples", "import_id")
    op.drop_table("imports")
