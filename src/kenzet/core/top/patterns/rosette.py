"""Seven hexagons."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, at_most, box
from kenzet.texts import tr

_PETALS = ((2, 0), (1, 3), (-1, 3), (-2, 0), (-1, -3), (1, -3))
_AROUND = ((1, 1), (0, 2), (-1, 1), (-1, -1), (0, -2), (1, -1))
_WIDE, _HIGH = 3 * math.sqrt(3), 5.0  # of a rosette whose hexagons have sides of 1


class Rosette(Pattern):
    """A hexagon and the six around it, on a background; ``side`` is the side of a hexagon."""

    label: ClassVar[str] = tr("Hexagon rosette")
    help: ClassVar[str] = tr("Seven hexagons, pieced, on a background.")
    order: ClassVar[int] = 16

    kind: Literal["rosette"] = "rosette"
    side: Length | None = asked(None, Form("length", tr("Side of a hexagon"), empty=tr("as fits the block")))

    @field_validator("side")
    @classmethod
    def _side(cls, side: Length | None) -> Length | None:
        return side and in_range(side, "1/4 in", "30 in", tr("The side"))

    def check(self, width: float, height: float) -> None:
        """The rosette must fit inside the block."""
        if self.side:
            at_most(self.side, min(width / _WIDE, height / _HIGH), "side", tr("The side of a hexagon"))

    def roles(self) -> Sequence[str]:
        """Background, petals, centre."""
        return ("background", "petals", "centre")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Corners are on an integer lattice, so that neighbors share them exactly."""
        side = float(self.side.mm) if self.side else 0.9 * min(width / _WIDE, height / _HIGH)
        step_x, step_y = side * math.sqrt(3) / 2, side / 2

        def hexagon(key: str, role: str, i: int, j: int) -> Piece:
            corners = ((width / 2 + (i + a) * step_x, height / 2 + (j + b) * step_y) for a, b in _AROUND)
            return Piece(key, role, tuple(corners), applique=True)

        return [
            box("background", "background", 0.0, 0.0, width, height),
            *(hexagon(f"petal-{n}", "petals", i, j) for n, (i, j) in enumerate(_PETALS, 1)),
            hexagon("centre", "centre", 0, 0),
        ]
