"""A triangle halved from the corner opposite its longest side: wedges in one half, close lines in the other (L37)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site
from kenzet.core.fills.turned import check_count
from kenzet.core.geom.paths import straight_path
from kenzet.core.geom.region import Point, Region
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr

Half = Literal["first", "second"]


class HalvedTriangle(Fill):
    """In every triangular piece: a line from the corner opposite the longest side to that side's midpoint, a few
    wedges in one half, lines parallel to the longest side in the other."""

    label: ClassVar[str] = tr("Half and half")
    help: ClassVar[str] = tr(
        "A halved triangle: a few wedges puff up one half, close lines flatten the other."
    )
    tile: ClassVar[str] = (
        "M2 37 36 3 70 37ZM36 3V37M39 34H67M39 31H64M39 28H61M39 25H58M39 22H55M39 19H52M39 16H49M39 13H46M36 3 13 37M36 3 25 37"
    )
    group: ClassVar[Group] = "shapes"
    order: ClassVar[int] = 15

    kind: Literal["halved triangle"] = "halved triangle"
    spacing: Length = asked(
        "1/4 in", Form("length", tr("Spacing of the close lines"), tr("In the half that lies flat."))
    )
    wedges: int = asked(3, Form("count", tr("Wedges in the other half"), after="spacing"))
    half: Half = asked(
        "first",
        Form("choice", tr("Wedges"), choices=(Choice("first", tr("in the left or upper half")), Choice("second", tr("in the other")))),
    )  # fmt: skip

    @field_validator("wedges")
    @classmethod
    def _wedges(cls, wedges: int) -> int:
        return check_count(wedges, 1, 60, tr("Wedges")) or 1

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Piece by piece: the halving line, the wedges, the close lines from the long side inwards."""
        triangles = [piece for piece in site.region.pieces if len(piece.corners) == 3]
        if not triangles:
            raise BadValue(tr("This needs a zone of triangles."), "kind")
        for piece in triangles:
            far, left, right = _corners(piece)
            if self.half == "second":
                left, right = right, left
            middle = ((left[0] + right[0]) / 2, (left[1] + right[1]) / 2)
            yield Paths((straight_path(far, middle),))
            shares = [k / self.wedges for k in range(1, self.wedges)]
            yield Paths(tuple(straight_path(far, _between(left, middle, share)) for share in shares))
            height = _height(far, left, right)
            many = math.ceil(height / float(self.spacing.mm) - ROUNDING) - 1
            shares = [k * float(self.spacing.mm) / height for k in range(1, many + 1)]
            yield Paths(
                tuple(straight_path(_between(middle, far, s), _between(right, far, s)) for s in shares),
                self.spacing.mm,
            )

    def figures(self, site: Site) -> Sequence[Figure]:
        """The height of the first triangle and the number of its close lines."""
        piece = next((p for p in site.region.pieces if len(p.corners) == 3), None)
        if piece is None:
            return ()
        height = _height(*_corners(piece))
        return (
            Figure(tr("Height of the triangle"), height),
            Figure(tr("Close lines"), math.ceil(height / float(self.spacing.mm) - ROUNDING) - 1, "count"),
        )


def _corners(piece: Region) -> tuple[Point, Point, Point]:
    """The corner opposite the longest side, then that side's ends in reading order."""
    a, b, c = piece.corners
    sides = ((math.dist(a, b), c, a, b), (math.dist(a, c), b, a, c), (math.dist(b, c), a, b, c))
    _, far, one, other = max(sides, key=lambda side: round(side[0], 3))
    left, right = sorted((one, other), key=lambda p: (round(p[0], 3), -p[1]))
    return far, left, right


def _between(a: Point, b: Point, share: float) -> Point:
    return a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share


def _height(far: Point, left: Point, right: Point) -> float:
    (ax, ay), (bx, by), (cx, cy) = far, left, right
    return float(abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / np.hypot(cx - bx, cy - by))
