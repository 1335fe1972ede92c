"""What every line is placed from, computed for a whole family at once.

Glossary: a line *progresses* along the family's normal (``way`` +1) or against it (-1); a *base* is a first line
without a seam to place it from, so it is marked. Line numbers are those of the drawing. *Leverage* is how many times
longer a line is than the length it shares with its reference: the scatter of the hands grows by this factor.

Cost: O(n log n) for n stretches, times the pieces that one line has beside the next.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray

from kenzet.core.geom.clip import Ints, Straight
from kenzet.core.geom.region import Floats, Region
from kenzet.core.kit.edges import StraightEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import INCH
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import DIVISOR, EQUAL, ROUNDING, SAME_ANGLE, STOP_ERROR, VISIBLE

Kind = Literal["seam", "line", "mark", "angle", "ditch", "step", "points", "tilt", "level", "beyond"]
SEAM, LINE, MARK, ANGLE, DITCH, STEP, POINTS, TILT, LEVEL, BEYOND = range(10)
KINDS: tuple[Kind, ...] = (
    "seam",
    "line",
    "mark",
    "angle",
    "ditch",
    "step",
    "points",
    "tilt",
    "level",
    "beyond",
)
ON_LINE = (LINE, ANGLE, STEP, TILT)
"""The kinds that have another line as reference."""
_SAME_LEAN = 0.05  # degrees
SHORT = INCH / 2  # half of this beside the line before is enough
_NOTHING = Fraction(0)
_LOOKED_AT = 6  # seams behind a line, the nearest first
NO_SEAMS: Floats = np.zeros((0, 2, 2))


@dataclass(frozen=True, slots=True)
class Beyond:
    """A line of another zone that is sewn before: the word of its drawing, its number there, and the name of its
    ``zone``."""

    word: str
    line: int
    zone: str


@dataclass(frozen=True, slots=True)
class Reference:
    """What a line is placed from.

    A "seam" or a "line" beside it, at the exact ``distance`` in mm; a line of another family that it crosses, by
    an etched line at ``angle`` degrees; the row before, from which a template is moved by a "step" of ``distance``
    (the foot cancels out); the "ditch" it lies in; "points" seen at the ends of its legs; the line before, at
    different distances at both ends ("tilt"); a straight seam to which the middle line of a template is parallel
    ("level"), ``distance`` mm away; a line "beyond" the seam, in another zone, ``distance`` mm away, or 0 if it is
    continued; or its own "mark". ``line`` is the number of that line, or None.
    """

    kind: Kind
    distance: Fraction
    way: int
    line: int | None = None
    angle: float = 0.0


@dataclass(frozen=True, eq=False)
class References(Mapping[int, Reference]):
    """References by line number, iterated in sewing order. ``kinds``, ``ways``, ``before`` (-1: none) and
    ``distances`` are (n,) by number; ``order`` holds the numbers; ``angles`` are those of etched lines on crossed
    lines.

    ``sides`` has the reference of each side of a line with corners, ``points`` the lines by which the ends of its
    legs are seen, ``tilts`` the distances of its start and end from the line before, exact mm. ``dots`` has the
    points of a line that are marked by dots because nothing else shows them, ``beyond`` the lines of other zones.
    """

    order: Ints
    kinds: NDArray[np.int8]
    ways: NDArray[np.int8]
    before: Ints
    distances: NDArray[np.object_]
    angles: Floats
    sides: dict[int, tuple[Reference, ...]]
    points: dict[int, tuple[int, ...]] = field(default_factory=dict)
    tilts: dict[int, tuple[Fraction, Fraction]] = field(default_factory=dict)
    dots: dict[int, tuple[tuple[float, float], ...]] = field(default_factory=dict)
    beyond: dict[int, Beyond] = field(default_factory=dict)

    @classmethod
    def empty(cls, many: int) -> References:
        """``many`` lines that are all marked."""
        ways = np.ones(many, np.int8)
        distances = np.full(many, _NOTHING, dtype=object)
        before = np.full(many, -1, np.int64)
        return cls(np.arange(many), np.full(many, MARK, np.int8), ways, before, distances, np.zeros(many), {})

    def __len__(self) -> int:
        return len(self.kinds)

    def __iter__(self) -> Iterator[int]:
        return iter(self.order.tolist())

    def __getitem__(self, line: int) -> Reference:
        if not 0 <= line < len(self):
            raise KeyError(line)
        before = int(self.before[line])
        return Reference(
            KINDS[self.kinds[line]],
            self.distances[line],
            int(self.ways[line]),
            before if self.kinds[line] in ON_LINE and before >= 0 else None,
            float(self.angles[line]),
        )

    def needs(self, line: int) -> tuple[int, ...]:
        """The lines that must be sewn, or marked, before ``line`` can be placed."""
        if line in self.sides:
            return tuple(sorted({side.line for side in self.sides[line] if side.line is not None}))
        if self.kinds[line] == POINTS:
            return self.points[line]
        own = self[line].line
        return () if own is None else (own,)

    @property
    def marked(self) -> list[int]:
        """The lines that nothing sewn or pieced gives a place, in order."""
        found: list[int] = np.flatnonzero(self.kinds == MARK).tolist()
        return found

    @property
    def runs(self) -> Ints:
        """For each line, how many lines were placed one from another since one was marked or placed from a seam."""
        follows = np.isin(self.kinds, (LINE, STEP, TILT)) & (self.before >= 0)
        jump = np.where(follows, self.before, np.arange(len(self)))
        many: Ints = follows.astype(np.int64)
        while (many[jump] > 0).any():
            many, jump = many + many[jump], jump[jump]
        return many


@dataclass(frozen=True, slots=True)
class Bundle:
    """The stretches of one family: their numbers, their piece of the region, their line, and their extent along
    the direction, mm; sorted by piece, line and position. All are (n,)."""

    numbers: Ints
    piece: Ints
    line: Ints
    start: Floats
    end: Floats


def may_stray(kit: Kit, off: float, length: float, shared: float) -> float:
    """The error of a line ``length`` mm long that shares ``shared`` mm with its reference, mm: the error ``off``
    of the etched line, plus the scatter of the hands times the leverage."""
    return abs(off) + float(kit.spread.mm) * max(length / max(shared, DIVISOR), 1.0)


def lay_family(
    pieces: Sequence[Region],
    family: Straight,
    bundle: Bundle,
    kit: Kit,
    into: References,
    seams: Floats = NO_SEAMS,
) -> Ints:
    """Writes the reference of each stretch of ``family`` to ``into`` and returns the stretches in sewing order.
    ``seams`` are those inside the zone, (n, 2, 2) mm.

    Lines progress away from where rulers lie best: to the right if the machine's body is on the right, so that the
    ruler lies left of the needle, outside the throat, and the other way for a mirrored machine (A80, A107);
    upwards if they are level. If an edge is parallel to the family and a ruler can be placed on it, the family
    starts there; otherwise the longest line is the base, and the lines on either side of it follow with one turn
    of the quilt. A line whose gap no etched line makes, or that shares too little with its reference, is placed
    from the nearest seam that holds the ruler, else marked. A line that lies in a seam is sewn in its ditch.
    """
    forward = _forward(family, kit)
    key = bundle.line * forward
    ordered = np.argsort(bundle.piece * (int(np.ptp(key)) + 1) + (key - key.min()), kind="stable")
    laying = _Laying(family, bundle, kit, into, _in_ditches(family, bundle, seams))
    if not any(best_offset_sum(kit, gap).can_be_laid for gap in family.gaps):
        into.ways[bundle.numbers] = forward
        laying.keep_to_ditches()
        return bundle.numbers[ordered]
    runs = np.split(ordered, np.flatnonzero(np.diff(bundle.piece[ordered])) + 1)
    beside = [_Seams(pieces[int(bundle.piece[run[0]])], family, bundle, kit, seams) for run in runs]
    order = [laying.begin(run, forward, its) for run, its in zip(runs, beside, strict=True)]
    laying.follow()
    for run, its in zip(runs, beside, strict=True):
        laying.lay_on_seams(run[laying.open[run]], its)
    laying.keep_to_ditches()
    into.ways[bundle.numbers] = laying.ways
    return bundle.numbers[np.concatenate(order)]


class _Laying:
    """The state while a family is placed: the ``ways`` of its stretches, and which are still ``open``; ``ditch``
    says which lie in a seam."""

    def __init__(
        self, family: Straight, bundle: Bundle, kit: Kit, into: References, ditch: NDArray[np.bool_]
    ) -> None:
        self._family, self._bundle, self._kit, self._into, self._ditch = family, bundle, kit, into, ditch
        self._long = (bundle.end - bundle.start).round(3)
        self.ways = np.ones(len(bundle.line), np.int64)
        self.open = np.ones(len(bundle.line), dtype=bool)

    def _put(self, which: Ints, kind: int, distance: Fraction, before: Ints | None = None) -> None:
        numbers = self._bundle.numbers[which]
        self.open[which] = False
        self._into.kinds[numbers] = kind
        self._into.distances[numbers] = distance
        if before is not None:
            self._into.before[numbers] = self._bundle.numbers[before]

    def begin(self, own: Ints, forward: int, seams: _Seams) -> Ints:
        """Places the first lines in one piece and sets the way of all; returns the sewing order."""
        for way, run in ((forward, own), (-forward, own[::-1])):
            (distance,) = seams.behind(run[:1], np.array([way]))
            if distance is not None:
                self.ways[own] = way
                self._put(run[:1], SEAM, distance)
                return run
        line = self._bundle.line[own]
        given = ~self._ditch[own] if self._ditch[own].any() else np.zeros(len(own), dtype=bool)
        base = own[np.lexsort((np.arange(len(own)), np.abs(line), -self._long[own], given))[0]]
        at, mid = line * forward, self._bundle.line[base] * forward
        level = own[at == mid]
        self._put(level, MARK, _NOTHING)
        self.ways[own] = np.where(at < mid, -forward, forward)
        return np.concatenate([[base], level[level != base], own[at > mid], own[at < mid][::-1]])

    def follow(self) -> None:
        """Places each open stretch from the stretch of the line before that lies beside most of it, if that is
        enough."""
        todo, first, many = self._beside(np.flatnonzero(self.open))
        if not len(todo):
            return
        start, end, line = self._bundle.start, self._bundle.end, self._bundle.line
        begins = np.cumsum(many) - many
        group = np.repeat(np.arange(len(todo)), many)
        beside = np.arange(len(group)) + (first - begins)[group]
        mine = todo[group]
        shared = np.minimum(end[mine], end[beside]) - np.maximum(start[mine], start[beside])
        most = np.maximum.reduceat(shared, begins)
        hits = np.flatnonzero(shared >= most[group] - EQUAL)  # of those alike the first
        before = beside[hits[np.append(True, np.diff(group[hits]) > 0)]]
        enough = most >= 0.5 * np.minimum(SHORT, np.minimum(self._long[before], self._long[todo]))
        leverage = np.maximum(self._long[todo] / np.maximum(most, DIVISOR), 1.0)
        spread, tolerance = float(self._kit.spread.mm), float(self._kit.tolerance.mm)
        gap = (line[todo] - (self.ways[todo] > 0)) % len(self._family.gaps)
        for k, distance in enumerate(self._family.gaps):
            total = best_offset_sum(self._kit, distance)
            if total.can_be_laid:
                true = (leverage <= 1 + EQUAL) | (abs(float(total.off)) + spread * leverage <= tolerance)
                laid = enough & true & (gap == k)
                self._put(todo[laid], LINE, distance, before[laid])

    def _beside(self, todo: Ints) -> tuple[Ints, Ints, Ints]:
        """Those of ``todo`` with anything beside them on the line before: the first of these, and how many.

        Every stretch is mapped to one axis, line after line and piece after piece, so that overlaps are found by
        binary search.
        """
        start, end, line = self._bundle.start, self._bundle.end, self._bundle.line
        left = float(start.min())
        wide = float(end.max()) - left + 1.0
        key = self._bundle.piece * (int(np.ptp(line)) + 3) + (line - int(line.min()) + 1)
        back = (key[todo] - self.ways[todo]) * wide - left
        offset = key * wide - left
        first = np.searchsorted(offset + end, back + start[todo])
        many = np.searchsorted(offset + start, back + end[todo], "right") - first
        found = many > 0
        return todo[found], first[found], many[found]

    def lay_on_seams(self, own: Ints, seams: _Seams) -> None:
        """Places open stretches of one piece from a seam behind them; the others are marked."""
        for k, distance in enumerate(seams.behind(own, self.ways[own])):
            if distance is not None:
                self._put(own[k : k + 1], SEAM, distance)

    def keep_to_ditches(self) -> None:
        """Stretches in a seam are sewn there, whatever else they could be placed from."""
        numbers = self._bundle.numbers[self._ditch]
        self._into.kinds[numbers], self._into.before[numbers] = DITCH, -1
        self._into.distances[numbers] = _NOTHING


def _in_ditches(family: Straight, bundle: Bundle, seams: Floats) -> NDArray[np.bool_]:
    """Whether each stretch lies in one of ``seams`` from end to end."""
    found = np.zeros(len(bundle.line), dtype=bool)
    along = _along(seams, family.direction)
    if not len(along):
        return found
    place = np.array([family.place(line) for line in bundle.line.tolist()])
    for ends in along:
        across, span = ends @ np.array(family.normal), ends @ np.array(family.direction)
        on = np.abs(place - across.mean()) < STOP_ERROR
        found |= on & (bundle.start > span.min() - STOP_ERROR) & (bundle.end < span.max() + STOP_ERROR)
    return found


def _along(seams: Floats, direction: tuple[float, float]) -> Floats:
    """Those of ``seams``, (n, 2, 2), that are parallel to ``direction``."""
    way = seams[:, 1] - seams[:, 0]
    turned = way[:, 0] * direction[1] - way[:, 1] * direction[0]
    found: Floats = seams[np.abs(turned) < 1e3 * SAME_ANGLE * np.hypot(*way.T)]
    return found


def _forward(family: Straight, kit: Kit) -> int:
    """+1 if lines progress along the family's normal, else -1."""
    nx, ny = family.normal
    if abs(nx) <= ROUNDING:
        return 1 if ny > 0 else -1
    return 1 if (nx > 0) == (kit.machine.throat == "right") else -1


class _Seams:
    """The edges of a piece parallel to a family, from which a line can be placed without another line."""

    def __init__(self, piece: Region, family: Straight, bundle: Bundle, kit: Kit, seams: Floats) -> None:
        edges = piece.edge_ends[piece.edges_along(family.direction)]
        ends = np.concatenate([edges, _along(seams, family.direction)])
        self._across = ends[:, 0] @ np.array(family.normal)
        span = ends @ np.array(family.direction)
        self._from, self._to = span.min(axis=1), span.max(axis=1)
        self._family, self._bundle, self._kit = family, bundle, kit

    def behind(self, which: Ints, ways: Ints) -> list[Fraction | None]:
        """For each of the stretches ``which``, the distance of the nearest edge behind it on which a ruler can be
        placed; None if there is none."""
        if not len(self._across) or not len(which):
            return [None] * len(which)
        lines, line_of = np.unique(self._bundle.line[which], return_inverse=True)
        place = np.array([self._family.place(line) for line in lines.tolist()])[line_of]
        behind = ways[:, None] * (place[:, None] - self._across)
        start, end = self._bundle.start[which][:, None], self._bundle.end[which][:, None]
        shared = np.minimum(self._to, end) - np.maximum(self._from, start)
        fits = (behind > EQUAL) & (shared >= 0.5 * (end - start))
        rows = np.sort(np.where(fits, behind, np.inf), axis=1)[:, :_LOOKED_AT]
        return [self._laid(row) for row in rows.tolist()]

    def _laid(self, distances: Sequence[float]) -> Fraction | None:
        for distance in distances:
            if distance == np.inf:
                return None
            exact = Fraction(distance).limit_denominator(10**6)
            if best_offset_sum(self._kit, exact).can_be_laid:
                return exact
        return None


def lay_across(
    family: Straight, numbers: Ints, ends: Floats, sewn: Ints, before: Straight, kit: Kit, into: References
) -> None:
    """Places the lines ``numbers`` of ``family``, which have no reference beside them, across a line of the family
    ``before`` that they cross, if a ruler has an etched line at that angle that lies on enough of it.

    ``sewn`` are the numbers of those lines, all in one piece; ``ends`` (n, 4) has the ends of every line, by
    number.
    """
    met = abs((family.angle - before.angle + 90) % 180 - 90)
    edge = max(_with_angle(kit, met), key=lambda edge: edge.width, default=None)
    if kit.sew_with == "walking foot" or edge is None or not len(sewn):
        return
    which, crossed = _crossings(ends, numbers, sewn)
    if not len(which):
        return
    way, normal, foot = np.array(family.direction), np.array(family.normal), float(kit.foot_offset)
    mine, its = ends[numbers].reshape(-1, 2, 2), ends[sewn].reshape(-1, 2, 2)[crossed]
    place, span = mine[:, 0] @ normal, np.sort(mine @ way, axis=1)
    along, across = its @ way, its @ normal
    wide = across[:, 1] - across[:, 0]
    share = (place[which] - across[:, 0]) / np.where(wide == 0, np.inf, wide)
    at = along[:, 0] + share * (along[:, 1] - along[:, 0])
    behind = (into.ways[numbers][which][:, None] * (place[which][:, None] - across)).max(axis=1)
    shared = np.minimum(behind, foot + float(edge.width)) - foot  # by the ruler, which lies behind the foot
    within = (at >= span[which, 0]) & (at <= span[which, 1])
    meets = np.flatnonzero((share >= 0) & (share <= 1) & within & (shared > 0))
    best = meets[_first_of_most(which[meets], shared[meets], len(numbers))]
    owner = which[best]
    best_of = np.full(len(numbers), -1)
    best_of[owner] = best
    beside = at[meets] - at[best_of[which[meets]]]
    lines = (
        np.bincount(which[meets], _lies_on_etched(beside, edge), len(numbers))
        if met == 90
        else np.ones(len(numbers))
    )
    held = shared[best] / math.sin(math.radians(met)) * np.sqrt(np.maximum(lines[owner], 1.0))
    stray = float(kit.spread.mm) * np.maximum(
        (span[owner, 1] - span[owner, 0]) / np.maximum(held, DIVISOR), 1.0
    )
    laid = stray <= float(kit.tolerance.mm)
    into.kinds[numbers[owner[laid]]] = ANGLE
    into.before[numbers[owner[laid]]] = sewn[crossed[best[laid]]]
    into.angles[numbers[owner[laid]]] = round(met, 3)


def _crossings(ends: Floats, numbers: Ints, sewn: Ints) -> tuple[Ints, Ints]:
    """Pairs of indices into ``numbers`` and ``sewn`` of lines that cross, in order. O(n log n + crossings)."""
    tree = shapely.STRtree(shapely.linestrings(ends[sewn].reshape(-1, 2, 2)))
    mine = shapely.linestrings(ends[numbers].reshape(-1, 2, 2))
    which, others = tree.query(mine, predicate="dwithin", distance=EQUAL)
    order = np.lexsort((others, which))
    return which[order], others[order]


def _first_of_most(group: Ints, value: Floats, many: int) -> Ints:
    """For each of ``many`` groups that is not empty, the index of its first greatest ``value``; ``group`` (n,) is
    sorted."""
    most = np.full(many, -np.inf)
    np.maximum.at(most, group, value)
    tops = np.flatnonzero(value == most[group])
    found: Ints = tops[np.append(True, np.diff(group[tops]) > 0)] if len(tops) else tops
    return found


def _lies_on_etched(at: Floats, edge: StraightEdge) -> NDArray[np.bool_]:
    """Whether each sewn line ``at`` mm along ``edge`` lies under a line etched across it; their scatter averages
    out."""
    if edge.across is None:
        return np.zeros(len(at), dtype=bool)
    pitch, away = float(edge.across), np.abs(at)
    found: NDArray[np.bool_] = (away < float(edge.length) / 2) & (
        np.abs(away - np.round(away / pitch) * pitch) < VISIBLE
    )
    return found


def _with_angle(kit: Kit, degrees: float) -> list[StraightEdge]:
    """The straight edges that have an etched line at that angle."""
    return [
        edge
        for _, edge in kit.straight
        if any(
            abs(degrees - min(lean, 180 - lean)) < _SAME_LEAN
            for lean in (*edge.angles, *([90.0] if edge.across else []))
        )
    ]
