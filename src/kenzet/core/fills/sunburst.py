"""Sunburst spikes between two arcs (L31)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site
from kenzet.core.fills.origin import pick
from kenzet.core.fills.turned import check_count
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Point
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import ON_EDGE
from kenzet.texts import tr

About = Literal["corner", "edge", "middle"]
Arcs = Literal["sewn", "drawn"]


class Sunburst(Fill):
    """Spikes from an inner to an outer arc around a corner, the midpoint of an edge or the zone's center."""

    label: ClassVar[str] = tr("Sunburst")
    help: ClassVar[str] = tr("Spikes between two arcs. Mark the points on both arcs, sew out and back.")
    tile: ClassVar[str] = (
        "M4 38A32 32 0 0168 38M16 38A20 20 0 0156 38M16 38 5 30 18 30 8 21 22 24 15 13 28 20 25 8 34 18 36 6 38 18 47 8 44 20 57 13 50 24 64 21 54 30 67 30 56 38"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 51
    lends_spacing: ClassVar[bool] = False

    kind: Literal["sunburst"] = "sunburst"
    spacing: Length = asked(
        "1/2 in",
        Form("length", tr("Point to point, outside"), tr("Along the outer arc, adjusted to come out even.")),
    )
    inner: Length = asked("1 1/2 in", Form("length", tr("Inner radius"), after="spacing"))
    outer: Length = asked("2 1/4 in", Form("length", tr("Outer radius"), after="inner"))
    spikes: int | None = asked(
        None, Form("count", tr("Spikes"), empty=tr("from the distance"), after="outer")
    )
    about: About = asked(
        "edge",
        Form(
            "choice", tr("About"),
            choices=(
                Choice("corner", tr("a corner"), picks="corner"), Choice("edge", tr("the middle of an edge"), picks="edge"),
                Choice("middle", tr("the zone's middle")),
            ),
        ),
    )  # fmt: skip
    at: int | None = asked(None, Form("count", tr("Which edge or corner"), empty=tr("chosen for you")))

    @field_validator("inner", "outer")
    @classmethod
    def _radius(cls, length: Length) -> Length:
        return in_range(length, "1/4 in", "100 in", tr("A radius"))

    @field_validator("spikes")
    @classmethod
    def _spikes(cls, spikes: int | None) -> int | None:
        return check_count(spikes, 1, 400, tr("Spikes"))

    @model_validator(mode="after")
    def _grows(self) -> Sunburst:
        if self.outer.mm <= self.inner.mm:
            raise BadValue(tr("The outer radius must be the larger one."), "outer")
        return self

    def sector(self, site: Site) -> tuple[Point, float, float]:
        """The center, the angle where the sector begins and its width, degrees. Raises BadValue."""
        region = site.region
        if self.about == "middle":
            return region.middle, 0.0, 360.0
        if self.about == "edge":
            if not region.edges:
                raise BadValue(tr("This zone has no straight edge: take its middle."), "about")
            edge = (
                max(region.edges, key=lambda e: e.length)
                if self.at is None
                else pick(region.edges, self.at, "at", "edge")
            )
            nx, ny = region.inward(edge)
            begin = math.degrees(math.atan2(ny, nx)) - 90.0
            return edge.at(edge.length / 2), begin, 180.0
        if not region.corners:
            raise BadValue(tr("This zone has no corner: take its middle."), "about")
        corner = pick(region.corners, self.at or 0, "at", "corner")
        ways = [
            math.degrees(math.atan2(far[1] - corner[1], far[0] - corner[0])) % 360
            for e in region.edges
            for near, far in ((e.start, e.end), (e.end, e.start))
            if math.dist(near, corner) < ON_EDGE
        ]
        if len(ways) != 2:
            return corner, 0.0, 360.0
        begin, end = sorted(ways)
        inner = (region.middle[0] - corner[0], region.middle[1] - corner[1])
        toward = (math.degrees(math.atan2(inner[1], inner[0])) - begin) % 360
        return (corner, begin, end - begin) if toward < end - begin else (corner, end, 360.0 - (end - begin))

    def count(self, wide: float) -> int:
        """The number of spikes in a sector of ``wide`` degrees."""
        return self.spikes or max(
            round(math.radians(wide) * float(self.outer.mm) / float(self.spacing.mm)), 1
        )

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Both arcs, then the spikes as one line from the first inner point to the last."""
        (x, y), begin, wide = self.sector(site)
        inner, outer = float(self.inner.mm), float(self.outer.mm)

        def at(radius: float, degrees: float) -> tuple[float, float]:
            return x + radius * math.cos(math.radians(begin + degrees)), y + radius * math.sin(
                math.radians(begin + degrees)
            )

        whole = wide > 359.9
        bulge = math.tan(math.radians(wide / 2) / 4)
        arcs = []
        for r in (inner, outer):
            rows = [(*at(r, 0.0), bulge), (*at(r, wide / 2), bulge), (*at(r, wide), 0.0)]
            arcs.append(Path(np.array(rows[:2] if whole else rows), closed=whole))
        yield Paths(tuple(arcs))
        many = self.count(wide)
        step = wide / many
        points = [p for k in range(many) for p in (at(inner, k * step), at(outer, (k + 0.5) * step))]
        points = points if whole else [*points, at(inner, wide)]
        yield Paths((Path(np.array([(*p, 0.0) for p in points]), closed=whole),))

    def figures(self, site: Site) -> Sequence[Figure]:
        """The angle of a spike and its width on both arcs."""
        _, _, wide = self.sector(site)
        many = self.count(wide)
        return (
            Figure(tr("Spikes"), many, "count"),
            Figure(tr("Each takes"), wide / many, "angle"),
            Figure(tr("Point to point on the inner arc"), float(self.inner.mm) * math.radians(wide / many)),
            Figure(tr("and on the outer arc"), float(self.outer.mm) * math.radians(wide / many)),
        )

    def count_at_most(self, site: Site) -> int:
        """Three lines, divided where they leave the zone."""
        return 3 + self.count(360.0) * 2 + site.region.stretches_at_most * 3
