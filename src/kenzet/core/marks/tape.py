"""Sewing along tape: which strip goes where, round by round, and what is cut for it (F37).

Glossary: a *laid strip* is one placement of a strip; a *round* is all strips in place at the same time. If the
tape is as wide as the spacing, both its edges are sewn along; if it is twice as wide, the lines between follow in
a *halving* pass; otherwise one edge counts. The stitching is the *clearance* beside the edge. Lengths are mm.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np
import shapely
from shapely.geometry import Polygon

from kenzet.core.geom.clip import Ints, Straight
from kenzet.core.geom.region import Floats, Point
from kenzet.core.kit.things.base import Thing
from kenzet.core.kit.things.supplies import Tape
from kenzet.core.plan.drawing import Drawing

CLEARANCE = Fraction(0)
MORE = 50.8  # mm that a strip is longer than its line
SAME = Fraction(127, 160)  # 1/32 in: a width this near to a spacing is that spacing
PLACE_S = 25.0
_APART = 0.3  # mm that strips may overlap by their edges
_BACK = 8  # rounds that are looked at for a free place


@dataclass(frozen=True, eq=False)
class LaidStrip:
    """One placement of a strip: its corners (4, 2), the numbers of the lines sewn along it, and their family."""

    family: int
    corners: Floats
    lines: tuple[int, ...]


@dataclass(frozen=True, eq=False)
class TapePlan:
    """``tape`` is its key in the kit. Lines added by ``halving`` are not among ``lines``."""

    tape: str
    width: Fraction
    both: bool
    halving: bool
    placements: tuple[LaidStrip, ...]
    moves: int
    longest: float

    @property
    def lines(self) -> list[int]:
        """The numbers of the lines sewn along a strip."""
        return sorted({line for placement in self.placements for line in placement.lines})

    @property
    def strips(self) -> int:
        """The number of strips to cut: each can be placed ``moves`` times before it loses its tack."""
        return math.ceil(len(self.placements) / self.moves)

    @property
    def strip(self) -> float:
        """The length of each strip, mm."""
        return self.longest + MORE

    @property
    def used(self) -> float:
        """The length of tape used, mm."""
        return self.strips * self.strip

    @cached_property
    def rounds(self) -> list[list[LaidStrip]]:
        """The strips in place at the same time: one family after another, as many as there are strips, without
        overlaps."""
        found: list[list[LaidStrip]] = []
        for family in dict.fromkeys(placement.family for placement in self.placements):
            found += self._rounds([one for one in self.placements if one.family == family])
        return found

    @cached_property
    def place_of(self) -> Mapping[int, tuple[int, int, int]]:
        """For each line its round, its strip in the round, and the edge of the strip it is sewn along, all from 0."""
        return {
            line: (number, k, min(edge, 1))
            for number, strips in enumerate(self.rounds)
            for k, strip in enumerate(strips)
            for edge, line in enumerate(strip.lines)
        }

    def measures(self, drawing: Drawing, number: int) -> list[float]:
        """For every strip of round ``number``, the distance of its near edge from the side of the zone where its
        family begins, mm."""
        found = []
        for strip in self.rounds[number]:
            normal = np.array(drawing.straight[strip.family].normal)
            begin = (shapely.get_coordinates(drawing.shape.uncut.area) @ normal).min()
            found.append(float((strip.corners @ normal).min() - begin))
        return found

    def side_of(self, drawing: Drawing, number: int) -> Point:
        """The direction, from the zone's center, of the side from which round ``number`` is measured."""
        nx, ny = drawing.straight[self.rounds[number][0].family].normal
        return -nx, -ny

    def _rounds(self, placements: Sequence[LaidStrip]) -> list[list[LaidStrip]]:
        rounds: list[list[LaidStrip]] = []
        taken: list[list[Polygon]] = []
        for placement in placements:
            area = Polygon(placement.corners).buffer(-_APART)
            open_ = range(max(len(rounds) - _BACK, 0), len(rounds))
            free = (
                k
                for k in open_
                if len(rounds[k]) < self.strips and not shapely.intersects(area, taken[k]).any()
            )
            k = next(free, len(rounds))
            if k == len(rounds):
                rounds.append([])
                taken.append([])
            rounds[k].append(placement)
            taken[k].append(area)
        return rounds

    def sewn(self, drawing: Drawing, number: int) -> list[list[Floats]]:
        """The lines sewn along every strip of round ``number``, polylines from start to end. The two edges are
        sewn in opposite directions, so that the layers do not shift."""
        found, back = [], False
        for placement in self.rounds[number]:
            lines = []
            for line in placement.lines:
                ends = drawing.stretches.ends[line].reshape(2, 2)
                lines.append(ends[::-1] if back else ends)
                back = not back
            found.append(lines)
        return found

    @property
    def seconds(self) -> float:
        """The time to place all strips."""
        return len(self.placements) * PLACE_S


def gaps_beside(width: Fraction, spacing: Fraction, clearance: Fraction) -> tuple[Fraction, Fraction]:
    """The gap between lines across a strip, and across the space to the next strip (A66).

    >>> [float(gap) for gap in gaps_beside(Fraction(3, 4), Fraction(3, 4), Fraction(1, 50))]
    [0.79, 0.71]
    """
    return width + 2 * clearance, spacing - 2 * clearance


def can_be_taped(drawing: Drawing, tools: Mapping[str, Thing]) -> bool:
    """Whether there is tape at hand, and a straight line to sew along it."""
    return bool(len(drawing.stretches)) and any(
        isinstance(tool, Tape) and tool.state == "at hand" for tool in tools.values()
    )


def tape_plan(drawing: Drawing, tools: Mapping[str, Thing]) -> TapePlan | None:
    """With the tape that needs the fewest placements; None without tape, or if no line is straight."""
    tapes = {key: tool for key, tool in tools.items() if isinstance(tool, Tape) and tool.state == "at hand"}
    plans = [_with(drawing, key, tape) for key, tape in tapes.items()]
    found = [plan for plan in plans if plan.placements]
    return min(found, key=lambda plan: (len(plan.placements), plan.halving), default=None)


def _with(drawing: Drawing, key: str, tape: Tape) -> TapePlan:
    gaps = {gap for family in drawing.straight for gap in family.gaps}
    spacing = next(iter(gaps)) if len(gaps) == 1 else None
    both = spacing is not None and abs(tape.width.mm - spacing) <= SAME
    halving = spacing is not None and not both and abs(tape.width.mm - 2 * spacing) <= SAME
    placements = list(_placements(drawing, float(tape.width.mm), both, halving))
    longest = float(drawing.stretches.lengths.max(initial=0.0))
    return TapePlan(key, tape.width.mm, both, halving, tuple(placements), tape.moves, longest)


def _placements(drawing: Drawing, width: float, both: bool, halving: bool) -> Iterable[LaidStrip]:
    """For each piece, family by family, beginning with the first line."""
    for job in np.unique(drawing.stretches.job).tolist():
        family = drawing.straight[job % len(drawing.straight)]
        own = np.flatnonzero(drawing.stretches.job == job)
        lines = np.unique(drawing.stretches.line[own])
        wanted = lines[::2] if halving else lines
        each = 2 if both or halving else 1
        for some in (wanted[k : k + each].tolist() for k in range(0, len(wanted), each)):
            numbers = own[np.isin(drawing.stretches.line[own], some)]
            yield LaidStrip(
                job % len(drawing.straight),
                _corners(drawing, family, numbers, some, width),
                tuple(numbers.tolist()),
            )


def _corners(drawing: Drawing, family: Straight, numbers: Ints, lines: Sequence[int], width: float) -> Floats:
    """The corners of a strip that begins at the first of its lines; its ends extend a little beyond them."""
    (ux, uy), (nx, ny) = family.direction, family.normal
    ends = drawing.stretches.ends[numbers].reshape(-1, 2)
    along = ends @ np.array((ux, uy))
    low, high = float(along.min()) - MORE / 4, float(along.max()) + MORE / 4
    near = family.place(lines[0])
    far = near + width
    return np.array(
        [(ux * a + nx * n, uy * a + ny * n) for a, n in ((low, near), (high, near), (high, far), (low, far))]
    )
