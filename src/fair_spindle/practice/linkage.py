"""A wheel on its links: a rigid upright held by constraints.

Nothing of this is taken from the product's own geometry, so that one can be held against the other.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.practice.rigid import BODY, newton, points_at, rotation

Vector = NDArray[np.float64]
Guide = Callable[[Callable[[str], Vector], Vector], Vector]

# Ends of each link, from the body to the upright.
_LOWER = {"lower front": ("lower_front", "lower_ball"), "lower rear": ("lower_rear", "lower_ball")}
_TIE = {"rod": ("tie_inner", "tie_outer")}
LINKS: dict[str, dict[str, tuple[str, str]]] = {
    "strut": {**_LOWER, **_TIE},
    "double_wishbone": {
        "upper front": ("upper_front", "upper_ball"),
        "upper rear": ("upper_rear", "upper_ball"),
        **_LOWER,
        **_TIE,
    },
    "five_link": {
        "upper front": ("upper_front_inner", "upper_front_outer"),
        "upper rear": ("upper_rear_inner", "upper_rear_outer"),
        "lower front": ("lower_front_inner", "lower_front_outer"),
        "lower rear": ("lower_rear_inner", "lower_rear_outer"),
        "rod": ("tie_inner", "tie_outer"),
    },
    "trailing_lateral": {
        "upper": ("upper_inner", "upper_outer"),
        "lateral rear": ("lateral_rear_inner", "lateral_rear_outer"),
        "rod": ("lateral_front_inner", "lateral_front_outer"),
    },
    "semi_trailing": {},
}
# Wheel travels at which a strut's length is taken. [mm]
STRUT_AT = np.array([-60.0, -40.0, -20.0, 20.0, 40.0, 60.0])
STEERING_AXIS = {"strut": ("strut_top", "lower_ball"), "double_wishbone": ("upper_ball", "lower_ball")}


@value_object
class SpringWay:
    """By how much a spring is pressed for wheel travel [-], and for its square and cube [1/mm, 1/mm²]."""

    ratio: float | None
    bends: tuple[float, float]


@value_object
class Upright:
    """A wheel's points in place [mm], its toe and camber there [rad], and which side it is on (left 1, right −1).

    ``rod`` is how much longer the link that holds the toe is than it was, ``other`` how far the second adjuster has
    brought the top of the wheel out, or a semi-trailing arm's outer pivot ahead. [mm]
    """

    layout: str
    side: int
    points: Mapping[str, Vector]
    toe: float
    camber: float
    rod: float = 0.0
    other: float = 0.0

    def angles(self, travel: float) -> Vector:
        """Toe and camber against the body with the wheel so far up [mm]. [rad]"""
        return points_at(rotation(self._pose(travel)[3:]), self.side, self.toe, self.camber)

    def caster(self) -> float | None:
        """How far the steering axis leans back in place [rad]; None where the wheel has none of its own."""
        ends = STEERING_AXIS.get(self.layout)
        if ends is None:
            return None
        top, low = (self.points[name] for name in ends)
        return float(np.arctan2(low[0] - top[0], top[2] - low[2]))

    def spring_way(self) -> SpringWay:
        """How a strut's spring is pressed; no ratio of its own and no bends where the spring is no strut."""
        if self.layout != "strut":
            return SpringWay(None, (0.0, 0.0))
        top, reach = self.points["strut_top"], self.points["strut_low"] - self.points["wheel_center"]
        shortened = [float(np.linalg.norm(top - self.points["strut_low"]))] * len(STRUT_AT)
        for n, travel in enumerate(STRUT_AT):
            x = self._pose(travel)
            low = self.points["wheel_center"] + x[:3] + rotation(x[3:]) @ reach
            shortened[n] -= float(np.linalg.norm(top - low))
        ways = np.stack([STRUT_AT, STRUT_AT**2, STRUT_AT**3], axis=1)
        found = np.linalg.lstsq(ways, np.array(shortened), rcond=None)[0]
        return SpringWay(float(found[0]), (float(found[1]), float(found[2])))

    def _pose(self, travel: float) -> Vector:
        links = LINKS[self.layout]
        at = {name: np.asarray(point, float) for name, point in self.points.items()}
        centre = at["wheel_center"]
        inner = np.array([at[one] for one, _ in links.values()]).reshape(-1, 3)
        outer = np.array([at[two] for _, two in links.values()]).reshape(-1, 3) - centre
        length = np.linalg.norm(outer + centre - inner, axis=1) + self._longer(at)
        guide = self._guide(at)

        def miss(x: Vector) -> Vector:
            turn = rotation(x[3:])
            place = centre + x[:3]
            off = np.linalg.norm(place + outer @ turn.T - inner, axis=1) - length
            return np.concatenate(
                [off, [x[2] - travel], guide(lambda name: place + turn @ (at[name] - centre), turn)]
            )

        return newton(miss, np.array([0.0, 0.0, travel, 0.0, 0.0, 0.0]), BODY)

    def _longer(self, at: Mapping[str, Vector]) -> Vector:
        """How much each link is longer than in place: a wishbone's two halves as its ball is pushed out."""
        found = np.zeros(len(LINKS[self.layout]))
        names = list(LINKS[self.layout])
        if "rod" in names:
            found[names.index("rod")] = self.rod
        if self.layout == "double_wishbone":
            axis = at["upper_front"] - at["upper_rear"]
            axis = axis / np.linalg.norm(axis)
            for name in ("upper front", "upper rear"):
                one, two = LINKS[self.layout][name]
                reach = at[two] - at[one]
                out = reach - (reach @ axis) * axis
                found[names.index(name)] = self.other * float(
                    out @ reach / np.linalg.norm(out) / np.linalg.norm(reach)
                )
        elif self.layout in ("five_link", "trailing_lateral"):
            found[names.index("upper front" if self.layout == "five_link" else "upper")] = self.other
        return found

    def _guide(self, at: Mapping[str, Vector]) -> Guide:
        """What holds the upright beside its links: how far it is off, by where its points are and its rotation."""
        if self.layout == "strut":
            line = at["strut_top"] - at["strut_low"]
            line = line / np.linalg.norm(line)
            top = at["strut_top"] + np.array([0.0, -self.side * self.other, 0.0])
            return lambda placed, turn: np.cross(turn @ line, top - placed("strut_low"))[:2]
        if self.layout == "trailing_lateral":
            return lambda placed, turn: (placed("trailing_body") - at["trailing_body"])[[0, 2]]
        if self.layout == "semi_trailing":
            pivot, aim = at["arm_inner"], at["arm_outer"] + np.array([self.other, 0.0, 0.0]) - at["arm_inner"]

            def off(placed: Callable[[str], Vector], turn: Vector) -> Vector:
                end = placed("arm_outer")
                aside = np.cross(end - pivot, aim)[2] / np.linalg.norm(aim)
                return np.array([*(placed("arm_inner") - pivot), aside, end[2] - at["arm_outer"][2]])

            return off
        return lambda placed, turn: np.zeros(0)
