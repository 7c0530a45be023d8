"""What the readings after a job still ask for: turns, rings, arms, bar links, and the parts where none will do."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Literal

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.aligned import AlignedRod, AlignedWheel
from fair_spindle.core.predict.bars import BarOfAxle
from fair_spindle.core.predict.bump_steer import TIE
from fair_spindle.core.predict.perching import Correction
from fair_spindle.core.turns.adjuster import Adjuster

What = Literal["toe", "ring", "arms", "link"]
FREE_WITHIN = 1.0


@value_object
class Want:
    """One thing still wanted: where, what kind of work it is, by which adjuster, and by how much of it.

    ``amount`` in turns of ``adjuster`` (longer positive), of the ring (up positive), or the length a bar link is
    set to [mm]; ``beyond`` how far past the adjuster's stop it would have to go [mm].
    """

    where: str
    what: What
    name: str
    amount: float
    adjuster: Adjuster | None = None
    beyond: float = 0.0

    @property
    def axle(self) -> str:
        """Which axle it is at."""
        return self.where.split(".")[0]


def want_wheels(wheels: Mapping[str, AlignedWheel], rods: tuple[AlignedRod, ...]) -> list[Want]:
    """Turns that the angles of all wheels still want, and parts that would be needed.

    What turns a steering rod sets toe; every other adjuster is an arm.
    """
    return [*_wheels(wheels), *_rods(rods)]


def want_rings(correction: Correction | None) -> list[Want]:
    """Turns that heights and cross weight still want of the perch rings.

    In steps of a quarter turn.
    """
    if correction is None or correction.turns is None:
        return []
    turns = zip(WHEELS, correction.turns.set_turns, strict=True)
    return [Want(key, "ring", "Perch ring", float(turned)) for key, turned in turns if turned]


def want_links(bars: list[BarOfAxle], told: Mapping[str, Quantity]) -> list[Want]:
    """Bar links that would go on with force, and the length that lets them go on free.

    Parameters
    ----------
    bars : list of BarOfAxle
        The car's bars. [-]
    told : mapping of Quantity
        Everything read; the gap read after settling. [mm]

    Returns
    -------
    list of Want
        One for each axle whose gap is more than 1 mm.

    Raises
    ------
    Nothing.

    Notes
    -----
    1 mm is the product's own.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> want_links([], {})
    []
    """
    return [
        Want(bar.axle, "link", "Right bar link", bar.link.value)
        for bar in bars
        if (gap := told.get(f"{bar.axle}.check_bar_gap")) and bar.link is not None and abs(gap.value) > FREE_WITHIN
    ]


def _wheels(wheels: Mapping[str, AlignedWheel]) -> Iterator[Want]:
    for key, wheel in wheels.items():
        if wheel.still is None:
            continue
        for adjuster in wheel.plan.wheel.adjusters:
            steps, beyond = wheel.still[adjuster.name], wheel.beyond.get(adjuster.name, 0.0)
            if steps or beyond:
                what: What = "toe" if adjuster.moves(TIE) else "arms"
                yield Want(key, what, adjuster.name, steps * adjuster.step, adjuster, beyond)


def _rods(rods: tuple[AlignedRod, ...]) -> Iterator[Want]:
    for rod in rods:
        if rod.still:
            adjuster = rod.rod.adjuster
            yield Want("front", "toe", adjuster.name, rod.still * adjuster.step, adjuster)
