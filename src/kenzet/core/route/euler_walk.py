"""One run as it is sewn: from its start to its end over every line, along the travelled edges between.

Of all Euler walks over the same edges the simplest is taken: line, travel, next line of the same family; a zone is
finished before the next begins, if possible. (Fleury's algorithm: a bridge is crossed only if no other edge is
left.)
"""

from __future__ import annotations

from collections import Counter, deque
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.route.network import LINE, Course, Network
from kenzet.core.route.travel_edges import Ends, Travel
from kenzet.core.tolerances import ROUNDING


@dataclass(frozen=True, slots=True)
class Leg:
    """Edge ``edge`` from its first node to its second, or ``back``; ``sews`` if it is sewn, not only travelled."""

    edge: int
    back: bool
    sews: bool


@dataclass(frozen=True, eq=False)
class Run:
    """An unbroken walk from a thread's start at node ``start`` to its end at node ``end``."""

    start: int
    end: int
    legs: tuple[Leg, ...]


def runs(
    network: Network, courses: Sequence[Course], travel: Travel, ends: Ends = None, from_right: bool = False
) -> list[Run]:
    """The runs of ``travel``, each an unbroken walk over everything that is sewn and travelled in it.

    If a run may begin at either end, it begins at the left (``from_right``: at the right), so that what is sewn
    moves out of the throat.
    """
    found = []
    for group in travel.groups:
        found += _Walker(network, courses, travel, group, -1.0 if from_right else 1.0).runs(ends)
    return found


class _Walker:
    def __init__(
        self, network: Network, courses: Sequence[Course], travel: Travel, group: frozenset[int], side: float
    ) -> None:
        self._side = side
        self._network, self._courses = network, courses
        self._ends = network.ends.tolist()
        self._left: Counter[int] = Counter()
        self._sewn: Counter[int] = Counter()
        for k in np.flatnonzero(network.passes).tolist():
            if self._ends[k][0] in group:
                self._left[k] += int(network.passes[k])
                self._sewn[k] += int(network.passes[k])
        for k in travel.edges:
            if self._ends[k][0] in group:
                self._left[k] += 1
        self._at: dict[int, dict[int, None]] = {}
        for k in self._left:
            for node in self._ends[k]:
                self._at.setdefault(node, {})[k] = None

    def runs(self, ends: Ends) -> list[Run]:
        found = []
        while self._left:
            odd = sorted(node for node in self._at if self._degree(node) % 2)
            if ends is not None and self._at.get(ends[0]):
                start = ends[0]
            elif odd:
                start = min(odd, key=self._corner)
            else:
                start = min(self._at, key=self._corner)
            spare = odd[2:] if len(odd) > 2 else []
            found.append(self._run(start, frozenset(spare)))
        return found

    def _corner(self, node: int) -> tuple[float, float]:
        """A sort key: runs that may begin anywhere begin low, and on the side away from the throat."""
        x, y = self._network.points[node].tolist()
        return round(self._side * x + y, 2), round(self._side * x, 2)

    def _degree(self, node: int) -> int:
        return sum(
            self._left[k] * (2 if self._ends[k][0] == self._ends[k][1] else 1) for k in self._at.get(node, ())
        )

    def _run(self, start: int, spare: frozenset[int]) -> Run:
        """A walk that goes on as long as possible; it stops at ends of further runs (``spare``) where no edge is
        left."""
        node, legs, last = start, [], None
        self._ring = -1
        while self._at.get(node):
            edge = self._next(node, last)
            a, b = self._ends[edge]
            back = node != a
            sews = self._sewn[edge] > 0 and (self._network.kinds[edge] == LINE)
            if sews:
                self._sewn[edge] -= 1
                course = int(self._network.courses[edge])
                self._ring = course if self._courses[course].closed else -1
            legs.append(Leg(edge, back, sews))
            self._take(edge)
            node, last = (a if back else b), edge
        return Run(start, node, tuple(legs))

    def _take(self, edge: int) -> None:
        self._left[edge] -= 1
        if not self._left[edge]:
            del self._left[edge]
            for node in set(self._ends[edge]):
                del self._at[node][edge]
                if not self._at[node]:
                    del self._at[node]

    def _next(self, node: int, last: int | None) -> int:
        """The simplest next edge that leaves nothing unreachable."""
        choice = sorted(self._at[node], key=lambda edge: self._plainness(node, edge, last))
        for edge in choice[:-1]:
            if len(choice) == 1 or self._comes_back(node, edge):
                return edge
        return choice[-1] if len(choice) == 1 or self._comes_back(node, choice[-1]) else choice[0]

    def _plainness(self, node: int, edge: int, last: int | None) -> tuple[float, ...]:
        """A sort key, lower is simpler: a ring that is begun is finished; after a line comes travel and the other
        direction, in the same family, and straight on when travelling."""
        line = self._courses_of(edge)
        leaves = float(self._ring >= 0 and (line is None or self._network.courses[edge] != self._ring))
        before = self._courses_of(last)
        same_kind = last is not None and (line is None) == (before is None)
        straight = 0.0
        if line is None and before is None and last is not None:
            straight = 1.0 - float(self._way(edge, node, False) @ self._way(last, node, True))
        place = (0, 0, 0, 0) if line is None else (line.zone, line.piece, line.family, line.number)
        passes_by = line is None and before is None  # a line that is met is sewn before the lane leads on
        return (leaves, float(same_kind and line is not None), float(passes_by), straight, *place)

    def _courses_of(self, edge: int | None) -> Course | None:
        if edge is None or self._network.courses[edge] < 0 or self._sewn[edge] == 0:
            return None
        return self._courses[int(self._network.courses[edge])]

    def _way(self, edge: int, node: int, arriving: bool) -> Floats:
        """The direction in which ``edge`` leaves ``node``, or arrives there."""
        path = self._network.paths[edge]
        from_start = self._ends[edge][0] == node
        way = (path[1] - path[0]) if from_start else (path[-2] - path[-1])
        unit: Floats = way / max(float(np.hypot(*way)), ROUNDING)
        return -unit if arriving else unit

    def _comes_back(self, node: int, edge: int) -> bool:
        """Whether every remaining edge can still be reached after taking ``edge`` from ``node``."""
        a, b = self._ends[edge]
        if self._left[edge] > 1 or a == b:
            return True
        other = b if a == node else a
        if len(self._at[node]) == 1:
            return True
        # from both sides in turn: whichever side is small is seen through soon
        sides = [({node}, deque([node])), ({other}, deque([other]))]
        while all(open_ for _, open_ in sides):
            for (seen, open_), (met, _) in (sides, sides[::-1]):
                if not open_:
                    return False
                here = open_.popleft()
                for k in self._at.get(here, ()):
                    p, q = self._ends[k]
                    there = q if p == here else p
                    if k == edge or there in seen:
                        continue
                    if there in met:
                        return True
                    seen.add(there)
                    open_.append(there)
        return False
