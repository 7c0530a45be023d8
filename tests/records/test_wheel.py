"""The wheel carries everything: installed into an empty environment, it serves the sample workshop with its pages."""

import gzip
import re
import subprocess
import sys
import sysconfig
import time
import urllib.request
import venv
import zipfile
from pathlib import Path

ROOT = Path(__file__).parents[2]
WHERE = "import fair_spindle; print(fair_spindle.__file__)"


def test_a_wheel_carries_the_interface_and_is_the_same_each_time(tmp_path, free_port, monkeypatch):
    monkeypatch.delenv("PYTHONPATH", raising=False)
    wheels = []
    for name in ("one", "two"):
        build = [sys.executable, "-m", "hatchling", "build", "-t", "wheel", "-d", str(tmp_path / name)]
        subprocess.run(build, cwd=ROOT, check=True, capture_output=True)
        wheels.append(next((tmp_path / name).glob("*.whl")))
    assert wheels[0].read_bytes() == wheels[1].read_bytes()
    with zipfile.ZipFile(wheels[0]) as wheel:
        names = set(wheel.namelist())
        assert {"fair_spindle/web_app/index.html", "fair_spindle/web_app/sw.js"} <= names
        assert any(name.endswith("licenses/LICENSE") for name in names)
        first = re.findall(r"(?:src|href)=\"/(assets/[^\"]+)", wheel.read("fair_spindle/web_app/index.html").decode())
        packed = {name: len(gzip.compress(wheel.read(f"fair_spindle/web_app/{name}"))) for name in first}
        assert 50_000 < sum(packed.values()) < 125_000, f"what is asked for before the first paint: {packed}"
    command = installed(wheels[0], tmp_path / "empty")
    where = subprocess.run([command.parent / "python", "-c", WHERE], cwd=tmp_path, capture_output=True, text=True)
    assert where.stdout.startswith(str(tmp_path)), "its own modules, not those of the clone"
    asked = [command, "demo", "--port", str(free_port), "--db", str(tmp_path / "demo.sqlite")]
    server = subprocess.Popen(asked, cwd=tmp_path, stdout=subprocess.DEVNULL)
    try:
        assert b'<div id="app">' in read(f"http://127.0.0.1:{free_port}/")
        assert b"Orrowby" in read(f"http://127.0.0.1:{free_port}/api/jobs")
    finally:
        server.kill()
        server.wait()


def installed(wheel, place):
    """The command of a wheel in an environment of its own, which only borrows the libraries it rests on."""
    venv.create(place)
    site = next(place.glob("lib/python*/site-packages"))
    (site / "borrowed.pth").write_text(sysconfig.get_path("purelib"))
    uv = [Path(sys.executable).parent / "uv", "pip", "install", "--quiet", "--offline", "--no-deps"]
    subprocess.run([*uv, "--python", place / "bin" / "python", wheel], check=True, capture_output=True)
    return place / "bin" / "fair-spindle"


def read(address):
    for _ in range(1200):
        try:
            return urllib.request.urlopen(address, timeout=5).read()
        except OSError:
            time.sleep(0.05)
    raise AssertionError("the server did not answer")
