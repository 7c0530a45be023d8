"""What an application reads before its first answer, and that every page is found all the same."""

import re
import subprocess
import sys
from pathlib import Path

from fair_spindle.api.app import create_app
from fair_spindle.api.lazy import LazyRouter

READ = """
import sys
from pathlib import Path
from starlette.testclient import TestClient
from fair_spindle.api.app import create_app
print(TestClient(create_app(Path("unused")), base_url="http://127.0.0.1").get("/api/health").json())
print([name for name in sys.modules if name.startswith(("fair_spindle.jobs.", "fair_spindle.core.joblog", "numpy"))])
"""


def test_the_first_answer_waits_for_no_router():
    said = subprocess.run([sys.executable, "-c", READ], capture_output=True, text=True).stdout
    assert said.splitlines() == ["{'status': 'ok'}", "[]"]


def test_every_route_begins_as_its_router_says():
    routers = [one for one in create_app(Path("unused")).router.routes if isinstance(one, LazyRouter)]
    assert len(routers) > 10
    for router in routers:
        assert not [route.path for route in router.routes if not route.path.startswith(router.paths)]
        begun = [path for path in router.paths if any(route.path.startswith(path) for route in router.routes)]
        assert begun == list(router.paths)


def test_a_wrong_method_is_told_from_a_wrong_address(client):
    answer = client.post("/api/board/day")
    assert answer.status_code == 405
    assert answer.headers["allow"] == "GET"
    assert client.get("/api/board/night").status_code == 404


def test_the_first_page_tells_what_it_will_ask_for(client):
    told = client.get("/").headers["link"]
    assert [client.get(path).status_code for path in re.findall(r"<(.*?)>", told)] == [200, 200]
    assert "link" not in client.get("/cars").headers
