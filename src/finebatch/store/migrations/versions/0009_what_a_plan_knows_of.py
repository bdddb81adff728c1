"""How many of the things that happened a plan knows of"""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    """Add what is new; a session from before is taken as planned to its last event."""
    op.add_column("session", sa.Column("planned_after", sa.Integer(), nullable=True))
