"""Instruments, and the simulated gauges that speak in their place."""

from __future__ import annotations

import asyncio
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Path, WebSocket, WebSocketDisconnect
from pydantic import BaseModel

from fair_spindle.api.dependencies import Db
from fair_spindle.jobs import instruments, practice
from fair_spindle.jobs.instruments import InstrumentCreate, InstrumentUpdate, InstrumentView
from fair_spindle.stand_ins.gauges import GAUGES, TICK_SECONDS, Gauge

router = APIRouter(tags=["gauges"])
InstrumentId = Annotated[str, Path(pattern=r"^[0-9a-zA-Z-]{8,64}$")]


class StandInView(BaseModel):
    """A simulated gauge to pair."""

    label: str
    kind: str
    unit: str
    resolution: float
    uncertainty: float
    address: str


@router.get("/api/instruments")
def list_instruments(db: Db) -> list[InstrumentView]:
    """Instruments in use."""
    return instruments.all_instruments(db)


@router.post("/api/instruments", status_code=201)
def add_instrument(db: Db, wanted: InstrumentCreate) -> InstrumentView:
    """Add an instrument."""
    return instruments.add_instrument(db, wanted)


@router.put("/api/instruments/{instrument_id}")
def update_instrument(db: Db, instrument_id: InstrumentId, wanted: InstrumentUpdate) -> InstrumentView:
    """Change an instrument's record, or take it out of use."""
    return instruments.update_instrument(db, instrument_id, wanted)


@router.get("/api/stand-ins")
def list_stand_ins() -> list[StandInView]:
    """Simulated gauges that can be paired."""
    return [
        StandInView(
            label=one.label,
            kind=one.kind,
            unit=one.unit,
            resolution=one.resolution,
            uncertainty=one.uncertainty,
            address=f"/ws/stand-ins/{one.key}",
        )
        for one in GAUGES.values()
    ]


@router.websocket("/ws/stand-ins/{key}")
async def speak(socket: WebSocket, key: str) -> None:
    """A simulated gauge: lines of JSON out, commands in, as in docs/gauges.md."""
    if key not in GAUGES:
        await socket.close(4404, "There is no such gauge.")
        return
    await socket.accept()
    gauge = Gauge(GAUGES[key], np.random.default_rng())
    listening = asyncio.create_task(_listen(socket, gauge))
    try:
        await socket.send_text(gauge.hello())
        while not listening.done():
            for line in gauge.tick():
                await socket.send_text(line)
            await asyncio.sleep(TICK_SECONDS)
    except (WebSocketDisconnect, RuntimeError):
        pass
    finally:
        listening.cancel()


async def _listen(socket: WebSocket, gauge: Gauge) -> None:
    try:
        while True:
            for line in (await socket.receive_text())[:4000].splitlines():
                gauge.hear(line)
                if gauge.job:
                    database = socket.app.state.database
                    gauge.found = await asyncio.to_thread(practice.true_reading, database, gauge.job, gauge.aim)
    except (WebSocketDisconnect, RuntimeError, KeyError):
        return
