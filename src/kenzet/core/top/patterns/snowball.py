"""A square with its corners cut off."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, at_most
from kenzet.texts import tr


class Snowball(Pattern):
    """``corner`` is the leg of each corner triangle."""

    label: ClassVar[str] = tr("Snowball")
    help: ClassVar[str] = tr("An eight-sided patch with a triangle in each corner.")
    order: ClassVar[int] = 7

    kind: Literal["snowball"] = "snowball"
    corner: Length | None = asked(
        None, Form("length", tr("Leg of the corner triangles"), empty=tr("a third of the block"))
    )

    @field_validator("corner")
    @classmethod
    def _corner(cls, corner: Length | None) -> Length | None:
        return corner and in_range(corner, "1/4 in", "60 in", tr("The corner"))

    def check(self, width: float, height: float) -> None:
        """Two corners must leave a piece of every side."""
        if self.corner:
            at_most(self.corner, min(width, height) / 2, "corner", tr("The corner"))

    def roles(self) -> Sequence[str]:
        """Centre and corners."""
        return ("centre", "corners")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Corners counter-clockwise from the lower left."""
        a = float(self.corner.mm) if self.corner else min(width, height) / 3
        right, top = width - a, height - a
        around = (
            (a, 0.0),
            (right, 0.0),
            (width, a),
            (width, top),
            (right, height),
            (a, height),
            (0.0, top),
            (0.0, a),
        )
        corners = ((0.0, 0.0), (width, 0.0), (width, height), (0.0, height))
        return [
            Piece("centre", "centre", around),
            *(
                Piece(f"corner-{n + 1}", "corners", (around[2 * n - 1], corners[n], around[2 * n]))
                for n in range(4)
            ),
        ]
