"""Echo shells: arcs around a corner, each one step larger (L38)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

import numpy as np
import shapely

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, Site, SpacingSuggestion
from kenzet.core.fills.origin import pick
from kenzet.core.fills.skipping import SKIP, SkippingFill
from kenzet.core.fills.turned import even_wishes
from kenzet.core.geom.affine import place_all
from kenzet.core.geom.congruent import outline_of, placing_onto
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Point, Region
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import ON_EDGE, ROUNDING
from kenzet.texts import tr

About = Literal["corner", "middle"]


class Shells(SkippingFill):
    """Arcs of radius k · ``spacing`` around a corner of the zone or its center (F33)."""

    label: ClassVar[str] = tr("Echo shells")
    help: ClassVar[str] = tr(
        "Arcs around a corner, each one step farther out, from a square corner or a point."
    )
    tile: ClassVar[str] = (
        "M0 30A9 9 0 019 39M0 21A18 18 0 0118 39M0 12A27 27 0 0127 39M0 3A36 36 0 0136 39M22 0A45 45 0 0145 39M38 0A54 54 0 0154 39M51 0A63 63 0 0163 39"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 46
    lines_are: ClassVar[str] = tr("Arcs")

    kind: Literal["shells"] = "shells"
    spacing: Length = asked("1/2 in", Form("length", tr("Spacing"), tr("From arc to arc.")))
    about: About = asked(
        "corner",
        Form(
            "choice",
            tr("About"),
            choices=(Choice("corner", tr("a corner"), picks="corner"), Choice("middle", tr("the middle"))),
        ),
    )
    at: int | None = asked(None, Form("count", tr("Which corner"), empty=tr("chosen for you")))
    skip: Length | None = asked("1/4 in", SKIP)

    def centre(self, site: Site) -> Point:
        """The center of the arcs in the piece of the zone that has the chosen corner. Raises BadValue."""
        return self.centres(site)[0][1]

    def centres(self, site: Site) -> list[tuple[Region, Point]]:
        """Every piece of the zone with the center of its arcs: a corner of its own, the same one in congruent
        pieces. Raises BadValue."""
        region = site.region
        if self.about == "middle":
            return [(region, region.middle)]
        corners = region.corners
        if not corners:
            raise BadValue(tr("This zone has no corner: take its middle."), "about")
        chosen = pick(corners, self.at, "at", "corner") if self.at is not None else _lowest_left(region)
        first = min(region.pieces, key=lambda piece: piece.area.distance(shapely.Point(chosen)))
        found = [(first, chosen)]
        for piece in region.pieces:
            if piece is not first and piece.corners:
                found.append((piece, _same_corner(first, piece, chosen)))
        return found

    def reach(self, piece: Region, centre: Point) -> float:
        """The distance from the center to the farthest point of a piece, mm."""
        return max(math.dist(point, centre) for point in piece.extremes)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """In each piece whole circles from the inside out, to be clipped by the piece."""
        for piece, (x, y) in self.centres(site):
            s, circles = self.spacing.mm, []
            for k in range(1, math.ceil(self.reach(piece, (x, y)) / float(s) - ROUNDING)):
                r = float(k * s)
                circles.append(Path(np.array([(x - r, y, 1.0), (x + r, y, 1.0)]), closed=True))
            yield Paths(tuple(circles), s, within=piece)

    def figures(self, site: Site) -> Sequence[Figure]:
        """The number of arcs and the radius of the last."""
        reach = self.reach(*self.centres(site)[0])
        return (
            Figure(
                tr("Arcs, cut ones counted"),
                math.ceil(reach / float(self.spacing.mm) - ROUNDING) - 1,
                "count",
            ),
        )

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Steps that divide the longest edge from the center evenly."""
        here = self.centre(site)
        edges = [
            e.length
            for e in site.region.edges
            if min(math.dist(e.start, here), math.dist(e.end, here)) < ON_EDGE
        ]
        return even_wishes(Fraction(max(edges)).limit_denominator(10**9), self.spacing) if edges else ()


def _lowest_left(region: Region) -> Point:
    left, low, _, _ = region.bounds
    return min(region.corners, key=lambda c: abs(c[0] - left) + abs(c[1] - low))


def _same_corner(one: Region, other: Region, corner: Point) -> Point:
    """The corner of a piece that corresponds to ``corner`` in ``one``, rotated or mirrored; in a piece of another
    shape its lower left corner."""
    mine, its = outline_of(one.area), outline_of(other.area)
    placing = placing_onto(mine, its) if mine is not None and its is not None else None
    if placing is not None:
        x, y = place_all(placing, np.array([corner]))[0].tolist()
        return min(other.corners, key=lambda c: math.dist(c, (x, y)))
    return _lowest_left(other)
