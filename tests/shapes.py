"""Named regions that the contract tests run over; inches unless said otherwise."""

from __future__ import annotations

import math

from shapely.geometry import MultiPolygon, Point, Polygon

from kenzet.core.geom.region import Region

IN = 25.4


def inches(outline, *holes) -> Region:
    return Region.of(
        [(x * IN, y * IN) for x, y in outline], *[[(x * IN, y * IN) for x, y in h] for h in holes]
    )


def box(x, y, w, h):
    return [(x, y), (x + w, y), (x + w, y + h), (x, y + h)]


def _pieces(*outlines) -> Region:
    return Region(MultiPolygon([Polygon([(x * IN, y * IN) for x, y in o]) for o in outlines]))


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
    "hexagon": inches([(math.cos(math.radians(a)) * 4, math.sin(math.radians(a)) * 4) for a in range(0, 360, 60)]),
}  # fmt: skip
