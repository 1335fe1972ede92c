"""Rings that repeat outlines: the zone's own inwards, or those of an appliqué outwards (L15, L16, L18)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from itertools import takewhile
from typing import ClassVar, Literal

import numpy as np
import shapely
from pydantic import field_validator
from shapely.geometry import MultiPolygon, Polygon

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import (
    MOST_SPACING,
    Family,
    Figure,
    Fill,
    Group,
    Paths,
    ReferenceHint,
    Rings,
    Site,
    SpacingSuggestion,
    Surrounds,
)
from kenzet.core.geom.offset import Corners, inward_all, outward
from kenzet.core.geom.paths import Path, with_arcs
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import MM_PER, Length
from kenzet.core.numbers.spacing import whole_parts
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.texts import tr

MOST_ROUNDS = 500
_FLAT = 0.05  # radians: such a corner is none to speak of
Of = Literal["all", "outline", "inner"]


class Echo(Fill):
    """Rings, each offset from the original outlines: of the zone, of what lies in it, or of both."""

    label: ClassVar[str] = tr("Echo")
    help: ClassVar[str] = tr(
        "Rings that follow an edge: inward from the seam, or outward around an appliqué."
    )
    tile: ClassVar[str] = "M4 36 36 3 68 36ZM17 31 36 11.5 55 31ZM29 26.5 36 19.5 43 26.5Z"
    group: ClassVar[Group] = "echoes"
    order: ClassVar[int] = 21
    lines_are: ClassVar[str] = tr("Rings")

    surrounds: ClassVar[Surrounds] = "echoes"

    kind: Literal["echo"] = "echo"
    spacing: Length = asked(
        "1/4 in", Form("length", tr("Spacing"), tr("Distance between rings, measured square to them."))
    )
    first: Length | None = asked(
        None, Form("length", tr("First ring away from the edge"), empty=tr("the same as the rest"))
    )
    rounds: int | None = asked(
        None, Form("count", tr("Rounds"), tr("How many rings."), empty=tr("until full"))
    )
    of: Of = asked(
        "all",
        Form(
            "choice", tr("Echoes of"),
            choices=(
                Choice("all", tr("every edge")), Choice("outline", tr("the outer edge")), Choice("inner", tr("what lies inside")),
            ),
        ),
    )  # fmt: skip
    corners: Corners = asked(
        "mitred",
        Form(
            "choice", tr("Round a point"),
            choices=(Choice("mitred", tr("mitred")), Choice("bevelled", tr("bevelled")), Choice("round", tr("round"))),
        ),
    )  # fmt: skip

    @field_validator("first")
    @classmethod
    def _first(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "1/16 in", MOST_SPACING, tr("The first distance"))

    @field_validator("rounds")
    @classmethod
    def _rounds(cls, rounds: int | None) -> int | None:
        if rounds is not None and not 1 <= rounds <= MOST_ROUNDS:
            raise BadValue(
                tr(
                    "Rounds are a whole number from 1 to {most_rounds}, or until full.",
                    most_rounds=MOST_ROUNDS,
                )
            )
        return rounds

    @property
    def follows_outline(self) -> bool:
        """True if every edge is echoed."""
        return self.of == "all"

    @classmethod
    def surrounding(cls, spacing: Length, rounds: int) -> Echo:
        """Echoes inside the outline only."""
        return cls(spacing=spacing, rounds=rounds, of="outline")

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Rings of all edges until nothing is left; or rings of one kind of edge until they leave the zone."""
        if self.of == "all":
            yield self._rings(site.region)
            return
        area = MultiPolygon([Polygon(p.exterior) for p in site.region.area.geoms])
        if self.of == "outline":
            yield self._paths(self._rings(Region(area)).insides)
            return
        inner = shapely.union_all([Polygon(ring) for p in site.region.area.geoms for ring in p.interiors])
        if inner.is_empty:
            raise BadValue(tr("Nothing lies inside this zone that could be echoed."), "of")
        yield self._paths(self._outwards(site.region, inner), outward=True)

    def _paths(self, rings: Iterable[MultiPolygon], outward: bool = False) -> Paths:
        """Rings as paths, the first beside the edge; each is placed from the one before it."""
        numbered = [(row, path) for row, ring in enumerate(rings) for path in _paths(ring)]
        first: ReferenceHint = ("seam", (self.first or self.spacing).mm)
        follows: ReferenceHint = ("line", self.spacing.mm)
        return Paths(
            tuple(path for _, path in numbered),
            laid_on=tuple(follows if row else first for row, _ in numbered),
            rows=tuple(row for row, _ in numbered),
            outward=outward,
        )

    def _distances(self) -> Iterable[float]:
        first, pitch = float((self.first or self.spacing).mm), float(self.spacing.mm)
        for k in range(self.rounds or MOST_ROUNDS):
            yield first + k * pitch

    def _rings(self, region: Region) -> Rings:
        reach = region.inradius + 0.1
        within = list(takewhile(lambda distance: distance < reach, self._distances()))
        insides = inward_all(region, within, self.corners)
        return Rings(tuple(insides), (self.first or self.spacing).mm, self.spacing.mm)

    def _outwards(self, region: Region, inner: Polygon | MultiPolygon) -> Iterable[MultiPolygon]:
        """Rings around what lies inside; rings that meet are merged."""
        for distance in self._distances():
            grown = outward(inner, distance, self.corners)
            if shapely.covers(grown, region.area):
                return
            yield grown

    def figures(self, site: Site) -> Sequence[Figure]:
        """How far a ring moves in at the sharpest corner, D / sin(b/2) (F20)."""
        sharp = site.region.sharpest
        if self.of != "all" or sharp is None or sharp > math.pi - _FLAT:
            return ()
        tip = float(self.spacing.mm) / math.sin(sharp / 2)
        return (
            Figure(tr("Sharpest corner"), math.degrees(sharp), "angle"),
            Figure(tr("There each ring moves in by"), tip),
        )

    def count_at_most(self, site: Site) -> int:
        """Rounds up to the widest circle, times the rings of the outline; more if they grow outwards and the
        outline cuts them."""
        region = site.region
        far, cut = region.inradius, 1
        if self.of != "all":
            left, low, right, high = region.bounds
            far, cut = max(right - left, high - low), region.stretches_at_most
        full = int(far / float(self.spacing.mm)) + 1
        return region.loops * min(full, self.rounds or full) * cut

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Spacings that leave exactly one spacing between the last ring and the center (F21)."""
        left = Fraction(round(site.region.inradius * 10**4), 10**4) - (self.first.mm if self.first else 0)
        if left <= 0 or self.of != "all":
            return []
        found = [part for part in whole_parts(left, self.spacing.mm, 1) if part >= MM_PER["in"] / 16]
        return [SpacingSuggestion(Length.near(part, self.spacing.unit), tr("even")) for part in found[:2]]


def _paths(area: MultiPolygon) -> Iterable[Path]:
    for polygon in area.geoms:
        for ring in (polygon.exterior, *polygon.interiors):
            yield Path(with_arcs(np.asarray(ring.coords)[:-1], closed=True), closed=True)
