"""Routers that are read when something below their paths is first asked for, or soon after the start."""

from __future__ import annotations

import gc
import sys
from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager
from importlib import import_module
from threading import Lock

from starlette.routing import BaseRoute, Match
from starlette.types import Receive, Scope, Send

# One at a time, in whichever thread: a module that is half read answers nothing.
_READING = Lock()


class LazyRouter(BaseRoute):
    """The router of a module in ``api/routers``; ``paths`` are what each of its own begins with.

    Most of a start is reading modules, and no page asks for all of them.
    """

    def __init__(self, module: str, *paths: str) -> None:
        self.module = f"fair_spindle.api.routers.{module}"
        self.paths = paths
        self._routes: Sequence[BaseRoute] = ()

    @property
    def routes(self) -> Sequence[BaseRoute]:
        """The routes, read now if they were not before."""
        if not self._routes:
            with _READING:
                self._routes = import_module(self.module).router.routes
        return self._routes

    def matches(self, scope: Scope) -> tuple[Match, Scope]:
        """Which of the routes takes a request, named in the second as ``route``."""
        partial: tuple[Match, Scope] = (Match.NONE, {})
        if scope["type"] in ("http", "websocket") and scope["path"].startswith(self.paths):
            for route in self.routes:
                match, found = route.matches(scope)
                if match is Match.FULL:
                    return match, found
                if match is Match.PARTIAL and partial[0] is Match.NONE:
                    partial = (match, found)
        return partial

    async def handle(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let the route that was found answer."""
        await scope["route"].handle(scope, receive, send)


def all_routes(routes: Iterable[BaseRoute]) -> list[BaseRoute]:
    """Every route, those of lazy routers each by itself."""
    return [each for route in routes for each in (route.routes if isinstance(route, LazyRouter) else [route])]


def read_ahead(routers: Iterable[LazyRouter]) -> None:
    """Read those that nobody asked for yet."""
    unread = [router for router in routers if router.module not in sys.modules]
    if unread:
        with nothing_collected():
            all_routes(unread)


@contextmanager
def nothing_collected() -> Iterator[None]:
    """While modules are read: collecting garbage then takes time and finds nothing, nor does it later among them."""
    gc.disable()
    try:
        yield
        gc.freeze()
    finally:
        gc.enable()
