"""What a fill is, and what it is told about its place."""

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
    """An echo family: ``insides[k]`` is what ring k encloses, all from one outline.

    Ring k lies ``first`` + k·``pitch`` inside the outline (exact mm). ``drawn`` are the insides as they were worked out,
    perhaps for another outline, and ``placing`` carries them to where they lie.
    """

    drawn: tuple[MultiPolygon, ...]
    first: Fraction
    pitch: Fraction
    placing: Placing | None = None

    @property
    def insides(self) -> tuple[MultiPolygon, ...]:
        """What each ring encloses."""
        placing = self.placing
        if placing is None:
            return self.drawn
        return tuple(shapely.transform(np.array(self.drawn), lambda points: place_all(placing, points)))


@dataclass(frozen=True, slots=True)
class Paths:
    """Lines that are neither parallel straights nor rings: zigzags, arcs, fans, chevrons.

    Where ``spacing`` is given (exact mm), each path but the first lies that far, truly, from the one
    before it all along, and can be laid from it; without it every path is drawn. Paths ``on_outline`` are not
    clipped: they run in the ditch. ``laid_on`` says of each path what else it is laid from, where something is: a "step" is how
    far a template is moved square to the rows from the row before, and ``slides`` how far along them, mm; ``way`` is the
    direction of rows, of length 1. ``rows`` says of each path which row or ring it is of, if that is not its own number; rings
    may grow ``outward``. They lie only ``within`` one piece of the zone, where that is given.
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
"""What a fill is when a shape is sewn in the ditch, with echoes inside it and something freehand inside those."""

Seams = tuple[tuple[Point, Point], ...]


class Site(NamedTuple):
    """Where a fill is laid: the zone's ``region`` in its part's coordinates (mm, y up).

    ``centre`` is the part's centre and ``quilt_centre`` the quilt's, both in those coordinates. ``seams``
    are the straight seams of the piecing inside the zone, its outline not among them, looked for when asked.
    """

    region: Region
    centre: Point
    quilt_centre: Point
    find_seams: Callable[[], Seams] = tuple

    def share_of(self, point: Point) -> Point:
        """A point in shares of the zone's width and height, so that it keeps its place when the zone is resized."""
        left, low, right, high = self.region.bounds
        return round((point[0] - left) / (right - left), 9), round((point[1] - low) / (high - low), 9)

    def at_share(self, share: Point | None) -> Point:
        """The point at a share; the zone's middle where there is none."""
        left, low, right, high = self.region.bounds
        x, y = share or (0.5, 0.5)
        return left + x * (right - left), low + y * (high - low)

    @property
    def seams(self) -> Seams:
        """Start and end of every seam inside."""
        return self.find_seams()


@dataclass(frozen=True, slots=True)
class Figure:
    """A number of the fill that she would otherwise compute: ``value`` in mm (of a ``sewn`` length: told as roughly as at the machine), degrees, a share or a count.

    ``typed`` marks the one that she has typed herself where two belong together.
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
    """Must override ``label``, ``help``, ``tile`` (an SVG path in a box of 72 by 39), ``group`` and ``lay_out``; may
    override ``order`` (its place in its group), ``lines_are`` (what one calls them), ``lends_spacing`` (False where
    its spacing is a size of its own, which another fill could not use), ``is_spaced`` (False where no spacing can be
    told of it), ``offered`` (False for what is no choice among fills) and what says so.
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
        """Must override. The families, before clipping; the same site gives the same families."""
        raise NotImplementedError

    @classmethod
    def surrounding(cls, spacing: Length, rounds: int) -> Fill:
        """May override where ``surrounds`` says what it is good for: the fill with which a shape is surrounded so."""
        raise NotImplementedError

    def turn_of(self, family: int) -> int:
        """May override. When its family number ``family`` is sewn: each turn whole before the next. By default all are one."""
        return 0

    def count_at_most(self, site: Site) -> int:
        """May override. How many lines there would be, or a few more, before anything is drawn."""
        families = list(self.lay_out(site))
        straight = [family for family in families if isinstance(family, Straight)]
        paths = sum(len(family.paths) for family in families if isinstance(family, Paths))
        along = site.region.stretches_at_most  # a line enters and leaves by two sides
        return count_at_most([(piece, f) for piece in site.region.pieces for f in straight]) + paths * along

    def suggest_spacings(self, site: Site) -> Sequence[SpacingSuggestion]:
        """May override. Spacings that come out even or meet the corners, best first."""
        return ()

    def by_radius(self, site: Site, radius: float) -> Sequence[SpacingSuggestion]:
        """May override. What can be set so that an arc of ``radius`` mm, which one of her edges sews, makes it. Raises BadValue with the
        reason where it makes none.
        """
        return ()

    def fix_sliver(self, site: Site) -> SliverFix | None:
        """May override. What would leave no sliver; asked only where there is one."""
        return None

    def fit_to_points(self, site: Site, points: Sequence[Point]) -> Sequence[PointFit]:
        """May override. How to hit all of ``points``, the first of them the datum; the nearest to her wish first."""
        return ()

    @property
    def can_meet(self) -> bool:
        """Whether ``meet`` is overridden."""
        return type(self).fit_to_points is not Fill.fit_to_points

    def notes(self) -> Sequence[str]:
        """May override. Sentences of the craft that belong to this fill as it is set."""
        return ()

    @property
    def least_piece(self) -> float:
        """May override. Pieces shorter than this, mm, are left out."""
        return 0.0

    @property
    def claimed_density(self) -> float | None:
        """May override. Where its lines are a hint only, what is sewn of it: mm per mm²."""
        return None

    def tightest_inner_radius(self, site: Site) -> float | None:
        """May override. The tightest radius, mm, that a ruler foot has to go into."""
        return None

    def figures(self, site: Site) -> Sequence[Figure]:
        """May override. What belongs to the fill beside its spacing: steps, legs, angles, radii."""
        return ()

    def template(self, site: Site) -> WaveEdge | ZigzagEdge | None:
        """May override. The ready-made edge that would sew its lines, for fills that repeat one shape along them."""
        return None

    def lattice(self, site: Site) -> Sequence[Straight]:
        """May override. What its rows and repeats stand on, for fills that repeat: even lines and lines across them."""
        return ()

    @property
    def sewn(self) -> bool:
        """May override. False where its lines are only drawn, as a base for others."""
        return True

    @property
    def in_the_ditch(self) -> bool:
        """Whether its lines lie in the ditch of seams: an anchor, or what is sewn round the blocks last."""
        return False

    @property
    def counted_families(self) -> frozenset[int] | None:
        """May override. The numbers of those families whose lines are its rows, where others only serve them; None: all."""
        return None

    @property
    def sews_outline(self) -> bool:
        """May override. Whether it sews the zone's own outline: a seam that another zone sews already is left to that one."""
        return False

    @property
    def rows_by_eye(self) -> bool:
        """May override. True where rows that none of her edges sews keep their distance by eye, and need not be drawn."""
        return False

    @property
    def freehand_rows(self) -> bool:
        """May override. True where rows beside a guide are sewn without a ruler."""
        return False

    @property
    def passes(self) -> int:
        """May override. How often each line is sewn over."""
        return 1

    @property
    def follows_outline(self) -> bool:
        """May override. Whether it is rings that nothing but the outline gives: shapes that are each other turned or mirrored have
        each other's.
        """
        return False

    @property
    def follows_quilt(self) -> bool:
        """May override. Whether each placing of the part is drawn differently (lines flow across)."""
        return False


ReferenceHint = tuple[Literal["seam", "line", "step"], Fraction]
"""What a line is laid from, and how far from it, exact mm."""


@dataclass(frozen=True, slots=True)
class SpacingSuggestion:
    """A spacing that would suit the zone: the exact ``length``, what it does, and what else must be set for it."""

    length: Length
    does: str
    values: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class PointFit:
    """Settings (``values`` by parameter) with which the features are met, or nearly.

    ``change`` is the relative change of what she wished; ``counts`` the whole steps to each feature after the
    first; ``arrives`` is said of zigzags; ``give`` numbers the features (from 0, the first left out) that miss.
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
    """What rids a fill of slivers: another datum (then ``gap`` mm are left) or the even spacing ``gap``; ``values`` are what to set."""

    how: SliverFixHow
    gap: Fraction
    values: tuple[tuple[str, str], ...]


SliverFixHow = Literal["line on the center", "gap on the center", "even spacing"]
