"""How to get surer of an input in five minutes, in words."""

from __future__ import annotations

_BY_NAME: dict[str, str] = {
    "motion_ratio": "Read damper length and hub-to-arch height now, and again with the body 40 mm higher.",
    "damper_ratio": "Read damper length and hub-to-arch height now, and again with the body 40 mm higher.",
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


def how_to_be_surer(key: str) -> str:
    """Say how an input is measured better, quickly.

    Parameters
    ----------
    key : str
        Field key of the input. [-]

    Returns
    -------
    str
        One sentence.

    Raises
    ------
    Nothing.

    Notes
    -----
    A field without a trick of its own is read again.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> how_to_be_surer("front.left.load")
    'Put this wheel on a scale, the other three on blocks of the same height.'
    """
    parts = key.split(".")
    tails = [".".join(parts[at:]) for at in range(1, len(parts))]
    return next((_BY_NAME[tail] for tail in tails if tail in _BY_NAME), "Read it again, with another instrument.")
