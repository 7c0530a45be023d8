"""Places, positions and missing readings in the words said at the car."""

from __future__ import annotations

from fair_spindle.core.baseline import FIELDS
from fair_spindle.core.floor.state import JobState
from fair_spindle.core.planning.template import POSITION_NAMES, JobTemplate, Position, Side


def label_place(place: str, template: JobTemplate) -> str:
    """Name a place the way it is said at the car.

    Parameters
    ----------
    place : str
        Key of a place. [-]
    template : JobTemplate
        The kind of job. [-]

    Returns
    -------
    str
        Side, group and number.

    Raises
    ------
    NotFound
        No such place.

    Notes
    -----
    The number is left out where there is only one.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> label_place("left.strut_clamp.2", FRONT_STRUT)
    'left strut to upright, clamp bolts 2'
    """
    side, group = template.group_of(place)
    number = f" {place.rsplit('.', 1)[1]}" if group.count > 1 else ""
    return f"{side} {group.label[0].lower()}{group.label[1:]}{number}"


def position_words(where: Position, corner: Side | None) -> str:
    """Say a position of the car in words.

    Parameters
    ----------
    where : {"on_wheels", "hanging", "corner_carried"}
        Position. [-]
    corner : {"left", "right"}, optional
        The corner that is carried. [-]

    Returns
    -------
    str
        For example ``"carried at the left corner"``.

    Raises
    ------
    Nothing.

    Notes
    -----
    Front corners only, in this kind of job.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> position_words("corner_carried", "left")
    'carried at the left corner'
    """
    return f"carried at the {corner} corner" if corner else POSITION_NAMES[where]


def missing_fields(state: JobState, phase: str) -> tuple[str, ...]:
    """Required fields of a phase that nobody has filled in.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    phase : {"baseline", "check"}
        Which readings. [-]

    Returns
    -------
    tuple of str
        Field keys in the order they are asked.

    Raises
    ------
    Nothing.

    Notes
    -----
    Optional fields never count.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> missing_fields(JobState(), "check")[:2]
    ('left.check_height', 'left.check_toe')
    """
    return tuple(
        key for key, field in FIELDS.items() if field.phase == phase and field.required and key not in state.entries
    )
