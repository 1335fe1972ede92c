"""One piece of fabric."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar, Literal

from kenzet.core.top.patterns.base import Pattern, Piece, box
from kenzet.texts import tr


class Plain(Pattern):
    """A plain square or rectangle."""

    label: ClassVar[str] = tr("Plain")
    help: ClassVar[str] = tr("One piece of fabric: an alternate block, a strip, a panel.")
    order: ClassVar[int] = 1

    kind: Literal["plain"] = "plain"

    def roles(self) -> Sequence[str]:
        """One role."""
        return ("patch",)

    def draw(self, width: float, height: float) -> Sequence[Piece]:
        """The whole block."""
        return [box("patch", "patch", 0.0, 0.0, width, height)]
