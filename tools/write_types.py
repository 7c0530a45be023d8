"""Write the OpenAPI contract, the TypeScript types made from it, and the job file's schema; --check only compares."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from fair_spindle.api.app import create_app
from fair_spindle.formats.job_file import write_schema

API = Path(__file__).parent.parent / "web" / "src" / "api"
SCHEMA = Path(__file__).parent.parent / "docs" / "job-file.schema.json"


def main() -> int:
    contract = json.dumps(create_app(Path("unused")).openapi(), indent=1, ensure_ascii=False, sort_keys=True) + "\n"
    if "--check" not in sys.argv:
        (API / "openapi.json").write_text(contract)
        _types(API / "openapi.json", API / "schema.d.ts")
        SCHEMA.write_bytes(write_schema())
        return 0
    with tempfile.TemporaryDirectory() as folder:
        written = Path(folder) / "openapi.json"
        written.write_text(contract)
        _types(written, Path(folder) / "schema.d.ts")
        fresh = [
            (API / name).read_text() == (Path(folder) / name).read_text() for name in ("openapi.json", "schema.d.ts")
        ]
    if not all(fresh) or SCHEMA.read_bytes() != write_schema():
        print("web/src/api or docs/job-file.schema.json is stale: run make types", file=sys.stderr)
        return 1
    return 0


def _types(contract: Path, out: Path) -> None:
    command = [
        "npx",
        "--no-install",
        "openapi-typescript",
        str(contract),
        "--default-non-nullable=false",
        "-o",
        str(out),
    ]
    subprocess.run(command, cwd=API.parents[1], check=True, capture_output=True)


if __name__ == "__main__":
    raise SystemExit(main())
