"""The exercise file: one practice car, to be handed on to another workshop.

The same file gives the same car everywhere; a copy of a car carries that car's record as it stood.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import Field

from fair_spindle.core.joblog.log import Entered
from fair_spindle.formats.acts import Strict, Text, model_of
from fair_spindle.formats.job_file import canonical, opened, whole

FORMAT = "fair-spindle/exercise"
LARGEST_FILE = 1024 * 1024
if TYPE_CHECKING:
    EnteredModel = Strict
else:
    EnteredModel = model_of(Entered)


class ExerciseFile(Strict):
    """The whole document."""

    format: Literal["fair-spindle/exercise"] = "fair-spindle/exercise"
    version: Literal[1] = 1
    exercise: Text
    seed: Annotated[int, Field(ge=1, le=999_999)]
    bare: bool = False
    layouts: dict[Literal["front", "rear"], Text] = Field(default_factory=dict)
    work: Literal["align", "springs"] = "align"
    car_name: Text = ""
    record: Annotated[list[EnteredModel], Field(max_length=2000)] = Field(default_factory=list)

    def mark(self) -> dict[str, Any]:
        """What a practice job keeps of its exercise."""
        return self.model_dump(exclude={"format", "version"})


def write_exercise_file(mark: Mapping[str, Any]) -> bytes:
    """Write what a practice job keeps of its exercise; the name of the car's record is left behind."""
    told = ExerciseFile.model_validate({key: value for key, value in mark.items() if key != "car"})
    return canonical(told.model_dump()) + b"\n"


def read_exercise_file(content: bytes) -> ExerciseFile:
    """Read an exercise file; InputError says where it is damaged or that it is something else."""
    return whole(ExerciseFile, opened(content, "an exercise file", FORMAT, LARGEST_FILE), "exercise file")
