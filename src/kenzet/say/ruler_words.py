"""Where a ruler is placed for a line, which ruler, and what to check."""

from __future__ import annotations

import math
from fractions import Fraction
from typing import Literal

from kenzet.core.bench.place_ruler import set_by_angle
from kenzet.core.geom.edge_ticks import edge_names
from kenzet.core.geom.region import Region
from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.curves import CurveFit, TemplateFit
from kenzet.core.kit.edges import ArcEdge, Edge, StraightEdge, WaveEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import COARSE, Unit
from kenzet.core.placing.placement import Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.offset_sums import (
    best_offset_sum,
    hand_stops,
    placements,
    whole_stitches,
)
from kenzet.core.ruler.pose import Pose
from kenzet.core.tolerances import VISIBLE
from kenzet.say import words as w
from kenzet.say.placing_words import lay_words
from kenzet.texts import tr


class CurveView(w.Said):
    """A curved edge for a curve: which side of which ruler, how far it strays, and whether it fits."""

    name: str
    side: str
    words: w.Words
    verdict: Literal["fits", "can be nudged", "will not do"]


class RulerChoice(w.Said):
    """A straight ruler for a line: what lies on the reference and how many times it is placed; ``fault`` if it
    is not safe with this foot."""

    key: str
    name: str
    words: w.Words
    fits: bool
    fault: str


CAUTION = tr(
    "Use only a ruler foot and a thick ruler, as your machine’s manual says. Stop with the needle down before you move the ruler. Keep your fingers behind its edge."
)
WALKING_CAUTION = tr(
    "Stop with the needle down before you turn the quilt. Stop the machine before a hand comes near the foot. Follow your machine’s manual."
)


def caution_of(kit: Kit) -> str:
    """The caution for the foot in use."""
    return WALKING_CAUTION if kit.sew_with == "walking foot" else CAUTION


def ruler_choices(kit: Kit, distance: Fraction, length: float, unit: Unit) -> list[RulerChoice]:
    """The straight rulers for a line, the best first; rulers that are unsafe with the foot are last, with the
    reason."""
    found = []
    for key, ruler in kit.rulers.items():
        edges = [edge for edge in ruler.edges if isinstance(edge, StraightEdge)]
        if not edges:
            continue
        fault = ruler_fault(kit.foot, ruler) or foot_fault(kit.machine, kit.foot)
        total = best_offset_sum(kit, distance, length, key)
        many = placements(length, max(float(edge.length) for edge in edges))
        words: w.Words = [tr("no mark for it")]
        if total.etched is not None:
            words = (
                [tr("its edge")]
                if total.etched == 0
                else w.told("{etched} mark", etched=w.shown(total.etched, unit, bare=True))
            )
        elif total.behind:
            words = [tr("edge behind")]
        words.append(tr(", placed once") if many == 1 else tr(", placed {many} ×", many=many))
        order = (bool(fault), not total.can_be_laid, many, max(edge.length for edge in edges))
        view = RulerChoice(
            key=key,
            name=ruler.name,
            words=[] if fault else words,
            fits=not fault and total.can_be_laid,
            fault=fault,
        )
        found.append((order, view))
    return [view for _, view in sorted(found, key=lambda pair: pair[0])]


def check_rows(on: Placement, unit: Unit) -> list[w.Row]:
    """What should lie under another etched line if everything is right: an earlier line."""
    if on.check is None:
        return []
    words: w.Words = w.told("the {mark} mark", mark=w.shown(on.check.etched, unit, bare=True))
    return [w.Row(label=[tr("Check: {back} lines back lies under", back=on.check.back)], words=words)]


def stitch_rows(kit: Kit, side: float) -> list[w.Row]:
    """F40: a stitch length with which a stitch ends at the turn."""
    many, long = whole_stitches(side, float(kit.stitch.mm))
    return [
        w.Row(
            label=[tr("Stitches to end on a whole one")],
            words=[tr("{many} of {long} mm", many=many, long=f"{long:.2f}")],
        )
    ]


def hand_rows(found: ZonePlan, drawing: Drawing, line: int, unit: Unit) -> list[w.Row]:
    """Where the hand on the ruler moves: at a crossing if one is within reach."""
    start, end = found.line_ends(drawing, line)
    stops = hand_stops(math.dist(start, end), float(found.kit.hand.mm), found.crossings(drawing, line))
    if not stops or found.kit.sew_with == "walking foot":
        return []
    words: w.Words = []
    for stop in stops[:4]:
        words += [" · "] if words else []
        words.append(w.shown(stop, unit, COARSE[unit], about=True))
    return [
        w.Row(
            label=[tr("Stop needle-down and move your hand at")],
            words=[*words, *([" …"] if len(stops) > 4 else [])],
        )
    ]


def fit_words(kit: Kit, fit: CurveFit | TemplateFit, unit: Unit) -> CurveView:
    """A ruler's edge for a curve: which one, how far it strays, how many times it is moved."""
    side, words = (
        (tr(fit.edge.side), _stray(fit, unit)) if isinstance(fit, CurveFit) else ("", _unlike(fit, unit))
    )
    moves = "" if fit.placements == 1 else tr(", moved {placements} ×", placements=fit.placements - 1)
    begins = [tr("its {side}{moves}: ", side=side, moves=moves)] if side else []
    return CurveView(
        name=kit.rulers[fit.ruler].name,
        side=side,
        words=[*begins, *words, *([] if side else [moves])],
        verdict=fit.verdict,
    )


def _stray(fit: CurveFit, unit: Unit) -> w.Words:
    """The stray in sixty-fourths of an inch."""
    if abs(fit.stray) < VISIBLE:
        return [tr("right")]
    way = tr("further out") if fit.stray > 0 else tr("flatter")
    return w.told(
        "{stray} {way} in the middle",
        stray=w.shown(abs(fit.stray), unit, COARSE[unit] / 4, about=True),
        way=way,
    )


def _unlike(fit: TemplateFit, unit: Unit) -> w.Words:
    def off(mm: float, more: str, less: str) -> w.Words:
        if abs(mm) < VISIBLE:
            return []
        return [w.shown(abs(mm), unit, COARSE[unit] / 2, about=True), f" {more if mm > 0 else less}"]

    longer, higher = off(fit.longer, tr("longer"), tr("shorter")), off(fit.higher, tr("higher"), tr("lower"))
    return [*longer, *([", "] if longer and higher else []), *higher] or [tr("right")]


def laid_words(kit: Kit, region: Region, pose: Pose, on: Placement, unit: Unit) -> w.Words:
    """What a line is placed from and how far away."""
    said = lay_words(kit, on, unit)
    if on.on == "mark" and kit.sew_with == "ruler foot":
        return [*said, *_by_angle(kit, region, pose, unit)]
    if on.on in ("seam", "line", "last", "drawn", "beyond") and on.total is not None:
        return w.told("{said} It then lies {distance} away.", said=said, distance=w.shown(on.distance, unit))
    return said


def _by_angle(kit: Kit, region: Region, pose: Pose, unit: Unit) -> w.Words:
    """The other way to place a first line (F7)."""
    way = set_by_angle(region, pose, kit)
    if way is None:
        return []
    edge = region.edges[way.edge]
    line = (
        tr("a line across it") if way.degrees == 90 else tr("its {degrees}° line", degrees=f"{way.degrees:g}")
    )
    name = edge_names(region)[way.edge]
    return w.told(
        " Or place it without marking: put the ruler’s {line} on the {name}, its working edge {along} from that edge's {datum} corner.",
        line=line,
        name=name,
        along=w.shown(way.along, unit, COARSE[unit] / 2, about=True),
        datum=tr(edge.datum),
    )


def _stop_words(along: float | None, does: str, unit: Unit) -> w.Words:
    if along is None:
        return [tr("The needle {does} at the line's end.", does=does)]
    crosses = w.shown(along, unit, COARSE[unit] / 2, about=True)
    return w.told(
        "The needle {does} on the seam; the ruler's edge crosses that seam {crosses} away.",
        does=does,
        crosses=crosses,
    )


def edge_words(edges: tuple[Edge, ...], number: int, unit: Unit) -> w.Words:
    """Which edge of a ruler it is."""
    edge = edges[number]
    if isinstance(edge, StraightEdge):
        return [tr("straight edge") if number == 0 else tr("its other scale")]
    if isinstance(edge, ArcEdge):
        return w.told(
            "{side}, radius {radius}",
            side=tr(edge.side),
            radius=w.shown(edge.radius, unit, COARSE[unit] / 4, about=True),
        )
    return [tr("wave") if isinstance(edge, WaveEdge) else tr("zigzag")]
