"""Who looks at a job or car is told when another page changes it, so that two devices see each other at once."""

from __future__ import annotations

import asyncio
import re
from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

PAGE = "X-Page"
BOOK = re.compile(r"^/api/(?:jobs|cars)/([0-9a-zA-Z-]{8,64})/")


class Changes:
    """Listeners by the id of the book they look at, each with the name of its page."""

    def __init__(self) -> None:
        self._listeners: dict[str, dict[asyncio.Event, str]] = defaultdict(dict)

    @contextmanager
    def listening(self, book: str, page: str = "") -> Iterator[asyncio.Event]:
        """An event that is set when the book changes, unless the page did it itself."""
        changed = asyncio.Event()
        self._listeners[book][changed] = page
        try:
            yield changed
        finally:
            del self._listeners[book][changed]
            if not self._listeners[book]:
                del self._listeners[book]

    def tell(self, book: str, by: str = "") -> None:
        """The book changed: say it to every page but the one that did it, where that told its name."""
        for changed, page in list(self._listeners.get(book, {}).items()):
            if not by or page != by:
                changed.set()


class TellChanges:
    """Tells the listeners of a book once a request that changed it was answered well."""

    def __init__(self, app: ASGIApp, changes: Changes) -> None:
        self._app = app
        self._changes = changes

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on and look at its answer."""
        book = BOOK.match(f"{scope['path']}/") if scope["type"] == "http" and scope["method"] != "GET" else None
        if book is None:
            await self._app(scope, receive, send)
            return

        async def watched(message: Message) -> None:
            await send(message)
            if message["type"] == "http.response.start" and message["status"] < 300:
                self._changes.tell(book[1], Headers(scope=scope).get(PAGE, ""))

        await self._app(scope, receive, watched)
