"""Swatches: what is kept of a zone, and what they teach of a batting, against closed forms and truths that the test makes up."""

import math

import numpy as np
import pytest

from kenzet.core.balance.density import HANDS, hand
from kenzet.core.errors import BadValue
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.logbook.swatch import KeptSwatch, SwatchFound, height, polylines, spread_out, swatch_of
from kenzet.core.logbook.swatch_lessons import DatedSwatch, learnt_batting, shrinkage_by_density
from kenzet.core.numbers.measure import INCH, Length
from kenzet.core.relief.cloth import batting_heights
from kenzet.core.top.document import validated
from tests.tops import after, wished

WOOL = Batting(name="Wool", thickness=Length.parse("1/4 in"))
KIT = Kit(batting=WOOL, batting_key="wool")


def piece(fill, batting=WOOL, key="wool", size="12 in", use="practice piece"):
    """A square of one fill as a swatch."""
    laid = after(wished(block=size, columns=1, rows=1, use=use), {"kind": "zone", "refs": ["1-1/patch"]})
    (zone,) = laid.quilt.zones
    laid = after(laid, {"kind": "fill", "zone": zone, "fill": fill})
    found = swatch_of(laid, zone)
    return found.model_copy(update={"batting": batting, "batting_key": key})


def lines(spacing, **more):
    return piece({"kind": "lines", "spacing": spacing, "angle": 0}, **more)


def dated(swatch, when=0.0, **found):
    return DatedSwatch(swatch, validated(SwatchFound, {"name": "Tried", **found}), when)


def one(kept, key, kit=KIT):
    return next(found for found in learnt_batting(kept, kit) if found.key == key)


@pytest.mark.parametrize(
    ("fill", "share"),  # of the gap squared: a strip, and a square (its torsion function)
    [
        ({"kind": "lines", "spacing": "1 in", "angle": 0}, 1 / 8),
        ({"kind": "grid", "spacing": "1 in"}, 0.0737),
    ],
)
def test_the_bulge_is_the_closed_form_of_its_widest_gap(fill, share):
    found = piece(fill)
    assert found.gap == pytest.approx(INCH, rel=0.01)
    assert found.bulge == pytest.approx(share * INCH**2, rel=0.04)
    assert found.density * INCH == pytest.approx(1.0 if share > 0.1 else 2.0, rel=0.1)


@pytest.mark.parametrize("spacing", ["1/2 in", "1 in", "3 in"])
def test_the_height_of_a_swatch_is_that_of_the_relief(spacing):
    found = lines(spacing)
    spread = spread_out(polylines(found.rings), polylines(found.lines), INCH / 48)
    assert height(found, WOOL) == pytest.approx(
        float(batting_heights(spread.held, spread.wide, WOOL).max()), rel=0.05
    )


def test_fills_over_one_another_are_one_swatch_and_open_zones_none():
    laid = after(wished(block="12 in", columns=1, rows=1), {"kind": "zone", "refs": ["1-1/patch"]})
    (zone,) = laid.quilt.zones
    with pytest.raises(BadValue, match="no fill"):
        swatch_of(laid, zone)


def test_a_swatch_comes_back_from_its_file_as_it_was():
    kept = KeptSwatch(swatch=lines("1 in"), found=SwatchFound(name="Tried"))
    assert KeptSwatch.model_validate_json(kept.model_dump_json()) == kept


def test_wide_gaps_tell_the_thickness_and_narrow_ones_the_rise():
    wide, narrow = lines("3 in"), lines("1/2 in")
    thickness = one([dated(wide, high="3/8 in")], "thickness")
    assert thickness.used == pytest.approx(INCH / 4)
    assert INCH / 4 < thickness.low < thickness.value < INCH * 3 / 8 + 0.1 and thickness.differs
    true = 0.6 * INCH / 4 * (12.7 / INCH) ** 2
    rise = one([dated(narrow, k, high=f"{true} mm") for k in range(30)], "rise")
    assert rise.value == pytest.approx(60, abs=6) and rise.low <= 60 <= rise.high
    assert (rise.many, rise.first, rise.last) == (30, 0, 29)


def test_what_agrees_with_the_batting_in_use_is_no_news():
    kept = [dated(lines(s), high=f"{height(lines(s), WOOL)} mm") for s in ("1/2 in", "3 in")]
    assert not any(found.differs for found in learnt_batting(kept, KIT))


@pytest.mark.parametrize("felt", HANDS[1:])
def test_the_firmness_that_is_learnt_makes_the_plan_feel_as_she_said(felt):
    found = lines("3/4 in", use="lap")
    (firmness,) = learnt_batting([dated(found, felt=felt)], KIT)
    learnt = WOOL.model_copy(update={"firmness": round(firmness.value)})
    assert hand(found.density, "lap", learnt) == felt
    if hand(found.density, "lap", WOOL) == felt:
        assert firmness.value == 100 and not firmness.differs


def test_of_words_that_contradict_each_other_the_most_are_kept():
    some = [
        dated(lines(s, use="lap"), felt=felt)
        for s, felt in (("1 in", "firm"), ("3/4 in", "firm"), ("1/2 in", "loose"))
    ]
    (firmness,) = learnt_batting(some, KIT)
    learnt = WOOL.model_copy(update={"firmness": round(firmness.value)})
    assert [hand(each.swatch.density, "lap", learnt) for each in some[:2]] == ["firm", "firm"]


def test_a_wash_is_weighed_with_the_label_and_stands_alone_without_one():
    washed = [dated(lines("1 in"), washed="yes", before="12 in", after="11 1/2 in")]
    shrunk = one(washed, "shrinks")
    assert math.isnan(shrunk.used) and shrunk.value == pytest.approx(100 / 24) and shrunk.differs
    labelled = one(washed, "shrinks", Kit(batting=WOOL.model_copy(update={"shrinks": 3}), batting_key="wool"))
    assert 3 < labelled.value < 100 / 24
    assert learnt_batting([dated(lines("1 in"), before="12 in", after="11 in")], KIT) == []
    quilted = one([dated(lines("1 in"), pieced="12 in", before="11 3/4 in")], "takes_up")
    assert math.isnan(quilted.used) and quilted.value == pytest.approx(100 / 48)


def test_shrinkage_by_density_wants_two_densities_and_goes_through_the_swatches():
    def washed(spacing, after):
        return dated(lines(spacing), washed="yes", before="10 in", after=after)

    loose, dense = washed("2 in", "9.8 in"), washed("1/2 in", "9.5 in")
    found = shrinkage_by_density([dense, loose, washed("1/2 in", "9.3 in")], KIT)
    assert found.at(loose.swatch.density) == pytest.approx(2) and found.at(
        dense.swatch.density
    ) == pytest.approx(6)
    assert 2 < found.at((loose.swatch.density + dense.swatch.density) / 2) < 6
    assert found.at(0.0) == pytest.approx(2)
    assert shrinkage_by_density([dense, washed("1/2 in", "9.3 in")], KIT) is None
    assert shrinkage_by_density([dense, dated(lines("2 in"))], KIT) is None


def test_only_swatches_on_the_same_batting_count():
    cotton = lines("3 in", batting=Batting(name="Cotton"), key="cotton")
    assert learnt_batting([dated(cotton, high="1/2 in")], KIT) == []
    assert learnt_batting([dated(lines("3 in", key=None), high="1/2 in")], KIT)


@pytest.mark.parametrize(
    ("found", "field"),
    [
        ({"high": "4 in"}, "high"),
        ({"high": "-1 in"}, "high"),
        ({"high": "0"}, "high"),
        ({"before": "1/2 in"}, "before"),
        ({"before": "10 in", "after": "11 in"}, "after"),
        ({"pieced": "10 in", "before": "11 in"}, "before"),
        ({"felt": "lumpy"}, "felt"),
        ({"name": ""}, "name"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(found, field):
    with pytest.raises(BadValue) as error:
        validated(SwatchFound, {"name": "Tried", **found})
    assert error.value.field == field


def test_a_hole_in_the_outline_is_no_cloth():
    square = np.array([(0, 0), (100, 0), (100, 100), (0, 100), (0, 0)], dtype=float)
    found = spread_out([square, square * 0.2 + 40], [], 1.0)
    assert not found.cloth[52, 52] and found.cloth[10, 10]
    assert found.held[52, 52] and not found.held[10, 10] and not found.sewn.any()
