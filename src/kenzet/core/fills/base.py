"""What a fill is, and what it is told about its place."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import ClassVar, Literal

from shapely.geometry import MultiPolygon

from kenzet.core.geom.clip import Straight, count_at_most
from kenzet.core.geom.region import Point, Region
from kenzet.core.measure import Length
from kenzet.core.params import Frozen


@dataclass(frozen=True, slots=True)
class Rings:
    """An echo family: ``insides[k]`` is what ring k encloses, all from one outline.

    Ring k lies ``first`` + k·``pitch`` inside the outline (exact mm).
    """

    insides: tuple[MultiPolygon, ...]
    first: Fraction
    pitch: Fraction


Family = Straight | Rings


@dataclass(frozen=True, slots=True)
class Site:
    """Where a fill is laid: the zone's ``region`` in its part's coordinates (mm, y up).

    ``centre`` is the part's centre and ``quilt_centre`` the quilt's, both in those coordinates.
    """

    region: Region
    centre: Point
    quilt_centre: Point


@dataclass(frozen=True, slots=True)
class Wish:
    """A spacing that would suit the zone: the exact ``length`` and what it does."""

    length: Length
    does: str


MendHow = Literal["line on the centre", "gap on the centre", "even spacing"]


@dataclass(frozen=True, slots=True)
class Mend:
    """What rids a fill of slivers: another datum (then ``gap`` mm are left) or the even spacing ``gap``."""

    how: MendHow
    gap: Fraction


class Fill(Frozen):
    """Must override ``label``, ``help``, ``tile`` (an SVG path in a box of 72 by 39) and ``lay_out``; may override ``order`` (its place in the chooser),
    ``wishes`` and ``follows_quilt``.
    """

    label: ClassVar[str]
    help: ClassVar[str]
    tile: ClassVar[str]
    order: ClassVar[int] = 99

    spacing: Length

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Must override. The families, before clipping; the same site gives the same families."""
        raise NotImplementedError

    def count_at_most(self, site: Site) -> int:
        """May override. How many lines there would be, or a few more, before anything is drawn."""
        straight = [family for family in self.lay_out(site) if isinstance(family, Straight)]
        return count_at_most([(piece, family) for piece in site.region.pieces for family in straight])

    def wishes(self, site: Site) -> Sequence[Wish]:
        """May override. Spacings that come out even or meet the corners, best first."""
        return ()

    def mend(self, site: Site) -> Mend | None:
        """May override. What would leave no sliver; asked only where there is one."""
        return None

    @property
    def follows_quilt(self) -> bool:
        """May override. Whether each placing of the part is drawn differently (lines flow across)."""
        return False
