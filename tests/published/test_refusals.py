"""Whatever is wrong with the input of a calculation, it is refused at its field, in the same words everywhere."""

import json
from pathlib import Path

import pytest
from pydantic import ValidationError

from fair_spindle.calculations import CALCULATIONS, answer
from fair_spindle.core.basics.errors import InputError

CASES = json.loads((Path(__file__).parent / "calculation-cases.json").read_text())
GOOD = {case["calculation"]: case["input"] for case in CASES}


def leaves(values, path=()):
    for key, value in values.items():
        if isinstance(value, dict):
            yield from leaves(value, (*path, key))
        else:
            yield (*path, key), value


def changed(values, path, value, drop=False):
    copy = json.loads(json.dumps(values))
    place = copy
    for key in path[:-1]:
        place = place[key]
    if drop:
        del place[path[-1]]
    else:
        place[path[-1]] = value
    return copy


def refusal(name, values):
    """Field and message of the refusal; an answer is a failure."""
    calculation = CALCULATIONS[name]
    try:
        out = answer(calculation, calculation.takes.model_validate_json(json.dumps(values)))
    except ValidationError as error:
        first = error.errors()[0]
        return ".".join(str(part) for part in first["loc"]), first["msg"]
    except InputError as error:
        return error.field, error.message
    raise AssertionError(f"{name} answered {out} to {values}")


ALL = [pytest.param(name, path, id=f"{name}-{'.'.join(path)}") for name in GOOD for path, _ in leaves(GOOD[name])]


@pytest.mark.parametrize(("name", "path"), ALL)
def test_no_field_takes_what_is_not_its_kind(name, path):
    for wrong in (float("nan"), float("inf"), True, [], {}):
        field, _ = refusal(name, changed(GOOD[name], path, wrong))
        assert field == ".".join(path), wrong
    if path[-1] != "steer":
        field, _ = refusal(name, changed(GOOD[name], path, "12.5"))
        assert field == ".".join(path)


@pytest.mark.parametrize("name", GOOD)
def test_unknown_and_missing_keys_are_refused(name):
    assert refusal(name, {**GOOD[name], "something_mm": 1.0})[0] == "something_mm"
    required = CALCULATIONS[name].takes.model_json_schema().get("required", [])
    for key in required:
        assert refusal(name, changed(GOOD[name], (key,), None, drop=True))[0] == key
    if not required or name in ("toe-convert", "torque-convert"):
        assert "exactly one" in refusal(name, {k: v for k, v in GOOD[name].items() if k in required})[1]


NONSENSE = [
    ("toe-convert", {"toe_mm": 700.0, "measured_across_mm": 600.0}, "toe_mm"),
    ("tie-rod-turns", {**GOOD["tie-rod-turns"], "steer": "beside"}, "steer"),
    ("turn-transfer", changed(GOOD["turn-transfer"], ("old", "turns_off"), -1.0), "old.turns_off"),
    ("turn-transfer", changed(GOOD["turn-transfer"], ("new", "end_length_mm"), 20.0), "new.end_length_mm"),
    ("height-change", changed(GOOD["height-change"], ("new", "rate_n_per_mm"), 1.0), "new.rate_n_per_mm"),
    ("height-change", changed(GOOD["height-change"], ("old", "gas_force_n"), 9e4), "old.gas_force_n"),
    ("bushing-twist", {**GOOD["bushing-twist"], "outer_above_inner_mm": 400.0}, "outer_above_inner_mm"),
    ("bushing-twist", {**GOOD["bushing-twist"], "travel_at_clamp_mm": -900.0}, "travel_at_clamp_mm"),
    ("string-toe", {"front_gap_mm": 600.0, "rear_gap_mm": 0.0, "measured_across_mm": 500.0}, "toe_mm"),
]


@pytest.mark.parametrize(("name", "values", "field"), NONSENSE)
def test_what_makes_no_physical_sense_is_refused_at_its_field(name, values, field):
    assert refusal(name, values)[0] == field


def test_both_spellings_at_once_are_refused():
    message = refusal("torque-convert", {"torque_nm": 1.0, "torque_lb_ft": 1.0})[1]
    assert "torque_nm, torque_lb_ft" in message
