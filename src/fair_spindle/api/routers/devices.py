"""Letting devices in, taking them off, and the people who use them."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Path, Request, Response
from pydantic import BaseModel, Field

from fair_spindle.api.dependencies import ID, Db
from fair_spindle.api.gate import OWNER, Sharing, caller_of
from fair_spindle.formats.acts import Strict
from fair_spindle.jobs import devices, people
from fair_spindle.jobs.devices import DeviceView, Role
from fair_spindle.jobs.people import Name, PersonCreate, PersonUpdate, PersonView
from fair_spindle.network.pairing import LIVES_SECONDS

router = APIRouter(prefix="/api", tags=["devices"])
COOKIE_SECONDS = 400 * 24 * 3600
DeviceId = Annotated[str, Path(pattern=ID)]


class MeView(BaseModel):
    """Who asks, and how the workshop is shared; an empty role is a device that was not let in."""

    role: Literal["owner", "floor", ""]
    device: str
    shared: bool
    safe: bool


class CodeCreate(Strict):
    """What the device may do that will show the code."""

    role: Role = "floor"


class CodeView(BaseModel):
    """A code that lets one device in, and where to show it; QR codes are SVG as data addresses."""

    code: str
    lives_ms: int
    address: str
    address_qr: str
    trust_address: str
    trust_qr: str


class Pair(Strict):
    """The code the bench shows, and what this device is called."""

    code: Annotated[str, Field(pattern=r"^\d{6}$")]
    name: Name


class RoleUpdate(Strict):
    """What a device may do from now on."""

    role: Role


@router.get("/me")
def see_me(request: Request) -> MeView:
    """Who asks, as far as this server knows."""
    return _me(request)


@router.post("/pairing", status_code=201)
def pair(db: Db, request: Request, response: Response, wanted: Pair) -> MeView:
    """Let this device in by the code that the bench shows."""
    sharing = _sharing(request)
    device, token = devices.let_in(db, wanted.name, sharing.desk.admit(wanted.code))
    response.set_cookie(
        sharing.cookie,
        token,
        max_age=COOKIE_SECONDS,
        path="/",
        secure=sharing.is_safe,
        httponly=True,
        samesite="strict",
    )
    return MeView(role=device.role, device=device.name, shared=True, safe=sharing.is_safe)


@router.post("/pairing/code", status_code=201, dependencies=OWNER)
def make_code(request: Request, wanted: CodeCreate) -> CodeView:
    """A new code for one device; it lives two minutes."""
    sharing = _sharing(request)
    code = sharing.desk.new_code(wanted.role)
    address = f"{sharing.address}/?code={code}"
    return CodeView(
        code=code,
        lives_ms=round(LIVES_SECONDS * 1000),
        address=sharing.address,
        address_qr=_qr(address),
        trust_address=sharing.trust_address,
        trust_qr=_qr(sharing.trust_address) if sharing.trust_address else "",
    )


@router.get("/devices", dependencies=OWNER)
def list_devices(db: Db) -> list[DeviceView]:
    """Devices that were let in."""
    return devices.all_devices(db)


@router.put("/devices/{device_id}", dependencies=OWNER)
def change_device(db: Db, device_id: DeviceId, wanted: RoleUpdate) -> list[DeviceView]:
    """Let a device do more, or less."""
    return devices.change_role(db, device_id, wanted.role)


@router.delete("/devices/{device_id}", dependencies=OWNER)
def take_off(db: Db, device_id: DeviceId) -> list[DeviceView]:
    """Take a device off; it sees and writes nothing from now on."""
    return devices.take_off(db, device_id)


@router.get("/people")
def list_people(db: Db) -> list[PersonView]:
    """Who works here."""
    return people.all_people(db)


@router.post("/people", status_code=201)
def add_person(db: Db, wanted: PersonCreate) -> list[PersonView]:
    """Add somebody."""
    return people.add_person(db, wanted)


@router.put("/people/{person_id}", dependencies=OWNER)
def change_person(db: Db, person_id: DeviceId, wanted: PersonUpdate) -> list[PersonView]:
    """Change somebody's name or initials, or say that they are gone."""
    return people.change_person(db, person_id, wanted)


def _me(request: Request) -> MeView:
    caller, sharing = caller_of(request), _sharing(request)
    return MeView(role=caller.role, device=caller.device, shared=sharing.is_shared, safe=sharing.is_safe)


def _sharing(request: Request) -> Sharing:
    sharing: Sharing = request.app.state.sharing
    return sharing


def _qr(text: str) -> str:
    import segno

    return str(segno.make(text, error="m").svg_data_uri(scale=5, border=3, dark="#1c2628", light="#ffffff"))
