"""How a test opens the application: by its command, or without a server, the API called from within."""

import sys
from pathlib import Path

import httpx
from starlette.testclient import TestClient

from fair_spindle.api.app import create_app

COMMAND = Path(sys.executable).parent / "fair-spindle"


class Within(httpx.BaseTransport):
    """Each request is one call into the application's loop; the test client's own transport makes eight of it."""

    def __init__(self, client, other):
        self.client, self.other = client, other
        self.app = httpx.ASGITransport(client.app, client=other.client)

    def handle_request(self, request):
        if request.url.scheme.startswith("ws"):
            return self.other.handle_request(request)
        request.read()
        with self.client._portal_factory() as portal:
            return portal.call(self.answer, request)

    async def answer(self, request):
        answer = await self.app.handle_async_request(request)
        content = b"".join([part async for part in answer.stream])
        return httpx.Response(answer.status_code, headers=answer.headers, content=content)


def within(app, base_url="http://127.0.0.1:8613", **more):
    """A client of the application; with ``with`` its life begins and ends."""
    client = TestClient(app, base_url=base_url, **more)
    client._transport = Within(client, client._transport)
    return client


def opened(file, **more):
    """A client at the bench of the workshop in a file."""
    return within(create_app(file, **more))
