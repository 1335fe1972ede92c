"""A quarter circle in a corner."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.geom.arcs import QUARTER
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, at_most
from kenzet.texts import tr


class QuarterCircle(Pattern):
    """A quarter circle of ``radius`` at the lower left."""

    label: ClassVar[str] = tr("Quarter circle")
    help: ClassVar[str] = tr(
        "A quarter circle in the lower left corner; turned blocks make paths and circles."
    )
    order: ClassVar[int] = 12

    kind: Literal["quarter-circle"] = "quarter-circle"
    radius: Length | None = asked(None, Form("length", tr("Radius"), empty=tr("two thirds of the block")))

    @field_validator("radius")
    @classmethod
    def _radius(cls, radius: Length | None) -> Length | None:
        return radius and in_range(radius, "1/4 in", "100 in", tr("The radius"))

    def check(self, width: float, height: float) -> None:
        """The quarter circle must end on the sides."""
        if self.radius:
            at_most(self.radius, min(width, height), "radius", tr("The radius"))

    def roles(self) -> Sequence[str]:
        """Background and pie."""
        return ("background", "pie")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Two patches that share the arc."""
        r = float(self.radius.mm) if self.radius else min(width, height) * 2 / 3
        return [
            Piece(
                "background", "background",
                ((0.0, r, -QUARTER), (r, 0.0), (width, 0.0), (width, height), (0.0, height)),
            ),
            Piece("pie", "pie", ((0.0, 0.0), (r, 0.0, QUARTER), (0.0, r))),
        ]  # fmt: skip
