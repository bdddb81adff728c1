"""An oven's nature, sheets and pans by kind; work broken off, trays swapped"""

import json

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"

NATURE = ("rise_c_min", "fall_c_min")


def _move_planning() -> None:
    """How fast the air changes belongs to an oven; a second oven is more than its shelves."""
    connection = op.get_bind()
    found = connection.execute(sa.text("SELECT planning FROM kitchen")).scalar()
    if found is None:
        return
    planning = json.loads(found)
    if planning is None:
        return
    nature = {key: planning.pop(key) for key in NATURE if key in planning}
    shelves = planning.pop("second_oven", 0)
    planning["oven"] = nature
    planning["second"] = {"shelves": shelves, "nature": nature} if shelves else None
    connection.execute(
        sa.text("UPDATE kitchen SET planning = :planning"), {"planning": json.dumps(planning)}
    )


def upgrade() -> None:
    """Add what is new; move how the oven heats to the oven."""
    op.add_column(
        "kitchen", sa.Column("sheet_kind", sa.String(), nullable=False, server_default="plain")
    )
    op.add_column("kitchen", sa.Column("other_sheets", sa.JSON(), nullable=True))
    op.add_column("kitchen", sa.Column("pans", sa.JSON(), nullable=True))
    for column in ("pause_from", "pause_to", "to_shelf"):
        op.add_column("activity", sa.Column(column, sa.Integer(), nullable=True))
    _move_planning()
