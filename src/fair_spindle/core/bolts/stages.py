"""The stages a fastener goes through: one table of their order, what each may follow, and the words for it."""

from __future__ import annotations

from typing import Literal

from fair_spindle.core.basics.value_object import value_object

WorkStage = Literal["loose", "hand", "snug", "torqued", "angled", "locked", "marked", "rechecked"]


@value_object
class Stage:
    """A stage: what it may follow (None: as found), how a place stands at it, what was done, what a step wants.

    ``order`` says what to do to get there; ``mark`` stands beside the place on its map until it is final.
    """

    key: WorkStage
    after: tuple[WorkStage | None, ...]
    said: str
    done: str
    wanted: str
    order: str
    mark: str = ""


TABLE = (
    Stage(
        "loose", (None, "loose", "hand", "snug", "torqued", "angled", "locked", "marked", "rechecked"),
        "loose", "Loosened", "loose", "loosen it", "○",
    ),
    Stage("hand", (None, "loose"), "started by hand", "Started by hand", "started by hand", "start it by hand", "◔"),
    Stage("snug", ("hand",), "snug", "Snug", "snug", "make it snug", "◑"),
    Stage("torqued", ("snug", "torqued"), "torqued", "Torqued", "at its final torque", "torque it", "◕"),
    Stage(
        "angled", ("torqued", "snug"),
        "turned through its angle", "Turned on by its angle", "turned on", "turn it on by its angle", "◕",
    ),
    Stage("locked", ("torqued", "angled"), "locked", "Locked", "locked", "lock it", "◕"),
    Stage(
        "marked", ("torqued", "angled", "locked"),
        "marked", "Paint mark on it", "marked with paint", "mark it with paint",
    ),
    Stage(
        "rechecked", ("torqued", "angled", "locked", "marked", "rechecked"),
        "checked again", "Checked again", "checked again", "check it again",
    ),
)  # fmt: skip
STAGES: dict[WorkStage, Stage] = {one.key: one for one in TABLE}
_RANK = {one.key: rank for rank, one in enumerate(TABLE)}


def has_reached(now: WorkStage | None, wanted: WorkStage) -> bool:
    """Whether a place at one stage (None: as found) has come as far as another.

    Parameters
    ----------
    now : WorkStage, optional
        Where it stands. [-]
    wanted : WorkStage
        Where it should be. [-]

    Returns
    -------
    bool
        True at that stage and after it.

    Raises
    ------
    Nothing.

    Notes
    -----
    By the order of the table.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> has_reached("torqued", "snug"), has_reached("hand", "snug"), has_reached(None, "loose")
    (True, False, False)
    """
    return now is not None and _RANK[now] >= _RANK[wanted]
