"""The orders in which the lines of a drawing can be sewn, so that each finds its reference.

Glossary: a line *rests on* lines that must be sewn before it; a *turn* is a group of lines that is finished, in
one piece of the zone, before the next begins.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely

from kenzet.core.geom.clip import Straight
from kenzet.core.marks.marking import Marks, given_by_marks, marks_of
from kenzet.core.marks.tape import TapePlan
from kenzet.core.memo import Table
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.line_references import Beyond, References

Needed = tuple[int, ...]
"""Lines that must all be sewn."""


@dataclass(frozen=True, eq=False)
class LineOrder:
    """``rests_on`` has for every line the alternatives for placing it, each the lines that must be sewn first; empty
    if a seam or a mark places it, or it is sewn by eye.

    ``turns`` is the turn of each line, ``pieces`` its piece of the zone, ``beyond`` the line of another zone it is
    placed from. All are indexed by line number.
    """

    rests_on: tuple[tuple[Needed, ...], ...]
    turns: tuple[int, ...]
    pieces: tuple[int, ...]
    beyond: Mapping[int, Beyond] = field(default_factory=dict)

    @property
    def is_free(self) -> bool:
        """Whether any order is possible."""
        return not any(self.rests_on) and not self.beyond and len(set(self.turns)) < 2


ORDERS = Table[tuple[ZonePlan, int, bool], LineOrder]("orders of lines by plan and drawing", 2_000)


def line_order(plan: ZonePlan, drawing: Drawing, in_turns: bool = True) -> LineOrder:
    """The order for ``drawing`` with its marks; sets follow each other as the fill requires, unless ``in_turns``
    is false."""
    key = (plan, plan.number_of(drawing), in_turns)
    return plan.memo.once(ORDERS, key, lambda: _order(plan, drawing, in_turns))


def _order(plan: ZonePlan, drawing: Drawing, in_turns: bool) -> LineOrder:
    references, marks = plan.references(drawing), marks_of(plan, drawing)
    given = given_by_marks(plan, drawing, marks)
    rests_on = tuple(
        () if given[line] or by_eye(references, line, marks) else tuple(_ways(references, line))
        for line in range(drawing.lines)
    )
    turns = tuple(_turns(drawing)) if in_turns else (0,) * drawing.lines
    if marks.tape:
        turns = tuple(_rounds(marks.tape, drawing))
    if plan.zone.second_first and not marks.tape:
        turns = tuple(_other_turns(drawing, turns, rests_on))
    beyond = {line: on.beyond for line in references.beyond if (on := planned(plan, drawing, line)).beyond}
    return LineOrder(rests_on, turns, tuple(pieces_of(drawing)), beyond)


def _other_turns(drawing: Drawing, turns: Needed, rests_on: Sequence[Sequence[Needed]]) -> Iterable[int]:
    """The second set first, or the outline last, or cut figures after whole ones (except those that a whole one
    rests on)."""
    last, later = max(turns, default=0), set[int]()
    if drawing.comes_in == "outline":
        later = {*drawing.outline}
    elif drawing.comes_in == "cells":
        later = {*drawing.cut_figures}
        needed = [line for line in range(drawing.lines) if line not in later]
        while needed:
            on = {other for way in rests_on[needed.pop()] for other in way} & later
            later -= on
            needed += on
    for line, turn in enumerate(turns):
        if drawing.has_sets:
            yield last - turn
        else:
            yield last + 1 if line in later else turn


def by_eye(references: References, line: int, marks: Marks) -> bool:
    """Whether nothing gives a line its place and it is not to be marked."""
    return line not in marks.lines and not references.needs(line) and line not in references.sides


def _ways(references: References, line: int) -> Iterable[Needed]:
    """Only the planned references: the line on the other side would work too, but then screens could disagree."""
    if needs := references.needs(line):
        yield needs


def _rounds(tape: TapePlan, drawing: Drawing) -> Iterable[int]:
    """The round of tape of each line; lines of the halving pass come last."""
    last = len(tape.rounds)
    for line in range(drawing.lines):
        yield tape.place_of[line][0] if line in tape.place_of else last


def _turns(drawing: Drawing) -> Iterable[int]:
    straight = [k for k, family in enumerate(drawing.families) if isinstance(family, Straight)]
    for job in drawing.stretches.job.tolist():
        yield drawing.fill.turn_of(straight[job % len(straight)])
    for trace in drawing.traces:
        yield drawing.fill.turn_of(trace.family)


def pieces_of(drawing: Drawing) -> list[int]:
    """The piece of the zone in which each line lies."""
    lines = drawing.polylines
    if len(drawing.region.pieces) == 1 or not lines:
        return [0] * len(lines)
    middles = shapely.line_interpolate_point(
        [shapely.linestrings(line) for line in lines], 0.5, normalized=True
    )
    tree = shapely.STRtree([piece.area for piece in drawing.region.pieces])
    found: list[int] = np.asarray(tree.nearest(middles)).tolist()
    return found
