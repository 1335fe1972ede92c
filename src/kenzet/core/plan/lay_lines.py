"""What every line of a drawing is placed from: straight families in turn, piece by piece, then traces.

A line without a reference beside it can be placed across a line of an earlier family or, if it has corners, side
by side: each straight side from what runs along it. The remaining lines are marked.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from fractions import Fraction

import numpy as np
import shapely

from kenzet.core.fills.base import Paths
from kenzet.core.fills.manual_lines import BY_HAND
from kenzet.core.geom.region import Floats, Region
from kenzet.core.kit.kit import Kit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.lay_beyond import ZoneBefore, lay_beyond
from kenzet.core.plan.lay_level import Level, Template, lay_level, levels
from kenzet.core.plan.lay_points import lay_points
from kenzet.core.ruler.line_references import (
    DITCH,
    KINDS,
    LINE,
    MARK,
    SEAM,
    STEP,
    Bundle,
    Reference,
    References,
    lay_across,
    lay_family,
    may_stray,
)
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import EQUAL, SAME_ANGLE, STOP_ERROR, VISIBLE

_MOST_SIDES = 12  # of a line: beyond, it is drawn, or a template sews it
_MOST_LINES = 400  # that turn and are laid side by side in one drawing


def lay_lines(
    kit: Kit,
    drawing: Drawing,
    second_first: bool = False,
    stepping: bool = False,
    template: Template | None = None,
    base: Sequence[Drawing] = (),
    before: Sequence[ZoneBefore] = (),
) -> References:
    """What every line of ``drawing`` is placed from, by number, in sewing order.

    With ``second_first`` the second of two sets comes first, and rings begin with the innermost. With
    ``stepping``, rows are stepped from each other, because a template or a curved edge sews them; with a
    ``template``, rows can also be placed by their middle line. ``base`` are drawings below this one that are only
    marked, ``before`` the zones sewn before it.
    """
    found = References.empty(drawing.lines)
    ends, families = drawing.stretches.ends, drawing.straight
    pieces, which = np.divmod(drawing.stretches.job, max(len(families), 1))
    seams = np.array(drawing.shape.seams).reshape(-1, 2, 2)
    cloth = uncut_pieces(drawing)
    order = []
    turns = list(range(len(families)))[:: -1 if second_first and drawing.has_sets else 1]
    for turn, number in enumerate(turns):
        family = families[number]
        numbers = np.flatnonzero(which == number)
        if not len(numbers):
            continue
        (ux, uy), (x0, y0, x1, y1) = family.direction, ends[numbers].T
        bundle = Bundle(
            numbers, pieces[numbers], drawing.stretches.line[numbers], x0 * ux + y0 * uy, x1 * ux + y1 * uy
        )
        order.append(lay_family(cloth, family, bundle, kit, found, seams))
        open_ = numbers[found.kinds[numbers] == MARK]
        for piece in np.unique(pieces[open_]).tolist():
            for earlier in turns[:turn]:
                mine = open_[(pieces[open_] == piece) & (found.kinds[open_] == MARK)]
                sewn = np.flatnonzero((pieces == piece) & (which == earlier))
                lay_across(family, mine, ends, sewn, families[earlier], kit, found)
    straight = np.concatenate(order) if order else np.arange(0)
    found.order[: len(straight)] = straight
    level = {} if template is None or drawing.layer == BY_HAND else levels(drawing, template)
    inside_out = second_first and drawing.comes_in == "rings"
    _lay_traces(kit, drawing, found, stepping, level, inside_out)
    if drawing.layer != BY_HAND:
        lay_beyond(kit, drawing, before, found)
        lay_level(level, found)
        if not inside_out:
            _lay_sides(kit, drawing, seams, found)
        lay_points(kit, drawing, found, base, template)
    return found


def uncut_pieces(drawing: Drawing) -> Sequence[Region]:
    """For each piece of its region, the piece before the quilt's edge cut it: the cut is no seam to place a line
    from."""
    pieces = drawing.region.pieces
    if drawing.shape.whole is None:
        return pieces
    whole = drawing.shape.whole.pieces
    tree = shapely.STRtree([piece.area for piece in whole])
    return [whole[int(tree.nearest(piece.area.representative_point()))] for piece in pieces]


def _lay_traces(
    kit: Kit, drawing: Drawing, into: References, stepping: bool, level: Mapping[int, Level], inside_out: bool
) -> None:
    """Each trace from the ring or path beside it that comes before it (``inside_out``: from the ring inside it);
    marked if there is none."""
    before: dict[tuple[int, int], list[int]] = {}
    lines = [shapely.LineString(trace.polyline) for trace in drawing.traces]
    for k, trace in enumerate(drawing.traces):
        before.setdefault((trace.family, trace.line), []).append(k)
    onward = 1 if inside_out else -1
    for k, trace in enumerate(drawing.traces):
        inner = [drawing.traces[j].laid_on for j in before.get((trace.family, trace.line + 1), [])]
        hint = next(iter(inner), None) if inside_out else trace.laid_on
        if hint is None:
            continue
        number, (on, distance) = len(drawing.stretches) + k, hint
        if on == "step" or not best_offset_sum(kit, distance).can_be_laid:
            continue
        if on == "line" and drawing.layer != BY_HAND:
            near = float(distance) * 1.05 + 0.1
            beside = [
                j
                for j in before.get((trace.family, trace.line + onward), [])
                if lines[j].dwithin(lines[k], near)
            ]
            if not beside:
                continue
            into.before[number] = len(drawing.stretches) + beside[0]
        into.kinds[number], into.distances[number] = SEAM if on == "seam" else LINE, distance
        of = drawing.families[trace.family]
        into.ways[number] = onward if isinstance(of, Paths) and of.outward else -onward
    if stepping:
        for family in dict.fromkeys(trace.family for trace in drawing.traces):
            _lay_steps(drawing, family, lines, into, level)


def _lay_steps(
    drawing: Drawing,
    family: int,
    lines: Sequence[shapely.LineString],
    into: References,
    level: Mapping[int, Level],
) -> None:
    """Steps the rows of a family up and down from the one with the longest piece; if some are ``level`` with a
    seam, from the longest of those that is nearest to its seam."""
    rows: dict[int, list[int]] = {}
    for k, trace in enumerate(drawing.traces):
        if trace.family == family:
            rows.setdefault(trace.line, []).append(k)
    first = len(drawing.stretches)

    def suits(k: int) -> tuple[bool, float, bool, float]:
        known = level.get(first + k)
        if known is None:
            return False, round(lines[k].length, 3), False, 0.0
        return True, round(lines[k].length, 3), known.way > 0, -float(known.distance)

    base = max(rows, key=lambda row: (*max(map(suits, rows[row])), -row))
    for way in (1, -1):
        row = base + way
        while row in rows and row - way in rows:
            upper = drawing.traces[rows[max(row, row - way)][0]]
            if upper.laid_on is None or upper.laid_on[0] != "step":
                break
            step = upper.laid_on[1]
            for k in rows[row]:
                near = [
                    j for j in rows[row - way] if lines[j].dwithin(lines[k], 1.05 * float(step) + VISIBLE)
                ]
                if near and into.kinds[first + k] == MARK:
                    before = max(near, key=lambda j: lines[j].length)
                    into.kinds[first + k], into.distances[first + k] = STEP, step
                    into.before[first + k], into.ways[first + k] = first + before, way
            row += way


def _lay_sides(kit: Kit, drawing: Drawing, seams: Floats, into: References) -> None:
    """Lines still to be marked that have only straight sides are placed side by side, each side from a seam or an
    earlier line along it. If one side has no reference, the line is marked."""
    first = len(drawing.stretches)
    open_ = [
        k
        for k, trace in enumerate(drawing.traces)
        if into.kinds[first + k] == MARK and trace.path.straight and len(trace.polyline) - 1 <= _MOST_SIDES
    ]
    if not open_ or len(open_) > _MOST_LINES or kit.sew_with == "walking foot":
        return
    known = _Known(drawing, seams)
    for k in open_:
        line = drawing.traces[k].polyline
        sides = [known.beside(kit, line[n : n + 2], first + k) for n in range(len(line) - 1)]
        found = [side for side in sides if side is not None]
        if not found or len(found) < len(sides):
            continue
        number, (kind, distance, on) = first + k, found[0]
        into.kinds[number], into.distances[number], into.before[number] = kind, distance, on
        if len(found) > 1:
            into.sides[number] = tuple(
                Reference(KINDS[kind], distance, 1, None if on < 0 else on) for kind, distance, on in found
            )


class _Known:
    """The straight pieces of seams and lines of a drawing: ``ends`` (n, 2, 2), and the ``lines`` they belong to,
    -1 for seams."""

    def __init__(self, drawing: Drawing, seams: Floats) -> None:
        edges = [piece.edge_ends for piece in drawing.shape.uncut.pieces]
        some = [*edges, seams, drawing.stretches.ends.reshape(-1, 2, 2)]
        lines = [np.full(sum(map(len, some[:-1])), -1), np.arange(len(drawing.stretches))]
        for k, trace in enumerate(drawing.traces, len(drawing.stretches)):
            if trace.path.straight:
                line = trace.polyline
                some.append(np.stack([line[:-1], line[1:]], axis=1))
                lines.append(np.full(len(line) - 1, k))
        self.ends: Floats = np.concatenate(some)
        self.lines = np.concatenate(lines).astype(np.int64)
        way = self.ends[:, 1] - self.ends[:, 0]
        self._ways = way / np.maximum(np.hypot(*way.T), EQUAL)[:, None]

    def beside(self, kit: Kit, side: Floats, number: int) -> tuple[int, Fraction, int] | None:
        """What ``side`` (2, 2) of line ``number`` is placed from: its kind, its distance, and its line number (-1
        for a seam)."""
        long = math.dist(*side)
        if long < STOP_ERROR:
            return None
        ux, uy = ((side[1] - side[0]) / long).tolist()
        runs = np.flatnonzero(
            (np.abs(self._ways[:, 0] * uy - self._ways[:, 1] * ux) < 1e3 * SAME_ANGLE) & (self.lines < number)
        )
        along = self.ends[runs] @ np.array((ux, uy)) - side[0] @ np.array((ux, uy))
        shared = np.minimum(along.max(axis=1), long) - np.maximum(along.min(axis=1), 0.0)
        away = np.abs((self.ends[runs] @ np.array((-uy, ux))).mean(axis=1) - side[0] @ np.array((-uy, ux)))
        for k in np.argsort(np.round(away, 3), kind="stable").tolist():
            on = int(self.lines[runs[k]])
            if shared[k] <= 0:
                continue
            if away[k] < STOP_ERROR:
                if on < 0 and shared[k] > long - 2 * STOP_ERROR:
                    return DITCH, Fraction(0), -1
                continue
            distance = Fraction(float(away[k])).limit_denominator(10**6)
            total = best_offset_sum(kit, distance)
            strays = may_stray(kit, float(total.off), long, float(shared[k]))
            if total.can_be_laid and strays <= max(
                float(kit.tolerance.mm), may_stray(kit, float(total.off), 1, 1)
            ):
                return SEAM if on < 0 else LINE, distance, on
        return None
