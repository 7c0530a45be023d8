"""A type of axle that nobody built in: one file of its own, and every room of the core works with it."""

import numpy as np
import pytest
from test_geometry_of_cars import record

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.fields.car import car_fields
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.fields.walk import baseline_fields
from fair_spindle.core.geometry.kinematics import solve_poses, wheel_angles
from fair_spindle.core.geometry.layouts import LAYOUTS, find_layout
from fair_spindle.core.geometry.layouts.layout import ENDS, WHEEL, ArmKind, Layout, ends_of_arms
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.planning.bay import Bay
from fair_spindle.core.planning.car_parts import parts_of, parts_of_layouts
from fair_spindle.core.planning.part_effects import usual_effects
from fair_spindle.core.planning.part_map import parts_of_axle
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.core.planning.work_order import plan_work
from fair_spindle.core.predict.geometry import wheels_of
from fair_spindle.formats.procedure_file import shipped

# The five links of the built-in layout under other names: what it does is known.
FIVE = find_layout("five_link")
OTHER = ("tension", "camber", "lateral", "spring", "toe")
NAMES = dict(zip((arm.key for arm in FIVE.arms), OTHER, strict=True))
ARMS = tuple(
    ArmKind(NAMES[arm.key], f"{NAMES[arm.key].capitalize()} rod", ENDS, steers=arm.steers, sprung=arm.sprung)
    for arm in FIVE.arms
)


def own(point):
    arm, _, end = point.rpartition("_")
    return f"{NAMES[arm]}_{end}" if arm in NAMES else point


@pytest.fixture
def rods(monkeypatch):
    layout = Layout(
        "rods",
        "Five rods",
        ARMS,
        (*ends_of_arms(ARMS), WHEEL),
        camber_usual=(-3.0, 0.0),
        axles=("rear",),
        links=tuple((arm.key, f"{arm.key}_inner", f"{arm.key}_outer") for arm in ARMS),
        usual={own(name): at for name, at in FIVE.usual.items()},
    )
    monkeypatch.setitem(LAYOUTS, layout.key, layout)
    caches = (parts_of_layouts, usual_corner, usual_effects, shipped)
    for one in caches:
        one.cache_clear()
    yield layout
    for one in caches:
        one.cache_clear()


def test_its_fields_are_asked_and_its_wheel_moves_as_its_links_let_it(rods):
    shape = shape_of({"rear.layout": "rods"})
    keys = {one.key for one in car_fields(shape)}
    assert {"rear.left.tension.length", "rear.right.point.toe_outer", "rear.left.camber.bush_inner"} <= keys
    assert not any(key.startswith("front.left.tension") for key in keys)
    camber = next(one for one in baseline_fields(shape) if one.key == "rear.left.camber")
    assert np.degrees(camber.usual) == pytest.approx([-3.0, 0.0])
    corner, known = usual_corner("rods"), usual_corner("five_link")
    angles, wanted = (wheel_angles(one, solve_poses(one, [-40.0, 0.0, 40.0])) for one in (corner, known))
    assert angles.toe == pytest.approx(wanted.toe, abs=1e-12)
    assert angles.camber == pytest.approx(wanted.camber, abs=1e-12)


def test_a_car_with_it_is_read_by_points_and_its_arms_are_swapped_by_plan(rods):
    points = [
        Entered(
            f"rear.left.point.{name}", "point", {axis: Typed(str(n), "mm") for axis, n in zip("xyz", at, strict=True)}
        )
        for name, at in rods.usual.items()
    ]
    wheel = wheels_of(record(Entered("rear.layout", choice="rods"), *points), {})["rear.left"]
    assert (wheel.depth, wheel.lacks, len(wheel.corner.links)) == ("points", (), 5)
    parts = parts_of("rods")
    assert set(parts) == {arm.key for arm in ARMS}
    assert (parts["spring"].carried, parts["toe"].carried, parts["toe"].changes[0]) == ("arm", "upright", "toe")
    order = Brief((Fitting(parts["camber"].key, "rear"),))
    plan = plan_work(Known(order, shipped(), {"rear.layout": "rods"}, {}, Bay()))
    assert [one for one in plan.remarks if one.severity == "blocks"] == []
    assert any("camber rod" in step.title.lower() for step in plan.steps)
    drawn = {one.key: one for one in parts_of_axle("rear", {"rear.layout": "rods"}, shipped())}
    assert len(drawn["camber"].line) == len(drawn["camber"].side_line) == 2
    assert "toe" in drawn["toe"].moves
