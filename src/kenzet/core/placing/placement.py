"""The placement of a line: the one answer to how it is placed, for every screen and sheet and at the machine."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from kenzet.core.geom.region import Point
from kenzet.core.kit.curves import CurveFit, TemplateFit
from kenzet.core.placing.legs import Leg
from kenzet.core.ruler.line_references import Beyond
from kenzet.core.ruler.offset_sums import OffsetSum
from kenzet.core.tolerances import VISIBLE

On = Literal[
    "last",
    "line",
    "drawn",
    "seam",
    "mark",
    "points",
    "corners",
    "angle",
    "ditch",
    "tape",
    "beyond",
    "nothing",
]
By = Literal[
    "etched line",
    "edge behind",
    "tilt",
    "angle",
    "gauge",
    "rim",
    "curve",
    "template",
    "follow",
    "two points",
    "ditch",
    "tape",
    "eye",
    "freehand",
]


@dataclass(frozen=True, slots=True)
class Check:
    """A second line that must lie under the ruler's ``etched`` line (exact mm from its edge) if the ruler lies
    correctly: ``line`` is its number, ``back`` how many lines back it is."""

    line: int
    back: int
    etched: Fraction


Onward = Point | Literal["in", "out"]


@dataclass(frozen=True, eq=False)
class Placement:
    """How line ``line`` is placed: ``on`` is what it is placed from, ``by`` what does it.

    ``on`` is "last" (the line just sewn), "line" (one sewn earlier; ``reference`` is its number, ``towards`` the
    direction in which it lies from this one, and ``over`` says that it is the second, third … line there), "drawn" (the same, but only marked so far), "seam", "mark" (its own), "points" (ticks or dots at its
    ends), "corners" (where seams, or the lines ``through``, meet at the ends of its legs), "angle" (a line that it
    crosses), "ditch", "tape", "beyond" (a line of another zone, given by ``beyond``: one beside it, or one that it
    continues if there is no ``total``), or "nothing".

    ``over_line`` says for each of ``fits`` whether the ruler lies on the other side of the line than the reference,
    so that the line comes between them; then its edge is ``distance`` and a foot's offset from the reference.

    ``distance`` is the exact distance from it, mm. The line progresses along its family's normal if ``way`` is +1,
    against it if -1; reference and ruler are behind it. ``total`` is the sum with etched line and foot; ``fits`` has
    the curved edge for each arc, or the template. ``error`` is the 95 % error of its place, mm. ``dots`` are its
    points marked by dots.

    A ``stepped`` line is moved ``onward`` from the row before, and slid by ``slide`` mm ``along`` the rows; both are
    directions in the part (see ``as_it_lies`` for those in the quilt). A ``level`` one is a row
    whose center line, on a template, is aligned with a straight seam (``onward`` from it) or with its own mark.
    ``tilt`` is how far its reference lies under the ruler's edge at its start and its end, exact mm, negative if
    it shows in front of the edge. ``sides`` are the placements of the legs, if each has its own.
    """

    line: int
    on: On
    by: By
    legs: tuple[Leg, ...]
    distance: Fraction = Fraction(0)
    over: int = 1
    way: int = 1
    reference: int | None = None
    towards: Onward | None = None
    angle: float = 0.0
    total: OffsetSum | None = None
    fits: tuple[CurveFit | TemplateFit | None, ...] = ()
    over_line: tuple[bool, ...] = ()
    error: float = 0.0
    check: Check | None = None
    lays: int = 0
    sides: tuple[Placement, ...] = ()
    through: tuple[int, ...] = ()
    tilt: tuple[Fraction, ...] = ()
    dots: tuple[tuple[float, float], ...] = ()
    level: bool = False
    stepped: bool = False
    slide: float = 0.0
    along: Point | None = None
    onward: Onward | None = None
    crosses: tuple[float, Point] | None = None
    beyond: Beyond | None = None

    @property
    def length(self) -> float:
        """The length of the whole line, mm."""
        return sum(leg.length for leg in self.legs)

    @property
    def verdict(self) -> Literal["does", "nearly", "by hand"]:
        """How well the ruler or template fits; "by hand" if none is used."""
        if self.by in ("follow", "eye", "freehand", "ditch"):
            return "by hand"
        nearly = any(fit is not None and fit.verdict == "can be nudged" for fit in self.fits)
        return "nearly" if nearly or (self.total is not None and abs(self.total.out) > VISIBLE) else "does"

    @property
    def needs(self) -> tuple[int, ...]:
        """The lines of the drawing that must be sewn, or marked, first."""
        own = () if self.reference is None else (self.reference,)
        return tuple(
            dict.fromkeys([*own, *self.through, *(line for side in self.sides for line in side.needs)])
        )
