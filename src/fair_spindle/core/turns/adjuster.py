"""What can be turned on a wheel: how far, in which steps, and which links it lengthens."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object

Array = NDArray[np.float64]
MOST_TRIES = 2500
AROUND = 8
# A thread has 0.05 to 0.12 mm of play, half of it to either side of its middle; turned past and back it lies at one
# side of it.  Common practice, no published source. [mm]
LASH = 0.06


@value_object
class Adjuster:
    """Something that changes a link's length (or moves the strut top inboard), in steps, between limits.

    ``acts_on`` are the links it changes, each with its share of the change: a ball joint moved out
    along a wishbone lengthens both legs.  ``per_turn`` length change of one turn [mm], ``step``
    smallest step [turn], ``low`` and ``high`` the length change at its stops [mm], ``unit`` what a turn is called.
    ``start`` is how much longer than the old part it is before it is turned, ``doubt`` the standard uncertainty
    of that [mm]; ``turn_open`` that of what one turn does to its length, where its thread was not told [mm];
    ``from_no_thread`` where turns are counted on from nothing engaged; ``part`` its key on the car;
    ``stops_told`` whether anybody said how far it goes.
    """

    name: str
    acts_on: tuple[tuple[str, float], ...]
    per_turn: float
    step: float
    low: float
    high: float
    unit: Literal["turn", "mm", "shim"] = "turn"
    start: float = 0.0
    doubt: float = 0.0
    from_no_thread: bool = False
    part: str = ""
    turn_open: float = 0.0
    stops_told: bool = True

    @property
    def lash(self) -> float:
        """Standard uncertainty of its length after it was turned: play in its thread, common practice. [mm]"""
        return LASH / 3**0.5 if self.unit == "turn" else 0.0

    def changed(self, steps: float) -> float:
        """Length against the old part after so many steps. [mm]"""
        return self.start + steps * self.step * self.per_turn

    def turns_to(self, change: float) -> float:
        """Turns that bring the length to a change against the old part."""
        return (change - self.start) / self.per_turn

    def moves(self, link: str) -> bool:
        """Whether it changes a link's length."""
        return any(name == link for name, _ in self.acts_on)

    def beyond(self, change: float) -> float:
        """How far past its stop a length change lies, 0 where it can be set; longer positive. [mm]"""
        if change > self.high + 1e-9:
            return change - self.high
        return min(change - self.low, 0.0) if change < self.low - 1e-9 else 0.0


def near_settings(centre: Array, adjusters: Sequence[Adjuster], around: int = AROUND) -> Array:
    """Every combination of allowed settings near a length change.

    Parameters
    ----------
    centre : array
        Length change of each adjuster, shape (m,). [mm]
    adjusters : sequence of Adjuster
        Their steps and stops. [mm, turn]
    around : int, optional
        How many steps to either side, >= 1. [-]

    Returns
    -------
    array
        Length changes on steps, shape (k, m). [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    Steps past a stop are left out; with many adjusters fewer steps are taken to either side.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> near_settings(np.array([0.6]), [Adjuster("rod", on("tie"), 1.5, 1 / 6, -12, 0.5)], 1)[:, 0].tolist()
    [0.25, 0.5]
    """
    while (2 * around + 1) ** len(adjusters) > MOST_TRIES and around > 1:
        around -= 1
    ranges = []
    for adjuster, at in zip(adjusters, centre, strict=True):
        size = adjuster.per_turn * adjuster.step
        low, high = (
            np.ceil((adjuster.low - adjuster.start) / size - 1e-9),
            np.floor((adjuster.high - adjuster.start) / size + 1e-9),
        )
        middle = np.clip(np.round((at - adjuster.start) / size), low, high)
        near = np.arange(middle - around, middle + around + 1)
        ranges.append(adjuster.start + size * near[(near >= low) & (near <= high)])
    grid = np.meshgrid(*ranges, indexing="ij")
    return np.stack([axis.ravel() for axis in grid], axis=1) if ranges else np.zeros((1, 0))


def changes_by_link(adjusters: Sequence[Adjuster], changes: Array) -> dict[str, Array]:
    """Length change of each link that adjusters bring about.

    Parameters
    ----------
    adjusters : sequence of Adjuster
        m of them. [-]
    changes : array
        Change of each adjuster, shape (n, m). [mm]

    Returns
    -------
    dict
        Change by link, shape (n,). [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    Adjusters on the same link add up.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> changes_by_link([Adjuster("rod", on("tie"), 1.5, 1, -9, 9)], np.array([[2.0]]))["tie"].tolist()
    [2.0]
    """
    by_link: dict[str, Array] = {}
    for place, adjuster in enumerate(adjusters):
        for link, share in adjuster.acts_on:
            by_link[link] = by_link.get(link, np.zeros(len(changes))) + share * changes[:, place]
    return by_link


def on(link: str) -> tuple[tuple[str, float], ...]:
    """Name one link that takes the whole change.

    Parameters
    ----------
    link : str
        A link, or ``strut_top``. [-]

    Returns
    -------
    tuple
        As ``Adjuster.acts_on`` takes it.

    Raises
    ------
    Nothing.

    Notes
    -----
    The usual case.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> on("tie")
    (('tie', 1.0),)
    """
    return ((link, 1.0),)
