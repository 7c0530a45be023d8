"""Cars beside jobs, instruments, reusable parts, settings."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def _words(*names: str) -> list[sa.Column[str]]:
    return [sa.Column(name, sa.String, nullable=False) for name in names]


def upgrade() -> None:
    op.rename_table("job", "book")
    op.execute("ALTER TABLE event RENAME COLUMN job_id TO book_id")
    op.execute("DROP INDEX ix_job_created_at")
    op.create_index("ix_book_created_at", "book", ["created_at"])
    op.execute("ALTER TABLE book ADD COLUMN car_id VARCHAR REFERENCES book (id)")
    op.create_index("ix_book_car_id", "book", ["car_id"])
    op.create_table(
        "instrument",
        sa.Column("id", sa.String, primary_key=True),
        sa.Column("version", sa.Integer, nullable=False),
        *_words("name", "kind", "resolution", "uncertainty", "unit", "calibrated", "due", "address", "note"),
        sa.Column("retired", sa.Boolean, nullable=False),
    )
    op.create_table(
        "shelf", sa.Column("id", sa.String, primary_key=True), *_words("name", "kind", "entries", "created_at")
    )
    op.create_table(
        "setting",
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("version", sa.Integer, nullable=False),
        *_words("value"),
    )
