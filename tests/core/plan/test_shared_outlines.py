"""A seam that two zones share is sewn by one of them only; a piece that stays empty is named."""

from __future__ import annotations

import pytest
import shapely

from kenzet.core.placing.line_order import pieces_of
from kenzet.core.plan.planner import plan_quilt
from kenzet.say import words as w
from kenzet.say.zone_advice import known
from tests.jobs import role, zoned
from tests.tops import after, single

IN = 25.4
DITCH = {"kind": "retraced", "times": 2}


def sewn(laid):
    return [
        line
        for plan in plan_quilt(laid).values()
        for drawing in plan.drawings
        for line in map(shapely.linestrings, drawing.polylines)
    ]


@pytest.mark.parametrize(
    "fill", [DITCH, {"kind": "beside", "where": "ditch"}], ids=["thread outline", "in the ditch"]
)
def test_a_shared_seam_holds_the_threads_of_one_zone(fill):
    laid = single("Nine-patch", "9 in")
    laid = zoned(laid, role(laid, "main"), fill)
    laid = zoned(laid, role(laid, "ground"), fill)
    lines = sewn(laid)
    assert shapely.union_all(lines).length == pytest.approx(
        8 * 9 * IN, abs=1.0
    )  # four seams and the outline, each once
    assert sum(line.length for line in lines) == pytest.approx(8 * 9 * IN, rel=1e-3)


def test_when_the_first_zone_changes_the_other_sews_its_whole_outline_again():
    laid = single("Nine-patch", "9 in")
    laid = zoned(laid, role(laid, "main"), DITCH)
    laid = zoned(laid, role(laid, "ground"), DITCH)
    first, second = laid.quilt.zones
    before = plan_quilt(laid)[second].drawings[0].lengths.sum()
    laid = after(laid, {"kind": "fill", "zone": first, "fill": {"kind": "lines", "spacing": "1/2 in"}})
    assert plan_quilt(laid)[second].drawings[0].lengths.sum() > before + 20 * IN


def test_a_piece_that_stays_empty_is_named():
    laid = single("Eight-point diamond star", "12 in")
    laid = zoned(laid, role(laid, "ground"), {"kind": "echo", "spacing": "1 1/4 in", "rounds": 1})
    (plan,) = plan_quilt(laid).values()
    (drawing,) = plan.drawings
    empty = set(range(len(drawing.region.pieces))) - set(pieces_of(drawing))
    assert len(empty) == 4  # the triangles; the corner squares hold a ring
    told = known(laid, {plan.key: plan}, plan, drawing, "1-1", None, "in")
    (one,) = (one for one in told if "empty" in w.plain(one.words))
    said = w.plain(one.words)
    assert said.startswith("4 pieces of the zone stay empty") and said.endswith("and 1 more.")
    assert any(drawing.region.pieces[k].area.contains(shapely.Point(one.at)) for k in empty)
