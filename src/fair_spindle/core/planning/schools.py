"""Where schools differ: the questions, the workshop's choice, and what the product says about each."""

from __future__ import annotations

from fair_spindle.core.basics.value_object import value_object


@value_object
class School:
    """A question on which good practitioners disagree; ``ways`` by key in words, the first is usual here."""

    key: str
    question: str
    ways: dict[str, str]
    said: str = ""


SCHOOLS: dict[str, School] = {
    one.key: one
    for one in (
        School(
            "toe",
            "Keeping toe",
            {
                "counts": "count the turns",
                "length": "centre-to-centre length",
                "beside": "old part beside the new one",
            },
            "Whichever is used is corrected for new geometry and for the height change.",
        ),
        School(
            "load",
            "Loading for the final torque of rubber",
            {
                "jack": "jack under the upright",
                "wheels": "on its wheels or on ramps",
                "computed": "arm set to a computed height by a pole or jack",
            },
            "Each is accepted by the same check: hub-to-arch height inside the clamp window.",
        ),
        School(
            "free_pivots",
            "Greased poly and spherical pivots",
            {"any": "at any height", "loaded": "at ride height anyway"},
            "The kind of bushing decides; being stricter does no harm.",
        ),
        School(
            "second_link",
            "Setting the second bar link",
            {"wheels": "on its wheels", "hanging": "hanging, both sides level"},
            "On its wheels is recommended; either way the result is stated as a preload force.",
        ),
        School(
            "taper",
            "Freeing tapers",
            {"strike": "strike the upright", "separator": "separator", "wedge": "wedge"},
            "A wedge tears the boot: only where the joint is thrown away.",
        ),
        School(
            "alignment",
            "Alignment afterwards",
            {"always": "always", "when_lost": "only when a count was lost"},
            "Recommended always; the record says how sure the result is.",
        ),
    )
}


def ways_of(workshop: dict[str, str], job: dict[str, str]) -> dict[str, str]:
    """The way that decides each question.

    Words that name no way are passed over.

    Common practice, no published source.
    """
    found = {}
    for key, school in SCHOOLS.items():
        chosen = job.get(key) or workshop.get(key, "")
        found[key] = chosen if chosen in school.ways else next(iter(school.ways))
    return found


def say_school(key: str, way: str) -> str:
    """Say the choice and what else is done elsewhere.

    Shown at the steps it decides.

    Raises KeyError: No such question or way.

    Common practice, no published source.

    Examples
    --------
    >>> say_school("taper", "wedge")[:42]
    'Freeing tapers: wedge. Others: strike the '
    """
    school = SCHOOLS[key]
    others = ", ".join(words for name, words in school.ways.items() if name != way)
    return f"{school.question}: {school.ways[way]}. Others: {others}. {school.said}".strip()
