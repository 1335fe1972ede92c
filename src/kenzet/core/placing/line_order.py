"""In which order the lines of a drawing can be sewn, so that each finds what it is laid on.

Glossary: a line *rests on* lines of which one (of each that it needs) must be sewn before it; a *turn* is what is sewn
whole before the next turn is begun, in one piece of the zone.
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

Way = tuple[int, ...]
"""Lines that must all be sewn."""


@dataclass(frozen=True, eq=False)
class LineOrder:
    """``rests_on`` has for every line the ways in which it can be placed, each the lines that must be sewn for it; empty where
    a seam or a mark places it, or she does it by eye. ``turns`` says when a line's set is sewn, ``pieces`` in which piece of
    the zone it lies, ``beyond`` on which line of another zone it is laid. All are by number of the line.
    """

    rests_on: tuple[tuple[Way, ...], ...]
    turns: tuple[int, ...]
    pieces: tuple[int, ...]
    beyond: Mapping[int, Beyond] = field(default_factory=dict)

    @property
    def is_free(self) -> bool:
        """Whether any order will do."""
        return not any(self.rests_on) and not self.beyond and len(set(self.turns)) < 2


ORDERS = Table[tuple[ZonePlan, int, bool], LineOrder]("orders of lines by plan and drawing", 2_000)


def line_order(plan: ZonePlan, drawing: Drawing, in_turns: bool = True) -> LineOrder:
    """That of ``drawing`` as it is marked; sets one after another as the fill says, unless not ``in_turns``."""
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


def _other_turns(drawing: Drawing, turns: Way, rests_on: Sequence[Sequence[Way]]) -> Iterable[int]:
    """The second set first, or the outline last, or figures that are cut after whole ones but for those that a whole one rests on."""
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
    """Whether nothing gives a line its place, and she has chosen not to draw it."""
    return line not in marks.lines and not references.needs(line) and line not in references.sides


def _ways(references: References, line: int) -> Iterable[Way]:
    """Only what is planned: the other side of a line would do as well, but then each screen would say something else."""
    if needs := references.needs(line):
        yield needs


def _rounds(tape: TapePlan, drawing: Drawing) -> Iterable[int]:
    """Round after round of tape; what follows half-way between comes last."""
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
    """In which piece of the zone every line lies."""
    lines = drawing.polylines
    if len(drawing.region.pieces) == 1 or not lines:
        return [0] * len(lines)
    middles = shapely.line_interpolate_point(
        [shapely.linestrings(line) for line in lines], 0.5, normalized=True
    )
    tree = shapely.STRtree([piece.area for piece in drawing.region.pieces])
    found: list[int] = np.asarray(tree.nearest(middles)).tolist()
    return found
