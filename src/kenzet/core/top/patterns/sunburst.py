"""Spikes between two arcs."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field, field_validator

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, at_most
from kenzet.texts import tr


class SunburstBlock(Pattern):
    """A quarter sun at the lower left: a quarter circle of ``inner`` radius, ``spikes`` out to ``outer``,
    background."""

    label: ClassVar[str] = tr("Sunburst")
    help: ClassVar[str] = tr(
        "Spikes between two arcs round the lower left corner; four turned ones make a sun."
    )
    order: ClassVar[int] = 17

    kind: Literal["sunburst"] = "sunburst"
    spikes: Annotated[int, Field(ge=1, le=24)] = asked(6, Form("count", tr("Spikes")))
    inner: Length | None = asked(
        None, Form("length", tr("Inner radius"), empty=tr("two fifths of the block"))
    )
    outer: Length | None = asked(
        None, Form("length", tr("Outer radius"), empty=tr("four fifths of the block"))
    )

    @field_validator("inner", "outer")
    @classmethod
    def _radius(cls, radius: Length | None) -> Length | None:
        return radius and in_range(radius, "1/4 in", "100 in", tr("A radius"))

    def _radii(self, size: float) -> tuple[float, float]:
        return (
            float(self.inner.mm) if self.inner else size * 2 / 5,
            float(self.outer.mm) if self.outer else size * 4 / 5,
        )

    def check(self, width: float, height: float) -> None:
        """The outer arc must end on the sides, outside the inner one."""
        inner, outer = self._radii(min(width, height))
        if self.outer:
            at_most(self.outer, min(width, height), "outer", tr("The outer radius"))
        if inner >= outer * math.cos(math.pi / 4 / self.spikes):
            raise BadValue(tr("The inner radius leaves no room for the spikes: make it smaller."), "inner")

    def roles(self) -> Sequence[str]:
        """Background, spikes, rays between them, sun."""
        return ("background", "spikes", "rays", "sun")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """The feet of the spikes are on the inner arc, their tips half-way between on the outer one."""
        inner, outer = self._radii(min(width, height))
        n = self.spikes
        bulge, half = math.tan(math.pi / 8 / n), math.tan(math.pi / 16 / n)

        def on(radius: float, share: float) -> tuple[float, float]:
            if share in (0.0, 1.0):  # exactly on the side
                return (0.0, radius) if share else (radius, 0.0)
            return radius * math.cos(math.pi / 2 * share), radius * math.sin(math.pi / 2 * share)

        feet = [on(inner, k / n) for k in range(n + 1)]
        rim = [on(outer, 0.0), *(on(outer, (k + 0.5) / n) for k in range(n)), on(outer, 1.0)]
        bulges = [half, *[bulge] * (n - 1), half]
        back = [(*rim[k + 1], -bulges[k]) for k in reversed(range(n + 1))]
        return [
            Piece("background", "background", (*back, rim[0], (width, 0.0), (width, height), (0.0, height))),
            Piece("sun", "sun", ((0.0, 0.0), *((*foot, bulge) for foot in feet[:-1]), feet[-1])),
            *(
                Piece(f"spike-{k + 1}", "spikes", ((*feet[k + 1], -bulge), feet[k], rim[k + 1]))
                for k in range(n)
            ),
            *(
                Piece(f"ray-{k + 1}", "rays", (feet[k], (*rim[k], bulges[k]), rim[k + 1]))
                for k in range(n + 1)
            ),
        ]
