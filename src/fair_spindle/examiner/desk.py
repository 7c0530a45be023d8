"""A workshop of its own for the robot: the application on a free port of this machine, asked over HTTP."""

from __future__ import annotations

import json
import socket
import threading
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from urllib.error import HTTPError
from urllib.parse import urlencode
from urllib.request import Request, urlopen

from fair_spindle.api.app import create_app


class HttpDesk:
    """The API at an address."""

    def __init__(self, address: str) -> None:
        self.address = address

    def get(self, path: str, **query: object) -> Any:
        """What stands there; RuntimeError where it is refused."""
        return self._ask(Request(f"{self.address}{path}?{urlencode(query)}"))

    def post(self, path: str, body: Mapping[str, object]) -> Any:
        """Enter it; RuntimeError where it is refused."""
        headers = {"Content-Type": "application/json"}
        return self._ask(Request(f"{self.address}{path}", json.dumps(body).encode(), headers))

    def _ask(self, request: Request) -> Any:
        try:
            with urlopen(request) as answer:
                return json.load(answer)
        except HTTPError as error:
            raise RuntimeError(f"{request.full_url}: {error.code} {error.read().decode()[:300]}") from error


@contextmanager
def open_desk(place: Path) -> Iterator[HttpDesk]:
    """The application on a database of its own in a folder, for as long as it is needed."""
    import uvicorn

    with socket.socket() as listener:
        listener.bind(("127.0.0.1", 0))
        listener.listen(16)
        port = listener.getsockname()[1]
        server = uvicorn.Server(uvicorn.Config(create_app(place / "examined.sqlite"), log_level="warning"))
        runs = threading.Thread(target=server.run, args=([listener],), daemon=True)
        runs.start()
        try:
            yield HttpDesk(f"http://127.0.0.1:{port}")
        finally:
            server.should_exit = True
            runs.join()
