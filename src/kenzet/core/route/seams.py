"""Distances along seams from block to block."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.route.costs import Costs
from kenzet.core.route.network import EDGE, LINE, TOUCH, Lane, Network, network
from kenzet.core.route.shortest_paths import Roads
from kenzet.core.route.unit import corners_of, rings
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.top.layout import Part
from kenzet.core.top.quilt_layout import QuiltLayout

_STRAIGHT = 0.05  # mm
_CORNERS = 16
_OPEN = 4.0  # times: travelling where nothing is sewn yet (ours)
Taken = tuple[int, bool]
"""A route by its index, and whether it is taken backwards."""


def _is_block(laid: QuiltLayout, part: Part) -> bool:
    return part.of in laid.quilt.blocks


def _outline(part: Part) -> list[Floats]:
    """The rings around the union of its patches, without points on straight sides."""
    area = shapely.simplify(shapely.union_all([patch.area for patch in part.patches.values()]), _STRAIGHT)
    return list(rings(area))


def _seams(laid: QuiltLayout, part: Part) -> list[Floats]:
    """The lines to travel along around it: a block's outline, or the seams of what lies between and around blocks."""
    if _is_block(laid, part):
        return _outline(part)
    return [ring for patch in part.patches.values() for ring in rings(patch.area)]


def _joints(laid: QuiltLayout, part: Part) -> Floats:
    """The points where one can leave it: a block's corners, or the corners of patches elsewhere. (n, 2)."""
    found = np.concatenate(
        [ring[:-1] for ring in (_outline(part) if _is_block(laid, part) else _seams(laid, part))]
    )
    if _is_block(laid, part) and len(found) > _CORNERS:
        return np.array(corners_of(part))
    joints: Floats = np.unique(found.round(3), axis=0)
    return joints


def _roads_within(net: Network, costs: Costs, sewn: bool) -> Roads:
    """Paths through a unit. Its lines can be used only if they are ``sewn`` already; before that seams are
    preferred to a zone's edge, where nothing hides the travel yet."""
    prices = costs.of(net)
    if not sewn:
        prices = np.select([net.kinds == LINE, net.kinds == EDGE], [np.inf, _OPEN * prices], prices)
    return Roads(len(net.points), net.ends, prices)


class Seams:
    """Distances along seams from the end of one unit to the start of another."""

    def __init__(self, laid: QuiltLayout, routes: Sequence[UnitRoute], costs: Costs) -> None:
        self._routes = routes
        self._joints = {key: _joints(laid, part) for key, part in laid.top.parts.items()}
        lanes, corners = [], []
        for key, part in laid.top.parts.items():
            for placing in part.places.values():
                lanes += [Lane(place_all(placing, ring)) for ring in _seams(laid, part)]
                corners += [(float(x), float(y)) for x, y in place_all(placing, self._joints[key])]
        self._net = network([], lanes, corners)
        self._tree = shapely.STRtree(shapely.points(self._net.points))
        self._roads = Roads(len(self._net.points), self._net.ends, costs.of(self._net))
        self._corners: dict[tuple[int, str], list[int]] = {}
        self._spots: dict[tuple[int, str], tuple[Floats, Floats]] = {}
        self._within = [_roads_within(route.network, costs, sewn=True) for route in routes]
        self._into = [_roads_within(route.network, costs, sewn=False) for route in routes]
        self._doors = [
            [route.network.nearest((float(x), float(y))) for x, y in self._joints_of(route)]
            for route in routes
        ]
        self._inside = [self._to_joints(number) for number in range(len(routes))]

    def _joints_of(self, route: UnitRoute) -> Floats:
        part = route.unit.part
        if part.key not in self._joints:  # what lies across the whole top
            self._joints[part.key] = np.array(corners_of(part))
        return self._joints[part.key]

    def _to_joints(self, number: int) -> Floats:
        """The costs between its start and end and each joint, outwards and inwards, (2, 2, n)."""
        route = self._routes[number]
        beyond = np.hypot(*(route.network.points[self._doors[number]] - self._joints_of(route)).T)
        found: Floats = beyond + np.array(
            [
                [[roads.cost(end, node) for node in self._doors[number]] for end in route.ends]
                for roads in (self._within[number], self._into[number])
            ]
        )
        return found

    def _at(self, number: int, place: str) -> list[int]:
        key = (number, place)
        if key not in self._corners:
            spots = place_all(
                self._routes[number].unit.part.places[place], self._joints_of(self._routes[number])
            )
            found: list[int] = self._tree.nearest(shapely.points(spots)).tolist()
            self._corners[key] = found
        return self._corners[key]

    def across(self, ways: Sequence[Taken], before: str, onward: Sequence[Taken], here: str) -> Floats:
        """From the end of each of ``ways`` at place ``before`` to the start of each of ``onward`` at ``here``,
        (ways, onward)."""
        table = self._by_corners(ways, before, onward, here).min(axis=(2, 3))
        found: Floats = np.minimum(table, self._along_one_side(ways, before, onward, here))
        return found

    def way(self, taken: Taken, before: str, onward: Taken, here: str) -> Floats:
        """That path as a line in the quilt, (n, 2): through one unit to a corner, along seams, through the other."""
        table = self._by_corners([taken], before, [onward], here)[0, 0]
        (ends, _), (starts, _) = self._placed(taken[0], before), self._placed(onward[0], here)
        end, start = ends[0 if taken[1] else 1], starts[1 if onward[1] else 0]
        if self._along_one_side([taken], before, [onward], here)[0, 0] <= table.min():
            return np.array([end, start])
        a, b = np.unravel_index(int(table.argmin()), table.shape)
        between = path_along(
            self._net, self._roads, self._at(taken[0], before)[a], self._at(onward[0], here)[b]
        )
        out = self._through(self._within, taken[0], before, 0 if taken[1] else 1, int(a))
        into = self._through(self._into, onward[0], here, 1 if onward[1] else 0, int(b))[::-1]
        way = np.concatenate([end[None], out, between, into, start[None]])
        new = np.concatenate([[True], np.hypot(*np.diff(way, axis=0).T) > TOUCH])
        found: Floats = way[new]
        return found

    def _through(self, roads: Sequence[Roads], number: int, place: str, end: int, corner: int) -> Floats:
        """From an end of a route to a corner of its part, in the quilt."""
        route = self._routes[number]
        path = path_along(route.network, roads[number], route.ends[end], self._doors[number][corner])
        return place_all(route.unit.part.places[place], path)

    def _by_corners(self, ways: Sequence[Taken], before: str, onward: Sequence[Taken], here: str) -> Floats:
        """The cost by each corner of one and each of the other, (ways, onward, n, m)."""
        out = np.array([self._inside[route][0, 0 if back else 1] for route, back in ways])
        into = np.array([self._inside[route][1, 1 if back else 0] for route, back in onward])
        corners, others = self._at(ways[0][0], before), self._at(onward[0][0], here)
        far = np.array([[self._roads.cost(one, other) for other in others] for one in corners])
        found: Floats = out[:, None, :, None] + far + into[None, :, None, :]
        return found

    def _along_one_side(
        self, ways: Sequence[Taken], before: str, onward: Sequence[Taken], here: str
    ) -> Floats:
        """The cost if both ends lie on one straight seam shared by the two units; infinite otherwise."""
        placed = [(*self._placed(route, before), back) for route, back in ways]
        others = [(*self._placed(route, here), back) for route, back in onward]
        ends = np.array([spots[0 if back else 1] for spots, _, back in placed])[:, None]
        starts = np.array([spots[1 if back else 0] for spots, _, back in others])[None]
        box, other = placed[0][1], others[0][1]
        found = np.full((len(ways), len(onward)), np.inf)
        for axis in (0, 1):
            side = ends[..., axis]
            shared = np.ones_like(side, dtype=bool)
            for corners in (box, other):
                shared &= np.abs(side[..., None] - corners[:, axis]).min(axis=-1) < TOUCH
            touching = (
                box[0, 1 - axis] <= other[1, 1 - axis] + TOUCH
                and other[0, 1 - axis] <= box[1, 1 - axis] + TOUCH
            )
            if touching:
                on_it = shared & (np.abs(side - starts[..., axis]) < TOUCH)
                found = np.where(on_it, np.abs(ends[..., 1 - axis] - starts[..., 1 - axis]), found)
        return found

    def _placed(self, number: int, place: str) -> tuple[Floats, Floats]:
        """Start and end of a route at a place, and the lower left and upper right corner of its unit there."""
        key = (number, place)
        if key not in self._spots:
            route = self._routes[number]
            placing = route.unit.part.places[place]
            corners = place_all(placing, np.array(corners_of(route.unit.part)))
            ends = place_all(placing, route.network.points[list(route.ends)])
            self._spots[key] = (ends, np.stack([corners.min(axis=0), corners.max(axis=0)]))
        return self._spots[key]


def path_along(net: Network, roads: Roads, start: int, end: int) -> Floats:
    """The cheapest path between two nodes as a line, (n, 2); a single point if they are equal."""
    edges = roads.path(start, end)
    node, pieces = start, [net.points[[start]]]
    for k in edges if start > end else reversed(edges):
        a, b = net.ends[k].tolist()
        pieces.append(net.paths[k] if a == node else net.paths[k][::-1])
        node = b if a == node else a
    return np.concatenate(pieces)
