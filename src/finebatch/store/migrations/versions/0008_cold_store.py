"""Dough and baked pieces kept for another day, and what happened to them"""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    """Add what is new."""
    op.create_table(
        "cold_item",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("dough_id", sa.Integer(), nullable=True),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=True),
        sa.Column("form", sa.String(), nullable=False),
        sa.Column("place", sa.String(), nullable=False),
        sa.Column("keeping", sa.String(), nullable=False),
        sa.Column("pieces", sa.Integer(), nullable=False),
        sa.Column("since", sa.Integer(), nullable=False),
        sa.Column("use_by", sa.Integer(), nullable=False),
        sa.Column("due_before", sa.Integer(), nullable=True),
        sa.Column("frozen_at", sa.Integer(), nullable=True),
        sa.Column("note", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["dough_id"], ["dough.id"], name="fk_cold_item_dough_id_dough", ondelete="SET NULL"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_cold_item"),
    )
    op.create_table(
        "cold_event",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("item_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.Integer(), nullable=False),
        sa.Column("said", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["item_id"],
            ["cold_item.id"],
            name="fk_cold_event_item_id_cold_item",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name="pk_cold_event"),
    )
    op.create_index("ix_cold_event_item_id", "cold_event", ["item_id"])
