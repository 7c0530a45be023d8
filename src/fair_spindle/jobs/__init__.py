"""Use cases: load records, ask the core, save."""
