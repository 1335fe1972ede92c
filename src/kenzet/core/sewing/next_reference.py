"""What a line is laid from in the order in which she sews: the line beside it that is sewn, on whichever side, or a seam."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.memo import Table
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.line_references import SHORT, Reference, References
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.sewing.way import Move, Way
from kenzet.core.top.quilt_layout import QuiltLayout

_FAR = 6  # lines over


def _further_over(
    plan: ZonePlan,
    drawing: Drawing,
    line: int,
    sewn: Collection[int],
    last: int | None,
    kind: Literal["line", "drawn"] = "line",
) -> NextReference | None:
    """On the nearest of the lines ``sewn`` of the same family and piece that lies beside it and that one of her rulers reaches."""
    many = len(drawing.stretches)
    others = np.array([other for other in sewn if other < many], dtype=np.int64)
    if line >= many or not len(others) or plan.kit.sew_with == "walking foot":
        return None
    jobs, lines, ends = drawing.stretches.job, drawing.stretches.line, drawing.stretches.ends
    others = others[jobs[others] == jobs[line]]
    family = drawing.straight[int(jobs[line]) % len(drawing.straight)]
    along = ends.reshape(-1, 2, 2) @ np.array(family.direction)
    shared = np.minimum(along[others].max(axis=1), along[line].max()) - np.maximum(
        along[others].min(axis=1), along[line].min()
    )
    long = np.minimum(np.ptp(along[others], axis=1), np.ptp(along[line]))
    others = others[shared >= 0.5 * np.minimum(SHORT, long)]
    apart = np.abs(lines[others] - lines[line])
    for k in np.argsort(apart, kind="stable").tolist():
        over = int(apart[k])
        if not 0 < over <= _FAR:
            continue
        first = int(min(lines[others[k]], lines[line]))
        distance = sum((family.gaps[(first + n) % len(family.gaps)] for n in range(over)), Fraction(0))
        if best_offset_sum(plan.kit, distance, drawing.length_of(line)).etched is not None:
            way = 1 if lines[line] > lines[others[k]] else -1
            return NextReference("last" if int(others[k]) == last else kind, distance, over, way)
    return None


_Beside = dict[int, list[tuple[int, Fraction, int]]]
BESIDE = Table[tuple[ZonePlan, int], _Beside]("lines beside lines, by plan and drawing", 500)
MIRRORED = Table[tuple[ZonePlan, int], References]("references from the other side, by plan and drawing", 500)


def _beside(plan: ZonePlan, drawing: Drawing) -> dict[int, list[tuple[int, Fraction, int]]]:
    """The lines on either side of every line from which it can be laid, with their distance and the way from there to it."""
    found: dict[int, list[tuple[int, Fraction, int]]] = {}
    known = plan.memo.get(BESIDE, (plan, plan.number_of(drawing)))
    if known is not None:
        return known
    for line, reference in plan.references(drawing).items():
        if reference.line is not None:
            found.setdefault(line, []).append((reference.line, reference.distance, reference.way))
            found.setdefault(reference.line, []).append((line, reference.distance, -reference.way))
    return plan.memo.put(BESIDE, (plan, plan.number_of(drawing)), found)


def _from_other_side(plan: ZonePlan, drawing: Drawing, line: int) -> Reference:
    """What it would be laid from if lines progressed the other way."""

    def mirrored() -> References:
        machine = plan.kit.machine
        other = machine.model_copy(update={"throat": "left" if machine.throat == "right" else "right"})
        return replace(plan, kit=plan.kit.model_copy(update={"machine": other})).references(drawing)

    return plan.memo.once(MIRRORED, (plan, plan.number_of(drawing)), mirrored)[line]


def drawn_besides(laid: QuiltLayout, way: Way) -> int:
    """How many lines of a way come before anything is sewn or drawn that they could be laid on: they are drawn too."""
    return sum(on.kind == "nothing" for _, _, _, on in references_along(laid, way))


def ruler_at(plan: ZonePlan, drawing: Drawing, line: int, on: NextReference) -> Floats:
    """The corners of the straight ruler where it lies for a straight line, (4, 2) in the part; empty where none does."""
    if drawing.trace(line) is not None or plan.kit.sew_with == "walking foot":
        return np.zeros((0, 2))
    pose, _ = plan.pose_from(drawing, line, on.distance, on.way)
    return np.array(pose.body).reshape(-1, 2)


@dataclass(frozen=True, slots=True)
class NextReference:
    """``kind`` is "last" (the line just sewn), "line" (one sewn earlier, the ``over``-th from it), "drawn" (the same, only drawn as
    yet), "seam", "mark" (it is drawn itself) or "nothing": nothing beside it is sewn or drawn. ``distance`` exact mm from it. The line progresses
    ``way`` +1 along its family's normal or -1 against it: what it is laid from, and the ruler, lie behind.
    """

    kind: Literal["last", "line", "drawn", "seam", "mark", "nothing"]
    distance: Fraction
    over: int = 1
    way: int = 1


def next_reference(
    plan: ZonePlan, drawing: Drawing, line: int, sewn: Collection[int], last: int | None
) -> NextReference:
    """For ``line``, with the lines ``sewn`` there, ``last`` the last of them.

    The plan lays lines from one side to the other; a route may come from the other side, where the same distance holds, or
    leave lines out for a while, where a line further over is as good as long as a ruler has an etched line for it.
    """
    own = plan.references(drawing)[line]
    beside = [(other, far, way) for other, far, way in _beside(plan, drawing).get(line, ()) if other in sewn]
    for other, far, way in beside:
        if other == last:
            return NextReference("last", far, way=way)
    if beside:
        return NextReference("line", beside[0][1], way=beside[0][2])
    if own.kind == "line" and own.line is None:
        return NextReference("line", own.distance, way=own.way)
    if own.kind == "mark":
        return NextReference("mark", plan.kit.reach, way=own.way)
    seam = own if own.kind == "seam" else _from_other_side(plan, drawing, line)
    if seam.kind == "seam":
        return NextReference("seam", seam.distance, way=seam.way)
    drawn = set(plan.references(drawing).marked) - set(sewn)
    found = _further_over(plan, drawing, line, sewn, last)
    found = found or _further_over(plan, drawing, line, drawn, None, "drawn")
    return found or NextReference("nothing", plan.kit.reach, way=own.way)


def references_along(laid: QuiltLayout, way: Way) -> Iterable[tuple[Move, ZonePlan, Drawing, NextReference]]:
    """What every line of a way is laid from the first time that it comes, where all before it is sewn; with its plan and drawing."""
    sewn: dict[int, set[int]] = {}
    last = (-1, -1)
    for move in way.sewn:
        course = way.route.unit.courses[move.course]
        key, drawing = way.route.unit.drawings[course.zone]
        mine = sewn.setdefault(course.zone, set())
        if course.number in mine or course.freehand:
            continue
        plan = plan_zone(laid, key)
        if plan is not None:
            before = last[1] if last[0] == course.zone else None
            yield move, plan, drawing, next_reference(plan, drawing, course.number, mine, before)
        mine.add(course.number)
        last = (course.zone, course.number)
