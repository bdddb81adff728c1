"""The plan as it stood before each thing that happened, to go back to"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    """Add what is new; what happened before knows of none."""
    op.add_column("event", sa.Column("before", sa.JSON(), nullable=True))
