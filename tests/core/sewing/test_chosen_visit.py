"""A zone of what is left can be gone to, although its place is visited for other zones too."""

from __future__ import annotations

from kenzet.core.route.quilt import route_quilt
from kenzet.core.sewing.log import Log
from kenzet.core.sewing.now import now, place_routes
from kenzet.core.sewing.progress import left_by_zone
from tests.jobs import role, whole, zoned
from tests.tops import single


def test_the_texture_of_a_block_is_sewn_when_it_is_chosen():
    laid = whole(single("Nine-patch", "7 1/2 in"), {"kind": "corner cuts", "spacing": "3/8 in"})
    laid = zoned(laid, role(laid, "main"), {"kind": "texture", "texture": "meander"}, taking="on top")
    ways = place_routes(laid, route_quilt(laid))
    sewn = Log().sewn
    assert len(ways.route.visits) == 2 and len({visit.place for visit in ways.route.visits}) == 1
    for row in left_by_zone(ways.left(sewn)):
        here = now(ways, sewn, row.next.place, row.next.number)
        assert here is not None and here.number == row.next.number
        assert row.zone in {key for key, _ in here.way.route.unit.drawings}
        assert here.steps[-1].number or here.steps
