"""Two families of parallel lines that cross (L6 to L9)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Any, ClassVar, Literal

from pydantic import field_validator, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Site, Wish
from kenzet.core.fills.origin import StraightFill, check_angle
from kenzet.core.geom.clip import Straight
from kenzet.core.params import Form, asked


class Grid(StraightFill):
    """Two families with one spacing and one datum."""

    label: ClassVar[str] = "Grid"
    help: ClassVar[str] = (
        "Two sets of lines that cross. Sew the first set whole, then lay the second across it."
    )
    tile: ClassVar[str] = (
        "M-4 14 14 -4M-4 40 40 -4M19 43 66 -4M45 43 76 12M-4 25 14 43M-4 -1 40 43M19 -4 66 43M45 -4 76 27"
    )
    order: ClassVar[int] = 2

    kind: Literal["grid"] = "grid"
    second_angle: float = asked(
        135.0, Form("angle", "Crossed at", "The lean of the second set, counted like the first.", presets=(135, 90, 120, 150), after="angle")
    )  # fmt: skip

    @field_validator("second_angle", mode="before")
    @classmethod
    def _second_angle(cls, value: Any) -> float:
        return check_angle(value)

    @model_validator(mode="after")
    def _crosses(self) -> Grid:
        between = abs(math.sin(math.radians(self.angle - self.second_angle)))
        if between < math.sin(math.radians(5)) - 1e-9:
            raise BadValue("The two sets of a grid must cross at 5 degrees or more.", "second_angle")
        return self

    def lay_out(self, site: Site) -> Iterable[Straight]:
        """The first family, then the second."""
        return [self.family(site, angle) for angle in self._angles(site)]

    def wishes(self, site: Site) -> Sequence[Wish]:
        """Even, or through every corner, for both families at once."""
        return self.straight_wishes(site, self._angles(site))

    def _angles(self, site: Site) -> list[float]:
        base = self.base_angle(site)
        return [base + self.angle, base + self.second_angle]
