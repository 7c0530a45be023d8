"""Units against NIST SP 811 (2008), appendix B.8, and against pint as referee."""

import math
from functools import partial

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.errors import InputError, OutOfRange
from fair_spindle.core.basics.spelling import read_number, read_rows, read_table, read_thread
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


REFUSED = [
    (read_table, "300; 280 620", "'300' is no pair"),
    (read_table, "300 none; 1 2", "'none' is not a number"),
    (read_table, "1 2; 3 99999999999", "at most .* got '3 99999999999'"),
    (read_table, "300 0", "two pairs or more"),
    (read_thread, "twelve", "'twelve' is no thread. Write"),
    (read_thread, "1/2-6", "'1/2-6' is no thread"),
    (read_thread, "M11.3", "pitch of M11.3 is missing. Write"),
    (read_rows, "1; 2\n\n10", "Place 2 needs x and y.* got '10'"),
    (partial(read_number, quantity="length", unit="mm"), "5 stone", "'stone' is no unit for this. Use mm, cm"),
    (partial(read_number, quantity="length", unit="mm"), "1/0 in", "'1/0 in' divides by zero"),
]


@pytest.mark.parametrize(("read", "text", "why"), REFUSED)
def test_what_cannot_be_read_is_refused_at_its_field_in_words(read, text, why):
    with pytest.raises(InputError, match=why) as refused:
        read(text, field="where")
    assert refused.value.field == "where"


def test_what_can_just_be_read_is_taken():
    """By hand: an inch is 25.4 mm; common practice in writing, no published source."""
    size = partial(read_number, quantity="length", unit="mm", field="where")
    assert size("3/8 in").value == pytest.approx(9.525)
    assert size("-1 3/8 in").value == pytest.approx(-34.925)
    assert read_number("2,5 NM", "torque", "lb_ft", "where").value == pytest.approx(2500.0), "in N mm"
    assert read_thread("  ", "where") == (0.0, 0.0)
    assert read_rows("10; -20\n1; 2; M8", "where") == ((10.0, -20.0, ()), (1.0, 2.0, ("M8",)))
    assert to_core(1.0, "tpi") == pytest.approx(25.4)
    with pytest.raises(OutOfRange, match="means nothing") as refused:
        to_core(0.0, "tpi")
    assert refused.value.field == "tpi"
    with pytest.raises(InputError, match="Unknown unit 'ell'; use one of mm") as refused:
        to_core(1.0, "ell")
    assert refused.value.field == "unit"
