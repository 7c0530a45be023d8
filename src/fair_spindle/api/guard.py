"""Only this machine's own pages may talk to the server: Host and Origin are checked."""

from __future__ import annotations

from ipaddress import ip_address
from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from fair_spindle.api.errors import ErrorBody, answer
from fair_spindle.formats.sizes import LARGEST_ARCHIVE, LARGEST_FILE

ARCHIVES = ("/api/jobs/import", "/api/restore")


class LocalGuard:
    """Refuses requests for other hosts, from other origins, or with too large a body.

    Where the server listens on every address, any literal address is its own; names are not,
    since another page could point a name of its own here.
    """

    def __init__(self, app: ASGIApp, hosts: frozenset[str]) -> None:
        self._app = app
        self._hosts = hosts
        self._everywhere = bool(hosts & {"0.0.0.0", "::"})

    def _own(self, host: str) -> bool:
        return host in self._hosts or (self._everywhere and _is_address(host))

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Refuse, or pass the request on."""
        refusal = (
            self._refuse(Headers(scope=scope), scope["path"]) if scope["type"] in ("http", "websocket") else None
        )
        if refusal and scope["type"] == "websocket":
            await send({"type": "websocket.close", "code": 4403, "reason": refusal[1]})
            return
        if refusal:
            status, message = refusal
            await answer(status, ErrorBody(code="refused", message=message))(scope, receive, send)
            return
        await self._app(scope, _bounded(receive, _limit(scope["path"])) if scope["type"] == "http" else receive, send)

    def _refuse(self, headers: Headers, path: str) -> tuple[int, str] | None:
        if not self._own(_name(f"//{headers.get('host', '')}")):
            return 403, "This server answers only to its own address. Start it with --host to allow another."
        origin = headers.get("origin")
        if origin is not None and _place(origin) != headers.get("host"):
            return 403, "Requests from other pages are refused."
        length = headers.get("content-length", "0")
        if not length.isdecimal() or len(length) > 12 or int(length) > _limit(path):
            return 413, _too_large(_limit(path))
        return None


def _limit(path: str) -> int:
    return LARGEST_ARCHIVE if path in ARCHIVES else LARGEST_FILE


def _too_large(limit: int) -> str:
    return f"The request is larger than {limit // 2**20} MB."


def _bounded(receive: Receive, limit: int) -> Receive:
    """The same body, refused once it grows beyond the limit, whatever length it was said to have."""
    had = 0

    async def counted() -> Message:
        nonlocal had
        message = await receive()
        had += len(message.get("body", b""))
        if had > limit:
            raise HTTPException(413, _too_large(limit))
        return message

    return counted


def _place(origin: str) -> str | None:
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None


def _name(url: str) -> str:
    try:
        return urlsplit(url).hostname or ""
    except ValueError:
        return ""


def _is_address(host: str) -> bool:
    try:
        ip_address(host)
    except ValueError:
        return False
    return True
