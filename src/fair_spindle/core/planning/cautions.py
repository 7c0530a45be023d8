"""The cautions, in words, by key; each step names those that apply to it."""

CAUTIONS: dict[str, str] = {
    "service_data": "The vehicle maker's service data comes first, before anything shown here.",
    "stands": (
        "Stands at the maker's rated points, wheels that stay down chocked, shake test before anyone reaches "
        "under. A wheel under the sill as second line. Nobody under a car on a jack alone."
    ),
    "spring_energy": (
        "A compressed spring can kill. Rated compressor, hooks opposite each other, never in line "
        "with the spring. No centre nut loosened before the spring is loose in its seats."
    ),
    "no_impact": "No impact driver on the damper rod. Hold the rod by its hex.",
    "eyes": "Eye protection when striking or grinding.",
    "hanging_upright": "Tether the upright: it must not fall outward and pull on hose, wire or axle joint.",
    "drops": "This part drops when the last fastener leaves. Support it first.",
    "brakes": "Brake hose and wires must hang free, without twist. Test the brakes before the road.",
    "steering": "Steering work: every nut on its thread by the book, test in the yard before the road.",
    "taper_catch": "Leave the nut on a few threads before the taper is shocked, so that nothing flies.",
    "cotter": "Castle nut only goes forward to the next slot, never back. New cotter pin.",
    "rubber": (
        "Bonded rubber is clamped only at loaded ride height. Clamped in the air it stays wound up, "
        "lifts the car and tears early."
    ),
    "bar_tied": (
        "With the sway bar tied to a hanging side the stand goes light early. Believe the height, not the stand."
    ),
    "wheel_nuts": "Final torque on the ground, in a star, twice. Again after the first drive.",
    "lamps": "Watch airbag and stability lamps. A crooked steering wheel makes stability control complain.",
    "local_rules": "Local road rules may limit lowering and need an inspection.",
    "alignment": "Counted turns bring the car to the rack, they do not replace it. Book an alignment.",
    "licensed": "Pressing, welding and the rack belong to a licensed shop unless you have press, cups and practice.",
    "airbag": "Airbag and belt plugs stay plugged; ignition off. A lamp afterwards is for a licensed shop.",
    "exhaust": "Exhaust and its heat shields burn: let them cool, keep hoses and wires off them.",
    "aluminium": "Thread in aluminium: by hand first, by hand tool to the end. No impact driver.",
    "strip_bracket": "Main bolt before its bracket: a half-tightened bracket strips the next bolt.",
    "cam_head": "An eccentric's head is held, never turned by force: only the nut turns, or the cam tears its seat.",
    "wiring": "Wiring must not lie between arm and body at any height or lock.",
    "hand_tools": "Hand tools only: heat and hammering tear the stud from its plate.",
    "gear": "No hammer at the steering gear's arm: the blows go into its bearings.",
    "snap_ring": "A snap ring leaves fast. Face aside, eye protection, a rag over it.",
    "units": "Check the unit as printed: lb·in among lb·ft is a factor of twelve.",
}
