"""What was pressed and kept, so that a press that is sent again is kept once"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"


def upgrade() -> None:
    """A press is written down in the transaction that keeps what it asked for."""
    op.create_table(
        "press",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("at", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("key", name="pk_press"),
    )
