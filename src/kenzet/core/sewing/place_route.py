"""The route at one place, move by move, and what of it is left.

Glossary: a *move* is a piece of the route in the direction of sewing: a stretch of a line, or travel. Coordinates
are the part's, mm.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import shapely

from kenzet.core.geom.region import Floats, Point
from kenzet.core.route.costs import Costs
from kenzet.core.route.network import DITCH, EDGE, RIM, Network
from kenzet.core.route.shortest_paths import Roads
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.sewing.stretch import LEAST, Covered, LineKey, Stretch
from kenzet.core.tolerances import EQUAL

AT = 0.5  # mm: the needle is there


@dataclass(frozen=True, eq=False)
class Move:
    """``path`` (n, 2) along an edge of ``kind`` (LINE, DITCH, EDGE, STEP, RIM, TEXTURE).

    A line's move has its ``course``, the ``stretch`` that is sewn (None if the line is only travelled along),
    whether it is sewn ``back`` to front, and the ``number`` of the line in the whole route, from 1. ``nodes`` are
    its ends; ``fresh`` if a thread begins at its start. ``also`` is what travel sews of lines that come later.
    """

    path: Floats
    kind: int
    nodes: tuple[int, int]
    fresh: bool = False
    course: int = -1
    stretch: Stretch | None = None
    back: bool = False
    number: int = 0
    also: tuple[Stretch, ...] = ()

    @cached_property
    def length(self) -> float:
        """Length, mm."""
        return float(np.hypot(*np.diff(self.path, axis=0).T).sum())

    @property
    def start(self) -> Point:
        """Its start point."""
        return float(self.path[0, 0]), float(self.path[0, 1])

    @property
    def end(self) -> Point:
        """Its end point."""
        return float(self.path[-1, 0]), float(self.path[-1, 1])


class PlaceRoute:
    """The planned route through a unit, in reverse if ``back``."""

    def __init__(
        self, route: UnitRoute, back: bool, costs: Costs, ditches: Sequence[tuple[str, int, Floats]] = ()
    ) -> None:
        """``ditches`` are lines in the ditch (their word, number and polyline) that are sewn in a later pass at
        the same place."""
        self.route, self.costs = route, costs
        self.moves = list(_moves(route, back))
        if ditches:
            self.moves = [_with_ditches(move, ditches) for move in self.moves]
        self.many = max((move.number for move in self.moves), default=0)
        """How many lines are sewn, one after another."""

    @cached_property
    def sewn(self) -> list[Move]:
        """The moves that sew lines."""
        return [move for move in self.moves if move.stretch]

    @cached_property
    def length(self) -> float:
        """The length of its lines, mm."""
        return sum(move.stretch.length for move in self.sewn if move.stretch)

    def done(self, covered: Covered) -> Iterable[Floats]:
        """The paths of everything sewn so far, including parts of lines."""
        for move in self.sewn:
            assert move.stretch is not None
            left = covered.left(move.stretch)
            if not left:
                yield move.path
                continue
            ends = [move.stretch.begins, *(at for span in left for at in span), move.stretch.ends]
            for begin, end in zip(ends[::2], ends[1::2], strict=True):
                if end - begin > AT:
                    yield part_of(move, begin, end).path

    def zone_of(self, move: Move) -> str:
        """The zone key of a sewn move."""
        return self.route.unit.drawings[self.route.unit.courses[move.course].zone][0]

    def lines_by_zone(self, moves: Iterable[Move]) -> Mapping[tuple[str, int], int]:
        """The number of lines of ``moves`` in each zone, the first and the second pass separately."""
        lines = {(self.zone_of(move), move.stretch.turn, move.number) for move in moves if move.stretch}
        return Counter((zone, turn) for zone, turn, _ in lines)

    @cached_property
    def on_lanes(self) -> dict[int, int]:
        """The nodes in a ditch or on another edge, with the kind of edge."""
        net = self.route.network
        found: dict[int, int] = {}
        for kind in (EDGE, RIM, DITCH):
            found |= dict.fromkeys(net.ends[net.kinds == kind].ravel().tolist(), kind)
        return found

    @cached_property
    def _roads(self) -> Roads:
        net = self.route.network
        return Roads(len(net.points), net.ends, self.costs.of(net))

    def rest(self, covered: Covered, skipped: set[LineKey], at: Point | None) -> list[Move]:
        """The remaining moves from the needle ``at`` (None if its thread is cut): in the planned order, along the
        planned travel; after a deviation along the cheapest travel or, if that costs more than a thread cut,
        with a new thread."""
        found: list[Move] = []
        lead: list[Move] = []  # the planned travelling since the last line that is sewn
        planned, here = False, at  # whether that leads from where the needle is
        for move in self.moves:
            if move.stretch is None:
                lead.append(move)
                continue
            spans = [] if move.stretch.key in skipped else covered.left(move.stretch)
            if not spans:
                lead, planned = [], False
                continue
            left = _from_the_break(part_of(move, spans[0][0], spans[-1][1]), move)
            if planned and near(left.start, move.start):
                found += [*lead, left]
            else:
                whole = left is move and move.number not in self._in_pieces
                found += self._nearer_end(lead, left, here) if whole else self._led_to(lead, left, here)
            lead, planned, here = [], near(found[-1].end, move.end), found[-1].end
        return [*found, *lead] if planned else found  # to where the next place is gone to from

    @cached_property
    def _in_pieces(self) -> set[int]:
        """The numbers of the lines that are sewn in several pieces."""
        many = Counter(move.number for move in self.sewn)
        return {number for number, pieces in many.items() if pieces > 1}

    def _nearer_end(self, lead: list[Move], move: Move, at: Point | None) -> list[Move]:
        """``move`` from its planned start, or from its end if that is nearer to the needle: after a skipped line
        the next one begins at the needle."""
        forth = self._led_to(lead, move, at)
        if at is None or (lead[:1] and near(lead[0].start, at)):
            return forth
        back = self._led_to([], turned(move), at)

        factors = self.costs.factors

        def price(moves: list[Move]) -> float:
            gone = sum(one.length * factors[one.kind] for one in moves[:-1])
            return float(gone) + self.costs.stop * any(one.fresh for one in moves)

        return back if price(back) < price(forth) - AT else forth

    def _led_to(self, lead: list[Move], move: Move, at: Point | None) -> list[Move]:
        """``move`` with the travel to it, or from where a thread is begun."""
        if at is not None and near(at, move.start):
            return [replace(move, fresh=False)]
        begins = max((k for k, one in enumerate([*lead, move]) if one.fresh), default=None)
        if begins is not None and (not lead or near(lead[-1].end, move.start)):
            led = [*lead, move][begins:]
            return [replace(led[0], fresh=at is None or not near(at, led[0].start)), *led[1:]]
        net = self.route.network
        goal = move.nodes[0]
        here = goal if at is None else net.nearest(at)
        tied = at is not None and near(at, _point(net, here)) and near(_point(net, goal), move.start)
        if not tied or self._roads.cost(here, goal) >= self.costs.stop:
            return [replace(move, fresh=True)]
        edges = self._roads.path(here, goal)
        return [*_along(net, edges if here > goal else edges[::-1], here), replace(move, fresh=False)]


def _from_the_break(left: Move, move: Move) -> Move:
    """What is left of a line, begun where it adjoins what is sewn of it: if only its planned end does, the line was
    begun there and is sewn on the other way round."""
    at_start, at_end = near(left.start, move.start), near(left.end, move.end)
    return turned(left) if at_start and not at_end else left


def turned(move: Move) -> Move:
    """A line sewn from its end to its start."""
    a, b = move.nodes
    return replace(move, path=move.path[::-1], nodes=(b, a), back=not move.back, fresh=False)


def near(one: Point, other: Point) -> bool:
    """Whether two points are the same place for the needle."""
    return abs(one[0] - other[0]) < AT and abs(one[1] - other[1]) < AT


def _point(net: Network, node: int) -> Point:
    x, y = net.points[node].tolist()
    return x, y


def _moves(route: UnitRoute, back: bool) -> Iterable[Move]:
    net, unit = route.network, route.unit
    begins = _begins(net)
    times = Counter[int]()
    number, last = 0, (-1, -1)
    for run in route.backwards if back else route.runs:
        for k, leg in enumerate(run.legs):
            path = net.paths[leg.edge]
            path = path[::-1] if leg.back else path
            a, b = net.ends[leg.edge].tolist()
            nodes = (b, a) if leg.back else (a, b)
            fresh, kind = k == 0, int(net.kinds[leg.edge])
            if not leg.sews:
                last = (-1, -1)
                yield Move(path, kind, nodes, fresh, int(net.courses[leg.edge]))
                continue
            course = int(net.courses[leg.edge])
            turn = times[leg.edge]
            times[leg.edge] += 1
            if fresh or last != (course, turn):
                number += 1
            last = (course, turn)
            its = unit.courses[course]
            begin = begins[leg.edge]
            stretch = Stretch(
                unit.words[its.zone],
                its.number,
                turn,
                round(begin, 3),
                round(begin + float(net.lengths[leg.edge]), 3),
            )
            yield Move(path, kind, nodes, fresh, course, stretch, leg.back, number)


def _begins(net: Network) -> list[float]:
    """For each edge of the network, the distance along its line where it begins."""
    so_far = defaultdict[int, float](float)
    found = []
    for course, passes, length in zip(
        net.courses.tolist(), net.passes.tolist(), net.lengths.tolist(), strict=True
    ):
        found.append(so_far[course] if passes else 0.0)
        so_far[course] += length if passes else 0.0
    return found


def part_of(move: Move, begin: float, end: float) -> Move:
    """The part of a sewn move from ``begin`` to ``end`` mm along its line."""
    assert move.stretch is not None
    whole = move.stretch
    if begin - whole.begins < AT and whole.ends - end < AT:
        return move
    path = move.path[::-1] if move.back else move.path
    cut = cut_out(path, begin - whole.begins, end - whole.begins)
    return replace(
        move,
        path=cut[::-1] if move.back else cut,
        stretch=replace(whole, begins=round(begin, 3), ends=round(end, 3)),
    )


def _with_ditches(move: Move, ditches: Sequence[tuple[str, int, Floats]]) -> Move:
    """Travel along a ditch that is planned for later counts as the first pass over it."""
    if move.stretch is not None or move.kind != DITCH:
        return move
    found: list[Stretch] = []
    ends = shapely.points(move.path[[0, len(move.path) // 2, -1]])
    for word, number, path in ditches:
        line = shapely.linestrings(path)
        if not shapely.dwithin(ends, line, AT).all():
            continue
        a, b = sorted(shapely.line_locate_point(line, ends[[0, 2]]).round(3).tolist())
        round_ = abs((b - a) - move.length) > 2 * AT  # a ring, over the place where it is drawn first
        spans = [(0.0, a), (b, float(line.length))] if round_ else [(a, b)]
        found += [Stretch(word, number, 0, p, q) for p, q in spans if q - p > LEAST]
    return replace(move, also=tuple(found)) if found else move


def cut_out(path: Floats, begin: float, end: float) -> Floats:
    """The part of a polyline from ``begin`` to ``end`` mm along it."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(path, axis=0).T))])
    ends = [[np.interp(at, along, path[:, 0]), np.interp(at, along, path[:, 1])] for at in (begin, end)]
    inner = path[(along > begin + EQUAL) & (along < end - EQUAL)]
    return np.vstack([ends[:1], inner, ends[1:]])


def _along(net: Network, edges: Sequence[int], node: int) -> Iterable[Move]:
    for k in edges:
        a, b = net.ends[k].tolist()
        forth = a == node
        path = net.paths[k] if forth else net.paths[k][::-1]
        yield Move(path, int(net.kinds[k]), (a, b) if forth else (b, a), course=int(net.courses[k]))
        node = b if forth else a
