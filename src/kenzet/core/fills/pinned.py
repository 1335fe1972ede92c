"""Echoes pinned at two points: the tips do not move, the sides move in (L17)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import ClassVar, Literal

import numpy as np
import shapely
from pydantic import field_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site
from kenzet.core.fills.turned import Frame, check_count, frame_of
from kenzet.core.geom.arcs import bulge_for
from kenzet.core.geom.paths import Path
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Form, asked
from kenzet.core.tolerances import VISIBLE
from kenzet.texts import tr


class Pinned(Fill):
    """In each piece, ever slimmer shapes through the same two tips: diamonds and kites by F23, petals by flatter
    arcs."""

    label: ClassVar[str] = tr("Pinned echo")
    help: ClassVar[str] = tr(
        "Each echo returns to the same two points, so a whole star is sewn without a thread cut."
    )
    tile: ClassVar[str] = (
        "M3 19.500 36 3 69 19.500 36 36ZM3 19.500 36 8.500 69 19.500 36 30.500ZM3 19.500 36 13.500 69 19.500 36 25.500Z"
    )
    group: ClassVar[Group] = "echoes"
    order: ClassVar[int] = 22
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Rounds")

    kind: Literal["pinned"] = "pinned"
    spacing: Length = asked(
        "5/8 in",
        Form("length", tr("In from the side corner"), tr("From the corner, square to the new line.")),
    )
    rounds: int | None = asked(
        1, Form("count", tr("Rounds"), tr("How many."), empty=tr("until full"), after="spacing")
    )

    @field_validator("rounds")
    @classmethod
    def _rounds(cls, rounds: int | None) -> int | None:
        return check_count(rounds, 1, 60, tr("Rounds"))

    def lay_out(self, site: Site) -> Iterable[Family]:
        """Piece by piece, from the outside in; every round begins and ends at the same tip."""
        suited = [found for found in map(_tips, site.region.pieces) if found]
        if not suited:
            raise BadValue(
                tr("This needs diamonds, kites or petals: two points and a bend on either side."), "kind"
            )
        for found in suited:
            frame, length, sides = found
            paths = []
            for k in range(1, (self.rounds or 60) + 1):
                there, back = (_moved(side, length, k * float(self.spacing.mm)) for side in sides)
                if there is None or back is None:
                    break
                paths.append(_closed(frame, length, there, back))
            yield Paths(tuple(paths))

    def figures(self, site: Site) -> Sequence[Figure]:
        """Half widths before and after the first round, and how far an even echo would move the tips."""
        found = next((f for f in map(_tips, site.region.pieces) if f), None)
        if found is None:
            return ()
        _, length, (side, _) = found
        moved = _moved(side, length, float(self.spacing.mm))
        what = tr("Rise of the side") if side.arched else tr("Half width")
        half = [Figure(what, abs(side.v))]
        if moved:
            half.append(Figure(tr("The same of the first round"), abs(moved.v)))
        if side.arched:
            return half
        lean = math.atan2(abs(side.v), side.u)
        return (
            *half,
            Figure(tr("An even echo would move the tip by"), float(self.spacing.mm) / math.sin(lean)),
        )

    def notes(self) -> Sequence[str]:
        """A warning that thread crowds at the tips."""
        return (
            tr("Thread crowds at the tips: few rounds, and start from the point where several pieces meet."),
        )

    def count_at_most(self, site: Site) -> int:
        """One line for each round of a piece, up to four where the outline cuts it."""
        return len(site.region.pieces) * (self.rounds or 60) * 4


@dataclass(frozen=True, slots=True)
class Side:
    """One side of a piece in a frame whose u runs from tip to tip, mm: its corner, or the crown of its arc."""

    u: float
    v: float
    arched: bool


def _tips(piece: Region) -> tuple[Frame, float, tuple[Side, Side]] | None:
    """The frame from tip to tip, their distance, and both sides; None for pieces of another shape."""
    corners = piece.corners
    if len(corners) not in (2, 4) or len(piece.area.geoms[0].interiors):
        return None
    a, b = max(combinations(corners, 2), key=lambda ends: round(math.dist(*ends), 3))
    frame = frame_of(piece, math.degrees(math.atan2(b[1] - a[1], b[0] - a[0])), a)
    length = math.dist(a, b)
    if len(corners) == 2:
        vs = [frame.into((x, y))[1] for x, y in shapely.get_coordinates(piece.area).tolist()]
        there, back = Side(length / 2, max(vs), True), Side(length / 2, min(vs), True)
        return (frame, length, (there, back)) if there.v > VISIBLE and back.v < -VISIBLE else None
    sides = [Side(*frame.into(c), False) for c in corners if c not in (a, b)]
    if sides[0].v * sides[1].v >= 0 or len(piece.edges) != 4:
        return None
    one, other = sorted(sides, key=lambda side: -side.v)
    return frame, length, (one, other)


def _moved(side: Side, length: float, away: float) -> Side | None:
    """The corner for which both new lines are ``away`` from the old ones (F23); of an arc, its smaller rise."""
    if side.arched:
        left = abs(side.v) - away
        return Side(side.u, math.copysign(left, side.v), True) if left > 0.5 else None
    leans = []
    for run in (side.u, length - side.u):
        reach, lean = math.hypot(run, side.v), math.atan2(abs(side.v), run)
        if away >= reach * math.sin(lean):
            return None
        leans.append(lean - math.asin(away / reach))
    near, far = (math.tan(lean) for lean in leans)
    u = length * far / (near + far)
    return Side(u, math.copysign(u * near, side.v), False)


def _closed(frame: Frame, length: float, there: Side, back: Side) -> Path:
    """From the first tip along one side to the other tip, and back along the other side."""
    rows: list[tuple[float, float, float]] = []
    for tip, side, sign in ((0.0, there, -1.0), (length, back, 1.0)):
        rows.append((tip, 0.0, sign * bulge_for(length, side.v) if side.arched else 0.0))
        if not side.arched:
            rows.append((side.u, side.v, 0.0))
    return frame.path(np.array(rows), closed=True)
