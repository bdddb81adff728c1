"""Units may be chosen before the kitchen is described"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    """Whatever kitchen was kept before had been described."""
    op.add_column(
        "kitchen",
        sa.Column("described", sa.Boolean(), server_default=sa.true(), nullable=False),
    )
