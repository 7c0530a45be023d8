"""The workshop's network: nobody unpaired reads or writes anything, and the floor does not what the bench may."""

import json
import os
import re
import shutil
import stat
from datetime import UTC, datetime

import pytest
from cryptography import x509
from starlette.websockets import WebSocketDisconnect

from fair_spindle.api.app import create_app
from fair_spindle.api.gate import OPEN_TO_ALL, Sharing
from fair_spindle.core.basics.errors import InputError, NotAllowed
from fair_spindle.network.addresses import Addresses, own_addresses
from fair_spindle.network.authority import credentials_of
from fair_spindle.network.pairing import LIVES_SECONDS, SILENT_SECONDS, PairingDesk
from fair_spindle.network.welcome import welcome_app
from opened import within

ADDRESS = "https://192.0.2.7:8613"
BENCH, PHONE = ("127.0.0.1", 5001), ("192.0.2.9", 5002)
# What only the bench, or a device it made an owner, may do; everything else a device of the floor may.
OWNERS = {
    ("POST", "/api/demo"),
    ("DELETE", "/api/jobs/{job_id}"), ("POST", "/api/jobs/import"), ("POST", "/api/restore"), ("GET", "/api/backup"),
    ("GET", "/api/backups"), ("POST", "/api/backups"), ("POST", "/api/backups/{name}/restore"),
    ("POST", "/api/procedures/import"), ("DELETE", "/api/procedures/{procedure}"), ("DELETE", "/api/parts/{part_id}"),
    ("POST", "/api/pairing/code"), ("GET", "/api/devices"), ("PUT", "/api/devices/{device_id}"),
    ("DELETE", "/api/devices/{device_id}"), ("PUT", "/api/people/{person_id}"),
}  # fmt: skip


@pytest.fixture
def shared(filled, tmp_path):
    """The sample workshop, shared; gives a client for each place a request comes from."""
    file = tmp_path / "shared.sqlite"
    shutil.copy(filled, file)
    app = create_app(file, {"192.0.2.7"}, sharing=Sharing(True, True, ADDRESS, "http://192.0.2.7:8614", 8613))
    with within(app, base_url=ADDRESS, client=BENCH) as bench:
        yield bench, lambda: within(app, base_url=ADDRESS, client=PHONE)


def paired(shared, role="floor", name="Phone, bay 2"):
    bench, device = shared
    code = bench.post("/api/pairing/code", json={"role": role}).json()["code"]
    phone = device()
    assert phone.post("/api/pairing", json={"code": code, "name": name}).status_code == 201
    return phone


def routes(client):
    """Every route there is, by its method, with ids that are none in it."""
    paths = client.app.openapi()["paths"]
    for path, ways in paths.items():
        for way in ways:
            yield way.upper(), path, re.sub(r"{[^}]+}", "some-id-0001", path)


def test_an_unpaired_device_is_refused_on_every_route(shared):
    _, device = shared
    phone = device()
    asked = list(routes(phone))
    assert len(asked) > 90
    for way, path, filled in asked:
        answer = phone.request(way, filled)
        if path in OPEN_TO_ALL:
            assert answer.status_code in (200, 422), path
        else:
            assert (answer.status_code, answer.json()["code"]) == (401, "not_paired"), (way, path)
    for path in ("/ws/books/some-id-0001", "/ws/stand-ins/level"):
        with (
            phone.websocket_connect(path, headers={"Host": "192.0.2.7:8613"}) as socket,
            pytest.raises(WebSocketDisconnect) as closed,
        ):
            socket.receive_text()
        assert closed.value.code == 4401
    assert phone.get("/api/me").json()["role"] == ""
    assert phone.get("/openapi.json").status_code == 401
    assert phone.get("/").headers["content-type"].startswith("text/html"), "the empty page, to enter a code on"


def test_a_device_of_the_floor_does_all_but_what_only_the_bench_may(shared):
    phone = paired(shared)
    refused = set()
    for way, path, filled in routes(phone):
        if phone.request(way, filled).status_code == 403:
            refused.add((way, path))
    assert refused == OWNERS
    owner = paired(shared, "owner", "Tablet")
    assert {owner.get(path).status_code for path in ("/api/backups", "/api/devices")} == {200}


def test_a_code_lets_in_one_device_once_and_what_it_gets_is_kept_from_pages_and_taken_off_at_once(shared):
    bench, device = shared
    shown = bench.post("/api/pairing/code", json={}).json()
    assert re.fullmatch(r"\d{6}", shown["code"])
    assert shown["address_qr"].startswith("data:image/svg+xml")
    phone = device()
    answer = phone.post("/api/pairing", json={"code": shown["code"], "name": "Phone"})
    cookie = answer.headers["set-cookie"].lower()
    assert all(word in cookie for word in ("httponly", "secure", "samesite=strict", "path=/", "__host-spindle-8613="))
    assert phone.get("/api/jobs").status_code == 200
    assert device().post("/api/pairing", json={"code": shown["code"], "name": "Second"}).status_code == 422
    listed = bench.get("/api/devices").json()
    assert [one["name"] for one in listed] == ["Phone"]
    token = cookie.partition("=")[2].partition(";")[0]
    held = bench.app.state.database.path.read_bytes()
    assert token.encode() not in held.lower(), "of the token only its hash is kept"
    assert bench.delete(f"/api/devices/{listed[0]['id']}").json() == []
    assert phone.get("/api/jobs").status_code == 401


def test_guessing_is_heard_five_times_and_a_code_runs_out():
    now = [0.0]
    desk = PairingDesk(lambda: now[0])
    code = desk.new_code("floor")
    wrong = "000000" if code != "000000" else "111111"
    for _ in range(5):
        with pytest.raises(InputError, match="not the code"):
            desk.admit(wrong)
    for guess in (code, desk.new_code("floor")):
        with pytest.raises(NotAllowed, match="Wait a minute"):
            desk.admit(guess)
    now[0] += SILENT_SECONDS
    late = desk.new_code("owner")
    now[0] += LIVES_SECONDS + 0.1
    with pytest.raises(InputError, match="run out"):
        desk.admit(late)
    assert desk.admit(desk.new_code("owner")) == "owner"


def test_a_restore_does_not_let_a_device_in_again_that_was_taken_off(shared):
    bench, _ = shared
    gone = paired(shared, name="Lost phone")
    backup = bench.get("/api/backup").content
    bench.delete(f"/api/devices/{bench.get('/api/devices').json()[0]['id']}")
    kept = paired(shared, name="Kept phone")
    assert bench.post("/api/restore?apply=true", content=backup).json()["applied"]
    assert (gone.get("/api/jobs").status_code, kept.get("/api/jobs").status_code) == (401, 200)


def test_entries_carry_who_made_them_to_the_record_and_through_a_file(shared):
    bench, _ = shared
    phone = paired(shared)
    people = phone.post("/api/people", json={"id": "person-0001", "name": "Ada Grint", "initials": "AG"}).json()
    again = {"id": "person-0002", "name": "Another", "initials": "ag"}
    assert phone.post("/api/people", json=again).status_code == 422
    job = next(one["id"] for one in phone.get("/api/jobs").json() if "27 mm" in one["title"])
    seen = phone.get(f"/api/jobs/{job}/version").json()["version"]
    entry = {"id": "entry-by-0001", "seen": seen, "act": {"kind": "noted", "text": "x"}, "by": people[0]["id"]}
    answer = phone.post(f"/api/jobs/{job}/events", json=entry)
    assert answer.status_code == 201, answer.text
    by_header = {"id": "entry-by-0002", "seen": seen + 1, "act": {"kind": "noted", "text": "y"}}
    headers = {"X-Made-By": "person-0001"}
    assert phone.post(f"/api/jobs/{job}/events", json=by_header, headers=headers).status_code == 201
    assert [line["by"] for line in phone.get(f"/api/jobs/{job}/log").json()[-3:]] == ["", "Ada Grint", "Ada Grint"]
    unknown = {**entry, "id": "entry-by-0003", "seen": seen + 2, "by": "person-9999"}
    assert phone.post(f"/api/jobs/{job}/events", json=unknown).status_code == 404
    told = json.loads(phone.get(f"/api/jobs/{job}/job.json").content)
    assert [line.get("by") for line in told["log"][-3:]] == [None, "Ada Grint", "Ada Grint"]
    assert bench.delete(f"/api/jobs/{job}?seen={seen + 2}").status_code == 204
    assert bench.post("/api/jobs/import?apply=true", content=json.dumps(told)).json()["applied"]
    assert bench.get(f"/api/jobs/{job}/log").json()[-1]["by"] == "Ada Grint"


@pytest.mark.referee
def test_the_certificate_covers_every_address_and_stands_under_the_workshop_s_own_authority(tmp_path):
    """Referee: the cryptography library's verifier of chains after RFC 5280."""
    from cryptography.x509 import verification

    own = Addresses(("localhost", "bench", "bench.local"), ("192.0.2.7", "2001:db8::7", "127.0.0.1"))
    made = credentials_of(tmp_path / "tls", own)
    authority, server = (x509.load_pem_x509_certificate(f.read_bytes()) for f in (made.authority, made.certificate))
    store = verification.Store([authority])
    builder = verification.PolicyBuilder().store(store).time(datetime.now(UTC))
    for name in own.names:
        assert builder.build_server_verifier(x509.DNSName(name)).verify(server, [])
    with pytest.raises(verification.VerificationError):
        builder.build_server_verifier(x509.DNSName("elsewhere.example")).verify(server, [])
    assert stat.S_IMODE(os.stat(made.key).st_mode) == 0o600
    first, root = made.certificate.read_bytes(), made.authority.read_bytes()
    assert credentials_of(tmp_path / "tls", own).certificate.read_bytes() == first, "made once"
    moved = Addresses(own.names, (*own.literal, "192.0.2.8"))
    assert credentials_of(tmp_path / "tls", moved).certificate.read_bytes() != first
    assert made.authority.read_bytes() == root, "what the devices trust stays"
    assert "localhost" in own_addresses().names


def test_the_plain_port_gives_the_certificate_and_leads_to_the_safe_one(tmp_path):
    file = tmp_path / "authority.crt"
    file.write_bytes(b"certificate")
    own = Addresses(("localhost",), ("192.0.2.7",))
    client = within(welcome_app(file, 8613, own), base_url="http://192.0.2.7:8614", follow_redirects=False)
    assert 'href="https://192.0.2.7:8613/"' in client.get("/").text
    assert client.get("/authority.crt").content == b"certificate"
    onward = client.post("/job/a?b=1")
    assert (onward.status_code, onward.headers["location"]) == (307, "https://192.0.2.7:8613/job/a?b=1")
    strange = client.get("/", headers={"Host": "evil.example"})
    assert "evil" not in strange.text
