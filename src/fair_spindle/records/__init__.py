"""SQLite: tables, migrations, sessions."""
