"""Entries that waited for a connection: two devices, cuts and restarts, held against what must come of it."""

import itertools
import shutil
import tempfile
from functools import partial
from pathlib import Path

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule, run_state_machine_as_test

from opened import opened

FIELDS = ("front.left.toe", "front.right.toe")


def toe(key, minutes):
    typed = {"toe": {"text": str(minutes), "unit": "min"}}
    return {"kind": "entered", "key": key, "method": "angle", "typed": typed}


class TwoDevices(RuleBasedStateMachine):
    """Two devices enter readings and notes, sometimes cut off; each delivers what waits when it is back."""

    def __init__(self, filled):
        super().__init__()
        self.file = Path(tempfile.mkdtemp()) / "own.sqlite"
        shutil.copy(filled, self.file)

    @initialize()
    def begin(self):
        self.serve()
        self.job = next(one["id"] for one in self.client.get("/api/jobs").json() if "Baseline" in one["title"])
        self.path = f"/api/jobs/{self.job}"
        self.ids = (f"entry-{n:05}" for n in itertools.count())
        self.queues = {"a": [], "b": []}
        self.written = {"a": [], "b": []}
        self.seen = dict.fromkeys("ab", self.version())
        self.begun = self.version()
        self.accepted, self.dropped = [], set()
        self.latest = {}

    def serve(self):
        self.client = opened(self.file)
        self.client.__enter__()

    def version(self):
        return self.client.get(f"{self.path}/version").json()["version"]

    @rule(device=st.sampled_from("ab"))
    def look(self, device):
        self.seen[device] = self.version()

    @rule(device=st.sampled_from("ab"), key=st.sampled_from(FIELDS), minutes=st.integers(1, 9))
    def read(self, device, key, minutes):
        self.enter(device, toe(key, minutes), key)

    @rule(device=st.sampled_from("ab"))
    def note(self, device):
        self.enter(device, {"kind": "noted", "text": "n"}, None)

    def enter(self, device, act, subject):
        entry = {"id": next(self.ids), "seen": self.seen[device], "act": act}
        self.queues[device].append((entry, subject))

    @rule(device=st.sampled_from("ab"), lost=st.booleans())
    def deliver(self, device, lost):
        """``lost``: the answer never arrives, and the same is sent once more."""
        waiting = self.queues[device]
        if not waiting:
            return
        body = {"entries": [entry for entry, _ in waiting], "written": self.written[device]}
        before = self.version()
        done = self.client.post(f"{self.path}/queue", json=body).json()
        expected, refused = self.expected(device)
        assert done["written"] == expected
        assert (done["refused"] or {}).get("id") == refused
        assert self.version() == before + len(expected)
        if lost:
            again = self.client.post(f"{self.path}/queue", json=body).json()
            assert again["written"] == expected
            assert self.version() == before + len(expected)
        for entry, subject in waiting[: len(expected)]:
            self.accepted.append(entry["id"])
            if subject:
                self.latest[subject] = (device, self.begun + len(self.accepted), entry["act"])
        self.written[device] += expected
        self.queues[device] = waiting[len(expected) :]
        if refused:
            self.dropped.add(refused)
            self.queues[device] = self.queues[device][1:]
        if not self.queues[device]:
            self.written[device] = []

    def expected(self, device):
        """Written up to the first whose field somebody else changed after it was made."""
        taken = []
        for entry, subject in self.queues[device]:
            other, at, _ = self.latest.get(subject, (device, 0, None))
            if subject and at > entry["seen"] and (other != device or not self.is_mine(device, at)):
                return taken, entry["id"]
            taken.append(entry["id"])
        return taken, None

    def is_mine(self, device, at):
        """Whether a line belongs to the queue that is being delivered."""
        return self.accepted[at - self.begun - 1] in self.written[device]

    @rule()
    def restart(self):
        self.client.__exit__(None, None, None)
        self.serve()

    @invariant()
    def the_log_is_what_was_accepted_in_order(self):
        lines = self.client.get(f"{self.path}/log").json()[self.begun :]
        assert [line["id"] for line in lines] == self.accepted
        assert not self.dropped & set(self.accepted)
        entries = self.client.get(self.path).json()["entries"]
        for key, (_, _, act) in self.latest.items():
            assert entries[key]["typed"]["toe"]["text"] == act["typed"]["toe"]["text"]

    def teardown(self):
        self.client.__exit__(None, None, None)
        shutil.rmtree(self.file.parent)


def test_two_devices_lose_nothing_and_write_nothing_twice(filled):
    run_state_machine_as_test(partial(TwoDevices, filled), settings=settings(max_examples=8, stateful_step_count=30))


def test_a_step_finished_in_one_go_waits_like_any_entry_and_is_no_conflict_with_what_follows_it(client):
    """One entry that makes several lines, then one on the same step: both of the same device."""
    line = next(one for one in client.get("/api/jobs").json() if one["title"] == "Front arms, bar and tie-rod ends")
    path = f"/api/jobs/{line['id']}"
    view = client.get(path).json()
    step = next(one for one in view["steps"] if one["state"] == "open")
    assert step["together"] == "All by hand"
    finished = {"id": "entry-early", "seen": view["version"], "act": {"kind": "finished", "step": step["key"]}}
    early = client.post(f"{path}/events", json=finished).json()
    assert early["message"].startswith("Still to be read: new one in")
    assert client.get(path).json()["version"] == view["version"], "nothing of it is written"
    acts = [
        *({"kind": "entered", "key": one["key"], "choice": "new"} for one in step["reads"] if one["required"]),
        {"kind": "finished", "step": step["key"]},
        {"kind": "stepped", "step": step["key"], "outcome": "reopened"},
    ]
    entries = [{"id": f"entry-{n:04}", "seen": view["version"], "act": act} for n, act in enumerate(acts)]
    for _ in range(2):
        done = client.post(f"{path}/queue", json={"entries": entries}).json()
        assert (done["refused"], done["written"]) == (None, [one["id"] for one in entries])
    after = client.get(path).json()
    assert next(one for one in after["steps"] if one["key"] == step["key"])["state"] == "open"
    assert after["version"] == done["version"]
    other = {**entries[-2], "act": {"kind": "finished", "step": view["steps"][0]["key"]}}
    assert client.post(f"{path}/events", json=other).status_code == 409
