"""The plan of the demo quilt and of quilts that are hard on it."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction

import numpy as np
import pytest

from kenzet.core.advice.suited_fills import suited
from kenzet.core.changes.filling import SetFill, SetMarking
from kenzet.core.changes.quilt import Rename, SetKit
from kenzet.core.errors import BadValue, TooMany, Unknown
from kenzet.core.fills import FILLS
from kenzet.core.geom.affine import invert, place_all
from kenzet.core.kit.things.machine import RulerFoot
from kenzet.core.marks.marking import marks_of
from kenzet.core.numbers.measure import Length
from kenzet.core.plan.planner import check_quilt, plan_quilt, plan_zone
from kenzet.core.ruler.line_references import KINDS
from kenzet.core.top.document import read, with_zone, write
from kenzet.core.top.layout import lay_out
from kenzet.core.top.quilt_layout import QuiltLayout
from tests.jobs import block, whole
from tests.tops import after

IN = 25.4


NOT_EVERYWHERE = {
    "halved triangle",
    "pinned",
    "inset",
    "wave border",
    "sunburst",
}  # want a shape of their own


def tried(laid, zone, kind, **values):
    fill = FILLS[kind].model_validate(values)
    return plan_zone(laid.with_quilt(with_zone(laid.quilt, zone, fill=fill)), zone)


def in_quilt(plan):
    """Every stretch at every place in the quilt's coordinates."""
    found = []
    for drawing in plan.drawings:
        for place in drawing.places:
            ends = drawing.stretches.ends.reshape(-1, 2)
            found.append(place_all(drawing.shape.part.places[place], ends).reshape(-1, 2, 2))
    return np.concatenate(found)


def test_the_demo_top_is_52_by_66_with_twelve_stars(laid):
    assert (laid.top.width / IN, laid.top.height / IN) == pytest.approx((52, 66))
    star = laid.top.parts["star"]
    assert len(star.places) == 12
    areas = sum(
        p.area.area * len(part.places) for part in laid.top.parts.values() for p in part.patches.values()
    )
    assert areas == pytest.approx(laid.top.width * laid.top.height)
    [sashing] = laid.shapes(laid.zone("sashing"))
    assert [len(p.interiors) for p in sashing.region.area.geoms] == [12]


def test_congruent_blocks_are_planned_once(laid):
    plan = plan_zone(laid, "star-background")
    assert len(plan.drawings) == 1
    assert plan.lines_in_quilt == 12 * plan.drawings[0].lines


def test_lines_from_the_quilt_centre_flow_across_seams(laid):
    plan = tried(laid, "star-background", "lines", spacing="1 5/8 in", angle=0, origin="quilt centre")
    assert 1 < len(plan.drawings) <= 4
    assert sorted(p for d in plan.drawings for p in d.places) == sorted(laid.top.parts["star"].places)
    heights = in_quilt(plan)[:, 0, 1]
    steps = (heights - laid.top.height / 2) / float(plan.zone.fill.spacing.mm)
    assert np.allclose(steps, np.rint(steps), atol=1e-6)


def test_a_turned_and_mirrored_block_lies_on_its_place(demo):
    data = write(demo)
    for k, cell in enumerate(data["layout"]["rows"][0]):
        cell.update(turns=k + 1, mirrored=k == 1)
    top = lay_out(read(data))
    part = top.parts["star"]
    for placing in part.places.values():
        a, b, c, d, e, f = placing
        assert abs(a * d - b * c) == 1
        centre = (a * part.centre[0] + c * part.centre[1] + e, b * part.centre[0] + d * part.centre[1] + f)
        steps = [(v / IN - 12) / 14 for v in centre]
        assert steps == pytest.approx([round(v) for v in steps])
        assert invert(placing, centre) == pytest.approx(part.centre)


@pytest.mark.parametrize("zone", ["star-background", "star-points", "star-centre", "sashing"])
@pytest.mark.parametrize("kind", FILLS)
def test_every_line_can_be_laid_and_marks_say_which_must_be_drawn(laid, zone, kind):
    found = suited(laid, zone, kind)
    if found is None:
        assert kind in NOT_EVERYWHERE
        return
    plan = found.plan
    drawing = plan.drawings[0]
    refs = plan.references(drawing)
    assert sorted(refs) == list(range(drawing.lines))
    drawn = list(marks_of(plan, drawing, "first lines").lines)
    assert drawn == sorted(line for line, ref in refs.items() if ref.kind == "mark")
    assert list(marks_of(plan, drawing, "all lines").lines) == list(range(drawing.lines))
    if drawing.lines:
        pose, reference, _ = plan.pose(drawing, plan.telling_line(drawing))
        assert reference.kind in KINDS
        assert np.isfinite(np.array(pose.body)).all()


def test_the_ruler_of_a_ring_lies_on_the_seam_side(laid):
    plan = tried(laid, "star-centre", "echo", spacing="3/4 in")
    drawing = plan.drawings[0]
    for side in range(4):
        pose, reference, total = plan.pose(drawing, 0, side)
        assert reference.kind == "seam"
        assert total.etched == Length.parse("1/2").mm
        middle = np.array(pose.body).mean(axis=0)
        assert np.hypot(*(middle - 6 * IN)) > 3 * IN - 0.25 * IN


def test_ticks_stand_where_lines_end(laid):
    plan = tried(laid, "star-background", "lines", spacing="3/4 in", angle=90, origin="edge")
    edges = {edge.name: edge for edge in plan.ticked(plan.drawings[0])}
    assert [str(t.drawn / Fraction(127, 5)) for t in edges["top edge"].ticks][:4] == [
        "3/4",
        "3/2",
        "9/4",
        "15/4",
    ]
    assert "left edge" not in edges
    assert all(t.error == 0 for t in edges["top edge"].ticks)


def test_a105_a_foot_larger_than_half_the_zone_is_refused_by_name(laid):
    kit = laid.quilt.kit.changed(foot=RulerFoot(offset=Length.parse("0.9 in")))
    other = laid.with_quilt(laid.quilt.model_copy(update={"kit": kit}))
    with pytest.raises(BadValue, match="Star points") as error:
        check_quilt(other)
    assert error.value.field == "kit.foot.offset"
    with pytest.raises(BadValue):
        plan_zone(other, "star-points")
    assert plan_zone(other, "star-centre") is not None


def test_nothing_fits_and_nothing_breaks(laid):
    assert tried(laid, "star-points", "echo", spacing="1 in").lines_in_quilt == 0
    plan = tried(laid, "sashing", "lines", spacing="100 in", angle=0, origin="centre gap")
    assert plan.lines_in_quilt == 0
    assert plan.widest_gap(plan.drawings[0]).width / IN == pytest.approx(2.828, abs=0.01)
    with pytest.raises(BadValue, match="No line"):
        plan.telling_line(plan.drawings[0])


def test_a_flood_is_refused_before_it_is_drawn(demo):
    data = write(demo)
    data["layout"]["rows"] = [[{"block": "star"}] * 40] * 40
    data["zones"]["star-background"]["fill"] = {"kind": "grid", "spacing": "1/16 in"}
    laid = QuiltLayout(read(data))
    with pytest.raises(TooMany, match=r"lines in the quilt.*spacing of about .* or more") as error:
        plan_zone(laid, "star-background")
    assert error.value.field == "fill.spacing"


def test_an_unknown_zone_is_said(laid):
    with pytest.raises(Unknown, match="no zone called nowhere"):
        plan_zone(laid, "nowhere")


def test_changes_give_new_documents_and_leave_the_old_alone(demo):
    before, laid = write(demo), QuiltLayout(demo)
    fill = FILLS["lines"](spacing="1 in")
    changed, what = SetFill(zone="border", fill=fill).apply(laid)
    assert (changed.zones["border"].fill, what) == (fill, "Border: Lines 1 in")
    assert SetFill(zone="sashing", fill=None).apply(laid)[1] == "Sashing: unquilted"
    marked, _ = SetMarking(zone="border", marking="all lines").apply(laid)
    assert marked.zones["border"].marking == "all lines"
    assert SetKit(kit=demo.kit).apply(laid)[0] == demo
    assert Rename(name="Other").apply(laid)[0].name == "Other"
    with pytest.raises(Unknown):
        SetMarking(zone="nowhere", marking="all lines").apply(laid)
    assert write(demo) == before


def test_the_tally_adds_up(laid):
    plans = plan_quilt(laid)
    assert set(plans) == {"star-background", "star-points", "star-centre", "sashing"}
    for plan in plans.values():
        each = [d.length_of(k) for d in plan.drawings for k in range(d.lines)]
        assert sum(each) * len(plan.drawings[0].places) == pytest.approx(plan.stitched_in_quilt)


def test_what_two_ask_for_at_once_is_planned_once(laid):
    """A route holds drawings of the plan: another plan of the same zone would not know them."""
    fresh = QuiltLayout(laid.quilt)
    with ThreadPoolExecutor(8) as asking:
        plans = [one.result() for one in [asking.submit(plan_zone, fresh, "star-points") for _ in range(16)]]
    assert len({id(plan) for plan in plans}) == 1


def test_tries_crowd_out_nothing_that_is_kept_and_a_plan_made_anew_knows_the_same_lines(laid):
    fresh = QuiltLayout(laid.quilt)
    plan = plan_zone(fresh, "star-points")
    for spacing in ("3/8 in", "1/2 in", "5/8 in", "3/4 in"):
        fill = FILLS["echo"].model_validate({"spacing": spacing})
        plan_zone(fresh.tried(with_zone(fresh.quilt, "star-points", fill=fill)), "star-points")
    assert plan_zone(fresh, "star-points") is plan
    again = plan_zone(QuiltLayout(laid.quilt), "star-points")
    assert again is not plan and again.number_of(plan.drawings[0]) == 0
    assert len(again.references(plan.drawings[0])) == plan.drawings[0].lines
    with pytest.raises(Unknown):
        plan_zone(fresh, "sashing").number_of(plan.drawings[0])


@pytest.mark.parametrize(
    ("step", "unit", "grain"),
    [
        ("1/8 in", "mm", "1/2 mm"),
        ("1/8 in", "in", "1/8 in"),
        ("1 mm", "mm", "1 mm"),
        ("2 mm", "in", "1/16 in"),
    ],
)
def test_ticks_are_told_in_what_a_tape_measure_of_that_unit_has(step, unit, grain):
    laid = whole(block("Plain", "170 mm"), {"kind": "lines", "spacing": "19.3 mm", "angle": 30})
    laid = after(
        laid, {"kind": "kit", "kit": {**laid.quilt.kit.model_dump(mode="json"), "marking_step": step}}
    )
    plan = next(iter(plan_quilt(laid).values()))
    figures = [tick.drawn for edge in plan.ticked(plan.drawings[0], unit) for tick in edge.ticks]
    assert figures
    assert all((figure / Length.parse(grain).mm).denominator == 1 for figure in figures)
