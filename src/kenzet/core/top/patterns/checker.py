"""Squares in rows of two alternating fabrics: four-patch, nine-patch, checkerboard."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from kenzet.core.params import Form, asked
from kenzet.core.top.patterns.base import Grid, Pattern, Piece
from kenzet.texts import tr

Count = Annotated[int, Field(ge=1, le=16)]


class Checker(Pattern):
    """``across`` by ``down`` equal rectangles."""

    label: ClassVar[str] = tr("Squares")
    help: ClassVar[str] = tr("Squares in rows, two fabrics by turns.")
    offers: ClassVar[dict[str, dict[str, object]]] = {
        tr("Four-patch"): {"across": 2, "down": 2},
        tr("Nine-patch"): {"across": 3, "down": 3},
        tr("Checkerboard"): {"across": 6, "down": 6},
    }
    order: ClassVar[int] = 2

    kind: Literal["checker"] = "checker"
    across: Count = asked(2, Form("count", tr("Squares across")))
    down: Count = asked(2, Form("count", tr("Squares down")))

    def roles(self) -> Sequence[str]:
        """The corner squares have the second role."""
        return ("light squares", "dark squares")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Keys by row from the top and column."""
        grid, roles = Grid(width, height, self.across, self.down), self.roles()
        return [
            grid.box(f"r{self.down - y}c{x + 1}", roles[(x + self.down - 1 - y + 1) % 2], x, y)
            for x, y in grid.cells()
        ]
