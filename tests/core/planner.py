"""A work order, asked in the words of the trade."""

from fair_spindle.core.planning.bay import Bay
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.core.planning.work_order import plan_work
from fair_spindle.formats.procedure_file import shipped

LIBRARY = shipped()
STRUT = {"front.layout": "strut", "rear.layout": "trailing_lateral"}

COMBINED = {
    "springs, arms and bars": (("coilovers", "front"), ("lower_arm", "front"), ("sway_bars", "front")),
    "both ends": (("coilovers", "front"), ("coilovers", "rear"), ("trailing_arm", "rear"), ("tie_rods", "front")),
    "rear and brace": (("trailing_arm", "rear"), ("diff_brace", "rear"), ("dampers", "rear")),
}


class Order:
    """A plan, asked in the words of the trade."""

    def __init__(self, *fittings, car=STRUT, workshop=None, bay=None, **brief):
        fits = [Fitting(*one) if isinstance(one, tuple) else one for one in fittings]
        self.known = Known(Brief(tuple(fits), **brief), LIBRARY, car, workshop or {}, bay or Bay())
        self.plan = plan_work(self.known)
        self.keys = [step.key for step in self.plan.steps]

    def step(self, key):
        return next(step for step in self.plan.steps if step.key == key)

    def goes(self, *keys):
        """The steps stand in this order; several in one string are apart by a space."""
        keys = " ".join(keys).split()
        places = [self.keys.index(key) for key in keys]
        assert places == sorted(places), dict(zip(keys, places, strict=True))

    def where(self, key):
        return self.step(key).where

    def listed(self, sort):
        return {one.name: one.count for one in self.plan.lists if one.sort == sort}

    def joint(self, key):
        return next(joint for joint in self.plan.joints if joint.key == key)

    def cautions(self, key):
        return set(self.step(key).cautions)


def with_options(procedure, axle, **options):
    return Fitting(procedure, axle, options=options)
