"""Cards as documents, their versions, the baker's own ingredients and names"""

import json

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def _move_lines() -> None:
    """Each dough's lines become part of its card, as they were written."""
    connection = op.get_bind()
    doughs = connection.execute(
        sa.text("SELECT id, name, family, mixing, changed_at FROM dough")
    ).all()
    for dough in doughs:
        lines = connection.execute(
            sa.text(
                "SELECT amount, unit, ingredient FROM dough_line WHERE dough_id = :id "
                "ORDER BY position"
            ),
            {"id": dough.id},
        ).mappings()
        card = {
            "name": dough.name,
            "family": dough.family,
            "mixing": dough.mixing,
            "lines": [dict(line) for line in lines],
        }
        written = {"id": dough.id, "card": json.dumps(card), "at": dough.changed_at}
        connection.execute(sa.text("UPDATE dough SET card = :card WHERE id = :id"), written)
        connection.execute(
            sa.text(
                "INSERT INTO dough_version (dough_id, number, at, said, reason, card) "
                "VALUES (:id, 1, :at, '', '', :card)"
            ),
            written,
        )


def upgrade() -> None:
    op.create_table(
        "dough_version",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("dough_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("at", sa.Integer(), nullable=False),
        sa.Column("said", sa.String(), nullable=False),
        sa.Column("reason", sa.String(), nullable=False),
        sa.Column("card", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["dough_id"],
            ["dough.id"],
            name=op.f("fk_dough_version_dough_id_dough"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_dough_version")),
        sa.UniqueConstraint("dough_id", "number", name=op.f("uq_dough_version_dough_id")),
    )
    op.create_table(
        "own_ingredient",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("facts", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_own_ingredient")),
    )
    op.create_table(
        "own_name",
        sa.Column("words", sa.String(), nullable=False),
        sa.Column("ingredient", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("words", name=op.f("pk_own_name")),
    )
    op.add_column(
        "kitchen", sa.Column("cup", sa.String(), server_default="spooned", nullable=False)
    )
    op.add_column(
        "kitchen", sa.Column("egg", sa.String(), server_default="US large", nullable=False)
    )
    op.add_column(
        "kitchen", sa.Column("own_units", sa.String(), server_default="grams", nullable=False)
    )
    op.add_column("dough", sa.Column("card", sa.JSON(), server_default="{}", nullable=False))
    _move_lines()
    op.drop_column("dough", "mixing")
    op.drop_table("dough_line")
