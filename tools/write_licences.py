"""Licences of the fonts and scripts that ship in the pages, into web/public/licences.txt, at each build of them."""

import json
from pathlib import Path

ROOT = Path(__file__).parent.parent
MODULES = ROOT / "web" / "node_modules"
OUT = ROOT / "web" / "public" / "licences.txt"


def shipped() -> dict[str, dict]:
    """Every package the pages are built from, with what it rests on, by name."""
    waiting = sorted(json.loads((ROOT / "web" / "package.json").read_text())["dependencies"])
    found: dict[str, dict] = {}
    while waiting:
        name = waiting.pop(0)
        file = MODULES / name / "package.json"
        if name in found or not file.exists():
            continue
        found[name] = json.loads(file.read_text())
        waiting += sorted(found[name].get("dependencies", {}))
    return dict(sorted(found.items()))


def text_of(name: str) -> str:
    """The licence's own words as the package carries them."""
    files = sorted(file for file in (MODULES / name).iterdir() if file.name.lower().startswith(("licen", "copying")))
    return files[0].read_text(errors="replace").strip() if files else ""


def main() -> None:
    """Write the list."""
    parts = ["Fonts and scripts that ship with Fair Spindle, each under its own licence.\n"]
    for name, told in shipped().items():
        licence = told.get("license", "see its text")
        parts.append(f"{'=' * 78}\n{name} {told['version']}: {licence}\n{'=' * 78}\n{text_of(name)}\n")
    OUT.write_text("\n".join(parts))


if __name__ == "__main__":
    main()
