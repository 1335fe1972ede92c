"""A placement as it lies at a place of the quilt: every direction and point in the quilt's coordinates.

Blocks are placed turned and mirrored; "up" in the block is anywhere in the quilt. What a person is told at a place
is told from here.
"""

from __future__ import annotations

from dataclasses import replace

from kenzet.core.geom.affine import IDENTITY, Placing, is_mirrored, place, turned
from kenzet.core.geom.arcs import Arc
from kenzet.core.placing.legs import Leg
from kenzet.core.placing.placement import Placement


def as_it_lies(on: Placement, placing: Placing) -> Placement:
    """``on`` of a part in the quilt's coordinates, where ``placing`` puts that part."""
    if placing[:4] == IDENTITY[:4]:
        return on
    return replace(
        on,
        legs=tuple(_placed(leg, placing) for leg in on.legs),
        sides=tuple(as_it_lies(side, placing) for side in on.sides),
        dots=tuple(place(placing, dot) for dot in on.dots),
        onward=turned(placing, on.onward) if isinstance(on.onward, tuple) else on.onward,
        towards=turned(placing, on.towards) if isinstance(on.towards, tuple) else on.towards,
        along=None if on.along is None else turned(placing, on.along),
        crosses=None if on.crosses is None else (on.crosses[0], turned(placing, on.crosses[1])),
    )


def _placed(leg: Leg, placing: Placing) -> Leg:
    start, end = place(placing, leg.start), place(placing, leg.end)
    sign = -1 if is_mirrored(placing) else 1
    arc = None if leg.arc is None else Arc(start, end, sign * leg.arc.bulge)
    return Leg(start, end, leg.length, arc, sign * leg.turn)
