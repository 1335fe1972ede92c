"""Lines beside the seams, or in them (L2)."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import ClassVar, Literal

import numpy as np
import shapely

from kenzet.core.fills.base import Family, Fill, Group, Paths, Site
from kenzet.core.geom.paths import Path, straight_path, with_arcs
from kenzet.core.geom.region import Point
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.texts import tr

Where = Literal["beside", "ditch", "both"]
Sides = Literal["both", "one"]
_ON = 0.05


class Beside(Fill):
    """A line on one or both sides of every straight seam in the zone and inside its outline, or the ditch itself."""

    label: ClassVar[str] = tr("Beside the seams")
    help: ClassVar[str] = tr(
        "Lines beside every seam or in the ditch. They anchor the quilt and need no marks."
    )
    tile: ClassVar[str] = "M-2 8H74M-2 17H74M-2 25H74M-2 34H74M19 -2V41M28 -2V41M46 -2V41M55 -2V41"
    group: ClassVar[Group] = "straight"
    order: ClassVar[int] = 4

    kind: Literal["beside"] = "beside"
    spacing: Length = asked(
        "1/4 in",
        Form(
            "length",
            tr("Away from the seam"),
            tr("With the foot’s rim in the ditch, the distance is the foot’s offset."),
        ),
    )
    where: Where = asked(
        "beside",
        Form(
            "choice", tr("Sewn"),
            choices=(Choice("beside", tr("beside it")), Choice("ditch", tr("in the ditch")), Choice("both", tr("both"))),
        ),
    )  # fmt: skip
    sides: Sides = asked(
        "both",
        Form(
            "choice", tr("Of a seam inside the zone"),
            choices=(Choice("both", tr("on both sides")), Choice("one", tr("on one side"))),
            only_with=("where", ("beside", "both")),
        ),
    )  # fmt: skip

    @property
    def sews_outline(self) -> bool:
        """True if the ditch is sewn."""
        return self.where != "beside"

    @property
    def in_the_ditch(self) -> bool:
        """True if only the ditch is sewn."""
        return self.where == "ditch"

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The lines along the outline's edges, then those along the seams inside; the ditch last."""
        if self.where != "ditch":
            yield Paths(tuple(self._flanking(site)))
        if self.where != "beside":
            yield Paths(tuple(_outline(site)), on_outline=True)
            yield Paths(tuple(straight_path(a, b) for a, b in site.seams))

    def _flanking(self, site: Site) -> Iterable[Path]:
        away = float(self.spacing.mm)
        outline = site.region.area.boundary
        for edge in site.region.edges:
            nx, ny = site.region.inward(edge)
            ux, uy = (edge.end[0] - edge.start[0]) / edge.length, (edge.end[1] - edge.start[1]) / edge.length
            beyond = [
                (end[0] + sign * ux * 0.2 + nx * 0.2, end[1] + sign * uy * 0.2 + ny * 0.2)
                for end, sign in ((edge.start, -1), (edge.end, 1))
            ]
            turns = [shapely.intersects_xy(site.region.area, *place) for place in beyond]
            more = [away if turn else 3 * away for turn in turns]  # round a point it meets its neighbour
            yield _moved(edge.start, edge.end, (nx * away, ny * away), *more)
        for a, b in site.seams:
            ux, uy = (b[0] - a[0]) / math.dist(a, b), (b[1] - a[1]) / math.dist(a, b)
            on = [3 * away if outline.distance(shapely.Point(end)) < _ON else 0.0 for end in (a, b)]
            for side in (1, -1) if self.sides == "both" else (1,):
                yield _moved(a, b, (-uy * away * side, ux * away * side), *on)

    def count_at_most(self, site: Site) -> int:
        """Two lines a seam, more where they are divided."""
        return 6 * (len(site.region.edges) + len(site.seams) + len(site.region.pieces)) + len(
            site.region.segments
        )


def _moved(a: Point, b: Point, by: Point, before: float, after: float) -> Path:
    """The line from ``a`` to ``b``, shifted by ``by`` and extended by ``before`` and ``after`` at its ends, mm."""
    ux, uy = (b[0] - a[0]) / math.dist(a, b), (b[1] - a[1]) / math.dist(a, b)
    start = a[0] + by[0] - ux * before, a[1] + by[1] - uy * before
    return straight_path(start, (b[0] + by[0] + ux * after, b[1] + by[1] + uy * after))


def _outline(site: Site) -> Iterable[Path]:
    for polygon in site.region.area.geoms:
        for ring in (polygon.exterior, *polygon.interiors):
            yield Path(with_arcs(np.asarray(ring.coords)[:-1], closed=True), closed=True)
