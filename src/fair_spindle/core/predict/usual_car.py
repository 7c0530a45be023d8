"""What a car is taken for whose weights, ratios and springs nobody told: middling, and wide enough to hold."""

from __future__ import annotations

from collections.abc import Mapping
from math import pi

from fair_spindle.core.basics.wheels import AXLES, WHEELS, wheels_at
from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.geometry.layouts.layout import USUAL_RATIO
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.springs.loads import MASSES, USUAL_UNSPRUNG_SHARE

# How far the mass of a car of its kind varies; share of it in front; what left and right differ by; how springs are
# chosen: by how often the body would bob a second.  Common practice, no published source. [-, kg, Hz]
MASS_VARIES, UNKNOWN_MASS = 0.12, (1500.0, 0.25)
FRONT_SHARE = Quantity(0.57, 0.05)
SIDE_TO_SIDE = 0.02
UNSPRUNG_VARIES = 0.025
BOBS, RATE_VARIES = 1.35, 0.3
WHEELBASE, TRACK = 2600.0, 1500.0
GRAVITY = 9.80665
MASS, SHARE = "car.mass", "car.front_share"
# What says how an axle's springs or what lies on them change; a wheel's own ones end alike.
CHANGES = (
    "new_spring.rate", "new_spring.free", "new_top.spacer", "new_block", "new_shackle", "new_key", "new_damper.gas",
)  # fmt: skip
OF_A_WHEEL = ("new_seat", "perch_up")


def usual_car(told: Mapping[str, Quantity], words: Mapping[str, str]) -> dict[str, Quantity]:
    """Inputs that nobody told of a car on its springs, by field key, each with how far it varies.

    Loads by a kind of car and the share in front, unsprung weights by a share; motion ratios by layout; rates of
    springs that stay by how a car of that load is sprung.  The product's own, common practice, no published source.
    """
    found: dict[str, Quantity] = {}
    if any(f"{key}.load" not in told for key in WHEELS):
        name = words.get("car.size", "")
        mass, varies = (MASSES[name][1], MASS_VARIES) if name in MASSES else UNKNOWN_MASS
        found[MASS] = Quantity(mass * GRAVITY, varies * mass * GRAVITY)
        found[SHARE] = FRONT_SHARE
    for axle in AXLES:
        layout = LAYOUTS.get(words.get(f"{axle}.layout", ""))
        ratio = Quantity(*(layout.ratio if layout else USUAL_RATIO))
        share = FRONT_SHARE.value if axle == "front" else 1 - FRONT_SHARE.value
        for key in wheels_at(axle):
            if f"{key}.load" not in told:
                load = found[MASS].value * share / 2
                found[f"{key}.load_apart"] = Quantity(0.0, SIDE_TO_SIDE * load)
                found[f"{key}.dead_share"] = Quantity(USUAL_UNSPRUNG_SHARE, UNSPRUNG_VARIES)
        found[f"{axle}.motion_ratio"] = ratio
        found[f"{axle}.track"] = Quantity(TRACK)
        if words.get(f"{axle}.new_spring.fit", "as_before") == "as_before":
            known = told.get(f"{axle}.motion_ratio", ratio).value
            carried = [
                told[f"{key}.load"].value - told[f"{key}.dead"].value
                if f"{key}.load" in told
                else found[MASS].value * share / 2 * (1 - USUAL_UNSPRUNG_SHARE)
                for key in wheels_at(axle)
            ]
            # What bobs so often: k = m (2 π f)², in N/mm.
            rate = sum(carried) / len(carried) / GRAVITY * (2 * pi * BOBS) ** 2 / known**2 / 1000
            found[f"{axle}.spring.rate"] = Quantity(rate, RATE_VARIES * rate)
    found["car.wheelbase"] = Quantity(WHEELBASE)
    return {key: one for key, one in found.items() if key not in told}
