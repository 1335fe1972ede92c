"""The route at one place, leg by leg, for looking at it before sewing."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import groupby
from typing import Literal

import numpy as np

from kenzet.core.bench.laid_ruler import laid_ruler
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import Unit
from kenzet.core.route.costs import Costs
from kenzet.core.route.euler_walk import Leg
from kenzet.core.route.network import KINDS
from kenzet.core.route.quilt import line_of
from kenzet.core.route.turns import is_freehand
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.route.visits import UnitVisit
from kenzet.core.sewing.along import moves_on, placements_along, spots_at
from kenzet.core.sewing.place_route import PlaceRoute
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.route_words import leg_words
from kenzet.web.wire import base as m
from kenzet.web.wire.drawn import flat


class LegView(m.Wire):
    """A piece of the route: a sewn line or travel, flat x, y in the quilt, mm, in the direction of sewing.

    ``begins`` if a new thread starts there, ``freehand`` for a path through a texture. ``spot`` is a point on it,
    x, y in the part; ``ruler`` are the corners of a straight ruler as placed for the line, ``hands`` the points
    where the hand on it moves, in the quilt.
    """

    points: list[float]
    length: float
    sews: bool
    freehand: bool
    kind: Literal["line", "ditch", "edge", "step", "rim", "texture"]
    begins: bool
    words: w.Words
    spot: list[float]
    ruler: list[float]
    hands: list[list[float]]


def legs_of(laid: QuiltLayout, one: UnitRoute, visit: UnitVisit, unit: Unit) -> Iterable[LegView]:
    """Line by line; consecutive travel along lanes of one kind is one piece."""
    placing = one.unit.part.places[visit.place]
    rulers = {}
    for move, plan, drawing, on in placements_along(laid, PlaceRoute(one, visit.back, Costs())):
        corners = flat(place_all(placing, laid_ruler(plan, drawing, on, move.back)))
        hands = moves_on(plan, drawing, on.line, [move], on)
        rulers[move.course] = (corners, hands)
    for run in one.backwards if visit.back else one.runs:
        pieces = groupby(enumerate(run.legs), key=lambda leg: _piece(one, *leg))
        for n, (_, some) in enumerate(pieces):
            legs = [leg for _, leg in some]
            lines = [line_of(one.network.paths[leg.edge], leg.back) for leg in legs]
            far = float(sum(one.network.lengths[leg.edge] for leg in legs))
            path = place_all(placing, np.concatenate(lines))
            course = int(one.network.courses[legs[0].edge]) if legs[0].sews else -1
            ruler, hands = rulers.get(course, ([], []))
            yield LegView(
                points=flat(path),
                length=round(far, 3),
                sews=legs[0].sews,
                freehand=is_freehand(one, legs[0]),
                kind=KINDS[int(one.network.kinds[legs[0].edge])],
                begins=n == 0,
                words=leg_words(laid, one, legs[0], far, unit),
                spot=_middle(max(lines, key=len)),
                ruler=ruler,
                hands=[spot.round(3).tolist() for spot in spots_at(path, hands)],
            )


def _piece(one: UnitRoute, number: int, leg: Leg) -> tuple[bool, int, int]:
    """What belongs together: the pieces of a line, or one kind of lane."""
    return leg.sews, int(one.network.kinds[leg.edge]), number if leg.sews else -1


def _middle(path: Floats) -> list[float]:
    k = len(path) // 2
    x, y = ((path[k - 1] + path[k]) / 2).tolist()
    return [round(x, 3), round(y, 3)]
