"""Words of the trade, both sides of the ocean: what else a part or a wish is called, so that any of them finds it."""

from __future__ import annotations

from functools import lru_cache

from fair_spindle.core.planning.procedure import Procedure

# Each line is one thing; a procedure that speaks of it by any of its names is found by all of them.
SAME = (
    ("sway bar", "anti roll bar", "stabiliser", "stabilizer", "roll bar"),
    ("bar link", "drop link", "end link", "stabiliser link", "sway bar link"),
    ("damper", "shock", "shock absorber"),
    ("coilover", "coil over", "threaded unit"),
    ("strut", "spring unit", "leg"),
    ("spring", "coil", "coil spring", "spring pan", "spring seat"),
    ("leaf", "leaf spring", "leaf pack"),
    ("arm", "control arm", "wishbone", "a arm"),
    ("lower arm", "lower control arm", "bottom arm", "track control arm", "lower wishbone"),
    ("upper arm", "upper control arm", "top arm", "upper wishbone"),
    ("thrust arm", "caster arm", "tension rod", "compression strut", "radius rod"),
    ("trailing arm", "swing arm", "semi trailing arm"),
    ("lateral link", "transverse link", "camber link"),
    ("toe link", "toe arm", "rear tie rod"),
    ("panhard rod", "track bar", "panhard"),
    ("tie rod", "track rod", "steering rod"),
    ("tie rod end", "track rod end", "rod end"),
    ("drag link", "centre link", "relay rod"),
    ("rack boot", "steering boot", "gaiter", "bellows"),
    ("ball joint", "swivel", "balljoint"),
    ("upright", "knuckle", "hub carrier", "spindle", "steering knuckle"),
    ("bushing", "bush", "rubber mount", "silentblock"),
    ("top mount", "strut mount", "camber plate", "top hat"),
    ("hub bearing", "wheel bearing", "hub unit"),
    ("subframe", "cradle", "axle carrier", "crossmember"),
    ("brace", "strut bar", "tie bar", "stiffener"),
    ("spacer", "lift kit", "levelling kit", "puck"),
    ("shackle", "shackle relocation"),
    ("limit strap", "droop strap", "bump stop", "jounce bumper"),
    ("brake hose", "brake line", "flexible hose"),
    ("caster", "castor"),
    ("alignment", "tracking", "wheel alignment", "geometry"),
)
# What people want, and the work that does it.
WISHES = {
    "lower it": ("springs", "coilovers"),
    "lowering": ("springs", "coilovers"),
    "raise it": ("springs", "strut_spacer", "leaf_shackles", "truck_front", "coilovers"),
    "lift it": ("springs", "strut_spacer", "leaf_shackles", "truck_front"),
    "level it": ("springs", "strut_spacer", "coilovers"),
    "more camber": ("camber_bolts", "top_mounts", "coilovers", "align"),
    "more caster": ("thrust_arms", "top_mounts"),
    "stop wheel hop": ("diff_brace", "subframe_inserts", "trailing_arm", "dampers", "pressed_bushings"),
    "straighten the wheel": ("align", "tie_rods", "drag_link"),
    "crooked steering wheel": ("align", "tie_rods", "drag_link"),
    "pulls to one side": ("align", "measure"),
    "stop the clunk": ("pressed_bushings", "top_mounts", "sway_bars", "bolted_ball_joint", "pressed_ball_joint"),
    "less body roll": ("sway_bars", "two_hole_bar", "springs"),
    "stiffer": ("sway_bars", "two_hole_bar", "springs", "coilovers", "pressed_bushings"),
    "more travel": ("limit_straps", "leaf_shackles", "brake_hoses", "truck_front"),
    "wandering steering": ("measure", "tie_rods", "drag_link"),
}


def normal(text: str) -> str:
    """Text as it is compared: small letters, hyphens as spaces.

    Examples
    --------
    >>> normal("Tie-rod  end")
    'tie rod end'
    """
    return " ".join(text.lower().replace("-", " ").split())


def sought_by(procedure: Procedure) -> str:
    """Everything a procedure is found by, in one normal text.

    Names are matched as they begin words, so that "arm" is not found in "alarm", and "springs" speaks of a spring.

    Common practice, no published source.
    """
    return f"{named_by(procedure)} {_with_names(procedure.about)}"


def named_by(procedure: Procedure) -> str:
    """What a procedure is found by first: its title, its words and the wishes it serves, with every other name.

    Examples
    --------
    >>> "stabiliser" in named_by(Procedure("bars", "Links", "Of a sway bar"))
    False
    """
    wishes = [wish for wish, works in WISHES.items() if procedure.key in works]
    return " ".join((_with_names(" ".join((procedure.title, *procedure.words))), *wishes))


@lru_cache(maxsize=1024)
def _with_names(text: str) -> str:
    told = f" {normal(text)} "
    names = [name for line in SAME if any(f" {one}" in told for one in line) for name in line]
    return " ".join((told.strip(), *names))
