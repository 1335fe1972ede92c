"""Lines placed by hand on the ruler bench: kept as they are, whatever else fills the zone.

Glossary: a line placed by hand is a path in its part's coordinates, mm from the part's lower left corner. If the
part is resized, the line does not move and is clipped again.
"""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from kenzet.core.fills.base import Family, Fill, Paths, ReferenceHint, Site
from kenzet.core.geom.paths import Path
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Frozen
from kenzet.texts import tr

BY_HAND = 2
"""The layer of a drawing that holds these lines."""
MOST_BY_HAND = 200

_Mm = Annotated[float, Field(ge=-10_000, le=10_000, allow_inf_nan=False)]
_Bulge = Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)]


class ManualLines(Fill):
    """A fill made of the lines placed by hand; it is not offered in the chooser."""

    label: ClassVar[str] = tr("Placed by hand")
    help: ClassVar[str] = tr("Lines that you have kept on the ruler bench.")
    tile: ClassVar[str] = ""
    lends_spacing: ClassVar[bool] = False
    offered: ClassVar[bool] = False
    is_spaced: ClassVar[bool] = False

    kind: Literal["by hand"] = "by hand"
    spacing: Length = Length.parse("1 in")
    lines: tuple[ManualLine, ...] = ()

    def lay_out(self, site: Site) -> Iterable[Family]:
        """All of them, each with what it was placed from."""
        yield Paths(
            tuple(line.path for line in self.lines), laid_on=tuple(line.laid_on for line in self.lines)
        )


class ManualLine(Frozen):
    """One line, with the ruler's plastic on its left: ``vertices`` with their bulges.

    ``on`` and ``distance`` say what it was placed from and how far away; empty if it has to be marked. ``ruler``
    is the ruler's key in the quilt's kit.
    """

    vertices: Annotated[tuple[tuple[_Mm, _Mm, _Bulge], ...], Field(min_length=2, max_length=4000)]
    ruler: str = Field("", max_length=60)
    on: Literal["seam", "line", ""] = ""
    distance: Length | None = None

    @property
    def path(self) -> Path:
        """The line as a path."""
        return Path.of(self.vertices)

    @property
    def laid_on(self) -> ReferenceHint | None:
        """What it was placed from, and its distance, exact mm."""
        return (self.on, Fraction(self.distance.mm)) if self.on and self.distance else None
