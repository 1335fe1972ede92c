"""Echo shells: arcs about a corner, one step further each (L38)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

import numpy as np

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, Site, SpacingSuggestion
from kenzet.core.fills.origin import pick
from kenzet.core.fills.skipping import SKIP, SkippingFill
from kenzet.core.fills.turned import even_wishes
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Point
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import ON_EDGE, ROUNDING

About = Literal["corner", "middle"]


class Shells(SkippingFill):
    """Arcs of radius k · ``spacing`` about a corner of the zone or its middle (F33)."""

    label: ClassVar[str] = "Echo shells"
    help: ClassVar[str] = (
        "Arcs about a corner, each one step further out; start from the square corner or from a point."
    )
    tile: ClassVar[str] = (
        "M0 30A9 9 0 019 39M0 21A18 18 0 0118 39M0 12A27 27 0 0127 39M0 3A36 36 0 0136 39M22 0A45 45 0 0145 39M38 0A54 54 0 0154 39M51 0A63 63 0 0163 39"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 46
    lines_are: ClassVar[str] = "Arcs"

    kind: Literal["shells"] = "shells"
    spacing: Length = asked("1/2 in", Form("length", "Apart", "From arc to arc."))
    about: About = asked(
        "corner",
        Form(
            "choice",
            "About",
            choices=(Choice("corner", "a corner", picks="corner"), Choice("middle", "the middle")),
        ),
    )
    at: int | None = asked(None, Form("count", "Which corner", empty="chosen for you"))
    skip: Length | None = asked("1/4 in", SKIP)

    def centre(self, site: Site) -> Point:
        """The point about which they stand. Raises BadValue."""
        if self.about == "middle":
            return site.region.middle
        corners = site.region.corners
        if not corners:
            raise BadValue("This zone has no corner: take its middle.", "about")
        if self.at is not None:
            return pick(corners, self.at, "at", "corner")
        return min(
            corners, key=lambda c: abs(c[0] - site.region.bounds[0]) + abs(c[1] - site.region.bounds[1])
        )

    def reach(self, site: Site) -> float:
        """mm from the centre to the farthest point of the zone."""
        x, y = self.centre(site)
        return max(math.hypot(px - x, py - y) for px, py in site.region.reach)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Whole circles from the inside out; the zone cuts them."""
        (x, y), s = self.centre(site), self.spacing.mm
        circles = []
        for k in range(1, math.ceil(self.reach(site) / float(s) - ROUNDING)):
            r = float(k * s)
            circles.append(Path(np.array([(x - r, y, 1.0), (x + r, y, 1.0)]), closed=True))
        yield Paths(tuple(circles), s)

    def figures(self, site: Site) -> Sequence[Figure]:
        """How many and how far."""
        reach = self.reach(site)
        return (
            Figure(
                "Arcs, cut ones counted", math.ceil(reach / float(self.spacing.mm) - ROUNDING) - 1, "count"
            ),
        )

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Steps of which a whole number fills the longest edge from the centre."""
        here = self.centre(site)
        edges = [
            e.length
            for e in site.region.edges
            if min(math.dist(e.start, here), math.dist(e.end, here)) < ON_EDGE
        ]
        return even_wishes(Fraction(max(edges)).limit_denominator(10**9), self.spacing) if edges else ()
