"""Scallops: rows of arcs end to end, with more arcs inside each (L30)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Group, Paths, Site
from kenzet.core.fills.turned import Frame, RowFill, check_count, repeats_from
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.numbers.spacing import whole_repeats
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr

Fit = Literal["whole units", "as it is"]


class Scallops(RowFill):
    """Arcs over ``unit`` with ``rise``, row above row; inside each are ``inner`` concentric arcs ``spacing``
    apart."""

    label: ClassVar[str] = tr("Scallops")
    help: ClassVar[str] = tr("Arcs end to end along a strip or a border, with smaller ones inside each.")
    tile: ClassVar[str] = (
        "M0 37A18 18 0 0136 37A18 18 0 0172 37M6 37A12 12 0 0130 37M42 37A12 12 0 0166 37M12 37A6 6 0 0124 37M48 37A6 6 0 0160 37M-18 19A18 18 0 0118 19A18 18 0 0154 19A18 18 0 0190 19"
    )
    group: ClassVar[Group] = "curves"
    order: ClassVar[int] = 44
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Rows and inner arcs")
    whole_rows: ClassVar[bool] = True

    kind: Literal["scallops"] = "scallops"
    spacing: Length = asked("3/4 in", Form("length", tr("Spacing"), tr("From an arc to the arc inside it.")))
    unit: Length = asked("4 in", Form("length", tr("Width of each"), after="typed"))
    rise: Length = asked("1 1/2 in", Form("length", tr("Height of each"), after="unit"))
    inner: int = asked(1, Form("count", tr("Arcs inside each"), after="rise"))
    height: Length | None = asked(
        None, Form("length", tr("From row to row"), empty=tr("as high as they are"), after="inner")
    )
    fit: Fit = asked(
        "whole units",
        Form(
            "choice", tr("Along the row"),
            choices=(Choice("whole units", tr("whole ones")), Choice("as it is", tr("as wide as set"))), after="inner",
        ),
    )  # fmt: skip

    @field_validator("unit", "rise")
    @classmethod
    def _unit(cls, length: Length) -> Length:
        return in_range(length, "1/4 in", "100 in", tr("A scallop"))

    @field_validator("height")
    @classmethod
    def _height(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "1/4 in", "100 in", tr("The height of a row"))

    @field_validator("inner")
    @classmethod
    def _inner(cls, inner: int) -> int:
        return check_count(inner, 0, 40, tr("Arcs inside")) or 0

    def arc(self, frame: Frame) -> tuple[float, float, float]:
        """Width, rise and radius of an outer arc, mm. Raises BadValue if it is more than a half circle."""
        wide, rise = float(self.unit.mm), float(self.rise.mm)
        if self.fit == "whole units":
            wide = frame.width / whole_repeats(frame.width, wide)
        if rise > wide / 2 + ROUNDING:
            raise BadValue(tr("A scallop cannot be higher than half its width."), "rise")
        return wide, rise, wide**2 / (8 * rise) + rise / 2

    def step(self, frame: Frame) -> Fraction:
        """Each row begins where the one below ends, unless a height is set."""
        return self.height.mm if self.height else self.rise.mm

    def span(self, frame: Frame) -> tuple[float, float]:
        """From the ends to the crown."""
        return 0.0, float(self.rise.mm)

    def repeats(self, frame: Frame, number: int) -> tuple[float, float] | None:
        """From end to end, or aligned with the datum; every second row is shifted by half a width."""
        wide, _, _ = self.arc(frame)
        spare = 0.0 if self.fit == "whole units" else (frame.width % wide) / 2
        _, begin = repeats_from(frame, wide, frame.left + spare)
        return wide, begin - (wide / 2 if number % 2 else 0.0)

    def row(self, frame: Frame, number: int) -> np.ndarray:
        """Arcs from before the left end to beyond the right one."""
        wide, rise, _ = self.arc(frame)
        begin = self._begin(frame, number)
        k = np.arange(0, math.ceil((frame.right - begin) / wide) + 2)
        bulge = bulge_for(wide, -rise)
        return np.stack([begin + (k - 1) * wide, np.zeros(len(k)), np.full(len(k), bulge)], axis=1)

    def _begin(self, frame: Frame, number: int) -> float:
        return (self.repeats(frame, number) or (0.0, 0.0))[1]

    def lay_out(self, site: Site) -> Iterable[Family]:
        """The rows, then the inner arcs, those nearest to the outer arc first."""
        frame = self.frame(site)
        places = self.places(frame)
        yield self.family(frame, places)
        wide, _, radius = self.arc(frame)
        rows = {number for number, _ in places}
        paths = []
        for number, v in places:
            begin = self._begin(frame, number)
            for unit in range(-1, math.ceil((frame.right - begin) / wide) + 1):
                middle = begin + (unit + 0.5) * wide
                for k in range(1, self.inner + 1):
                    arc = self._inner_arc(
                        frame, middle, v, radius - k * float(self.spacing.mm), number - 1 in rows
                    )
                    if arc is None:
                        break
                    paths.append(arc)
        yield Paths(tuple(paths))

    def _inner_arc(self, frame: Frame, middle: float, v: float, r: float, below: bool) -> Path | None:
        """A concentric arc of radius ``r``, down to the row's base line or to the arcs of the row below."""
        wide, rise, radius = self.arc(frame)
        drop = radius - rise  # the centre lies so far below the row
        if r <= max(drop, 0.0) + 0.5:
            return None
        half, fall = math.sqrt(r**2 - drop**2), 0.0
        dx, dy = wide / 2, float(self.step(frame))
        apart = math.hypot(dx, dy)  # to the centre of a neighbour below
        if below and abs(radius - r) < apart < radius + r:
            along = (apart**2 + r**2 - radius**2) / (2 * apart)
            aside = math.sqrt(max(r**2 - along**2, 0.0))
            half, y = (along * dx + aside * dy) / apart, (-along * dy + aside * dx) / apart
            fall = drop - y
        if half < 0.5:
            return None
        angle = math.atan2(half, drop - fall) * 2  # of the whole arc
        bulge = -math.tan(angle / 4)
        return frame.path(np.array([(middle - half, v - fall, bulge), (middle + half, v - fall, 0.0)]))

    def figures(self, site: Site) -> Sequence[Figure]:
        """The number of units along the row, and the radius of the arcs."""
        frame = self.frame(site)
        wide, _, radius = self.arc(frame)
        return (
            *super().figures(site),
            Figure(tr("Along the row"), round(frame.width / wide), "count"),
            Figure(tr("Each as wide as"), wide),
            Figure(tr("Radius of the outer arc"), radius),
        )
