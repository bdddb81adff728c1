"""The kitchen as one document, and the plan of each session as one"""

import json
from collections import defaultdict
from typing import Any

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

EMPTY = '{"activities": [], "finish": 0, "bound": 0}'
LAST = ("cool", "finish", "set")


def _activity(row: Any) -> dict[str, Any]:
    """A row as plans were written beside events before this version."""
    same = ("kind", "tray", "place", "start", "end", "sheet", "shelf", "dough", "oven", "who")
    pause = None if row["pause_from"] is None else [row["pause_from"], row["pause_to"]]
    return {
        "id": row["key"],
        **{name: row[name] for name in same},
        "critical": bool(row["critical"]),
        "label": row["label"],
        "pause": pause,
        "to_shelf": row["to_shelf"],
    }


def _kitchen() -> None:
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


def _plans() -> None:
    """The rows of each session become its plan."""
    op.add_column("session", sa.Column("plan", sa.JSON(), server_default=EMPTY, nullable=False))
    connection = op.get_bind()
    of: dict[int, list[dict[str, Any]]] = defaultdict(list)
    rows = connection.execute(
        sa.text("SELECT * FROM activity ORDER BY session_id, start, end, key")
    ).mappings()
    for row in rows:
        of[row["session_id"]].append(_activity(row))
    kept = connection.execute(sa.text("SELECT id, bound FROM session")).all()
    bounds = {row.id: row.bound for row in kept}
    for session_id, activities in of.items():
        finish = max((a["end"] for a in activities if a["kind"] in LAST), default=0)
        plan = {"activities": activities, "finish": finish, "bound": bounds[session_id]}
        connection.execute(
            sa.text("UPDATE session SET plan = :plan WHERE id = :id"),
            {"id": session_id, "plan": json.dumps(plan)},
        )
    op.drop_table("activity")
    op.drop_column("session", "bound")


def upgrade() -> None:
    """Both are written whole and read whole."""
    _kitchen()
    _plans()
