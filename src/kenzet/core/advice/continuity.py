"""Whether a family of lines continues from block to block, across seams and sashing.

Glossary: in the quilt's coordinates a family is a direction, a pitch and a *phase*: where its lines fall within
one pitch. Neighboring places *meet* if direction and phase agree.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from kenzet.core.geom.affine import Placing
from kenzet.core.geom.clip import Straight
from kenzet.core.params import forms
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.tolerances import EQUAL, ROUNDING, SAME_DEGREES

NEAR = 0.4  # mm, 1/64 in
_QUILT_CENTRE = "quilt centre"


@dataclass(frozen=True, slots=True)
class Flow:
    """How the lines of neighboring places meet: ``turned`` if their directions differ, else ``miss`` is the
    distance between line ends in mm."""

    miss: float
    turned: bool

    @property
    def meets(self) -> bool:
        """Whether each line continues where the one before it ends."""
        return not self.turned and self.miss <= NEAR


def _even(plan: ZonePlan, drawing: Drawing) -> Sequence[Straight]:
    """The evenly spaced lines of a drawing, or the lines on which its rows and repeats stand; empty if some are
    not even."""
    if all(isinstance(family, Straight) for family in drawing.families):
        return [f for f in drawing.families if isinstance(f, Straight)] if _all_even(drawing) else []
    return plan.lattice(drawing)


def _all_even(drawing: Drawing) -> bool:
    return all(isinstance(family, Straight) and len(family.offsets) == 1 for family in drawing.families)


def _in_quilt(family: Straight, placing: Placing) -> tuple[float, float, float]:
    """Angle of the normal in [0, 180), pitch and phase."""
    a, b, c, d, e, f = placing
    nx, ny = family.normal
    x, y = a * nx + c * ny, b * nx + d * ny
    datum = family.datum + x * e + y * f
    if y < -ROUNDING or (abs(y) <= ROUNDING and x < 0):
        x, y, datum = -x, -y, -datum
    pitch = float(family.pitch)
    return math.degrees(math.atan2(y, x)) % 180.0, pitch, datum % pitch


def _between(one: list[tuple[float, float, float]], other: list[tuple[float, float, float]]) -> Flow:
    """How the families of one place meet those of the other with the same direction."""
    miss, turned = 0.0, False
    for angle, pitch, phase in one:
        same = [
            p
            for a, q, p in other
            if abs((a - angle + 90) % 180 - 90) < SAME_DEGREES and abs(q - pitch) < EQUAL
        ]
        if not same:
            turned = True
            continue
        off = min(abs(p - phase) for p in same)
        miss = max(miss, min(off, pitch - off))
    return Flow(miss, turned)


def _neighbours(places: Iterable[str]) -> Iterable[tuple[str, str]]:
    """Pairs of places of blocks beside or below one another; a place is named "row-column"."""
    known = set(places)
    for place in known:
        row, _, column = place.partition("-")
        if row.isdigit() and column.isdigit():
            for other in (f"{row}-{int(column) + 1}", f"{int(row) + 1}-{column}"):
                if other in known:
                    yield place, other


def continuity(plan: ZonePlan) -> Flow | None:
    """The worst match over all neighboring places; None if the zone has no neighbors or its lines do not repeat
    evenly."""
    laid: dict[str, list[tuple[float, float, float]]] = {}
    for drawing in plan.drawings:
        families = _even(plan, drawing)
        for place in drawing.places:
            if families:
                laid[place] = [_in_quilt(family, drawing.shape.part.places[place]) for family in families]
    found = [_between(laid[a], laid[b]) for a, b in _neighbours(laid)]
    if not found:
        return None
    return Flow(max(f.miss for f in found), any(f.turned for f in found))


def continuity_fix(plan: ZonePlan) -> dict[str, str]:
    """The settings that make the zone's lines continue across blocks; empty if they already do, or cannot."""
    flows = continuity(plan)
    if flows is None or flows.meets or flows.turned:
        return {}
    fill = plan.drawings[0].fill
    for name, form in forms(type(fill)).items():
        if any(choice.key == _QUILT_CENTRE for choice in form.choices):
            return {} if getattr(fill, name) == _QUILT_CENTRE else {name: _QUILT_CENTRE}
    return {}
