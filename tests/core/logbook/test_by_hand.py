"""Measured with a tape: what it says of the gaps, and of the foot."""

import math

import numpy as np
import pytest

from kenzet.core.errors import BadValue
from kenzet.core.kit.kit import Kit
from kenzet.core.logbook.by_hand import READ, LaidSpan, TapeReading, from_spans, laid_span, tape_found
from kenzet.core.logbook.learn import FEWEST, LaidLine, learnt_offset
from kenzet.core.numbers.measure import INCH
from tests.tops import after, wished

KIT = Kit()
FOOT = float(KIT.foot_offset)


def lines(spacing="3/4 in", kind="lines"):
    laid = after(wished(block="18 in", columns=1, rows=1), {"kind": "zone", "refs": ["1-1/patch"]})
    (zone,) = laid.quilt.zones
    return after(laid, {"kind": "fill", "zone": zone, "fill": {"kind": kind, "spacing": spacing}}), zone


def test_a_whole_that_is_too_wide_is_shared_by_all_gaps():
    """The guide's example: 20 lines 3/4 in apart are 14 1/4 in; 14 7/16 in is 0.010 in too much in each gap."""
    laid, zone = lines()
    found = tape_found(laid, "1-1", TapeReading(zone, 20, 14.4375 * INCH), "in")
    assert found.planned == pytest.approx(14.25 * INCH)
    assert found.each / INCH == pytest.approx(0.1875 / 19)
    span = laid_span(laid, "1-1", found, 7.0)
    assert span.gaps == 19 and span.when == 7.0 and span.out == pytest.approx(found.each, abs=1e-9)


@pytest.mark.parametrize(
    ("reading", "field"),
    [
        ({"lines": 2}, "lines"),
        ({"lines": 400}, "lines"),
        ({"span": 1.0}, "span"),
        ({"span": 9000.0}, "span"),
        ({"gap": -1.0}, "gap"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(reading, field):
    laid, zone = lines()
    with pytest.raises(BadValue) as error:
        tape_found(
            laid, "1-1", TapeReading(**{"zone": zone, "lines": 10, "span": 6.75 * INCH, **reading}), "in"
        )
    assert error.value.field == field


def test_lines_that_are_not_evenly_apart_are_left_to_a_photo():
    laid, zone = lines("1/2 in", "random")
    with pytest.raises(BadValue, match="photo"):
        tape_found(laid, "1-1", TapeReading(zone, 5, 60.0), "in")


@pytest.mark.parametrize("true", [-0.25, 0.0, 0.4])
def test_tapes_find_the_foot_within_what_they_say(true):
    """Blocks of 20 lines by a foot that is off, each line scattering about the last, read to a thirty-second."""
    chance, hits = np.random.default_rng(5), 0
    for _ in range(200):
        spans = []
        for _ in range(4):
            out = true + chance.normal(0, float(KIT.spread.mm), 19).sum() / 19 + chance.normal(0, READ) / 19
            spans.append(LaidSpan(out, 19, 1.0, "left", FOOT))
        value, sd = from_spans(spans, KIT)
        hits += abs(value - FOOT - true) <= 1.96 * sd
    assert 0.9 <= hits / 200 <= 0.99


def test_a_tape_and_pictures_are_weighed_together():
    chance = np.random.default_rng(3)
    seen = [LaidLine(0.3 + one, 1.0, "left", FOOT) for one in chance.normal(0, 0.4, 2 * FEWEST)]
    taped = [LaidSpan(0.3, 30, 9.0, "left", FOOT)] * 3
    (alone,) = (one for one in learnt_offset(seen, KIT) if one.key == "offset")
    both = next(one for one in learnt_offset(seen, KIT, taped) if one.key == "offset")
    (tape,) = learnt_offset([], KIT, taped)
    assert both.high - both.low < min(alone.high - alone.low, tape.high - tape.low)
    assert (both.many, both.first, both.last) == (2 * FEWEST + 90, 1.0, 9.0)
    assert tape.low < FOOT + 0.3 < tape.high
    assert learnt_offset([], KIT, [LaidSpan(0.3, FEWEST - 1, 9.0, "left", FOOT)]) == []


def test_a_reading_is_as_sure_as_its_gaps():
    few, many = (from_spans([LaidSpan(0.0, gaps, 0.0, "left", FOOT)], KIT)[1] for gaps in (4, 64))
    assert few / many > math.sqrt(16) - 0.01
    assert from_spans([], KIT) is None
