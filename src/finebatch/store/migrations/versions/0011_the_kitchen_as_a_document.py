"""The kitchen as one document"""

import json

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"

PLAIN = (
    *("sheet_width_mm", "sheet_depth_mm", "margin_mm", "gap_mm", "sheets", "shelves"),
    *("oven_mode", "cup", "egg", "own_units", "sheet_kind", "fridge_c", "freezer_c", "room_c"),
)
SWITCHES = ("hot_corners", "learns")
LISTS = ("other_sheets", "pans", "scoops", "cutters", "planning")


def upgrade() -> None:
    """What stood in columns of its own becomes the document; a list that was never touched stays
    away."""
    op.add_column("kitchen", sa.Column("setting", sa.JSON(), server_default="{}", nullable=False))
    connection = op.get_bind()
    row = connection.execute(sa.text("SELECT * FROM kitchen")).mappings().first()
    if row is not None:
        setting = {
            **{name: row[name] for name in PLAIN},
            **{name: bool(row[name]) for name in SWITCHES},
            **{name: json.loads(row[name]) for name in LISTS if row[name] not in (None, "null")},
        }
        connection.execute(
            sa.text("UPDATE kitchen SET setting = :setting"), {"setting": json.dumps(setting)}
        )
    for column in (*PLAIN, *SWITCHES, *LISTS):
        op.drop_column("kitchen", column)
