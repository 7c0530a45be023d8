"""Springs, dampers, spacers, perches and bars of a whole car: heights first, then the wheels.

Order is common practice in the trade; no published source.
"""

from __future__ import annotations

from fair_spindle.core.planning.template import JobTemplate, Step

_STEPS = (
    Step("settle", "Settle the car", "on_wheels",
         "Level ground, tyre pressures set, fuel as usual. Roll it, bounce both ends.",
         ("Tyre gauge",), ("service_data", "local_rules")),
    Step("walk", "Walk round the car", "on_wheels",
         "Height, toe and camber at every wheel. Scales under the wheels, if there are any.",
         ("Height gauge or tape", "Digital level", "Toe plates, strings or toe gauge"), asks="baseline"),
    Step("bench", "Old beside new on the bench", "on_wheels",
         "Free length, wire, coils, rate as printed; seats, insulators, spacers. Note every thickness that changes.",
         ("Caliper", "Tape")),
    Step("perch", "Set the perches before assembly", "on_wheels",
         "To the distance from the lower eye that the Springs page gives, both sides alike.",
         ("Caliper", "Ring spanner")),
    Step("raise", "Raise the car", "hanging", "Both ends, or the end that is worked on with both its wheels.",
         ("Jack", "Stands", "Chocks"), ("stands",)),
    Step("free", "Free wires, hoses and sensors first", "hanging",
         "Wires and hose brackets off before anything drops; level sensors off; bar links off at both sides.",
         ("Clip tool", "Ratchet"), ("brakes",)),
    Step("out", "Springs and dampers out", "hanging",
         "Support what drops, tether the upright. Read what ends the travel while it hangs: hose, wire, strap.",
         ("Jack", "Strap", "Spring compressor"), ("spring_energy", "hanging_upright", "drops")),
    Step("in", "Springs and dampers in", "hanging",
         "Coil ends in their pockets, insulators and rings printed side up. Every fastener by hand first.",
         ("Spring compressor", "Ratchet"), ("spring_energy", "no_impact")),
    Step("hang", "Torque what may hang", "hanging",
         "Joints without bonded rubber. What pivots in bonded rubber stays snug until the car is loaded.",
         ("Torque wrench",), ("service_data",)),
    Step("load", "Load, read the height, torque the rubber", "on_wheels",
         "Car on its wheels or on ramps, rolled and bounced. Height inside the clamp window first.",
         ("Ramps", "Tape", "Torque wrench"), ("rubber", "bar_tied")),
    Step("links", "Bar links on, without preload", "on_wheels",
         "One side first; the other set until its bolt slides in by hand.", ("Two spanners",)),
    Step("wheels", "Wheel nuts", "on_wheels", "In a star, twice, on the ground.",
         ("Torque wrench",), ("wheel_nuts",)),
    Step("check", "Measure again and correct", "on_wheels",
         "Heights beside the prediction, scales if there are any. Rings by the table, settle, read again.",
         ("Height gauge or tape", "Digital level"), asks="check"),
    Step("turn", "Toe and camber for the new height", "on_wheels",
         "By the Turns page, rear axle first.", ("Two spanners",), ("steering", "alignment"), asks="turns"),
    Step("road", "Road test", "on_wheels", "Brakes and steering in the yard first. Full lock both ways, no rubbing.",
         (), ("brakes", "steering", "lamps")),
    Step("after", "Heights again after the first days", "on_wheels",
         "New springs settle. Read again, and learn the car's ratio and loads from it.", (), ("wheel_nuts",)),
)  # fmt: skip

SPRINGS = JobTemplate(
    "springs",
    "Springs, dampers, spacers, perches and bars of a whole car",
    (),
    _STEPS,
    ("baseline", "springs", "turns", "floor", "bolts", "check", "record"),
)
