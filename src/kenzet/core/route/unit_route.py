"""The route of one kind of unit: the order and direction of everything sewn there in one go."""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from typing import get_args

import numpy as np
import shapely
from numpy.typing import NDArray

from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import Leg, Run, runs
from kenzet.core.route.in_order import in_order, in_order_at_once, keeps_order, of_order
from kenzet.core.route.line_sequence import is_long
from kenzet.core.route.network import LINE, Ints, Network
from kenzet.core.route.shortest_paths import DENSE
from kenzet.core.route.solve import Solver
from kenzet.core.route.travel_edges import Ends, Travel
from kenzet.core.route.unit import SewingUnit, Technique, corners_of
from kenzet.core.top.stitching import Avoided, Corner, PinnedEnds, WholeCell

_SMALL = 150  # nodes
_TRIED = 2  # ends of lines near a corner
_TIPS = 8
_THINNED = 3  # times that thick places are made dearer
_LUMP = 3.0  # times
_BESIDE = 0.05  # mm from a cell's side
_BESIDE_FOR = 1.0  # mm


@dataclass(frozen=True, eq=False)
class UnitRoute:
    """The route of one kind of unit, in the part's coordinates; ``pinned`` if it must not be reversed.

    ``word`` is the fingerprint under which a shorter route is saved (empty if its ends were chosen by the
    program), ``known`` the edges of a saved route that is used. A ``quick`` one is shown while a shorter one is
    searched for. ``more`` is the additional cost, mm, so that every line finds its reference and sets follow each
    other.
    """

    unit: SewingUnit
    network: Network
    travel: Travel
    runs: tuple[Run, ...]
    bound: float
    pinned: bool = False
    word: str = ""
    known: tuple[int, ...] = ()
    quick: bool = False
    more: float = 0.0

    @cached_property
    def one_way(self) -> bool:
        """Whether it must not be reversed: because of its pins, or because lines would not find their references."""
        unit = self.unit
        return self.pinned or not keeps_order(self.network, unit.courses, unit.precedence, self.backwards)

    @property
    def travelled(self) -> float:
        """Travel, mm."""
        return float(sum(self.network.lengths[k] for k in self.travel.edges))

    @cached_property
    def sewn(self) -> Counter[Technique]:
        """mm to sew, by technique."""
        net, found = self.network, Counter[Technique]()
        for k in np.flatnonzero(net.passes).tolist():
            its = self.unit.technique(self.unit.courses[int(net.courses[k])])
            found[its] += float(net.lengths[k] * net.passes[k])  # type: ignore[assignment]
        return found

    @cached_property
    def threads(self) -> Ints:
        """The number of threads over each edge."""
        net = self.network
        found: Ints = net.passes.copy()
        for k in np.flatnonzero(
            (net.courses >= 0) & (net.passes == 0)
        ).tolist():  # a piece of a line sewn whole
            found[k] = self.unit.courses[int(net.courses[k])].passes
        np.add.at(found, list(self.travel.edges), 1)
        return found

    def trimmed(self, start: bool, end: bool) -> UnitRoute:
        """Without travel before the first line if a thread begins there, and after the last if it is cut there;
        pinned ends do not change."""
        if self.pinned:
            return self
        runs = list(self.runs)
        begins = next((k for k, leg in enumerate(runs[0].legs) if leg.sews), 0) if start else 0
        if begins:
            runs[0] = Run(self._node_at(runs[0].legs[begins]), runs[0].end, runs[0].legs[begins:])
        ends = next((k for k, leg in enumerate(reversed(runs[-1].legs)) if leg.sews), 0) if end else 0
        if ends:
            gone = runs[-1].legs[-ends]
            runs[-1] = Run(runs[-1].start, self._node_at(gone), runs[-1].legs[:-ends])
        if not begins and not ends:
            return self
        edges = [leg.edge for run in runs for leg in run.legs if not leg.sews]
        dropped = Counter(self.travel.edges) - Counter(edges)
        kept = Counter(self.travel.edges) - dropped
        travel = replace(self.travel, edges=tuple(sorted(kept.elements())))
        return replace(self, runs=tuple(runs), travel=travel)

    def _node_at(self, leg: Leg) -> int:
        """The first node of a leg."""
        return int(self.network.ends[leg.edge, 1 if leg.back else 0])

    @property
    def ends(self) -> tuple[int, int]:
        """Its first and last node."""
        return self.runs[0].start, self.runs[-1].end

    @cached_property
    def backwards(self) -> tuple[Run, ...]:
        """The reversed route; a single run is walked again, so that rings are entered from outside again."""
        if len(self.runs) == 1 and self.unit.precedence.free:
            start, end = self.ends
            walked = runs(self.network, self.unit.courses, self.travel, (end, start))
            if len(walked) == 1 and (walked[0].start, walked[0].end) == (end, start):
                return tuple(walked)
        return tuple(
            Run(
                run.end, run.start, tuple(Leg(leg.edge, not leg.back, leg.sews) for leg in reversed(run.legs))
            )
            for run in reversed(self.runs)
        )


def network_fingerprint(network: Network, costs: Costs, ends: Ends) -> str:
    """The key under which a route through the ``network`` is saved: equal for equal lines, lanes and costs."""
    told = hashlib.sha256()
    for some in (network.points, costs.of(network)):
        told.update((np.round(some, 2) + 0.0).tobytes())
    for more in (network.ends, network.passes):
        told.update(np.ascontiguousarray(more, dtype=np.int64).tobytes())
    told.update(f"{costs.stop:.2f} {ends}".encode())
    return told.hexdigest()[:16]


def route_unit(
    unit: SewingUnit,
    costs: Costs,
    wishes: UnitOptions,
    ways: Mapping[str, tuple[int, ...]] | None = None,
    quick: bool = False,
) -> tuple[UnitRoute, ...]:
    """The routes of one kind. If they are quick to solve, there are several, from corner to corner or from the first
    to the last line, of which each place takes the one that leads on best.

    With a pinned start or end there is one route, unless no lane leads from one to the other. ``ways`` are saved
    routes, by fingerprint. A ``quick`` one is found at once, and may be longer.
    """
    net = unit.network(wishes.step, wishes.avoided, wishes.turning)
    found = _routes(unit, net, costs, wishes, ways or {}, quick)
    for _ in range(0 if quick and len(net.points) > DENSE else _THINNED):
        thick = _thick(found[0], wishes.over)
        if not thick.any():
            break
        net = replace(net, travel_penalty=np.where(thick, net.travel_penalty * _LUMP, net.travel_penalty))
        found = _routes(unit, net, costs, wishes, ways or {}, quick)
    return tuple(one for one in found if one is found[0] or not _thick(one, wishes.over).any())


def _thick(one: UnitRoute, most: int) -> NDArray[np.bool_]:
    """The edges with more than ``most`` threads, some of them travelled."""
    travelled = np.zeros(len(one.threads), dtype=bool)
    travelled[list(one.travel.edges)] = True
    found: NDArray[np.bool_] = (one.threads > most) & travelled
    return found


def _routes(
    unit: SewingUnit,
    net: Network,
    costs: Costs,
    wishes: UnitOptions,
    ways: Mapping[str, tuple[int, ...]],
    quick: bool,
) -> tuple[UnitRoute, ...]:
    solver = Solver(net, costs)
    soon = quick and solver.roads.all is not None

    def routed(ends: Ends, pinned: bool = False) -> UnitRoute:
        word = network_fingerprint(net, costs, ends) if pinned or ends is None else ""
        known = ways.get(word, ())
        lines, rule = unit.courses, unit.precedence
        put = (
            of_order(net, lines, rule, solver.roads, costs, known, ends) if known and not rule.free else None
        )
        at_once = quick and not rule.free and is_long(lines)
        if put is None and at_once:
            put = in_order_at_once(net, lines, rule, costs, ends)
        elif put is None:
            find = solver.soon if soon else solver.travel
            travel = (solver.known(known, ends) if known and rule.free else None) or find(ends)
            walked = runs(net, lines, travel, ends, wishes.from_right)
            put = in_order(net, lines, rule, solver.roads, costs, walked, ends, not quick) or (travel, walked)
        travel, walked = put
        more = (
            0.0 if rule.free or at_once else max(solver.worth(travel) - solver.worth(solver.quick(ends)), 0.0)
        )
        return UnitRoute(unit, net, travel, tuple(walked), solver.bound, pinned, word, known, quick, more)

    if wishes.pin is not None and (wishes.pin.start or wishes.pin.end):
        best = min(
            _pinned(unit, net, wishes.pin), key=lambda ends: solver.worth(solver.quick(ends)), default=None
        )
        pinned = routed(best, pinned=True) if best else None
        if pinned and len(pinned.travel.groups) == 1:
            return (pinned,)
    free = routed(None)
    others = []
    if len(net.points) <= _SMALL and not quick:
        corners = [net.nearest(corner) for corner in corners_of(unit.part)]
        spots = net.tips if 2 <= len(net.tips) <= len(corners) else dict.fromkeys(corners)
        pairs = [pair for pair in combinations(spots, 2) if _may_pay(solver, free, pair)]
        if not unit.precedence.free:  # taken the other way round it is another way
            pairs = [one for pair in pairs for one in (pair, pair[::-1])]
        others = [one for one in map(routed, pairs) if len(one.travel.groups) == 1]
    return (free, *others)


def _may_pay(solver: Solver, free: UnitRoute, ends: tuple[int, int]) -> bool:
    """Whether a route between ``ends`` may be worth its additional cost compared with the ``free`` one, from whose
    ends one may also travel there."""
    (a, b), (c, d) = free.ends, ends
    far = solver.roads.cost
    walk = min(far(a, c) + far(b, d), far(a, d) + far(b, c))
    return solver.least_for(ends) < solver.worth(free.travel) + walk


def _pinned(unit: SewingUnit, net: Network, pin: PinnedEnds) -> list[tuple[int, int]]:
    """Pairs of nodes near the pinned corners; several nodes are tried for each."""
    begins, ends = (_near(unit, net, corner) for corner in (pin.start, pin.end))
    return [(a, b) for a in begins for b in ends if a != b or bool(pin.start and pin.start == pin.end)]


def _near(unit: SewingUnit, net: Network, corner: Corner | WholeCell | None) -> list[int]:
    """The ends of lines nearest to a corner of the part, or of lines that bound the first whole cell; without a
    corner, those nearest to each corner, and the outermost lines'."""
    if corner == "first whole cell":
        return _round_the_cell(unit, net)
    sewn = np.flatnonzero(net.degrees)
    x = [0.0, unit.part.width]
    spots = {
        f"{up} {side}": (x[side == "right"], unit.part.height if up == "upper" else 0.0)
        for up in ("lower", "upper")
        for side in ("left", "right")
    }
    if corner is not None:
        away = np.hypot(*(net.points[sewn] - np.array(spots[corner])).T)
        near: list[int] = sewn[np.argsort(away, kind="stable")[:_TRIED]].tolist()
        return near
    tips = net.tips if len(net.tips) <= _TIPS else ()
    each = [node for spot in get_args(Corner) for node in _near(unit, net, spot)]
    return list(dict.fromkeys([*each, *tips]))


def _round_the_cell(unit: SewingUnit, net: Network) -> list[int]:
    """The nearest ends of the lines that bound the first whole cell; empty if no cell is whole."""
    if unit.cells is None:
        return []
    corner = np.array(corners_of(unit.part)[unit.cells.corner])
    edges = np.flatnonzero(net.kinds == LINE)
    paths = [shapely.linestrings(net.paths[k]) for k in edges.tolist()]
    beside = (
        shapely.length(shapely.intersection(paths, shapely.buffer(unit.cells.first, _BESIDE))) > _BESIDE_FOR
    )
    ends = np.unique(net.ends[edges[beside]])
    away = np.hypot(*(net.points[ends] - corner).T)
    found: list[int] = ends[np.argsort(away, kind="stable")[:_TRIED]].tolist()
    return found


@dataclass(frozen=True, slots=True)
class UnitOptions:
    """Settings of the route: begin at the right if possible (``from_right``), the pinned ends, the spots to avoid,
    and the greatest number of threads ``over`` one place.

    ``step`` is the longest step across open fabric from ring to ring, mm; with ``turning``, a line may be left
    where another meets it.
    """

    from_right: bool = False
    pin: PinnedEnds | None = None
    avoided: tuple[Avoided, ...] = ()
    over: int = 9
    step: float = np.inf
    turning: bool = False
