"""What is in the house, what sessions took of it, and occasions that come again"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"


def upgrade() -> None:
    """Nothing was known of either before."""
    op.create_table(
        "stock",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("pack", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_stock"),
    )
    op.create_table(
        "stock_taken",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("stock_id", sa.Integer(), nullable=False),
        sa.Column("event_id", sa.Integer(), nullable=False),
        sa.Column("grams", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(
            ["stock_id"], ["stock.id"], name="fk_stock_taken_stock_id_stock", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["event_id"], ["event.id"], name="fk_stock_taken_event_id_event", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name="pk_stock_taken"),
    )
    op.create_index("ix_stock_taken_stock_id", "stock_taken", ["stock_id"])
    op.create_index("ix_stock_taken_event_id", "stock_taken", ["event_id"])
    op.create_table(
        "occasion",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kept", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_occasion"),
    )
