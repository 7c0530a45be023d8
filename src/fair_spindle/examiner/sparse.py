"""Cars of which little is told: at every depth of telling, how wide the told ± is and how often it holds the truth.

Wheels are drawn as cars vary and solved by the practice bay's own linkages; nothing of the truth is the product's.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.geometry.layouts import find_layout
from fair_spindle.core.geometry.layouts.layout import CAR_TO_CAR, SIDE_TO_SIDE
from fair_spindle.core.geometry.measures import measure, measures_of
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.clamping import READ_AT_GATE, pivots_of
from fair_spindle.core.predict.geometry import AT_OTHER_HEIGHT, wheels_of
from fair_spindle.core.predict.ride_height import sit
from fair_spindle.core.predict.sprung_car import COIL_SET, sprung_car
from fair_spindle.core.predict.turning import plan_car
from fair_spindle.core.predict.usual_car import FRONT_SHARE, GRAVITY, MASS_VARIES, UNSPRUNG_VARIES
from fair_spindle.core.springs.loads import MASSES, USUAL_UNSPRUNG_SHARE, CarLoads, car_loads
from fair_spindle.core.springs.rubber import DEFAULT_TWIST_LIMIT
from fair_spindle.practice.car import DEGREE
from fair_spindle.practice.linkage import Upright

Vector = NDArray[np.float64]
DEPTHS = ("type", "rods", "lever", "arms", "slope", "angles", "points", "sweep")
LAYOUTS = ("strut", "double_wishbone", "five_link", "trailing_lateral", "semi_trailing")
# What an ordinary reading errs by, standard. [rad, mm, rad/mm]
TOE, CAMBER, TAPE, POINT, SWEPT, HEIGHT = 0.02 * DEGREE, 0.05 * DEGREE, 1.75, 2.0, 0.7 / 600 * DEGREE, 1.5
MINUTES_PER_10MM = DEGREE / 600
# What those who build cars keep, as the layouts have it: standard deviations of bump steer and camber gain. [rad/mm]
BUMP_STEER, LEVER, CASTER = 12 * MINUTES_PER_10MM, 18.0, 3 * DEGREE
GAINS = {"trailing_lateral": 9 * MINUTES_PER_10MM}
USUAL_GAIN = 6 * MINUTES_PER_10MM
LEVERS = {"trailing_lateral": 30.0}
OF_THE_TOE = {"trailing_lateral": "lateral_front"}
ELSEWHERE = (-30.0, 30.0)
SAMPLES = 600
TOGETHER = ("total", "thrust")
ANGLES = ("toe", "camber")
# The arm whose rubber is clamped, by layout; ratios of layouts; what is told of a car on new springs, each with the
# last.
CLAMPED = {
    "strut": "lower",
    "double_wishbone": "lower",
    "five_link": "lower_rear",
    "trailing_lateral": "trailing",
    "semi_trailing": "arm",
}
RATIOS = {"strut": (0.95, 0.03), "double_wishbone": (0.8, 0.13), "solid_links": (0.88, 0.1)}
HEIGHT_DEPTHS = ("springs alone", "type of axle", "kind of car", "axle weights", "motion ratio")
# Hub to arch, before. [mm]
STANDS = 360.0


@dataclass
class Held:
    """Half widths told of one number, and whether the truth lay within. [deg, mm]"""

    wide: list[float] = field(default_factory=list)
    inside: list[bool] = field(default_factory=list)

    def add(self, plus_minus: float, off: float) -> None:
        """Take one more."""
        self.wide.append(plus_minus / DEGREE)
        self.inside.append(abs(off) <= plus_minus)


class Axle:
    """Two wheels of one car, as they are."""

    def __init__(self, layout: str, rng: np.random.Generator) -> None:
        self.layout, self.rng = layout, rng
        self.name: Literal["front", "rear"] = "front" if layout in ("strut", "double_wishbone") else "rear"
        self.rod = OF_THE_TOE.get(layout, "tie")
        self.pitch = rng.choice([1.25, 1.5, 1.5, 1.75])
        shape = draw_shape(layout, rng)
        self.wheels = {}
        for side, out in zip(SIDES, (1, -1), strict=True):
            own = {name: (at + rng.normal(0, SIDE_TO_SIDE, 3)) * [1, out, 1] for name, at in shape.items()}
            toe, camber = rng.normal([0.1, -0.9], [0.05, 0.3]) * DEGREE
            self.wheels[side] = Upright(layout, out, own, toe, camber)
        self.lowered = rng.uniform(15, 40)
        self.stood = STANDS + 0.8 * rng.normal()

    def tell(self, depth: str) -> Readings:
        """What a tuner knows of it at a depth, each reading off by as much as such readings are."""
        told: dict[str, Quantity] = {}
        words = {f"{self.name}.layout": self.layout}
        level = DEPTHS.index(depth)
        if level >= DEPTHS.index("rods"):
            words[f"{self.name}.steer"] = "behind"
        told[f"{self.name}.height_change"] = Quantity(-self.lowered + HEIGHT * self.rng.normal(), HEIGHT)
        for side, wheel in self.wheels.items():
            key = f"{self.name}.{side}"
            told |= self._wheel(key, wheel, level)
            if self.layout != "semi_trailing":
                words[f"{key}.{self.rod}.adjust"] = "one_thread"
        return Readings(Sheet(), told, words)

    def _wheel(self, key: str, wheel: Upright, level: int) -> dict[str, Quantity]:
        told = {f"{key}.toe": self._off(wheel.toe, TOE), f"{key}.camber": self._off(wheel.camber, CAMBER)}
        told[f"{key}.height"] = Quantity(STANDS, 0.5)
        threaded = self.layout != "semi_trailing"
        if level >= DEPTHS.index("rods") and threaded:
            told[f"{key}.{self.rod}.pitch"] = Quantity(self.pitch)
        if level >= DEPTHS.index("lever") and threaded:
            told[f"{key}.{self.rod}.lever"] = self._off(lever_of(wheel), TAPE)
        if level >= DEPTHS.index("arms"):
            told |= self._by_tape(key, wheel)
        if level >= DEPTHS.index("slope"):
            told[f"{key}.bump_slope"] = self._off(float(slopes_of(wheel)[0]), SWEPT)
        if level in (DEPTHS.index("angles"), DEPTHS.index("sweep")):
            told |= self._elsewhere(key, wheel)
        if level >= DEPTHS.index("points"):
            told |= self._points(key, wheel)
        return told

    def at_rest(self, told: Readings) -> dict[str, Quantity]:
        """What is known of it on the springs it has: its ride height, and no change of it."""
        heights = {f"{self.name}.{side}.height": Quantity(STANDS, 0.8) for side in SIDES}
        return {**told.quantities, **heights, f"{self.name}.height_change": Quantity(0.0)}

    def _off(self, value: float, size: float) -> Quantity:
        return Quantity(value + size * self.rng.normal(), size)

    def _by_tape(self, key: str, wheel: Upright) -> dict[str, Quantity]:
        kind = find_layout(self.layout)
        at = {name: np.asarray(point)[None] for name, point in wheel.points.items()}
        names = [name for name in measures_of(kind) if name.endswith((".length", ".rise"))]
        sizes = {name: float(measure(kind, wheel.side, name, at.__getitem__)[0]) for name in names}
        return {f"{key}.{name}": self._off(size, TAPE) for name, size in sizes.items()}

    def _elsewhere(self, key: str, wheel: Upright) -> dict[str, Quantity]:
        told = {}
        for name, travel in zip(("angles_lower", "angles_higher"), ELSEWHERE[::-1], strict=True):
            toe, camber = wheel.angles(travel)
            parts = {
                "height": STANDS - travel,
                "toe": float(toe) + AT_OTHER_HEIGHT["toe"] * self.rng.normal(),
                "camber": float(camber) + AT_OTHER_HEIGHT["camber"] * self.rng.normal(),
            }
            told[f"{key}.{name}"] = Quantity(0.0, parts=parts)
        return told

    def _points(self, key: str, wheel: Upright) -> dict[str, Quantity]:
        told = {}
        for name, point in wheel.points.items():
            off = self.rng.normal(0, POINT, 3) if name != "wheel_center" else np.zeros(3)
            parts = dict(zip("xyz", (point + off).tolist(), strict=True))
            told[f"{key}.point.{name}"] = Quantity(0.0, POINT, parts=parts)
        return told


def slopes_of(wheel: Upright) -> Vector:
    """Toe and camber per travel at ride height. [rad/mm]"""
    return np.asarray((wheel.angles(0.5) - wheel.angles(-0.5)) / 1.0)


def lever_of(wheel: Upright) -> float:
    """Length of the rod that a radian of toe takes. [mm]"""
    toes = [replace(wheel, rod=by).angles(0.0)[0] for by in (0.5, -0.5)]
    return float(1 / abs(toes[0] - toes[1]))


def draw_shape(layout: str, rng: np.random.Generator) -> Mapping[str, Vector]:
    """Points of a left wheel as cars of a layout have them: each as it may be, the whole as it is kept.

    By drawing until one is kept: the chance of being kept falls with how far bump steer, camber gain, caster and
    lever lie from the middling ones.
    """
    usual = {name: np.array(at, dtype=float) for name, at in find_layout(layout).usual.items()}
    middling = Upright(layout, 1, usual, 0.0, 0.0)
    wanted = _kept(middling)
    while True:
        shape = {n: at + (rng.normal(0, CAR_TO_CAR, 3) if n != "wheel_center" else 0.0) for n, at in usual.items()}
        try:
            off = (_kept(Upright(layout, 1, shape, 0.0, 0.0)) - wanted) / _sizes(layout, len(wanted))
        except (np.linalg.LinAlgError, ArithmeticError, RuntimeError, ValueError):
            continue
        if rng.random() < np.exp(-(off @ off) / 2):
            return shape


def _kept(wheel: Upright) -> Vector:
    caster = wheel.caster()
    lever = [lever_of(wheel)] if wheel.layout != "semi_trailing" else []
    return np.array([*slopes_of(wheel), *lever, *([] if caster is None else [caster])])


def _sizes(layout: str, count: int) -> Vector:
    sizes = [BUMP_STEER, GAINS.get(layout, USUAL_GAIN), LEVERS.get(layout, LEVER), CASTER]
    return np.array(sizes[:count])


def examine_depths(layout: str, count: int, seed: int = 1) -> dict[str, dict[str, Held]]:
    """How wide and how true the ± are of so many axles, by depth: toe and camber after the planned turns, total toe
    and thrust, and whether a height shown as inside the clamp window of an arm is inside."""
    found = {depth: {name: Held() for name in (*ANGLES, *TOGETHER, "window")} for depth in DEPTHS}
    for number in range(count):
        axle = Axle(layout, np.random.default_rng([seed, number, LAYOUTS.index(layout)]))
        for depth in DEPTHS:
            told = axle.tell(depth)
            _angles(axle, told, depth, found[depth])
            _window(axle, told, found[depth]["window"])
    return found


def _angles(axle: Axle, told: Readings, depth: str, found: dict[str, Held]) -> None:
    plan = plan_car(wheels_of(told, told.quantities), None, SAMPLES, told.quantities)
    toes = []
    for side, wheel in axle.wheels.items():
        planned = plan.wheels[f"{axle.name}.{side}"]
        if planned.plan is None or planned.sureness is None:
            raise RuntimeError(f"nothing is planned for a {axle.layout} of which the {depth} is told")
        turns = float(planned.plan.set_turns[0]) if planned.plan.set_turns.size else 0.0
        true = replace(wheel, rod=turns * axle.pitch).angles(axle.lowered)
        for name, angle in zip(ANGLES, true, strict=True):
            found[name].add(planned.sureness.angles[name], angle - planned.plan.after[name])
        toes.append((float(true[0]), planned.plan.after["toe"]))
    sure = plan.axles[axle.name].sureness
    if sure is not None and sure.across:
        (left, right), (by_left, by_right) = zip(*toes, strict=True)
        misses = {"total": left + right - by_left - by_right, "thrust": (left - right - by_left + by_right) / 2}
        for name in TOGETHER:
            found[name].add(sure.across[name], misses[name])


def _window(axle: Axle, told: Readings, found: Held) -> None:
    """Clamp an arm at a height that is shown as inside, read by tape, and see what stays wound in the rubber."""
    arm = CLAMPED[axle.layout]
    joint = Joint("arm", "Arm", "rubber_pivot", (Bolt(1),), axle.name, "left", bushing="bonded_rubber", arm=arm)
    pivots, _ = pivots_of(JobState(joints={"arm": joint}), replace(told, quantities=axle.at_rest(told)))
    if "arm" not in pivots:
        return
    wheel, kind = axle.wheels["left"], find_layout(axle.layout)
    at = {name: np.asarray(point)[None] for name, point in wheel.points.items()}
    length, rise = (float(measure(kind, 1, f"{arm}.{name}", at.__getitem__)[0]) for name in ("length", "rise"))
    low, high = np.ceil(pivots["arm"].window[0]), np.floor(pivots["arm"].window[1])
    clamped = axle.rng.uniform(low, high) + READ_AT_GATE * axle.rng.normal() - axle.stood
    wound = np.arcsin(np.clip(rise / length, -1, 1)) - np.arcsin(np.clip((rise - clamped) / length, -1, 1))
    found.wide.append(float(high - low) / 2)
    found.inside.append(bool(abs(wound) <= DEFAULT_TWIST_LIMIT))


def examine_heights(count: int, seed: int = 1) -> dict[str, Held]:
    """How wide and how true the ± of a height are that new springs bring, for cars of which more and more is told.
    [mm]

    By hand: what a spring of another rate and length makes of the load that stands on it, over the motion ratio.
    """
    found = {depth: Held() for depth in HEIGHT_DEPTHS}
    for number in range(count):
        rng = np.random.default_rng([seed, number, 99])
        layout = str(rng.choice([*RATIOS]))
        kind = str(rng.choice([*MASSES]))
        ratio = rng.normal(*RATIOS[layout])
        mass = MASSES[kind][1] * (1 + MASS_VARIES * rng.normal())
        loads = mass * GRAVITY * rng.normal(FRONT_SHARE.value, FRONT_SHARE.uncertainty) / 2
        sprung = loads * (1 - rng.normal(USUAL_UNSPRUNG_SHARE, UNSPRUNG_VARIES))
        # Springs that carry this car some 100 mm pressed, and others that lower it.
        rates = np.array([sprung / ratio / 100, sprung / ratio / 80]) * rng.uniform(0.9, 1.1, 2)
        frees = np.array([380.0, 330.0])
        printed = np.round(rates, 1), frees
        true = rates * (1 + 0.024 * rng.normal(size=2)), frees + 1.1 * rng.normal(size=2)
        lengths = true[1] - sprung / ratio / true[0]
        change = (lengths[1] - lengths[0] - COIL_SET * rng.normal()) / ratio
        for depth in HEIGHT_DEPTHS:
            told = _springs_told(depth, layout, kind, printed, ratio, loads, rng)
            wheel = sit(sprung_car(told[0], told[1], changed=("front",)), {}, SAMPLES).wheels[0]
            found[depth].add(wheel.plus_minus * DEGREE, (change - wheel.change) * DEGREE)
    return found


def _springs_told(
    depth: str,
    layout: str,
    kind: str,
    printed: tuple[Vector, Vector],
    ratio: float,
    loads: float,
    rng: np.random.Generator,
) -> tuple[Readings, CarLoads | None]:
    level = HEIGHT_DEPTHS.index(depth)
    told = {
        f"front.{spring}.{name}": Quantity(float(value), size)
        for n, spring in enumerate(("spring", "new_spring"))
        for name, value, size in (("rate", printed[0][n], 0.0248 * printed[0][n]), ("free", printed[1][n], 1.155))
    }
    words = {"front.new_spring.fit": "coil"}
    words |= {"front.layout": layout} if level >= 1 else {}
    words |= {"car.size": kind} if level >= 2 else {}
    if level >= 4:
        told["front.motion_ratio"] = Quantity(ratio + 0.01 * rng.normal(), 0.01)
    scales = None
    if level >= 3:
        read = loads * (1 + 0.01 * rng.normal())
        scales = car_loads("two_axles", {"front": 2 * read, "rear": 1.5 * read}, {})
    return Readings(Sheet(), told, words), scales


def report_depths(count: int) -> Iterator[str]:
    """Lines of tables: the middle ± told of each number and how often it held, in degrees and millimetres."""
    names = ("toe", "camber", "total toe", "thrust", "clamp window, mm")
    yield f"| layout | depth | {' | '.join(names)} |"
    yield f"|{' --- |' * (len(names) + 2)}"
    for layout in LAYOUTS:
        for depth, found in examine_depths(layout, count).items():
            yield f"| {layout} | {depth} | {' | '.join(_cell(one) for one in found.values())} |"
    yield ""
    yield f"| heights of new springs, mm | {' | '.join(HEIGHT_DEPTHS)} |"
    yield f"|{' --- |' * (len(HEIGHT_DEPTHS) + 1)}"
    yield f"| | {' | '.join(_cell(one, 1) for one in examine_heights(count).values())} |"


def _cell(one: Held, digits: int = 2) -> str:
    return f"± {np.median(one.wide):.{digits}f} {np.mean(one.inside):.0%}" if one.wide else ""
