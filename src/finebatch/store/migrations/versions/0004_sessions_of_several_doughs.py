"""Sessions of several doughs: letters, ovens and hands; the kitchen's planning habits"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def _work(old: dict[str, Any], oven_c: int) -> dict[str, Any]:
    """The work of one dough as it was kept until now, as that of a session."""
    kitchen = dict(old["kitchen"])
    heat_min = kitchen.pop("oven_heat_min")
    shelves = kitchen.pop("shelves")
    # The same minutes to get hot as were planned with.
    rise = max(oven_c - 20, 1) / max(heat_min, 1)
    kitchen["ovens"] = [{"shelves": shelves, "rise_c_min": rise}]
    makes = [{"label": "Mix the dough", "hands_min": old["dough"]["mix_min"]}]
    dough = {"letter": "A", "makes": makes, "chill_min": old["dough"]["chill_min"]}
    trays = [
        {**tray, "dough": "A", "bakes": [{**bake, "oven_c": oven_c} for bake in tray["bakes"]]}
        for tray in old["trays"]
    ]
    return {"doughs": [dough], "trays": trays, "kitchen": kitchen}


def _move_sessions() -> None:
    connection = op.get_bind()
    rows = connection.execute(sa.text("SELECT id, dough_id, snapshot, work FROM session"))
    for row in rows.mappings().all():
        snapshot, work = json.loads(row["snapshot"]), json.loads(row["work"])
        question, name = snapshot["question"], snapshot["name"]
        oven_c = round(question["setting"]["oven_c"])
        item = {"letter": "A", "dough_id": row["dough_id"], "name": name, "question": question}
        moved = {"name": name, "items": [item]}
        connection.execute(
            sa.text("UPDATE session SET snapshot = :snapshot, work = :work WHERE id = :id"),
            {
                "id": row["id"],
                "snapshot": json.dumps(moved),
                "work": json.dumps(_work(work, oven_c)),
            },
        )


def upgrade() -> None:
    """Give activities a dough, an oven and hands; what belonged to the one dough becomes A's."""
    op.add_column("kitchen", sa.Column("planning", sa.JSON(), nullable=True))
    op.add_column("activity", sa.Column("dough", sa.String(), nullable=True))
    op.add_column("activity", sa.Column("oven", sa.Integer(), nullable=True))
    op.add_column("activity", sa.Column("who", sa.Integer(), nullable=True))
    op.add_column("activity", sa.Column("label", sa.String(), nullable=False, server_default=""))
    _move_sessions()
    for table, column in (("activity", "key"), ("event", "activity")):
        op.execute(
            f"UPDATE {table} SET {column} = 'A.' || substr({column}, 7) "
            f"WHERE {column} LIKE 'dough.%'"
        )
    op.execute("UPDATE activity SET dough = 'A' WHERE key NOT LIKE 'oven.%'")
    op.execute("UPDATE activity SET oven = 1 WHERE kind IN ('heat', 'load', 'bake', 'turn', 'out')")
    # One plan that waits is enough: the latest, which several doughs can join.
    op.execute(
        "DELETE FROM session WHERE state = 'planned' AND id < "
        "(SELECT max(id) FROM session WHERE state = 'planned')"
    )
