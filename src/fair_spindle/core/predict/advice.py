"""How to get surer of an input in five minutes, in words."""

from __future__ import annotations

from math import sqrt

from fair_spindle.core.joblog.readings import Quantity

_BY_NAME: dict[str, str] = {
    "motion_ratio": "Read damper length and hub-to-arch height now, and again with the body 40 mm higher.",
    "damper_ratio": "Read damper length and hub-to-arch height now, and again with the body 40 mm higher.",
    "mass": "Say what kind of car it is, or put it on scales, an axle at a time.",
    "front_share": "Put it on scales, an axle at a time.",
    "load": "Put this wheel on a scale, the other three on blocks of the same height.",
    "dead": "Weigh the wheel; disc, caliper and upright come to about as much again.",
    "spring.rate": "Measure wire, coil diameter and moving coils, or press it on a scale by 20 mm and by 40 mm.",
    "spring.free": "Measure the spring as it stands, seat to seat: it tells free length and rate together.",
    "new_spring.rate": "Press the new spring on a scale by 20 mm and by 40 mm: the difference tells its rate.",
    "new_spring.free": "Stand the new spring on the bench and measure it twice, a quarter turn apart.",
    "spring_fitted": "Measure seat to seat again, at two places around the spring.",
    "height": "Roll the car a length, bounce both ends, read again.",
    "damper.gas": "Press the damper half in on a bathroom scale; the reading is its gas force.",
    "new_damper.gas": "Press the new damper half in on a bathroom scale; the reading is its gas force.",
    "bonded.rate": "Say which rubber pivots stay clamped, or loosen them all and clamp them at the new height: then "
    "their rate is 0.",
    "new_key": "Measure how far the torsion bar's arm stands below level at ride height.",
    "new_top.spacer": "Measure the spacer with a caliper, at two places.",
    "new_seat": "Measure every insulator, ring and worn seat with a caliper.",
}


# Share of the variance that must go for it to be told.  The product's own.
WORTH_TELLING = 0.1
# Standard uncertainty of an input once it is measured as advised: of its own unit, or a share of it where negative.
_MEASURED: dict[str, float] = {
    "motion_ratio": 0.006,
    "damper_ratio": 0.006,
    "load": -0.004,
    "dead": -0.04,
    "mass": -0.02,
    "front_share": 0.01,
    "spring.rate": -0.01,
    "new_spring.rate": -0.01,
    "spring.free": 0.5,
    "new_spring.free": 0.5,
    "height": 0.9,
    "damper.gas": 10.0,
    "new_damper.gas": 10.0,
    "new_top.spacer": 0.1,
    "new_seat": 0.2,
    "bonded.rate": 0.0,
}


def becomes(key: str, read: Quantity, share: float, plus_minus: float) -> float | None:
    """What a ± comes to once an input is measured as advised, by its share of the variance; None where it is little.

    Same unit as the ±.
    """
    measured = next((_MEASURED[tail] for tail in _tails(key) if tail in _MEASURED), None)
    if measured is None or not read.uncertainty:
        return None
    left = measured if measured >= 0 else -measured * abs(read.value)
    gone = share * max(1 - (left / read.uncertainty) ** 2, 0.0)
    return plus_minus * sqrt(1 - gone) if gone > WORTH_TELLING else None


def how_to_be_surer(key: str) -> str:
    """Say how an input is measured better, quickly.

    A field without a trick of its own is read again.

    Common practice, no published source.

    Examples
    --------
    >>> how_to_be_surer("front.left.load")
    'Put this wheel on a scale, the other three on blocks of the same height.'
    """
    known = (_BY_NAME[tail] for tail in _tails(key) if tail in _BY_NAME)
    return next(known, "Read it again, with another instrument.")


def _tails(key: str) -> list[str]:
    parts = key.split(".")
    return [".".join(parts[at:]) for at in range(1, len(parts))]
