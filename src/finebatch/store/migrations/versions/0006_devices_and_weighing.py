"""What the oven's thermometer told, what was judged from it, and what was weighed while baking"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    """Add what is new."""
    op.create_table(
        "probe",
        sa.Column("at", sa.Integer(), nullable=False),
        sa.Column("celsius", sa.Double(), nullable=False),
        sa.PrimaryKeyConstraint("at", name="pk_probe"),
    )
    op.create_table(
        "oven_watch",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("oven", sa.Integer(), nullable=False),
        sa.Column("dial_c", sa.Double(), nullable=False),
        sa.Column("began_at", sa.Integer(), nullable=False),
        sa.Column("ended_at", sa.Integer(), nullable=True),
        sa.Column("mean_c", sa.Double(), nullable=True),
        sa.Column("swing_c", sa.Double(), nullable=True),
        sa.Column("ready_min", sa.Double(), nullable=True),
        sa.PrimaryKeyConstraint("id", name="pk_oven_watch"),
    )
    op.add_column("event", sa.Column("grams", sa.Double(), nullable=True))
    op.add_column("event", sa.Column("what", sa.String(), nullable=True))
