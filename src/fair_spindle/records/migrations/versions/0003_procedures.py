"""The workshop's own procedures."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "procedure",
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("content", sa.String, nullable=False),
        sa.Column("changed_at", sa.String, nullable=False),
    )
