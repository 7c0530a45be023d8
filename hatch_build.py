"""A wheel carries the built interface: it is built where it is missing."""

import subprocess
from pathlib import Path

from hatchling.builders.hooks.plugin.interface import BuildHookInterface


class BuildInterface(BuildHookInterface):
    """Runs the front end's own build before a wheel is packed; an editable install needs none."""

    def initialize(self, version, build_data):
        """Build the pages unless they are there already."""
        root = Path(self.root)
        if version == "editable" or (root / "src/fair_spindle/web_app/index.html").is_file():
            return
        for command in (["npm", "ci", "--no-audit", "--no-fund"], ["npm", "run", "build"]):
            subprocess.run(command, cwd=root / "web", check=True)
