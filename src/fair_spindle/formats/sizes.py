"""How large a file from outside may be [bytes]."""

from __future__ import annotations

LARGEST_FILE = 8 * 1024 * 1024
LARGEST_ARCHIVE = 256 * 1024 * 1024
