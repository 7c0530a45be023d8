"""Serving on one port, or over TLS with a plain port beside it that leads there."""

from __future__ import annotations

import asyncio
import gc
import socket
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import uvicorn

    from fair_spindle.network.authority import Credentials

# An answer makes and drops thousands of small things: seeking garbage after every 700 takes a twentieth of its time.
SELDOM = (20_000, 20, 100)


def serve_plain(application: Any, listener: socket.socket) -> None:
    """Serve without TLS until told to stop."""
    gc.set_threshold(*SELDOM)
    server_for(application).run(sockets=[listener])


def serve_safely(
    application: Any, listener: socket.socket, credentials: Credentials, welcome: Any, plain: socket.socket
) -> None:
    """Serve over TLS, and the welcome on the plain port; when one stops so does the other."""
    gc.set_threshold(*SELDOM)
    safe = server_for(application, ssl_certfile=str(credentials.certificate), ssl_keyfile=str(credentials.key))
    beside = server_for(welcome, lifespan="off")

    async def both() -> None:
        # Only one of them may listen for signals; this one is told when to stop.
        second = asyncio.create_task(beside._serve([plain]))
        await safe.serve(sockets=[listener])
        beside.should_exit = True
        await second

    asyncio.run(both())


def server_for(application: Any, **more: Any) -> uvicorn.Server:
    """A server as every application of the workshop has it; ``more`` are settings of its own."""
    import uvicorn

    settings = {
        "log_level": "warning",
        "lifespan": "on",
        "timeout_graceful_shutdown": 2,
        "proxy_headers": False,
        **more,
    }
    return uvicorn.Server(uvicorn.Config(application, **settings))
