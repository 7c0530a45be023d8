"""Jobs and the events of their logs."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "job",
        sa.Column("id", sa.String, primary_key=True),
        sa.Column("template", sa.String, nullable=False),
        sa.Column("title", sa.String, nullable=False),
        sa.Column("car", sa.String, nullable=False),
        sa.Column("created_at", sa.String, nullable=False),
    )
    op.create_index("ix_job_created_at", "job", ["created_at"])
    op.create_table(
        "event",
        sa.Column("job_id", sa.String, sa.ForeignKey("job.id"), primary_key=True),
        sa.Column("seq", sa.Integer, primary_key=True),
        sa.Column("id", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("act", sa.String, nullable=False),
        sa.UniqueConstraint("job_id", "id"),
    )
