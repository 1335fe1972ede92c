"""Hourglass curves: from each corner to the center and on to the next corner (L34)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site
from kenzet.core.fills.turned import check_count, frame_of
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.numbers.measure import Length, in_words
from kenzet.core.params import Form, asked, in_range
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr


class Hourglass(Fill):
    """In each block of the zone's bounds eight arcs, two in each of its four triangles, sewn as one closed line."""

    label: ClassVar[str] = tr("Hourglass curves")
    help: ClassVar[str] = tr(
        "Curves from corner to center to the next corner. The whole block is one line without a stop."
    )
    tile: ClassVar[str] = (
        "M2 1Q26 5 36 19.500Q46 5 70 1Q60 16 36 19.500Q60 23 70 38Q46 34 36 19.500Q26 34 2 38Q12 23 36 19.500Q12 16 2 1"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 47
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Blocks")

    kind: Literal["hourglass"] = "hourglass"
    spacing: Length = asked(
        "5/8 in", Form("length", tr("Rise of each arc"), tr("From the diagonal to the middle of the arc."))
    )
    radius: Length | None = asked(
        None,
        Form(
            "length",
            tr("or its radius, sewn"),
            tr("The rise then follows."),
            empty=tr("from the rise"),
            after="spacing",
        ),
    )
    across: int = asked(1, Form("count", tr("Blocks across"), after="radius"))
    down: int = asked(1, Form("count", tr("Blocks down"), after="across"))

    @field_validator("radius")
    @classmethod
    def _radius(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "1/4 in", "400 in", tr("The radius"))

    @field_validator("across", "down")
    @classmethod
    def _many(cls, many: int) -> int:
        return check_count(many, 1, 100, tr("Blocks")) or 1

    def arc(self, leg: float) -> tuple[float, float]:
        """Rise and radius over ``leg`` mm (F24). Raises BadValue if they do not fit between their neighbors."""
        if self.radius:
            r = float(self.radius.mm)
            if r < leg / 2:
                least = in_words(leg / 2, self.radius.unit)
                raise BadValue(
                    tr("The radius must be at least half the leg, {least}.", least=least), "radius"
                )
            rise = leg**2 / 4 / (r + math.sqrt(r**2 - leg**2 / 4))
        else:
            rise = float(self.spacing.mm)
        if rise > leg / 2 * math.tan(math.radians(22.5)) + ROUNDING:
            raise BadValue(
                tr("That rise would cross the curve beside it."), "radius" if self.radius else "spacing"
            )
        return rise, leg**2 / (8 * rise) + rise / 2

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Block by block in reading order."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        w, h = frame.width / self.across, frame.height / self.down
        rise, _ = self.arc(math.hypot(w, h) / 2)
        bulge = bulge_for(math.hypot(w, h) / 2, rise)
        paths = []
        for j in range(self.down):
            for i in range(self.across):
                left, low = frame.left + i * w, frame.high - (j + 1) * h
                corners = [(left, low), (left + w, low), (left + w, low + h), (left, low + h)]
                centre = (left + w / 2, low + h / 2)
                rows = [row for corner in corners for row in ((*corner, bulge), (*centre, bulge))]
                paths.append(frame.path(np.array(rows), closed=True))
        yield Paths(tuple(paths))

    def figures(self, site: Site) -> Sequence[Figure]:
        """Leg, rise, radius and length of an arc."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        leg = math.hypot(frame.width / self.across, frame.height / self.down) / 2
        rise, radius = self.arc(leg)
        return (
            Figure(tr("Corner to center"), leg),
            Figure(tr("Rise"), rise, typed=self.radius is None),
            Figure(tr("Radius, sewn"), radius, typed=self.radius is not None),
            Figure(tr("Along an arc"), 2 * radius * math.asin(leg / 2 / radius)),
        )
