"""Favourites, and labels of a baker's own on doughs"""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"


def upgrade() -> None:
    """No dough is marked yet."""
    op.add_column(
        "dough",
        sa.Column("favourite", sa.Boolean(), server_default=sa.false(), nullable=False),
    )
    op.add_column("dough", sa.Column("labels", sa.String(), server_default="", nullable=False))
