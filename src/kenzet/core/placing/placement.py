"""What a placement of a line is: the one answer to how it is placed, on every screen and sheet and at the machine."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from kenzet.core.kit.curves import CurveFit, TemplateFit
from kenzet.core.placing.legs import Leg
from kenzet.core.plan.zone_plan import Compass
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


Onward = Compass | Literal["in", "out"]


@dataclass(frozen=True, eq=False)
class Placement:
    """Of line ``line``: what it is laid ``on``, and ``by`` what.

    ``on`` is "last" (the line just sewn), "line" (one sewn earlier, the ``over``-th from it; ``reference`` is its number), "drawn" (the
    same, only drawn as yet), "seam", "mark" (it is drawn itself), "points" (ticks or dots at its ends), "corners" (where seams, or the lines
    ``through``, meet at the ends of its legs), "angle" (a line that it
    crosses), "ditch", "tape", "beyond" (a line of
    another zone, which ``beyond`` names: one beside it, or one that it goes on where there is no ``total``), or "nothing". ``distance`` is exact mm from it; the line progresses ``way`` +1 along its family's
    normal or -1 against it: what it is laid from, and the ruler, lie behind. ``total`` is the sum with etched line and foot,
    ``fits`` has her curved edge for each arc, or her template. ``error`` is within what the line comes to lie, mm, nineteen
    times of twenty. ``dots`` are points of it that are marked by dots. A ``stepped`` one is moved ``onward`` from the row before, and slid by ``slide`` mm; a ``level`` one lies ``onward`` from the seam, and is a row of which a template's middle line lies along a straight seam or
    along its own, which is drawn. ``tilt`` is how far under the ruler's
    edge what it is laid on lies at its start and at its end, exact mm, below 0 where it shows beyond the edge. ``sides`` are the placements of the legs of a line that turns, where each has its own.
    """

    line: int
    on: On
    by: By
    legs: tuple[Leg, ...]
    distance: Fraction = Fraction(0)
    over: int = 1
    way: int = 1
    reference: int | None = None
    angle: float = 0.0
    total: OffsetSum | None = None
    fits: tuple[CurveFit | TemplateFit | None, ...] = ()
    error: float = 0.0
    check: tuple[int, Fraction] | None = None
    lays: int = 0
    sides: tuple[Placement, ...] = ()
    through: tuple[int, ...] = ()
    tilt: tuple[Fraction, ...] = ()
    dots: tuple[tuple[float, float], ...] = ()
    level: bool = False
    stepped: bool = False
    slide: float = 0.0
    onward: Onward | None = None
    crosses: tuple[float, Compass] | None = None
    beyond: Beyond | None = None

    @property
    def length(self) -> float:
        """mm of the whole line."""
        return sum(leg.length for leg in self.legs)

    @property
    def verdict(self) -> Literal["does", "nearly", "by hand"]:
        """How well what is laid does it; "by hand" where nothing is laid."""
        if self.by in ("follow", "eye", "freehand", "ditch"):
            return "by hand"
        nearly = any(fit is not None and fit.verdict == "can be nudged" for fit in self.fits)
        return "nearly" if nearly or (self.total is not None and abs(self.total.out) > VISIBLE) else "does"

    @property
    def needs(self) -> tuple[int, ...]:
        """The lines of the drawing that must be sewn, or drawn, for it."""
        own = () if self.reference is None else (self.reference,)
        return tuple(
            dict.fromkeys([*own, *self.through, *(line for side in self.sides for line in side.needs)])
        )
