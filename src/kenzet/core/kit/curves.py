"""Which curved edge sews a curve, ranked by how far each deviates.

Glossary: the *stray* is the distance of the middle of the sewn line from the planned one when the needle passes
through both ends (positive: it bulges farther out). If the ruler is shifted a little, the deviation is at most
half of that anywhere; this half decides. Radii are not compared: a radius computed from chord and rise is very
sensitive to errors, the line is not.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from kenzet.core.kit.edges import ArcEdge, StraightEdge, WaveEdge, ZigzagEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import INCH
from kenzet.core.tolerances import ROUNDING

Verdict = Literal["fits", "can be nudged", "will not do"]
FITS = INCH / 64  # of the shifted stray
NUDGED = INCH / 16
SLID = INCH / 20
"""How much a repeat may differ from the template's: hands can move the template along by this much at every
repeat."""
ORDER: tuple[Verdict, ...] = ("fits", "can be nudged", "will not do")


def radius_of(chord: float, rise: float) -> float:
    """F24: the radius of an arc from its chord and rise.

    >>> round(radius_of(8, 1.25), 3)
    7.025
    """
    return chord**2 / (8 * rise) + rise / 2


def rise_of(radius: float, chord: float) -> float:
    """F24 solved for the rise, in a form that loses no digits; nan if the circle is narrower than the chord.

    >>> round(rise_of(7, 8), 3), round(rise_of(7, 8) - 1.25, 3)
    (1.255, 0.005)
    """
    under = radius**2 - chord**2 / 4
    return chord**2 / 4 / (radius + math.sqrt(under)) if under >= 0 else math.nan


@dataclass(frozen=True, slots=True)
class TemplateFit:
    """Ruler ``ruler`` (its key) for a wave or a zigzag: how much too long its repeat and too high its shape is
    (mm)."""

    ruler: str
    edge: WaveEdge | ZigzagEdge
    longer: float
    higher: float
    placements: int
    verdict: Verdict


def templates(kit: Kit, wanted: WaveEdge | ZigzagEdge) -> list[TemplateFit]:
    """The templates of the shape ``wanted``, the best first.

    Differences between repeats add up over the template's length, unless they are small enough to move the
    template at every repeat.
    """
    found = []
    for key, edge in kit.edges:
        if type(edge) is not type(wanted) or isinstance(edge, StraightEdge | ArcEdge):
            continue
        (period, depth), (its, high) = _shape(wanted), _shape(edge)
        longer, higher = its - period, high - depth
        out = max(abs(longer) * max(min(wanted.length, edge.length) / period, 1) / 2, abs(higher) / 2)
        slid = abs(longer) <= SLID + ROUNDING and abs(higher) / 2 <= NUDGED
        verdict = ORDER[0 if out <= FITS else 1 if out <= NUDGED or slid else 2]
        found.append(
            TemplateFit(key, edge, longer, higher, math.ceil(wanted.length / edge.length - ROUNDING), verdict)
        )
    return sorted(
        found, key=lambda fit: (ORDER.index(fit.verdict), abs(fit.longer) + abs(fit.higher), fit.placements)
    )


def _shape(edge: WaveEdge | ZigzagEdge) -> tuple[float, float]:
    return (edge.period, edge.depth) if isinstance(edge, WaveEdge) else (edge.pitch, edge.rise)


@dataclass(frozen=True, slots=True)
class CurveFit:
    """An edge of ruler ``ruler`` (its key) for a curve: the radius it sews, its stray (mm), and how many times it
    is placed."""

    ruler: str
    edge: ArcEdge
    sewn: float
    stray: float
    placements: int
    verdict: Verdict


def ranked(kit: Kit, radius: float, angle: float) -> list[CurveFit]:
    """Curved edges for an arc of ``radius`` mm over ``angle`` radians, the best first.

    Edges that the foot cannot follow are left out. Sorted by verdict, then by the number of placements, then by
    stray.
    """
    angle = abs(angle)
    chord = 2 * radius * math.sin(min(angle, math.pi) / 2)
    found = []
    for key, edge in kit.edges:
        if not isinstance(edge, ArcEdge) or edge.sewn(float(kit.foot_offset)) <= 0:
            continue
        sewn = edge.sewn(float(kit.foot_offset))
        stray = rise_of(sewn, chord) - rise_of(radius, chord) if angle < math.pi else 2 * (sewn - radius)
        if math.isnan(stray):
            stray = chord / 2 - rise_of(radius, chord)  # even a half circle of it ends short of the chord
        along = radius * angle * (edge.radius / sewn)
        verdict = ORDER[0 if abs(stray) / 2 <= FITS else 1 if abs(stray) / 2 <= NUDGED else 2]
        found.append(CurveFit(key, edge, sewn, stray, math.ceil(along / edge.usable - ROUNDING), verdict))
    return sorted(found, key=lambda fit: (ORDER.index(fit.verdict), fit.placements, abs(fit.stray)))
