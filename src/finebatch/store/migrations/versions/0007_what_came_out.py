"""A bake in full: height, texture, taste, what went wrong, a photo; whether it counts"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    """Add what is new."""
    op.add_column("bake", sa.Column("seen", sa.JSON(), nullable=False, server_default="{}"))
    op.add_column("bake", sa.Column("photo", sa.String(), nullable=True))
    op.add_column("bake", sa.Column("counts", sa.String(), nullable=False, server_default="auto"))
    op.add_column("kitchen", sa.Column("learns", sa.Boolean(), nullable=False, server_default="1"))
