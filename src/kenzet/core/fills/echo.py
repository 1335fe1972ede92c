"""Rings that repeat the zone's own outline, inwards (L15, L16)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import ClassVar, Literal

from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Fill, Rings, Site, Wish
from kenzet.core.fills.origin import MOST_SPACING, check_spacing
from kenzet.core.geom.offset import Corners, inward
from kenzet.core.measure import MM_PER, Length
from kenzet.core.params import Choice, Form, asked, in_range
from kenzet.core.spacing import whole_parts

MOST_ROUNDS = 500


class Echo(Fill):
    """Rings inside the outline, each offset from the outline itself."""

    label: ClassVar[str] = "Echo"
    help: ClassVar[str] = "Rings that follow the zone's own edge, from the seam inwards."
    tile: ClassVar[str] = "M4 36 36 3 68 36ZM17 31 36 11.5 55 31ZM29 26.5 36 19.5 43 26.5Z"
    order: ClassVar[int] = 3

    kind: Literal["echo"] = "echo"
    spacing: Length = asked("1/4 in", Form("length", "Apart", "True distance from ring to ring."))
    first: Length | None = asked(
        None, Form("length", "First ring in from the seam", empty="the same as the rest")
    )
    rounds: int | None = asked(None, Form("count", "Rounds", "How many rings.", empty="until full"))
    corners: Corners = asked(
        "mitred",
        Form(
            "choice", "Corners that point inwards",
            choices=(Choice("mitred", "mitred"), Choice("round", "round")),
        ),
    )  # fmt: skip

    @field_validator("spacing")
    @classmethod
    def _spacing(cls, length: Length) -> Length:
        return check_spacing(length)

    @field_validator("first")
    @classmethod
    def _first(cls, length: Length | None) -> Length | None:
        return length and in_range(length, "1/16 in", MOST_SPACING, "The first distance")

    @field_validator("rounds")
    @classmethod
    def _rounds(cls, rounds: int | None) -> int | None:
        if rounds is not None and not 1 <= rounds <= MOST_ROUNDS:
            raise BadValue(f"Rounds are a whole number from 1 to {MOST_ROUNDS}, or until full.")
        return rounds

    def lay_out(self, site: Site) -> Iterable[Rings]:
        """One family of rings, from the outline inwards, until the rounds are done or nothing is left."""
        first = self.first or self.spacing
        most = MOST_ROUNDS if self.rounds is None else self.rounds
        insides = []
        for k in range(most):
            inside = inward(site.region, float(first.mm + k * self.spacing.mm), self.corners)
            if inside.is_empty:
                break
            insides.append(inside)
        yield Rings(tuple(insides), first.mm, self.spacing.mm)

    def count_at_most(self, site: Site) -> int:
        """Rounds to the widest circle, times the rings of the outline."""
        loops = sum(1 + len(piece.interiors) for piece in site.region.area.geoms)
        full = int(site.region.inradius / float(self.spacing.mm)) + 1
        return loops * min(full, self.rounds or full)

    def wishes(self, site: Site) -> Sequence[Wish]:
        """Spacings that bring the last ring exactly one spacing from the middle (F21)."""
        left = Fraction(round(site.region.inradius * 10**4), 10**4) - (self.first.mm if self.first else 0)
        if left <= 0:
            return []
        found = [part for part in whole_parts(left, self.spacing.mm, 1) if part >= MM_PER["in"] / 16]
        return [Wish(Length.near(part, self.spacing.unit), "even") for part in found[:2]]
