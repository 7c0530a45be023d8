"""Practice jobs are marked in their head: their exercise, its seed and whether the rules only watch."""

from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute("ALTER TABLE book ADD COLUMN practice VARCHAR NOT NULL DEFAULT ''")
