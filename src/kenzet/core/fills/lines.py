"""Parallel lines (L1)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

from kenzet.core.fills.base import Site, SpacingSuggestion
from kenzet.core.fills.origin import StraightFill
from kenzet.core.geom.clip import Straight
from kenzet.texts import tr


class Lines(StraightFill):
    """One family of parallel lines."""

    label: ClassVar[str] = tr("Lines")
    help: ClassVar[str] = tr("Parallel lines in one direction. Each line is placed from the line before.")
    tile: ClassVar[str] = (
        "M-4 14 14 -4M-4 27 27 -4M-4 40 40 -4M6 43 53 -4M19 43 66 -4M32 43 76 -1M45 43 76 12M58 43 76 25"
    )
    order: ClassVar[int] = 1

    kind: Literal["lines"] = "lines"

    def lay_out(self, site: Site) -> Iterable[Straight]:
        """One family."""
        yield self.family(site, self.base_angle(site) + self.angle)

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """Spacings that come out even from the present datum, or pass through every corner."""
        return self.straight_wishes(site, [self.base_angle(site) + self.angle])
