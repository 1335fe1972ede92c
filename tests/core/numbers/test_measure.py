"""Lengths: what is typed, what is kept, what is shown."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import MM_PER, Length, figure, rounded

IN = MM_PER["in"]


@pytest.mark.parametrize(
    ("typed", "unit", "mm", "kept"),
    [
        ("3/4", "in", IN * 3 / 4, "3/4 in"),
        ("1 3/8", "in", IN * 11 / 8, "1 3/8 in"),
        ("1-3/8 in", "in", IN * 11 / 8, "1 3/8 in"),
        ("0.75", "in", IN * 3 / 4, "3/4 in"),
        (".75", "in", IN * 3 / 4, "3/4 in"),
        ("1,375", "in", IN * 11 / 8, "1 3/8 in"),
        ("19 mm", "in", Fraction(19), "19 mm"),
        ("19", "mm", Fraction(19), "19 mm"),
        ("3.5 cm", "in", Fraction(35), "3.5 cm"),
        ("¾", "in", IN * 3 / 4, "3/4 in"),
        ("1½", "in", IN * 3 / 2, "1 1/2 in"),
        ("2″", "mm", IN * 2, "2 in"),
        ("1/3", "in", IN / 3, "1/3 in"),
        ("6/8 IN.", "in", IN * 3 / 4, "3/4 in"),
        ("0.717", "in", IN * Fraction("0.717"), "0.717 in"),
    ],
)
def test_what_is_typed(typed, unit, mm, kept):
    length = Length.parse(typed, unit)
    assert (length.mm, length.text) == (mm, kept)
    assert Length.parse(length.text) == length


@pytest.mark.parametrize(
    "typed",
    [
        "",
        "  ",
        "3//4",
        "1/0",
        "a",
        "3/4 ft",
        "1 2 3",
        "--1",
        "1e5",
        "3/4/5",
        "nan",
        "9" * 60,
        "12345678 in",
        "1.2.3",
    ],
)
@pytest.mark.parametrize("unit", ["in", "mm"])
def test_what_cannot_be_read_is_said_with_examples(typed, unit):
    with pytest.raises(BadValue) as error:
        Length.parse(typed, unit)
    assert len(error.value.message) < 140
    assert error.value.message.endswith(".")


@given(st.fractions(min_value=0, max_value=900, max_denominator=640), st.sampled_from(["in", "mm", "cm"]))
def test_a92_every_length_comes_back_exactly_however_often(number, unit):
    length = Length.of(number, unit)
    for reading in ("in", "mm", "in", "mm", "in"):
        again = Length.parse(length.text, reading)
        assert again.mm == length.mm == number * MM_PER[unit]


def test_a87_nearest_fractions():
    assert figure(0.530 * 25.4, "in").text == "scant 17/32"
    near = figure(0.530 * 25.4, "in", Fraction(1, 16), about=True)
    assert near.text == "1/2"
    left = Fraction("0.530") * IN - IN / 2
    assert figure(left, "in", Fraction(1, 32), about=True).text == "1/32"


@given(st.fractions(min_value=-500, max_value=500), st.sampled_from([Fraction(1, 8), Fraction(1, 64)]))
def test_a_figure_is_never_further_off_than_half_its_grain(inches, grain):
    shown = figure(inches * IN, "in", grain)
    value = int(shown.whole) + (Fraction(shown.num, shown.den) if shown.num else 0)
    assert abs((-value if shown.minus else value) - inches) <= grain / 2
    exact = value == abs(inches)
    assert shown.hair == 0 or not exact


def test_zero_has_no_sign_and_halves_go_up():
    assert figure(-0.0001, "mm").text == "0"
    assert rounded(Fraction(-3, 2), Fraction(1)) == -1
