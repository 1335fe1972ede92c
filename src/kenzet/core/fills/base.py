"""The interface of a fill, and the description of the zone it is laid out in."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import ClassVar, Literal, NamedTuple

import numpy as np
import shapely
from pydantic import field_validator
from shapely.geometry import MultiPolygon

from kenzet.core.geom.affine import Placing, place_all
from kenzet.core.geom.clip import Straight, count_at_most
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Point, Region
from kenzet.core.kit.edges import WaveEdge, ZigzagEdge
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Frozen, in_range
from kenzet.texts import tr


@dataclass(frozen=True, slots=True)
class Rings:
    """An echo family: ``insides[k]`` is the area inside ring k; all are offset from one outline.

    Ring k is ``first`` + k·``pitch`` inside the outline (exact mm). ``drawn`` are the areas as computed, perhaps
    for a congruent outline; ``placing`` then maps them to this zone.
    """

    drawn: tuple[MultiPolygon, ...]
    first: Fraction
    pitch: Fraction
    placing: Placing | None = None

    @property
    def insides(self) -> tuple[MultiPolygon, ...]:
        """The area inside each ring."""
        placing = self.placing
        if placing is None:
            return self.drawn
        return tuple(shapely.transform(np.array(self.drawn), lambda points: place_all(placing, points)))


@dataclass(frozen=True, slots=True)
class Paths:
    """Lines that are neither parallel nor rings: zigzags, arcs, fans, chevrons.

    If ``spacing`` is given (exact mm), each path but the first is exactly that far from the path before it
    everywhere, and can be placed from it; without it every path has to be marked. Paths ``on_outline`` are not
    clipped: they run in the ditch. ``laid_on`` says for each path what else it can be placed from, if anything; a
    "step" is the distance a template moves perpendicular to the rows from the row before, and ``slides`` the
    distance along them, mm. ``way`` is the unit direction of rows. ``rows`` gives the row or ring of each path, if
    that is not its own index; rings may grow ``outward``. If ``within`` is given, the paths lie in that piece of
    the zone only.
    """

    paths: tuple[Path, ...]
    spacing: Fraction | None = None
    on_outline: bool = False
    laid_on: tuple[ReferenceHint | None, ...] = ()
    slides: tuple[float, ...] = ()
    way: Point | None = None
    rows: tuple[int, ...] = ()
    outward: bool = False
    within: Region | None = None


Family = Straight | Rings | Paths

Group = Literal["straight", "shapes", "echoes", "zigzags", "curves", "textures"]
GROUPS: dict[Group, str] = {
    "straight": tr("Straight"), "shapes": tr("Shapes"), "echoes": tr("Echoes"), "zigzags": tr("Zigzags"), "curves": tr("Curves"),
    "textures": tr("Freehand"),
}  # fmt: skip


Surrounds = Literal["", "ditch", "echoes", "inside"]
"""The role of a fill when a shape is sewn in the ditch, with echoes inside it and freehand quilting inside those."""

Seams = tuple[tuple[Point, Point], ...]


class Site(NamedTuple):
    """Where a fill is laid out: the zone's ``region`` in its part's coordinates (mm, y up).

    ``centre`` is the center of the part and ``quilt_centre`` that of the quilt, in the same coordinates. ``seams``
    are the straight seams inside the zone, without its outline; they are computed on demand.
    """

    region: Region
    centre: Point
    quilt_centre: Point
    find_seams: Callable[[], Seams] = tuple

    def share_of(self, point: Point) -> Point:
        """A point as shares of the zone's width and height, so that it keeps its relative place when the zone is
        resized."""
        left, low, right, high = self.region.bounds
        return round((point[0] - left) / (right - left), 9), round((point[1] - low) / (high - low), 9)

    def at_share(self, share: Point | None) -> Point:
        """The point at a share; the zone's center if ``share`` is None."""
        left, low, right, high = self.region.bounds
        x, y = share or (0.5, 0.5)
        return left + x * (right - left), low + y * (high - low)

    @property
    def seams(self) -> Seams:
        """Start and end of every seam inside the zone."""
        return self.find_seams()


@dataclass(frozen=True, slots=True)
class Figure:
    """A figure of the fill that the quilter would otherwise compute: ``value`` in mm, degrees, a share or a count.

    A ``sewn`` length is shown as coarsely as at the machine. ``typed`` marks the one of two dependent figures that
    was typed.
    """

    label: str
    value: float
    what: Literal["length", "sewn", "angle", "count"] = "length"
    typed: bool = False


LEAST_SPACING, MOST_SPACING = "1/16 in", "100 in"


def check_spacing(length: Length) -> Length:
    """A spacing that can be sewn. Raises BadValue outside 1/16 in to 100 in."""
    return in_range(length, LEAST_SPACING, MOST_SPACING, tr("The spacing"))


class Fill(Frozen):
    """Must override ``label``, ``help``, ``tile`` (an SVG path in a box of 72 by 39), ``group`` and ``lay_out``.

    May override ``order`` (its place in its group), ``lines_are`` (what its lines are called), ``lends_spacing``
    (False if its spacing is a size that makes no sense for another fill), ``is_spaced`` (False if it has no
    spacing), ``offered`` (False if it is not offered in the chooser), and every method that says so.
    """

    label: ClassVar[str]
    help: ClassVar[str]
    tile: ClassVar[str]
    group: ClassVar[Group] = "straight"
    order: ClassVar[int] = 99
    lines_are: ClassVar[str] = tr("Lines")
    lends_spacing: ClassVar[bool] = True
    offered: ClassVar[bool] = True
    surrounds: ClassVar[Surrounds] = ""
    is_spaced: ClassVar[bool] = True

    spacing: Length

    @field_validator("spacing")
    @classmethod
    def _spacing(cls, length: Length) -> Length:
        return check_spacing(length)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Must override. The families before clipping; equal sites give equal families."""
        raise NotImplementedError

    @classmethod
    def surrounding(cls, spacing: Length, rounds: int) -> Fill:
        """Must override if ``surrounds`` is set: the fill for that role."""
        raise NotImplementedError

    def turn_of(self, family: int) -> int:
        """May override. The turn in which family number ``family`` is sewn; a turn is finished before the next
        begins. By default all families share one turn."""
        return 0

    def count_at_most(self, site: Site) -> int:
        """May override. An upper bound, nearly exact, of the number of lines, before anything is drawn."""
        families = list(self.lay_out(site))
        straight = [family for family in families if isinstance(family, Straight)]
        paths = sum(len(family.paths) for family in families if isinstance(family, Paths))
        along = site.region.stretches_at_most  # a line enters and leaves by two sides
        return count_at_most([(piece, f) for piece in site.region.pieces for f in straight]) + paths * along

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """May override. Spacings that come out even or meet the corners, best first."""
        return ()

    def by_radius(self, site: Site, radius: float) -> Sequence[SpacingSuggestion]:
        """May override. The settings with which an arc of ``radius`` mm, as one of the rulers sews it, makes this
        fill. Raises BadValue with the reason if it cannot."""
        return ()

    def fix_sliver(self, site: Site) -> SliverFix | None:
        """May override. The settings that avoid slivers; called only if there is one."""
        return None

    def fit_to_points(self, site: Site, points: Sequence[Point]) -> Sequence[PointFit]:
        """May override. Settings that hit all of ``points``, the first of which is the datum; those closest to the
        present ones first."""
        return ()

    @property
    def can_meet(self) -> bool:
        """Whether ``fit_to_points`` is overridden."""
        return type(self).fit_to_points is not Fill.fit_to_points

    def notes(self) -> Sequence[str]:
        """May override. Advice of the craft about this fill with its present settings."""
        return ()

    @property
    def least_piece(self) -> float:
        """May override. Pieces shorter than this, mm, are left out."""
        return 0.0

    @property
    def claimed_density(self) -> float | None:
        """May override. If its lines are only a hint: the density it stands for, mm of stitching for each mm²."""
        return None

    def tightest_inner_radius(self, site: Site) -> float | None:
        """May override. The tightest radius, mm, that a ruler foot has to fit into."""
        return None

    def figures(self, site: Site) -> Sequence[Figure]:
        """May override. Figures of the fill besides its spacing: steps, legs, angles, radii."""
        return ()

    def template(self, site: Site) -> WaveEdge | ZigzagEdge | None:
        """May override. The edge of a template that would sew its lines, for fills that repeat one shape."""
        return None

    def lattice(self, site: Site) -> Sequence[Straight]:
        """May override. For fills that repeat in both directions: the even lines on which rows stand, and the
        lines across them on which repeats begin."""
        return ()

    @property
    def sewn(self) -> bool:
        """May override. False if its lines are only marked, as a base for others."""
        return True

    @property
    def in_the_ditch(self) -> bool:
        """Whether its lines lie in the ditch of seams: as an anchor, or sewn around the blocks at the end."""
        return False

    @property
    def counted_families(self) -> frozenset[int] | None:
        """May override. The indices of the families whose lines count as rows, if other families only help; None
        for all."""
        return None

    @property
    def sews_outline(self) -> bool:
        """May override. Whether it sews the zone's own outline. A seam that another zone already sews is left out."""
        return False

    @property
    def rows_by_eye(self) -> bool:
        """May override. True if rows that no ruler fits keep their distance by eye and need no marks."""
        return False

    @property
    def freehand_rows(self) -> bool:
        """May override. True if the rows beside a guide are sewn without a ruler."""
        return False

    @property
    def passes(self) -> int:
        """May override. How many times each line is sewn."""
        return 1

    @property
    def follows_outline(self) -> bool:
        """May override. Whether it consists of rings that depend only on the outline, so that congruent zones can
        share them."""
        return False

    @property
    def follows_quilt(self) -> bool:
        """May override. Whether the drawing differs from place to place, because lines flow across blocks."""
        return False


ReferenceHint = tuple[Literal["seam", "line", "step"], Fraction]
"""What a line can be placed from, and its distance, exact mm."""


@dataclass(frozen=True, slots=True)
class SpacingSuggestion:
    """A spacing that suits the zone: the exact ``length``, its effect in words, and the other settings it needs."""

    length: Length
    does: str
    values: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class PointFit:
    """Settings (``values`` by parameter) with which the features are met exactly or nearly.

    ``change`` is the relative change of the spacing; ``counts`` are the whole steps to each feature after the
    first; ``arrives`` applies to zigzags; ``give`` are the indices of features that are missed (from 0, without
    the first).
    """

    values: tuple[tuple[str, str], ...]
    through: Point
    change: float
    counts: tuple[int, ...]
    step: Length
    arrives: Literal["", "same side", "opposite side"] = ""
    give: tuple[int, ...] = ()
    misses: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class SliverFix:
    """What avoids slivers: another datum (which leaves ``gap`` mm) or the even spacing ``gap``. ``values`` are the
    settings."""

    how: SliverFixHow
    gap: Fraction
    values: tuple[tuple[str, str], ...]


SliverFixHow = Literal["line on the center", "gap on the center", "even spacing"]
