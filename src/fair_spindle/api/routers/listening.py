"""A line on which a page hears that the job or car it shows has changed."""

from __future__ import annotations

import asyncio
import re

from fastapi import APIRouter, WebSocket, WebSocketDisconnect

from fair_spindle.api.changes import Changes

router = APIRouter(tags=["listening"])
ID = re.compile(r"[0-9a-zA-Z-]{8,64}")


@router.websocket("/ws/books/{book_id}")
async def listen(socket: WebSocket, book_id: str, page: str = "") -> None:
    """Say ``changed`` each time somebody but the page itself wrote in the book; what changed is read as ever."""
    if not ID.fullmatch(book_id):
        await socket.close(4404, "There is no such book.")
        return
    await socket.accept()
    changes: Changes = socket.app.state.changes
    gone = asyncio.create_task(_until_gone(socket))
    try:
        with changes.listening(book_id, page) as changed:
            while not gone.done():
                waiting = asyncio.create_task(changed.wait())
                await asyncio.wait({waiting, gone}, return_when=asyncio.FIRST_COMPLETED)
                waiting.cancel()
                if changed.is_set():
                    changed.clear()
                    await socket.send_text("changed")
    except (WebSocketDisconnect, RuntimeError):
        pass
    finally:
        gone.cancel()


async def _until_gone(socket: WebSocket) -> None:
    try:
        while True:
            await socket.receive_text()
    except (WebSocketDisconnect, RuntimeError, KeyError):
        return
