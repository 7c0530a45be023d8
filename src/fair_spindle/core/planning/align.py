"""Bringing toe, camber and caster of a whole car back by its adjustable arms and rods.

Order is common practice in the trade; no published source.
"""

from __future__ import annotations

from fair_spindle.core.planning.template import JobTemplate, Step

_STEPS = (
    Step("settle", "Settle the car", "on_wheels",
         "Level ground, tyre pressures set, steering wheel straight and held. Roll it, bounce both ends.",
         ("Tyre gauge", "Strap"), ("service_data",)),
    Step("walk", "Walk round the car", "on_wheels", 
         "Height, toe and camber at every wheel, before anything is loosened.",
         ("Height gauge or tape", "Digital level", "Toe plates, strings or toe gauge"), asks="baseline"),
    Step("mark", "Mark every adjuster as found", "on_wheels",
         "A stripe over thread and nut, exposed threads or cam marks written down: so that it can be put back.",
         ("Paint marker", "Caliper")),
    Step("raise", "Raise the car", "hanging", "Both ends, or the end that is worked on with both its wheels.",
         ("Jack", "Stands", "Chocks"), ("stands",)),
    Step("open", "Open jam nuts and pinch bolts", "hanging",
         "Only of what is turned. Hold the joint square, so that it does not bind at the end of its swing.",
         ("Two spanners", "Penetrant"), ("steering",)),
    Step("turn", "Turn to the plan, rear axle first", "hanging",
         "Camber before toe: it moves the toe with it. Count every step here while turning.",
         ("Two spanners",), ("steering",), asks="turns"),
    Step("lower", "Down on its wheels and settled", "on_wheels", "Roll it a length and back, bounce both ends.",
         ("Jack",), ("stands",)),
    Step("check", "Measure again and correct", "on_wheels",
         "Heights, toe and camber beside the plan. Turn what is still wanted, settle, read again.",
         ("Digital level", "Toe plates, strings or toe gauge"), asks="check"),
    Step("lock", "Lock every jam nut and pinch bolt", "on_wheels",
         "Each one that was opened, to its specification, with a stripe of paint. Bonded arm bolts that were "
         "opened: only now, at ride height.", ("Torque wrench", "Paint marker"), ("steering", "rubber")),
    Step("road", "Road test", "on_wheels", 
         "Brakes and steering in the yard first. Steering wheel straight, no lamps, no noise.",
         (), ("brakes", "steering", "lamps")),
    Step("after", "Book the alignment rack", "on_wheels", "Wheel nuts again after the first drive.",
         (), ("alignment",)),
)  # fmt: skip

ALIGN = JobTemplate(
    "align",
    "Toe, camber and caster by adjustable arms and rods",
    (),
    _STEPS,
    ("baseline", "turns", "floor", "bolts", "check", "record"),
)
