"""What to mark of a zone so that the other lines can be placed from it, what that costs, and what is left to the eye.

Glossary: an *anchor* is a line that is marked although it could be placed from the one before, so that small
errors do not add up (F36). A line *hangs in the air* if no mark, seam or other line gives its place. Lengths are
mm; the paces are our estimates.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.affinity import affine_transform
from shapely.geometry import Polygon

from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.geom.region import Floats, Point, Region
from kenzet.core.marks.signs import Sign, sign_of
from kenzet.core.marks.stencil import StencilPlan, stencil_plan
from kenzet.core.marks.tape import TapePlan, can_be_taped, tape_plan
from kenzet.core.memo import Table
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.lay_level import MiddleLine, middle_lines
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.drift import MOST, anchor_every, error_after
from kenzet.core.ruler.line_references import BEYOND, DITCH, LEVEL, LINE, MARK, ON_LINE, SEAM
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import ALIKE_HALVES, ON_EDGE, VISIBLE
from kenzet.core.top.zone import MarkMethod

PEN_MM_S = 40.0
LAY_S = 15.0  # laying the drafting ruler for a stroke
TICK_S = 5.0
DOT_S = 4.0
SIGN_S = 6.0
_CORNER = 12.0  # degrees: less is a curve
_MOST_SIDES = 40  # of a line: one with more is traced from its sheet
_ONE_DOT = 0.05  # mm: ends nearer together than this are one dot
BY_EYE: tuple[MarkMethod, ...] = ("nothing", "half", "fill signs")
"""The methods that leave something to the eye on purpose."""


@dataclass(frozen=True, eq=False)
class Marks:
    """The marks of a drawing: ``lines`` are the numbers of marked lines, ``strokes`` what is drawn of them, polylines
    (n, 2).

    ``ticks`` counts those on the edges. ``dots`` are ends and pivots; for the lines ``dotted`` only those that
    nothing else shows, and one crest of each of the ``middles``: lines of which only the center line is marked,
    for a template. ``signs`` name a texture. ``every`` is the number of lines between anchors, 0 if there are
    none.
    """

    method: MarkMethod
    drawing: Drawing
    lines: tuple[int, ...] = ()
    ticks: int = 0
    dots: tuple[Point, ...] = ()
    signs: tuple[Sign, ...] = ()
    every: int = 0
    tape: TapePlan | None = None
    stencil: StencilPlan | None = None
    dotted: tuple[int, ...] = ()
    middles: Mapping[int, Sequence[MiddleLine]] = field(default_factory=dict)

    @cached_property
    def strokes(self) -> tuple[Floats, ...]:
        """What is drawn of the lines; a line with straight sides is drawn side by side."""
        if self.method == "half":
            lines = list(_in_half(self.drawing))
        else:
            lines = [line for k in self.lines for line in self.drawn_of(k)]
        return tuple(stroke for line in lines for stroke in sides_of(line) or [line])

    def drawn_of(self, line: int) -> list[Floats]:
        """What is drawn of a line: all of it, or its center line."""
        return [one.ends for one in self.middles.get(line, ())] or [self.drawing.polylines[line]]

    @property
    def drawn(self) -> int:
        """The number of strokes."""
        return len(self.strokes)

    def at_ends(self, line: int) -> bool:
        """Whether dots or ticks at its ends give the place of a line."""
        return self.method == "dots" or bool(self.ticks and placed_by_ticks(self.drawing)[line])

    def place(self, line: int) -> bool:
        """Whether marks of any kind give the place of a line."""
        by_tools = self.stencil is not None or (self.tape is not None and line in self.tape.lines)
        return line in self.lines or by_tools or self.at_ends(line)

    @property
    def pen(self) -> float:
        """The total length of strokes, mm."""
        if self.method == "half" or self.middles:
            return float(sum(np.hypot(*np.diff(stroke, axis=0).T).sum() for stroke in self.strokes))
        return float(self.drawing.lengths[list(self.lines)].sum())

    @property
    def count(self) -> int:
        """The number of marks of all kinds."""
        return self.drawn + self.ticks + len(self.dots) + len(self.signs)

    @property
    def laid_down(self) -> int:
        """How many times a strip of tape or the stencil is put down."""
        return (len(self.tape.placements) if self.tape else 0) + (
            self.stencil.placements if self.stencil else 0
        )

    @property
    def seconds(self) -> float:
        """The time to make the marks."""
        drawn = self.drawn * LAY_S + self.pen / PEN_MM_S
        drawn += sum(plan.seconds for plan in (self.tape, self.stencil) if plan)
        return drawn + self.ticks * TICK_S + len(self.dots) * DOT_S + len(self.signs) * SIGN_S


def method_of(plan: ZonePlan, drawing: Drawing) -> MarkMethod:
    """The chosen method, or the one with the fewest marks that places all lines within the tolerance."""
    best, *others = methods(plan, drawing)
    return plan.zone.marking if plan.zone.marking in others else best


def methods(plan: ZonePlan, drawing: Drawing) -> tuple[MarkMethod, ...]:
    """The methods that make sense for a drawing, the recommended one first."""
    if drawing.hints:
        return ("fill signs", "nothing")
    if not drawing.fill.sewn:  # a base that is only drawn
        powder: tuple[MarkMethod, ...] = ("stencil",) if stencil_plan(drawing, plan.kit.tools) else ()
        return ("all lines", *powder, "ticks", "dots")
    references = plan.references(drawing)
    runs = int(references.runs.max(initial=0))
    anchored = runs > anchors_every(plan, drawing) and not drawing.fill.freehand_rows
    first: list[MarkMethod] = ["anchors"] if anchored else []
    marked = len(references.marked) + len(references.dots)
    whole = len(references.marked) == drawing.lines and plan.own_template(drawing) is None
    open_: list[MarkMethod] = ["nothing" if not marked else "all lines" if whole else "first lines"]
    tools = plan.kit.tools
    half: tuple[MarkMethod, ...] = ("half",) if half_of(drawing.region) is not None else ()
    some: tuple[MarkMethod, ...] = ("ticks", "dots", "all lines", *half, "nothing")
    by_tool: list[MarkMethod] = ["tape"] if drawing.layer != BY_HAND and can_be_taped(drawing, tools) else []
    by_tool += ["stencil"] if stencil_plan(drawing, tools) else []
    return tuple(dict.fromkeys([*first, *open_, *by_tool, *some]))


def anchors_every(plan: ZonePlan, drawing: Drawing) -> int:
    """F36: the number of lines after which one has to be marked; 0 if even one exceeds the tolerance."""
    kit = plan.kit
    gaps = {gap for family in drawing.straight for gap in family.gaps}
    gaps |= {trace.laid_on[1] for trace in drawing.traces if trace.laid_on and trace.laid_on[0] != "step"}
    outs = [float(best_offset_sum(kit, gap).out) for gap in gaps]
    worst = max(outs, key=abs, default=0.0)
    return anchor_every(worst, float(kit.spread.mm), float(kit.tolerance.mm))


MARKS = Table[tuple[ZonePlan, int, MarkMethod], Marks]("marks by plan, drawing and method", 5_000)


def marks_of(plan: ZonePlan, drawing: Drawing, method: MarkMethod | None = None) -> Marks:
    """The marks of ``drawing`` by ``method``, or by the chosen method. Lines that would hang in the air are marked
    too, unless they were chosen to be placed by eye."""
    chosen = method or method_of(plan, drawing)
    key = (plan, plan.number_of(drawing), chosen)
    return plan.memo.once(MARKS, key, lambda: _marks(plan, drawing, chosen))


def _marks(plan: ZonePlan, drawing: Drawing, chosen: MarkMethod) -> Marks:
    if chosen == "fill signs":
        return Marks(
            chosen, drawing, signs=tuple(sign_of(piece, drawing.fill) for piece in drawing.region.pieces)
        )
    if chosen == "half":
        return Marks(chosen, drawing, tuple(range(drawing.lines)))
    lines, every = _drawn(plan, drawing, chosen)
    lines = [*lines, *(line for line in drawn_too(plan, drawing, chosen) if line not in lines)]
    ticks = sum(len(edge.ticks) for edge in plan.ticked(drawing)) if chosen == "ticks" else 0
    dots = tuple(_dots(drawing)) if chosen == "dots" else ()
    tape = tape_plan(drawing, plan.kit.tools) if chosen == "tape" else None
    stencil = stencil_plan(drawing, plan.kit.tools) if chosen == "stencil" else None
    found = Marks(chosen, drawing, tuple(lines), ticks, dots, (), every, tape, stencil)
    if chosen == "nothing":
        return found
    own = plan.references(drawing).dots if chosen not in ("dots", "all lines", "stencil") else {}
    found = replace(found, dotted=tuple(line for line in own if line not in lines))
    lines = sorted({*lines, *hanging(plan, drawing, found)})
    dotted = tuple(line for line in found.dotted if line not in lines)
    middles = _middles(plan, drawing, lines) if chosen in ("first lines", "anchors") else {}
    some = [dot for line in dotted for dot in own[line]]
    some += [one.crest for sides in middles.values() for one in sides[:1]]
    return replace(
        found,
        lines=tuple(lines),
        dotted=dotted,
        middles=middles,
        dots=(*dots, *_each_once(np.array(some).reshape(-1, 2))),
    )


def _middles(plan: ZonePlan, drawing: Drawing, lines: Iterable[int]) -> dict[int, Sequence[MiddleLine]]:
    """For rows sewn with a template: the center lines that are marked instead."""
    template = plan.own_template(drawing)
    if template is None:
        return {}
    found = {line: middle_lines(drawing, line, template) for line in lines}
    return {line: sides for line, sides in found.items() if sides}


def _drawn(plan: ZonePlan, drawing: Drawing, method: MarkMethod) -> tuple[list[int], int]:
    """The lines to mark, and the number of lines between anchors."""
    if method in ("nothing", "ticks", "dots", "tape", "stencil"):
        return [], 0
    if method == "all lines":
        return list(range(drawing.lines)), 0
    references = plan.references(drawing)
    if method == "first lines":
        return references.marked, 0
    every = anchors_every(plan, drawing)
    if every == 0:
        return list(range(drawing.lines)), 1
    runs = references.runs
    anchored = (references.kinds == MARK) | ((runs > 0) & (runs % every == 0))
    return np.flatnonzero(anchored).tolist(), every if every < MOST else 0


def drawn_too(plan: ZonePlan, drawing: Drawing, method: MarkMethod) -> list[int]:
    """Lines that the quilter asked to mark in addition; none with a method that marks all lines."""
    if not plan.zone.drawn_too or method not in ("nothing", "first lines", "anchors") or not drawing.lines:
        return []
    part = drawing.shape.part
    spots = shapely.points([(x * part.width, y * part.height) for x, y in plan.zone.drawn_too])
    tree = shapely.STRtree([shapely.linestrings(line) for line in drawing.polylines])
    which = tree.query(spots, predicate="dwithin", distance=VISIBLE)[1]
    found: list[int] = np.unique(which).tolist()
    return found


def spot_on(drawing: Drawing, line: int) -> tuple[float, float]:
    """A point on a line but on no other, by which ``drawn_too`` identifies it, as shares of the part's width and
    height."""
    own, part = drawing.polylines[line], drawing.shape.part
    others = shapely.union_all(
        [shapely.linestrings(one) for k, one in enumerate(drawing.polylines) if k != line]
    )
    tried = shapely.line_interpolate_point(
        shapely.linestrings(own), np.linspace(0.03, 0.97, 33), normalized=True
    )
    best = tried[int(np.argmax(shapely.distance(tried, others)))] if not others.is_empty else tried[16]
    return round(best.x / part.width, 6), round(best.y / part.height, 6)


def _dots(drawing: Drawing) -> Iterable[Point]:
    """Ends and pivots of all lines, each point once."""
    corners = [_pivots(line) for line in drawing.polylines]
    yield from _each_once(np.concatenate(corners) if corners else np.zeros((0, 2)))


def _each_once(points: Floats) -> Iterable[Point]:
    _, first = np.unique(np.round(points / _ONE_DOT), axis=0, return_index=True)
    yield from map(tuple, points[np.sort(first)].tolist())


def _pivots(line: Floats) -> Floats:
    """The ends of a polyline, and the points where it turns by more than a drawn arc does."""
    if len(line) < 3:
        return line
    way = np.diff(line, axis=0)
    turn = np.abs(np.diff(np.unwrap(np.arctan2(way[:, 1], way[:, 0]))))
    sharp = np.flatnonzero(turn > np.radians(12)) + 1
    closed = bool(np.allclose(line[0], line[-1]))
    return line[[*([] if closed and len(sharp) else [0]), *sharp.tolist(), *([] if closed else [-1])]]


def sides_of(line: Floats) -> list[Floats]:
    """The straight sides of a line as separate strokes, (2, 2); none if the line is curved or turns too often."""
    if len(line) == 2:
        return [line]
    way = np.diff(line, axis=0)
    turn = np.abs(np.diff(np.unwrap(np.arctan2(way[:, 1], way[:, 0]))))
    if len(line) - 1 > _MOST_SIDES or not (np.degrees(turn) > _CORNER).all():
        return []
    return [line[k : k + 2] for k in range(len(line) - 1)]


def half_of(region: Region) -> Polygon | None:
    """A half-plane, cut to the region's extent, on one side of an axis of symmetry of the region: upright, level,
    then the diagonals. None if there is no such axis."""
    area = region.area
    left, low, right, high = region.bounds
    x, y = (left + right) / 2, (low + high) / 2
    far = 2 * math.hypot(right - left, high - low)
    for degrees in (90.0, 0.0, 45.0, 135.0):
        cos, sin = math.cos(math.radians(2 * degrees)), math.sin(math.radians(2 * degrees))
        mirror = [cos, sin, sin, -cos, x - cos * x - sin * y, y - sin * x + cos * y]
        if affine_transform(area, mirror).symmetric_difference(area).area > ALIKE_HALVES * area.area:
            continue
        ux, uy = math.cos(math.radians(degrees)) * far, math.sin(math.radians(degrees)) * far
        return Polygon(
            [(x - ux, y - uy), (x + ux, y + uy), (x + ux - uy, y + uy + ux), (x - ux - uy, y - uy + ux)]
        )
    return None


def _in_half(drawing: Drawing) -> Iterable[Floats]:
    """The parts of lines in one half of the zone."""
    half = half_of(drawing.region)
    if half is None:
        return
    for line in drawing.polylines:
        cut = shapely.intersection(shapely.linestrings(line), half)
        for part in getattr(cut, "geoms", [cut]):
            if part.geom_type == "LineString" and part.length > 0:
                yield np.asarray(part.coords)


def by_eye(plan: ZonePlan, drawing: Drawing, marks: Marks) -> list[int]:
    """The lines whose place is given by no seam, mark or other line."""
    given = given_by_marks(plan, drawing, marks)
    references = plan.references(drawing)
    own = references.dots.keys() - {*marks.dotted}
    return [line for line in sorted({*references.marked, *own}) if not given[line]]


def given_by_marks(plan: ZonePlan, drawing: Drawing, marks: Marks) -> NDArray[np.bool_]:
    """Whether each line has its place before anything is sewn, (lines,): from its own marks or from a seam."""
    given = np.zeros(drawing.lines, dtype=bool)
    if not drawing.fill.sewn or drawing.hints:
        return ~given
    references = plan.references(drawing)
    given |= np.isin(references.kinds, (SEAM, DITCH, BEYOND))
    given[
        [line for line, sides in references.sides.items() if any(one.line is not None for one in sides)]
    ] = False
    undotted = {*references.dots} - {*marks.dotted}
    given[references.kinds == LEVEL] = True
    given[[line for line, needs in references.points.items() if not needs]] = True
    given[list(undotted)] = False
    given[list(marks.lines)] = True
    if drawing.layer == BY_HAND:
        given |= references.kinds == LINE  # on a line of the zone's fill
    if marks.method == "dots" or marks.stencil:
        given[:] = True
    if marks.tape:
        given[marks.tape.lines] = True
        given[: len(drawing.stretches)] |= marks.tape.halving
    if marks.ticks:
        given |= placed_by_ticks(drawing)
    return given


def hanging(plan: ZonePlan, drawing: Drawing, marks: Marks) -> list[int]:
    """The lines that hang in the air, found by following references from the marks and the seams."""
    given = given_by_marks(plan, drawing, marks)
    if given.all():
        return []
    references = plan.references(drawing)
    undotted = {*references.dots} - {*marks.dotted}
    follows = np.isin(references.kinds, ON_LINE) & (references.before >= 0)
    before = np.where(follows, references.before, np.arange(drawing.lines))
    for _ in range(drawing.lines):
        reached = given | given[before]
        for line, sides in references.sides.items():
            on = [side.line for side in sides if side.line is not None]
            reached[line] = given[line] or bool(on and given[on].all())
        for line, needs in references.points.items():
            reached[line] = given[line] or (line not in undotted and bool(given[list(needs)].all()))
        if (reached == given).all():
            break
        given = reached
    found: list[int] = np.flatnonzero(~given).tolist()
    return found


def placed_by_ticks(drawing: Drawing) -> NDArray[np.bool_]:
    """Whether each line is straight with a tick or a corner at both ends, (lines,)."""
    found = np.zeros(drawing.lines, dtype=bool)
    lines = drawing.polylines
    straight = [k for k, line in enumerate(lines) if len(line) == 2]
    if straight and drawing.region.edges:
        ends = shapely.points(np.concatenate([lines[k] for k in straight]))
        edges = shapely.STRtree(shapely.linestrings(drawing.region.edge_ends))
        on, _ = edges.query(ends, predicate="dwithin", distance=ON_EDGE)
        touched = np.zeros(len(ends), dtype=bool)
        touched[on] = True
        found[straight] = touched.reshape(-1, 2).all(axis=1)
    return found


def left_to_the_eye(plan: ZonePlan, drawing: Drawing, marks: Marks) -> float:
    """The error of the last of the lines placed one from another, mm (F36); 0 if every line is marked."""
    runs = plan.references(drawing).runs
    longest = int(runs.max(initial=0)) if len(runs) else 0
    if marks.method in ("all lines", "dots", "ticks", "tape", "stencil") or longest == 0:
        return 0.0
    many = min(longest, marks.every - 1) if marks.every else longest
    worst = max(
        (float(best_offset_sum(plan.kit, gap).out) for f in drawing.straight for gap in f.gaps),
        key=abs,
        default=0.0,
    )
    return error_after(many, worst, float(plan.kit.spread.mm)) if many else 0.0
