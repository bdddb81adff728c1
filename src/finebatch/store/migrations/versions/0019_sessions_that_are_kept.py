"""Sessions that are kept under a name, to be planned again"""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"


def upgrade() -> None:
    """None is kept yet."""
    op.create_table(
        "kept_session",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kept", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_kept_session"),
        sqlite_autoincrement=True,
    )
