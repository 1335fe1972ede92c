"""Spiral echoes: ring k continues into ring k + 1, so that the thread is not cut between them (L15)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Fill, Group, Paths, Site
from kenzet.core.geom.offset import inward
from kenzet.core.geom.paths import Path, with_arcs
from kenzet.core.geom.region import Floats, Point
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked
from kenzet.core.tolerances import EQUAL
from kenzet.texts import tr

MOST_ROUNDS = 500


class Spiral(Fill):
    """From the outline inwards; the last side of every ring leads to the first point of the next."""

    label: ClassVar[str] = tr("Spiral echo")
    help: ClassVar[str] = tr(
        "Echo rings joined into one line, from the seam to the middle. The line ends inside, so sew it last."
    )
    tile: ClassVar[str] = (
        "M4 36H68L36 3 12 29M12 29 12.500 31.500H58L36 10 21 25.500L21 27.500H48L36 16.500 30 23.500H39"
    )
    group: ClassVar[Group] = "echoes"
    order: ClassVar[int] = 23
    lines_are: ClassVar[str] = tr("Spirals")

    kind: Literal["spiral"] = "spiral"
    spacing: Length = asked(
        "1/4 in", Form("length", tr("Spacing"), tr("Distance between turns, measured square to them."))
    )
    at: int | None = asked(
        None,
        Form(
            "count",
            tr("Corner at which it steps in"),
            tr("Click a corner of the zone."),
            empty=tr("chosen for you"),
        ),
    )

    def lay_out(self, site: Site) -> Iterable[Family]:
        """One spiral for each piece; where a ring splits, the widest part continues the spiral and the others
        begin new ones."""
        if self.at is not None and not 0 <= self.at < len(site.region.corners):
            raise BadValue(
                tr(
                    "This zone has {corners} corners; there is no number {at}.",
                    corners=len(site.region.corners),
                    at=self.at + 1,
                ),
                "at",
            )
        active: list[tuple[Polygon, list[Floats]]] = []
        done: list[list[Floats]] = []
        loops: list[Path] = []
        for k in range(1, MOST_ROUNDS + 1):
            inside = inward(site.region, float(k * self.spacing.mm), "mitred")
            if inside.is_empty:
                break
            following: list[tuple[Polygon, list[Floats]]] = []
            left = sorted(inside.geoms, key=lambda p: -p.area)
            for outer, turns in active:
                child = next((p for p in left if outer.contains(p.representative_point())), None)
                if child is None:
                    done.append(turns)
                    continue
                left = [p for p in left if p is not child]
                following.append(
                    (child, [*turns, _from(child, (float(turns[-1][0, 0]), float(turns[-1][0, 1])))])
                )
            for polygon in left:
                start = site.region.corners[self.at or 0] if site.region.corners else None
                following.append((polygon, [_from(polygon, start)]))
            loops += [_loop(ring) for polygon in inside.geoms for ring in polygon.interiors]
            active = following
        done += [turns for _, turns in active]
        yield Paths((*(_joined(turns) for turns in done), *loops))

    def count_at_most(self, site: Site) -> int:
        """One spiral for each place where a ring may split, and rings around what lies inside."""
        holes = sum(len(piece.interiors) for piece in site.region.area.geoms)
        full = int(site.region.inradius / float(self.spacing.mm)) + 1
        return site.region.stretches_at_most + holes * full

    def notes(self) -> Sequence[str]:
        """A warning that it ends inside the zone."""
        return (tr("It ends in the middle: sew everything round it first, or travel out along it."),)


def _from(polygon: Polygon, start: Point | None) -> Floats:
    """The outer ring, beginning at its corner nearest to ``start``, with its inside on the left."""
    points: Floats = np.asarray(orient(polygon).exterior.coords)[:-1]
    if start is None:
        return points
    return np.roll(points, -int(np.hypot(*(points - start).T).argmin()), axis=0)


def _joined(turns: list[Floats]) -> Path:
    """All turns as one path; the last one is closed."""
    points = np.vstack([*turns, turns[-1][:1]])
    keep = np.append(True, np.hypot(*np.diff(points, axis=0).T) > EQUAL)
    return Path(with_arcs(points[keep], closed=False))


def _loop(ring: shapely.LinearRing) -> Path:
    return Path(with_arcs(np.asarray(ring.coords)[:-1], closed=True), closed=True)
