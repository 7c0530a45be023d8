"""The car as parts and joints: corrected by its record, followed by plans, moved by geometry."""

from dataclasses import replace
from itertools import product

import numpy as np
import pytest
from planner import LIBRARY, Order, with_options
from scipy.optimize import root
from scipy.spatial.transform import Rotation

from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.planning.car_parts import ALONG, GOES_IN, parts_of_layouts
from fair_spindle.core.planning.part_effects import effects_at, moved_by, usual_effects
from fair_spindle.core.planning.part_graph import corrected, graph_of, moved_on
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.core.planning.work_order import measured_by

PLACED = [(part, axle, layout) for part in parts_of_layouts() for layout in part.layouts for axle in part.axles]


def cars(part, axle, layout):
    """Every way the record can tell a part's joints, what runs along it and whether a spring stands on it."""
    kinds = [[(joint, kind) for kind in joint.kinds] for joint in part.joints]
    sprung = ("yes", "no") if part.carried != "axle" else ("",)
    for number, (told, spring) in enumerate(product(product(*kinds), sprung)):
        car = {f"{axle}.layout": layout, f"{axle}.{part.arm}.along": list(ALONG)[number % len(ALONG)]}
        car |= {f"{axle}.{part.arm}.kind_{joint.key}": kind for joint, kind in told}
        yield (car | {f"{axle}.{part.arm}.sprung": spring}) if spring else car, dict(told)


@pytest.mark.parametrize(("part", "axle", "layout"), PLACED, ids=lambda one: getattr(one, "key", one))
def test_a_plan_follows_every_correction_of_the_graph(part, axle, layout):
    for (car, told), goes_in in product(cars(part, axle, layout), GOES_IN):
        order = Order(with_options(part.key, axle, goes_in=goes_in), car=car)
        at = f"@{axle}" if part.shared else f"@{axle}.left"
        out, back = f"{part.key}.out{at}", f"{part.key}.in{at}"
        for joint, kind in told.items():
            usual = "" if kind == joint.kind else f"{kind}_"
            final = [key for key in order.keys if key.startswith(f"{part.key}.{joint.key}_") and "_torque" in key]
            assert {key.partition("@")[0] for key in final} == {f"{part.key}.{joint.key}_{usual}torque"}
            freed = f"{part.key}.{joint.key}_{'' if kind == joint.kind else 'clamp_'}free{at}"
            if kind == "clamp" or (kind == "taper" and joint.kind == "taper"):
                order.goes(freed, out)
        held = order.known.car.get(f"{axle}.{part.arm}.sprung", "")
        carried = f"{part.key}.carry_arm@{axle}.left" in order.keys
        assert carried == (held == "yes")
        along = car[f"{axle}.{part.arm}.along"] != "none"
        assert (f"{part.key}.along_off{at}" in order.keys) == along
        if along:
            order.goes(f"{part.key}.along_off{at}", out, back, f"{part.key}.along_back{at}")
        assert (f"{part.key}.beside{at}" in order.keys) == (goes_in == "new")
        if goes_in == "rebushed":
            press = next(key for key in order.keys if key.startswith(f"{part.key}.press@"))
            order.goes(out, press, back)
        bought = order.listed("buy")
        assert (f"New {part.label.lower()}" in bought) == (goes_in == "new")
        assert (f"Bushings of the {part.label.lower()}" in bought) == (goes_in == "rebushed")


@pytest.mark.parametrize("layout", LAYOUTS)
def test_the_drawing_tells_what_the_plan_follows(layout):
    axle = LAYOUTS[layout].axles[-1]
    car = {f"{axle}.layout": layout}
    for one in graph_of(axle, car):
        assert one.joints or one.key in ("tie", "drag"), one.key
        if one.swap and one.swap.carried != "axle":
            other = corrected(one.swap, axle, {f"{axle}.{one.key}.sprung": "no" if one.swap.sprung else "yes"})
            assert (one.swap.carried, other.carried) in (("arm", "upright"), ("upright", "arm"))
    assert corrected(parts_of_layouts()[0], axle, {f"{axle}.lower.kind_ball": "glue"}).joints[0].kind == "taper"


@pytest.mark.referee
@pytest.mark.parametrize("layout", ["double_wishbone", "five_link"])
def test_what_a_part_moves_is_what_a_rigid_upright_does(layout):
    """The referee is scipy.optimize.root on a rigid upright with five links and its height held."""
    corner = usual_corner(layout)
    inner = np.array([link.inner for link in corner.links])
    outer = np.array([link.outer for link in corner.links])
    names = [link.name for link in corner.links]
    length = np.linalg.norm(outer - inner, axis=1)

    def angles(longer):
        def off(pose):
            turned = Rotation.from_rotvec(pose[3:]).apply(outer - corner.wheel) + corner.wheel + pose[:3]
            return [*(np.linalg.norm(turned - inner, axis=1) - length - longer), pose[2]]

        turn = Rotation.from_rotvec(root(off, np.zeros(6), tol=1e-12).x[3:])
        spindle = turn.apply([0.0, 1.0, 0.0])
        found = {"toe": np.arctan2(spindle[0], spindle[1]), "camber": -np.arcsin(spindle[2])}
        if layout == "double_wishbone":
            ends = (corner.point(name) - corner.wheel for name in ("upper_ball", "lower_ball"))
            top, low = (turn.apply(end) for end in ends)
            found["caster"] = np.arctan2(low[0] - top[0], top[2] - low[2])
        return found

    def slopes(**longer):
        by = np.array([longer.get(name, 0.0) for name in names])
        more, less = angles(by), angles(-by)
        return {angle: abs(more[angle] - less[angle]) / 2 for angle in more}

    for part, effects in effects_at(corner).items():
        legs = (f"{part}_front", f"{part}_rear")
        ways = [{part: 1.0}] if part in names else [dict.fromkeys(legs, 1.0), {legs[0]: -1.0, legs[1]: 1.0}]
        tried = [slopes(**way) for way in ways]
        best = {angle: max(one[angle] for one in tried) for angle in tried[0]}
        assert {one.angle: one.slope for one in effects} == pytest.approx(best, rel=1e-5, abs=1e-9)


def test_what_is_read_before_and_after_follows_from_geometry():
    asked = {
        "swap_upper_arm": {"toe", "camber", "caster"},
        "swap_toe_link": {"toe"},
        "swap_upper_link": {"camber"},
        "swap_leaf_spring": {"height"},
        "swap_lower_link": set(),
    }
    for key, names in asked.items():
        procedure = LIBRARY.procedures[key]
        read = measured_by(Known(Brief((Fitting(key, "rear"),)), LIBRARY, {}, {}))
        assert {one.partition(".")[2] for one in read} == names, key
        assert ("toe_set" in procedure.uses) == ("toe" in names)


def test_a_car_with_points_is_asked_by_its_own_geometry():
    usual = usual_corner("five_link")
    short = (
        replace(link, **{end: (*getattr(link, end)[:2], getattr(link, end)[2] - 130) for end in ("inner", "outer")})
        for link in usual.links[:2]
    )
    car = {"rear.layout": "five_link"}
    own = moved_on(car, {"rear.left": replace(usual, links=(*short, *usual.links[2:]))})
    assert own["rear.lower_rear"] == ("toe", "camber"), "a short upright leans more for the same length"
    assert moved_by(usual_effects("five_link")["lower_rear"]) == ("toe",)
    brief = Brief((Fitting("swap_lower_rear_link", "rear"),))
    assert "rear.camber" in measured_by(Known(brief, LIBRARY, car, {}, moved=own))
    assert "rear.camber" not in measured_by(Known(brief, LIBRARY, car, {}))
    assert moved_by(usual_effects("strut")["lower"], kingpin=False) == ("toe", "camber")
