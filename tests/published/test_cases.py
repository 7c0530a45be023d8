"""Check cases made by an independent implementation, as handed over with the contract."""

import json
from pathlib import Path

import pytest

from fair_spindle.calculations import CALCULATIONS, answer

CASES = json.loads((Path(__file__).parent / "calculation-cases.json").read_text())
SOLVED = {"corner-sweep", "realign"}


def agrees(ours, theirs, tolerance, where=""):
    if isinstance(theirs, dict):
        assert set(theirs) <= set(ours), where
        for key, value in theirs.items():
            agrees(ours[key], value, tolerance, f"{where}.{key}")
    elif isinstance(theirs, list):
        assert len(ours) == len(theirs), where
        for place, value in enumerate(theirs):
            agrees(ours[place], value, tolerance, f"{where}.{place}")
    else:
        assert ours == (
            theirs if theirs is None or isinstance(theirs, str) else pytest.approx(theirs, **tolerance)
        ), where


@pytest.mark.published
@pytest.mark.parametrize("case", CASES, ids=[f"{n}-{case['calculation']}" for n, case in enumerate(CASES)])
def test_agrees_with_independent_implementation(case):
    """1e-6 relative on closed forms, 0.0005° and 0.005 mm on solved geometry.

    The cases of ``realign`` state under "after" what the exact turns reach; ours states, as the contract
    says, what the set turns reach: held to the tolerances asked for instead.
    """
    calculation = CALCULATIONS[case["calculation"]]
    out = answer(calculation, calculation.takes.model_validate_json(json.dumps(case["input"])))
    wanted = dict(case["output"])
    if case["calculation"] == "realign":
        for key, value in wanted.pop("after").items():
            assert out["after"][key] == pytest.approx(value, abs=case["input"]["tolerances"][key])
            assert out["reached"][key]
    else:
        assert out.keys() == wanted.keys()
    agrees(out, wanted, {"abs": 5e-4} if case["calculation"] in SOLVED else {"rel": 1e-6, "abs": 1e-8})


def test_every_calculation_has_a_case():
    own = {"gauge-combine", "tighten-order", "castle-nut"}
    assert {case["calculation"] for case in CASES} == set(CALCULATIONS) - own
