"""A peel from corner to corner."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.geom.arcs import QUARTER, bulge_for
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, at_most
from kenzet.texts import tr


class OrangePeel(Pattern):
    """Two arcs over the diagonal: quarter circles, or with the given ``rise``."""

    label: ClassVar[str] = tr("Orange peel")
    help: ClassVar[str] = tr("A peel from the lower left to the upper right; four turned ones make a ring.")
    order: ClassVar[int] = 13

    kind: Literal["orange-peel"] = "orange-peel"
    rise: Length | None = asked(
        None, Form("length", tr("Rise of each arc over the diagonal"), empty=tr("a quarter circle"))
    )

    @field_validator("rise")
    @classmethod
    def _rise(cls, rise: Length | None) -> Length | None:
        return rise and in_range(rise, "1/16 in", "40 in", tr("The rise"))

    def check(self, width: float, height: float) -> None:
        """A higher arc would leave the block."""
        if self.rise:
            at_most(self.rise, QUARTER * math.hypot(width, height) / 2, "rise", tr("The rise"))

    def roles(self) -> Sequence[str]:
        """Background and peel."""
        return ("background", "peel")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """The peel and the two sides."""
        bulge = bulge_for(math.hypot(width, height), float(self.rise.mm)) if self.rise else QUARTER
        low, far = (0.0, 0.0), (width, height)
        return [
            Piece("side-1", "background", ((*low, -bulge), far, (0.0, height))),
            Piece("side-2", "background", ((*far, -bulge), low, (width, 0.0))),
            Piece("peel", "peel", ((*low, bulge), (*far, bulge))),
        ]
