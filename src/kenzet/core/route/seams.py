"""How far it is along seams from block to block."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.route.costs import Costs
from kenzet.core.route.network import TOUCH, Lane, network
from kenzet.core.route.roads import Roads
from kenzet.core.route.unit import corners_of
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.top.layout import place_all

Taken = tuple[int, bool]
"""A route by its number, and whether it is taken backwards."""


class Seams:
    """How far it is along seams from the end of one unit to the start of another."""

    def __init__(self, routes: Sequence[UnitRoute], costs: Costs) -> None:
        self._routes = routes
        outlines = []
        for unit in {id(route.unit): route.unit for route in routes}.values():
            for place in unit.places:
                ring = np.array([*corners_of(unit.part), corners_of(unit.part)[0]])
                outlines.append(place_all(unit.part.places[place], ring))
        self._net = network([], [Lane(ring) for ring in outlines])
        self._roads = Roads(len(self._net.points), self._net.ends, costs.of(self._net))
        self._corners: dict[tuple[int, str], list[int]] = {}
        self._spots: dict[tuple[int, str], tuple[Floats, Floats]] = {}
        self._inside = [self._to_corners(route, costs) for route in routes]

    @staticmethod
    def _to_corners(route: UnitRoute, costs: Costs) -> list[list[float]]:
        """From its start and from its end to each of the part's corners."""
        roads = Roads(len(route.network.points), route.network.ends, costs.of(route.network))
        corners = [route.network.nearest(corner) for corner in corners_of(route.unit.part)]
        beyond = [
            math.dist(route.network.points[node], corner)
            for node, corner in zip(corners, corners_of(route.unit.part), strict=True)
        ]
        return [
            [roads.cost(end, node) + far for node, far in zip(corners, beyond, strict=True)]
            for end in route.ends
        ]

    def _at(self, number: int, place: str) -> list[int]:
        key = (number, place)
        if key not in self._corners:
            part = self._routes[number].unit.part
            spots = place_all(part.places[place], np.array(corners_of(part)))
            self._corners[key] = [self._net.nearest((float(x), float(y))) for x, y in spots]
        return self._corners[key]

    def across(self, ways: Sequence[Taken], before: str, onward: Sequence[Taken], here: str) -> Floats:
        """From the end of each of ``ways`` at place ``before`` to the start of each of ``onward`` at ``here``, (ways, onward)."""
        out = np.array([self._inside[route][0 if back else 1] for route, back in ways])
        into = np.array([self._inside[route][1 if back else 0] for route, back in onward])
        corners, others = self._at(ways[0][0], before), self._at(onward[0][0], here)
        far = np.array([[self._roads.cost(one, other) for other in others] for one in corners])
        table: Floats = (out[:, None, :, None] + far + into[None, :, None, :]).min(axis=(2, 3))
        return np.minimum(table, self._along_one_side(ways, before, onward, here))

    def _along_one_side(
        self, ways: Sequence[Taken], before: str, onward: Sequence[Taken], here: str
    ) -> Floats:
        """Where both ends lie on one straight seam that the two units share; infinite where they do not."""
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
        """Start and end of a route at a place, and the lower left and upper right corner of what is sewn there."""
        key = (number, place)
        if key not in self._spots:
            route = self._routes[number]
            placing = route.unit.part.places[place]
            corners = place_all(placing, np.array(corners_of(route.unit.part)))
            ends = place_all(placing, route.network.points[list(route.ends)])
            self._spots[key] = (ends, np.stack([corners.min(axis=0), corners.max(axis=0)]))
        return self._spots[key]
