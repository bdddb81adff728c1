"""A bin for what is thrown away, and numbers that are never used again"""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"

NUMBERED = (
    "dough",
    "dough_version",
    "stock",
    "occasion",
    "session",
    "event",
    "stock_taken",
    "oven_watch",
    "bake",
    "cold_item",
    "cold_event",
)


def upgrade() -> None:
    """What is put back from the bin has the number that it had: nothing else may have it by then.

    Foreign keys are not enforced meanwhile (see `Database`), or the tables that point at one that
    is made anew would lose their rows.
    """
    for table in NUMBERED:
        numbered = {"sqlite_autoincrement": True}
        with op.batch_alter_table(table, recreate="always", table_kwargs=numbered):
            pass
    op.create_table(
        "bin",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("at", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("bundle", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_bin"),
        sqlite_autoincrement=True,
    )
