"""Alembic environment: foreign keys stay off while tables are rebuilt."""

from alembic import context
from sqlalchemy import create_engine
from sqlmodel import SQLModel

from fair_spindle.records import tables  # noqa: F401

engine = create_engine(context.config.get_main_option("sqlalchemy.url") or "")
with engine.connect() as connection:
    connection.exec_driver_sql("PRAGMA foreign_keys=OFF")
    context.configure(connection=connection, target_metadata=SQLModel.metadata, render_as_batch=True)
    with context.begin_transaction():
        context.run_migrations()
    connection.commit()
engine.dispose()
