"""A ring of petals around a center."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated, ClassVar, Literal

from pydantic import Field, field_validator

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked, in_range
from kenzet.core.top.patterns.base import Pattern, Piece, box
from kenzet.texts import tr


class PetalRing(Pattern):
    """``petals`` petals of ``length`` (chord) and ``rise``, outwards from the rim of a center of ``radius``."""

    label: ClassVar[str] = tr("Ring of petals")
    help: ClassVar[str] = tr("Petals by length and rise, set around a center.")
    order: ClassVar[int] = 15

    kind: Literal["petal-ring"] = "petal-ring"
    petals: Annotated[int, Field(ge=3, le=24)] = asked(8, Form("count", tr("Petals")))
    length: Length | None = asked(
        None, Form("length", tr("Length of a petal"), empty=tr("a quarter of the block"))
    )
    rise: Length | None = asked(
        None, Form("length", tr("Rise of each side"), empty=tr("as far as they do not touch"))
    )
    radius: Length | None = asked(
        None, Form("length", tr("Radius of the center"), empty=tr("a tenth of the block"))
    )

    @field_validator("length", "rise", "radius")
    @classmethod
    def _size(cls, size: Length | None) -> Length | None:
        return size and in_range(size, "1/8 in", "60 in", tr("A size of the ring"))

    def _numbers(self, size: float) -> tuple[float, float, float]:
        length = float(self.length.mm) if self.length else size / 4
        radius = float(self.radius.mm) if self.radius else size / 10
        apart = (radius + length / 2) * math.tan(math.pi / self.petals)
        rise = float(self.rise.mm) if self.rise else min(0.8 * apart, length / 3)
        return length, rise, radius

    def check(self, width: float, height: float) -> None:
        """The ring must fit inside the block; a petal is at most a full circle."""
        length, rise, radius = self._numbers(min(width, height))
        if rise > length / 2:
            raise BadValue(tr("A petal rises at most half its length."), "rise")
        if radius + length >= min(width, height) / 2:
            raise BadValue(
                tr("The center and a petal together reach beyond the block: take a shorter petal."), "length"
            )

    def roles(self) -> Sequence[str]:
        """Background, petals, centre."""
        return ("background", "petals", "centre")

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """Petal 1 points up; the others follow counter-clockwise."""
        length, rise, radius = self._numbers(min(width, height))
        bulge, x, y = bulge_for(length, rise), width / 2, height / 2
        petals = []
        for k in range(self.petals):
            turn = math.pi / 2 + math.tau * k / self.petals
            inner, outer = (
                (x + far * math.cos(turn), y + far * math.sin(turn), bulge)
                for far in (radius, radius + length)
            )
            petals.append(Piece(f"petal-{k + 1}", "petals", (inner, outer), applique=True))
        centre = Piece("centre", "centre", ((x - radius, y, 1.0), (x + radius, y, 1.0)), applique=True)
        return [box("background", "background", 0.0, 0.0, width, height), *petals, centre]
