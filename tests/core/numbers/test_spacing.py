"""Counting and fitting, by the acceptance tables."""

from __future__ import annotations

from fractions import Fraction as F

import pytest
from hypothesis import given
from hypothesis import strategies as st

from kenzet.core.numbers import spacing as sp

positive = st.fractions(min_value=F(1, 64), max_value=100, max_denominator=128)


@pytest.mark.parametrize(
    ("extent", "wanted", "lines", "gaps", "end"),
    [
        ("7.5", "0.625", 11, 12, "0.625"),  # A11
        ("7", "0.6", 11, 12, "0.4"),  # A12
        ("2", "2.5", 0, 1, "2"),  # A96
        ("40", "1.25", 31, 32, "1.25"),
        ("40", "1.5", 26, 27, "1"),
    ],
)
def test_from_an_edge(extent, wanted, lines, gaps, end):
    fit = sp.from_edge(F(extent), F(wanted))
    assert (fit.lines, fit.gaps, fit.end) == (lines, gaps, F(end))


def test_a12_equalised():
    fit = sp.equalised(F(7), F("0.6"))
    assert (fit.gaps, fit.lines) == (12, 11)
    assert float(fit.spacing) == pytest.approx(0.5833, abs=1e-4)
    assert float(fit.change) == pytest.approx(-0.028, abs=1e-3)


def test_a13_centred_on_a_line_or_on_a_gap():
    line, gap = sp.centred_on_line(F(10), F("0.75")), sp.centred_on_gap(F(10), F("0.75"))
    assert (line.lines, line.end, line.sliver) == (13, F("0.5"), False)
    assert (gap.lines, gap.end, gap.sliver) == (14, F("0.125"), True)


@given(positive, positive)
def test_lines_and_gaps_always_fill_the_extent(extent, spacing):
    plain = sp.from_edge(extent, spacing)
    assert plain.lines * spacing + plain.end == extent
    assert 0 < plain.end <= spacing
    even = sp.equalised(extent, spacing)
    assert even.gaps * even.spacing == extent
    on_line = sp.centred_on_line(extent, spacing)
    assert (on_line.lines - 1) * spacing + 2 * on_line.end == extent
    on_gap = sp.centred_on_gap(extent, spacing)
    if on_gap.lines:
        assert (on_gap.lines - 1) * spacing + 2 * on_gap.end == extent
        assert on_gap.lines % 2 == 0
        assert on_line.lines % 2 == 1
        assert 0 < on_gap.end <= spacing


def test_f35_marks_from_a_datum():
    pitch = F("10.375") / 14
    drawn = [str(t.drawn) for t in sp.ticks([i * pitch for i in range(1, 14)], F(1, 16))]
    said = "3/4 3/2 9/4 47/16 59/16 71/16 83/16 95/16 107/16 119/16 65/8 71/8 77/8"
    assert drawn == said.split()
    errors = [abs(t.error) for t in sp.ticks([i * pitch for i in range(1, 14)], F(1, 16))]
    assert float(max(errors)) == pytest.approx(0.0268, abs=1e-4)
    assert float(sp.stepping_error(pitch, 13, F(1, 16))) == pytest.approx(0.1161, abs=1e-4)


@given(st.lists(positive, max_size=30), st.sampled_from([F(1, 8), F(1, 16), F(5, 127)]))
def test_no_tick_is_more_than_half_a_step_out(places, step):
    assert all(abs(tick.error) <= step / 2 for tick in sp.ticks(places, step))


@given(positive, positive, st.sampled_from([(1, False), (2, False), (2, True)]))
def test_offered_spacings_divide_the_extent_with_the_right_parity(extent, spacing, parity):
    each, odd = parity
    for offered in sp.whole_parts(extent, spacing, each, odd):
        count = extent / offered
        assert count.denominator == 1
        assert each == 1 or count % 2 == int(odd)


def test_a_common_part_is_found_or_honestly_not():
    assert sp.common_part([76.2, 152.4, 228.6]) == pytest.approx(76.2)
    assert sp.common_part([50.0, 75.0]) == pytest.approx(25.0)
    assert sp.common_part([100.0, 141.4214]) is None
    assert sp.common_part([]) is None
