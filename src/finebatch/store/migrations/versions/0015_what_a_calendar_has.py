"""What a baker's calendar has of a session, so that a later file mends the same entries"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"


def upgrade() -> None:
    """Nothing is known of what was given out before."""
    op.add_column("session", sa.Column("calendar", sa.JSON(), nullable=True))
