"""Named regions that the contract tests run over; inches unless said otherwise."""

from __future__ import annotations

import math

from shapely.geometry import MultiPolygon, Point, Polygon

from kenzet.core.fills.base import Site
from kenzet.core.geom.affine import IDENTITY
from kenzet.core.geom.arcs import drawn as drawn_outline
from kenzet.core.geom.arcs import key
from kenzet.core.geom.region import Region
from kenzet.core.plan.drawing import Drawing, draw
from kenzet.core.top.layout import Part
from kenzet.core.top.quilt_layout import ZoneShape

IN = 25.4


def inches(outline, *holes) -> Region:
    return Region.of(
        [(x * IN, y * IN) for x, y in outline], *[[(x * IN, y * IN) for x, y in h] for h in holes]
    )


def box(x, y, w, h):
    return [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]


def petal(chord, rise) -> Region:
    """A melon of two arcs over ``chord`` with ``rise`` on either side, its tips at 0 and chord."""
    bulge = 2 * rise / chord
    ring, soft = drawn_outline([(0, 0, bulge), (chord * IN, 0, bulge)])
    return Region(Polygon(ring), frozenset(key(p) for p in soft))


def _pieces(*outlines) -> Region:
    return Region(MultiPolygon([Polygon([(x * IN, y * IN) for x, y in o]) for o in outlines]))


def drawn(fill, region: Region) -> Drawing:
    """``fill`` in ``region``, as the plan draws it."""
    part = Part("block", "block", "Block", *(float(v) for v in region.bounds[2:]), {}, {"1-1": IDENTITY})
    return draw(ZoneShape(part, region, ("1-1",)), fill, tuple(fill.lay_out(site(region))), ("1-1",))


def site(region: Region) -> Site:
    """A place for fills whose part has its centre in the region's middle and the quilt's at 0, 0."""
    return Site(region, region.middle, (0.0, 0.0))


REGIONS: dict[str, Region] = {
    "square": inches(box(0, 0, 7.5, 7.5)),
    "right triangle": inches([(0, 0), (5, 0), (0, 5)]),
    "thin strip": inches(box(-1, 3, 40, 2)),
    "L": inches([(0, 0), (6, 0), (6, 2), (2, 2), (2, 6), (0, 6)]),
    "frame": inches(box(0, 0, 10, 8), box(2, 2, 6, 4)),
    "lattice": inches(box(0, 0, 9, 6), box(1, 1, 3, 4), box(5, 1, 3, 4)),
    "disc": Region(Point(80, 70).buffer(60, quad_segs=64)),
    "sliver": inches([(0, 0), (12, 0), (12, 0.3)]),
    "star background": _pieces(
        box(0, 0, 3, 3), box(9, 0, 3, 3), box(0, 9, 3, 3), box(9, 9, 3, 3),
        [(3, 0), (9, 0), (6, 3)], [(12, 3), (12, 9), (9, 6)], [(9, 12), (3, 12), (6, 9)], [(0, 9), (0, 3), (3, 6)],
    ),
    "hourglass": _pieces([(0, 0), (6, 0), (3, 3)], [(3, 3), (6, 6), (0, 6)]),
    "petal": petal(8, 1.25),
    "diamond": inches([(-4, 0), (0, -2), (4, 0), (0, 2)]),
    "hexagon": inches([(math.cos(math.radians(a)) * 4, math.sin(math.radians(a)) * 4) for a in range(0, 360, 60)]),
}  # fmt: skip
