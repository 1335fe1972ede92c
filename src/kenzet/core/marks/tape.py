"""Sewing along tape: which strip lies where, round by round, and what is cut for it (F37).

Glossary: a *laid strip* is a strip laid once; a *round* is all strips laid at a time. Where the tape is as wide as the
lines are apart, both of its edges are sewn along; where it is twice as wide, the lines between follow in a *halving*
pass; else one edge counts. The stitching lies the *clearance* beside the edge. Lengths are mm.
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
    """A strip where it is laid: its corners (4, 2), the lines that it gives, by number, and their family."""

    family: int
    corners: Floats
    lines: tuple[int, ...]


@dataclass(frozen=True, eq=False)
class TapePlan:
    """``tape`` is its key in the kit; ``lines`` all that it gives; those that follow by ``halving`` are not among them."""

    tape: str
    width: Fraction
    both: bool
    halving: bool
    placements: tuple[LaidStrip, ...]
    moves: int
    longest: float

    @property
    def lines(self) -> list[int]:
        """The lines that a strip gives, by number."""
        return sorted({line for placement in self.placements for line in placement.lines})

    @property
    def strips(self) -> int:
        """How many to cut: each serves so many placements before it loses its tack."""
        return math.ceil(len(self.placements) / self.moves)

    @property
    def strip(self) -> float:
        """How long each is."""
        return self.longest + MORE

    @property
    def used(self) -> float:
        """mm of tape."""
        return self.strips * self.strip

    @cached_property
    def rounds(self) -> list[list[LaidStrip]]:
        """What is laid at a time: one family after another, as many strips as there are, none over another."""
        found: list[list[LaidStrip]] = []
        for family in dict.fromkeys(placement.family for placement in self.placements):
            found += self._rounds([one for one in self.placements if one.family == family])
        return found

    @cached_property
    def place_of(self) -> Mapping[int, tuple[int, int, int]]:
        """By line: its round, its strip in the round, and along which of the strip's edges it is sewn, all from 0."""
        return {
            line: (number, k, min(edge, 1))
            for number, strips in enumerate(self.rounds)
            for k, strip in enumerate(strips)
            for edge, line in enumerate(strip.lines)
        }

    def measures(self, drawing: Drawing, number: int) -> list[float]:
        """How far the near edge of every strip of round ``number`` lies from that side of the zone from which its family is counted, mm."""
        found = []
        for strip in self.rounds[number]:
            normal = np.array(drawing.straight[strip.family].normal)
            begin = (shapely.get_coordinates(drawing.shape.uncut.area) @ normal).min()
            found.append(float((strip.corners @ normal).min() - begin))
        return found

    def side_of(self, drawing: Drawing, number: int) -> Point:
        """The direction, from the zone's middle, in which the side lies from which round ``number`` is measured."""
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
        """What is sewn along every strip of round ``number``, polylines from start to end: along one edge one way, along
        the next the other way, so that the layers do not creep.
        """
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
        """To lay them."""
        return len(self.placements) * PLACE_S


def gaps_beside(width: Fraction, spacing: Fraction, clearance: Fraction) -> tuple[Fraction, Fraction]:
    """What lies between the lines across a strip and across the gap to the next (A66).

    >>> [float(gap) for gap in gaps_beside(Fraction(3, 4), Fraction(3, 4), Fraction(1, 50))]
    [0.79, 0.71]
    """
    return width + 2 * clearance, spacing - 2 * clearance


def can_be_taped(drawing: Drawing, tools: Mapping[str, Thing]) -> bool:
    """Whether there is a tape at hand, and a straight line to sew along it."""
    return bool(len(drawing.stretches)) and any(
        isinstance(tool, Tape) and tool.state == "at hand" for tool in tools.values()
    )


def tape_plan(drawing: Drawing, tools: Mapping[str, Thing]) -> TapePlan | None:
    """With the tape of hers that is laid the fewest times; None without one, or where no line is straight."""
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
    """In each piece family after family, from the first line on."""
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
    """The strip lies on from the first of its lines; its ends reach a little beyond them."""
    (ux, uy), (nx, ny) = family.direction, family.normal
    ends = drawing.stretches.ends[numbers].reshape(-1, 2)
    along = ends @ np.array((ux, uy))
    low, high = float(along.min()) - MORE / 4, float(along.max()) + MORE / 4
    near = family.place(lines[0])
    far = near + width
    return np.array(
        [(ux * a + nx * n, uy * a + ny * n) for a, n in ((low, near), (high, near), (high, far), (low, far))]
    )
