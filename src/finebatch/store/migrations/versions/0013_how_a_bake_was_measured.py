"""A bake keeps the height that was foreseen, and whether a cut piece was measured"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"


def upgrade() -> None:
    """Of earlier bakes no height was kept; all of them were measured across the piece."""
    op.add_column("bake", sa.Column("foreseen_height_mm", sa.Double()))
    op.add_column("bake", sa.Column("cut", sa.Boolean(), server_default=sa.false(), nullable=False))
