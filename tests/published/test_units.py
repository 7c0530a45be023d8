"""Units against NIST SP 811 (2008), appendix B.8, and against pint as referee."""

import math

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.units import UNITS, from_core, to_core

# Factors as printed (quoted from memory), to SI base units; 'exact' ones are bold in the table.
SP_811 = [
    ("in", "mm", "2.54E-02", 1e-3),
    ("lb_ft", "nm", "1.355818", 1.0),
    ("lb_in", "nm", "1.129848E-01", 1.0),
    ("kgf_m", "nm", "9.80665", 1.0),
    ("lbf", "n", "4.448222", 1.0),
    ("kgf", "n", "9.80665", 1.0),
    ("lbf_per_in", "n_per_mm", "1.751268E+02", 1e3),
    ("deg", "rad", "1.745329E-02", 1.0),
    ("min", "rad", "2.908882E-04", 1.0),
]


@pytest.mark.published
@pytest.mark.parametrize(("unit", "base", "printed", "scale"), SP_811)
def test_factor_as_printed_in_sp_811(unit, base, printed, scale):
    mantissa, _, exponent = printed.partition("E")
    half_last_digit = 0.5 * 10.0 ** (int(exponent or 0) - len(mantissa.split(".")[1]))
    ours = from_core(to_core(1.0, unit), base) * scale
    assert abs(ours - float(printed)) <= half_last_digit


PINT = {
    "in": "inch", "cm": "cm", "deg": "degree", "min": "arcminute", "kn": "kN", "kgf": "kgf", "lbf": "lbf",
    "kgf_per_mm": "kgf/mm", "lbf_per_in": "lbf/inch", "nm": "N*m", "lb_ft": "lbf*foot", "lb_in": "lbf*inch",
    "kgf_m": "kgf*m", "bar": "bar", "kpa": "kPa", "psi": "psi", "km": "km", "mi": "mile", "pct": "percent",
}  # fmt: skip
CORE = {"length": "mm", "angle": "radian", "force": "N", "rate": "N/mm", "torque": "N*mm", 
        "pressure": "MPa", "distance": "mm", "share": "dimensionless"}  # fmt: skip


@pytest.mark.referee
def test_factor_agrees_with_pint():
    registry = pint.UnitRegistry()
    for key, name in PINT.items():
        referee = registry(name).to(CORE[UNITS[key].quantity]).magnitude
        assert math.isclose(to_core(1.0, key), referee, rel_tol=1e-12), key


@pytest.mark.identity
@given(st.sampled_from(sorted(UNITS)), st.floats(1e-6, 1e6))
def test_there_and_back_changes_nothing(unit, value):
    assert from_core(to_core(value, unit), unit) == pytest.approx(value, rel=1e-12)
