"""A robot tuner at the practice cars: it knows what the API tells, follows the plan to the flat, corrects once.

Cars are lowered by springs all round; what comes of them is told by the debrief alone.
"""

from dataclasses import dataclass, field

import numpy as np

from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.practice.car import DEGREE, NEW, OLD, PITCH, draw_car
from fair_spindle.practice.exercises import find_exercise
from fair_spindle.practice.gauges import ANGLE_STEP, CAMBER_NOISE, TOE_NOISE

LABELS = {key.replace(".", " ").capitalize(): key for key in WHEELS}


@dataclass
class Outcome:
    """What became of one car: misses by stage [deg, mm], and whether each stated band held the truth."""

    planned: list = field(default_factory=list)
    corrected: list = field(default_factory=list)
    untouched: list = field(default_factory=list)
    heights: list = field(default_factory=list)
    by_length: list = field(default_factory=list)
    floor: list = field(default_factory=list)
    bands: dict = field(default_factory=lambda: {"height": [], "toe": [], "camber": []})
    steering: tuple = (0.0, 0.0)


class Robot:
    """Follows a practice job through the API."""

    def __init__(self, client, seed, layout):
        self.client, self.seed, self.layout, self.n = client, seed, layout, 0
        self.path = f"/api/jobs/blind-{layout.replace('_', '-')}-{seed}"
        body = {"id": self.path.rpartition("/")[2], "exercise": "lower_keep_toe", "seed": seed, "bare": True}
        answer = client.post("/api/practice", json={**body, "layouts": dict.fromkeys(("front", "rear"), layout)})
        assert answer.status_code == 201, answer.text
        self.car = draw_car(find_exercise("lower_keep_toe"), seed, dict.fromkeys(("front", "rear"), layout))

    def send(self, **act):
        self.n += 1
        seen = self.client.get(f"{self.path}/version").json()["version"]
        body = {"id": f"robot-{self.n:04}", "seen": seen, "act": act}
        answer = self.client.post(f"{self.path}/events", json=body)
        assert answer.status_code == 201, answer.text

    def read(self, *names):
        self.n += 1
        keys = [f"{key}.{name}" for key in WHEELS for name in names]
        answer = self.client.post(f"{self.path}/practice/read", json={"id": f"read-{self.n:05}", "keys": keys})
        assert answer.status_code == 201, answer.text

    def turns(self, samples):
        return self.client.get(f"{self.path}/turns", params={"samples": samples}).json()["wheels"]

    def turn(self, wheels, name):
        for wheel in wheels:
            for count in wheel["counts"]:
                if count[name]:
                    self.send(kind="turned", wheel=wheel["key"], adjuster=count["name"], steps=count[name])

    def truth(self):
        rows = self.client.get(f"{self.path}/practice/debrief", params={"give_up": True}).json()
        found = {}
        for row in rows["rows"]:
            found[LABELS[row["where"]], row["what"]] = row["truth"]
        return found, rows

    def misses(self, targets):
        found, _ = self.truth()
        line = (found["rear.left", "toe"] - found["rear.right", "toe"]) / 2
        off = []
        for key in WHEELS:
            follow = (1 if key.endswith("left") else -1) * line * key.startswith("front")
            off.append([found[key, "toe"] - 0.1 - follow, found[key, "camber"] - targets[key]["camber"]])
        return off, found

    def work(self, samples=300):
        out = Outcome()
        self.read("height", "toe", "camber")
        self.send(kind="moved", to="hanging")
        for key in WHEELS:
            self.send(kind="stepped", step=f"springs.swap@{key}", outcome="done")
        springs = self.client.get(f"{self.path}/springs", params={"samples": 500}).json()["wheels"]
        wheels = self.turns(samples)
        targets = {one["key"]: {t["name"]: t["wanted_deg"] for t in one["targets"]} for one in wheels}
        self.send(kind="moved", to="on_wheels")
        self.send(kind="settled")
        out.untouched, found = self.misses(targets)
        for one in springs:
            change = found[one["key"], "height"] - self.car.corners[one["key"]].arch
            out.heights.append(change - one["change_mm"])
            out.bands["height"].append(abs(change - one["change_mm"]) <= one["plus_minus_mm"])
            out.by_length.append(change - (NEW[1] - OLD[1]))
        self.turn(wheels, "planned")
        out.planned, found = self.misses(targets)
        for one in wheels:
            for target in one["targets"]:
                off = abs(found[one["key"], target["name"]] - target["after_deg"])
                out.bands[target["name"]].append(off <= target["plus_minus_deg"])
        self.read("check_height", "check_toe", "check_camber")
        self.turn(self.turns(samples), "left")
        out.corrected, _ = self.misses(targets)
        _, rows = self.truth()
        out.steering = (rows["steering_before"], rows["steering_after"])
        out.floor = self.floor(found)
        return out

    def floor(self, found):
        """What steps and gauges leave for certain: half a step of each adjuster and the noise of a reading. [deg]"""
        rng = np.random.default_rng(self.seed)
        rows = []
        for key in WHEELS:
            wheel = self.car.corners[key].wheel
            travel = self.car.corners[key].arch - found[key, "height"]
            steps = (PITCH / 6, 0.5 if wheel.layout == "strut" else PITCH / 6)
            still = wheel.angles(travel)
            moved = [wheel.__class__(**{**vars(wheel), name: steps[n]}).angles(travel) - still
                     for n, name in enumerate(("rod", "other"))]  # fmt: skip
            noise = np.hypot(ANGLE_STEP / np.sqrt(12), [TOE_NOISE, CAMBER_NOISE])
            off = rng.uniform(-0.5, 0.5, (40, 2)) @ np.array(moved) / DEGREE + rng.normal(0, 1, (40, 2)) * noise
            rows += off.tolist()
        return rows


def examine(client, layout, count, first=1):
    """Let the robot work on many cars of a layout; 95th percentiles [deg, mm] and how often each band held."""
    found = [Robot(client, seed, layout).work() for seed in range(first, first + count)]

    def p95(name):
        return np.quantile(np.abs(np.concatenate([getattr(one, name) for one in found])), 0.95, axis=0)

    bands = {name: float(np.mean([hit for one in found for hit in one.bands[name]])) for name in found[0].bands}
    before, after = (np.quantile(np.abs([one.steering[n] for one in found]), 0.95) for n in (0, 1))
    names = ("untouched", "planned", "corrected", "floor", "heights", "by_length")
    return {name: p95(name) for name in names} | {"bands": bands, "steering": (before, after)}
