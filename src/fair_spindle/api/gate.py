"""Who may come in over the network: this machine, and devices that showed a code of the bench."""

from __future__ import annotations

import asyncio
from dataclasses import field
from http.cookies import CookieError, SimpleCookie
from ipaddress import ip_address
from typing import Literal

from fastapi import Depends, HTTPException, Request
from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send

from fair_spindle.api.errors import ErrorBody, answer
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.network.pairing import PairingDesk

OPEN_TO_ALL = frozenset({"/api/me", "/api/pairing"})
NOT_PAIRED = "This device was not let in yet. Enter the six digits the bench shows."


@value_object
class Sharing:
    """How the workshop is shared in its network; ``address`` is what other devices open."""

    is_shared: bool = False
    is_safe: bool = False
    address: str = ""
    trust_address: str = ""
    port: int = 0
    desk: PairingDesk = field(default_factory=PairingDesk)

    @property
    def cookie(self) -> str:
        """The name of the cookie, with the port: two workshops on one machine keep theirs apart."""
        return f"{'__Host-' if self.is_safe else ''}spindle-{self.port}"


@value_object
class Caller:
    """Who asks: this machine itself, a device that was let in, or nobody known."""

    role: Literal["owner", "floor", ""]
    device: str = ""
    device_id: str = ""


class Gate:
    """Lets through what this machine or a paired device asks; anybody else sees the empty pages and the pairing."""

    def __init__(self, app: ASGIApp, sharing: Sharing) -> None:
        self._app = app
        self._sharing = sharing

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Find out who asks, and refuse or pass on."""
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        caller = await self._caller(scope)
        scope.setdefault("state", {})["caller"] = caller
        path: str = scope["path"]
        private = path.startswith(("/api/", "/ws/")) or path in ("/api", "/ws", "/openapi.json")
        if caller.role or not private or path in OPEN_TO_ALL:
            await self._app(scope, receive, send)
        elif scope["type"] == "websocket":
            # Accepted first, so that the page is told why.
            await send({"type": "websocket.accept"})
            await send({"type": "websocket.close", "code": 4401, "reason": "not paired"})
        else:
            await answer(401, ErrorBody(code="not_paired", message=NOT_PAIRED))(scope, receive, send)

    async def _caller(self, scope: Scope) -> Caller:
        client = scope.get("client")
        if not self._sharing.is_shared or (client and _is_this_machine(client[0])):
            return Caller("owner")
        # Read only where the workshop is shared: it brings in much that the first answer can do without.
        from fair_spindle.jobs.devices import known_device

        token = _cookie(Headers(scope=scope).get("cookie", ""), self._sharing.cookie)
        found = await asyncio.to_thread(known_device, scope["app"].state.database, token) if token else None
        return Caller(found.role, found.name, found.id) if found else Caller("")


def owner_only(request: Request) -> None:
    """Refuse what a device of the floor may not do."""
    if caller_of(request).role != "owner":
        raise HTTPException(403, "Only the bench, or a device it made an owner, may do this.")


OWNER = [Depends(owner_only)]


def caller_of(request: Request) -> Caller:
    """Who asks."""
    caller: Caller = request.scope["state"]["caller"]
    return caller


def _is_this_machine(host: str) -> bool:
    try:
        return ip_address(host).is_loopback
    except ValueError:
        return False


def _cookie(header: str, name: str) -> str:
    try:
        found = SimpleCookie(header).get(name)
    except CookieError:
        return ""
    return found.value if found else ""
