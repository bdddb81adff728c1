"""Which device said what happened while baking"""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"


def upgrade() -> None:
    """What was said before was said on the machine itself."""
    op.add_column("event", sa.Column("by", sa.String(), nullable=True))
