"""Outlines that are one another turned or mirrored: what follows them is worked out once, and right for each."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from kenzet.core.changes import CHANGES
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.congruent import outline_of, placing_onto
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.widest_gap import widest_gap
from tests.pinwheels import filled, pinwheels
from tests.shapes import REGIONS, drawn, petal

OUTLINE = np.array([(0.0, 0.0), (7.0, 0.0), (7.0, 2.0), (3.0, 5.0), (0.0, 4.0)])


def turned(outline, degrees, mirrored=False, by=(31.0, -8.0)):
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    points = outline * ((-1.0, 1.0) if mirrored else (1.0, 1.0))
    return points @ np.array([[cos, sin], [-sin, cos]]) + by


@pytest.mark.parametrize("degrees", [0, 90, 180, 270, 30, 199.5])
@pytest.mark.parametrize("mirrored", [False, True])
def test_an_outline_is_carried_onto_itself_turned(degrees, mirrored):
    there = turned(OUTLINE, degrees, mirrored)
    there = np.roll(there[::-1] if mirrored else there, 2, axis=0)
    placing = placing_onto(OUTLINE, there)
    a, b, c, d, _, _ = placing
    assert a * d - b * c == pytest.approx(-1 if mirrored else 1)
    strays = np.abs(place_all(placing, OUTLINE)[:, None] - there).sum(axis=2).min(axis=1)
    assert strays.max() < 1e-9
    if degrees % 90 == 0:  # to the last bit, so that a level line stays level
        assert {abs(x) for x in (a, b, c, d)} == {0.0, 1.0}


@pytest.mark.parametrize(
    "other", [OUTLINE * 1.001, OUTLINE[:4], OUTLINE + np.eye(5, 2) * 1e-3], ids=["larger", "fewer", "moved"]
)
def test_another_outline_is_not_taken_for_it(other):
    assert placing_onto(OUTLINE, other) is None


def test_an_area_with_a_hole_or_in_two_pieces_has_no_outline_of_its_own():
    assert outline_of(REGIONS["frame"].area) is None
    assert outline_of(REGIONS["hourglass"].area) is None
    assert len(outline_of(petal(6, 1).area)) > 8


def rings_of(drawing):
    return [(trace.line, trace.laid_on, trace.points, trace.length) for trace in drawing.traces]


@pytest.mark.parametrize(
    "fill",
    [
        {"kind": "echo", "spacing": "1/4 in"},
        {"kind": "echo", "spacing": "1/2 in", "corners": "round", "first": "1/8 in"},
        {"kind": "frame", "spacing": "1/8 in", "inset": "1/2 in", "echoes": 2},
    ],
    ids=lambda fill: f"{fill['kind']} {fill['spacing']}",
)
def test_zones_of_one_outline_share_their_rings_and_each_has_its_own(fill):
    laid = filled(pinwheels(3), fill)
    shared = [drawing for plan in plan_quilt(laid).values() for drawing in plan.drawings]
    assert len(shared) == 24  # eight triangles: whole, cut along their side, cut at their corner
    assert len({id(d.shape.twin[0] if d.shape.twin else d.shape) for d in shared}) == 1  # uncut all are one
    assert {d.shape.whole is None for d in shared} == {True, False}
    for drawing in shared:
        own = drawn(drawing.fill, drawing.shape.uncut)
        if drawing.shape.whole is not None:
            lies_on(drawing, own)
            continue
        assert len(drawing.traces) == len(own.traces) > 0
        for (line, laid_on, points, length), (its_line, its_laid_on, its, its_length) in zip(
            rings_of(drawing), rings_of(own), strict=True
        ):
            assert (line, laid_on) == (its_line, its_laid_on)
            assert length == pytest.approx(its_length, abs=1e-6)
            away = np.hypot(*(points[:, None] - its[None]).transpose(2, 0, 1)).min(axis=1)
            assert away.max() < 1e-6
            assert np.sign(area_of(points)) == np.sign(area_of(its)) == 1  # what it encloses lies on its left
        assert drawing.stitched == pytest.approx(own.stitched, abs=1e-6)
        assert widest_gap(drawing).width == pytest.approx(widest_gap(own).width, abs=0.02)
    assert {place for d in shared for place in d.places} == set(laid.top.at)


def lies_on(drawing, whole):
    """What the quilt's edge leaves of rings lies on the rings of the whole, inside the edge."""
    lines = shapely.buffer(shapely.union_all([shapely.linestrings(line) for line in whole.polylines]), 0.02)
    assert drawing.lines
    for line in drawing.polylines:
        assert shapely.covers(lines, shapely.linestrings(line))
        assert shapely.covers(shapely.buffer(drawing.region.area, 0.02), shapely.linestrings(line))


def area_of(points):
    x, y = points.T
    return float((x * np.roll(y, -1) - y * np.roll(x, -1)).sum() / 2)


def test_a_new_spacing_is_not_taken_from_the_old_one():
    laid = filled(pinwheels(1), {"kind": "echo", "spacing": "1/4 in"})
    before = plan_quilt(laid)
    key, other = list(before)[:2]
    change = {"kind": "fill", "zone": key, "fill": {"kind": "echo", "spacing": "3/8 in"}}
    after = plan_quilt(laid.with_quilt(CHANGES["fill"].model_validate(change).apply(laid)[0]))
    assert after[other] is before[other]
    [drawing] = after[key].drawings
    assert drawing.stitched < before[key].drawings[0].stitched
    lies_on(drawing, drawn(drawing.fill, drawing.shape.uncut))
