"""Check cases made by an independent implementation, as handed over with the contract."""

import json
from pathlib import Path

import pytest

from fair_spindle.calculations import CALCULATIONS, answer

CASES = json.loads((Path(__file__).parent / "calculation-cases.json").read_text())


@pytest.mark.published
@pytest.mark.parametrize("case", CASES, ids=[f"{n}-{case['calculation']}" for n, case in enumerate(CASES)])
def test_agrees_with_independent_implementation(case):
    calculation = CALCULATIONS[case["calculation"]]
    out = answer(calculation, calculation.takes.model_validate_json(json.dumps(case["input"])))
    assert out.keys() == case["output"].keys()
    for key, value in case["output"].items():
        assert out[key] == pytest.approx(value, rel=1e-6, abs=1e-8), key


def test_every_calculation_has_a_case():
    own = {"gauge-combine"}
    assert {case["calculation"] for case in CASES} == set(CALCULATIONS) - own
