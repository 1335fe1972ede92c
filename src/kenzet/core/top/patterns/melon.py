"""A melon from its chord and rise."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.geom.arcs import bulge_for
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, at_most, box
from kenzet.texts import tr


class Melon(Pattern):
    """One horizontal melon in the middle of its background; ``chord`` from tip to tip, ``rise`` of each arc."""

    label: ClassVar[str] = tr("Melon")
    help: ClassVar[str] = tr("A melon measured tip to tip, and how far each side rises over that line.")
    order: ClassVar[int] = 14

    kind: Literal["melon"] = "melon"
    chord: Length | None = asked(None, Form("length", tr("Tip to tip"), empty=tr("two thirds of the block")))
    rise: Length | None = asked(None, Form("length", tr("Rise of each side"), empty=tr("a fifth of that")))

    @field_validator("chord", "rise")
    @classmethod
    def _size(cls, size: Length | None) -> Length | None:
        return size and in_range(size, "1/8 in", "100 in", tr("The chord and the rise"))

    def _numbers(self, width: float, height: float) -> tuple[float, float]:
        chord = float(self.chord.mm) if self.chord else min(width, height) * 2 / 3
        return chord, float(self.rise.mm) if self.rise else chord / 5

    def check(self, width: float, height: float) -> None:
        """It must fit inside the block, and neither side may be more than a half circle."""
        if self.chord:
            at_most(self.chord, width, "chord", tr("The chord"))
        if self.rise:
            at_most(self.rise, min(height, self._numbers(width, height)[0]) / 2, "rise", tr("The rise"))

    def roles(self) -> Sequence[str]:
        """Background and melon."""
        return ("background", "melon")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """The melon is appliquéd on its background."""
        chord, rise = self._numbers(width, height)
        bulge, x, y = bulge_for(chord, rise), width / 2, height / 2
        return [
            box("background", "background", 0.0, 0.0, width, height),
            Piece("melon", "melon", ((x - chord / 2, y, bulge), (x + chord / 2, y, bulge)), applique=True),
        ]
