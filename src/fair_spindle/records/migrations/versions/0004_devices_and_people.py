"""Devices that may come in, people of the workshop, who made an entry, and how its request is known again."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def _words(*names: str) -> list[sa.Column[str]]:
    return [sa.Column(name, sa.String, nullable=False) for name in names]


def upgrade() -> None:
    op.create_table(
        "device",
        sa.Column("id", sa.String, primary_key=True),
        *_words("name", "role", "token_hash", "paired_at", "seen_at"),
    )
    op.create_table(
        "person",
        sa.Column("id", sa.String, primary_key=True),
        sa.Column("version", sa.Integer, nullable=False),
        *_words("name", "initials"),
        sa.Column("gone", sa.Boolean, nullable=False),
    )
    op.execute("ALTER TABLE event ADD COLUMN made_by VARCHAR NOT NULL DEFAULT ''")
    op.execute("ALTER TABLE event ADD COLUMN said VARCHAR NOT NULL DEFAULT ''")
