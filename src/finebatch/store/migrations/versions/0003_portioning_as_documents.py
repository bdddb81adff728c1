"""Portioning as a document of its kind; scoops, cutters and corners of the kitchen"""

import json
import math

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"

USUAL_DENSITY = 1.25
"""Grams a cm³ of dough: turns the mass that was kept into the cutter or slice that it was."""


def _piece(family: str, old: dict[str, float]) -> dict[str, object]:
    """The portioning of a family as it was kept until now, as a document of its kind."""
    cm3 = old["grams"] / USUAL_DENSITY
    match family:
        case "rolled":
            area = 1000 * cm3 / old["thickness_mm"]
            across = round(math.sqrt(4 * area / math.pi))
            return {
                "kind": "rolled",
                "thickness_mm": old["thickness_mm"],
                "cutter": {"shape": "round", "across_mm": across, "down_mm": across},
            }
        case "shortbread":
            thick = 1000 * cm3 / (math.pi / 4 * old["log_diameter_mm"] ** 2)
            return {
                "kind": "sliced",
                "log_diameter_mm": old["log_diameter_mm"],
                "thickness_mm": round(thick, 1),
            }
        case "twice_baked":
            return {
                "kind": "twice_baked",
                "grams": old["grams"],
                "length_mm": old["log_length_mm"],
                "width_mm": old["log_width_mm"],
            }
        case _:
            return {"kind": "drop", "grams": old["grams"]}


def _move_settings() -> None:
    connection = op.get_bind()
    rows = connection.execute(
        sa.text("SELECT t.*, d.family FROM tray_setting t JOIN dough d ON d.id = t.dough_id")
    ).mappings()
    for row in rows.all():
        kept = ("evenness", "dough_temp_c", "oven_c", "surface", "chill_min")
        setting = {"piece": _piece(row["family"], dict(row)), **{k: row[k] for k in kept}}
        connection.execute(
            sa.text("UPDATE tray_setting SET setting = :setting WHERE dough_id = :id"),
            {"id": row["dough_id"], "setting": json.dumps(setting)},
        )


def _move_snapshots() -> None:
    """Sessions carry the question that they were planned for."""
    connection = op.get_bind()
    for row in connection.execute(sa.text("SELECT id, snapshot FROM session")).all():
        snapshot = json.loads(row.snapshot)
        question = snapshot["question"]
        question["setting"]["piece"] = _piece(question["family"], question["setting"]["piece"])
        connection.execute(
            sa.text("UPDATE session SET snapshot = :snapshot WHERE id = :id"),
            {"id": row.id, "snapshot": json.dumps(snapshot)},
        )


def upgrade() -> None:
    op.add_column(
        "tray_setting", sa.Column("setting", sa.JSON(), server_default="{}", nullable=False)
    )
    _move_settings()
    _move_snapshots()
    for column in (
        "grams",
        "thickness_mm",
        "log_diameter_mm",
        "log_length_mm",
        "log_width_mm",
        "evenness",
        "dough_temp_c",
        "oven_c",
        "surface",
        "chill_min",
    ):
        op.drop_column("tray_setting", column)
    op.add_column(
        "kitchen", sa.Column("hot_corners", sa.Boolean(), server_default="0", nullable=False)
    )
    op.add_column("kitchen", sa.Column("fridge_c", sa.Double(), server_default="4", nullable=False))
    op.add_column(
        "kitchen", sa.Column("freezer_c", sa.Double(), server_default="-18", nullable=False)
    )
    op.add_column("kitchen", sa.Column("room_c", sa.Double(), server_default="21", nullable=False))
    op.add_column("kitchen", sa.Column("scoops", sa.JSON(), nullable=True))
    op.add_column("kitchen", sa.Column("cutters", sa.JSON(), nullable=True))
