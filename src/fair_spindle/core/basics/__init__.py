"""Units, numbers as typed, errors, readings and their spread, tables as printed."""
