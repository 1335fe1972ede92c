"""Fills that could go into a zone: those that suit it, with spacings that come out even, for the quilter's tools and
skills.

Glossary: a *skill* is a technique: straight lines, curves along a ruler, freehand. A candidate is *even* if its
spacing comes out even or meets the piecing, *ruled* if one of the rulers has it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from pydantic import ValidationError

from kenzet.core.advice.suited_fills import needle_minutes, scaled, shows, try_fill
from kenzet.core.balance.density import WANTS_SOFT, hand
from kenzet.core.balance.effort import scale_trouble
from kenzet.core.fills import FILLS, Fill
from kenzet.core.fills.base import Paths
from kenzet.core.memo import Table
from kenzet.core.numbers.measure import MM_PER, Length
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.quilt_layout import Ground, QuiltLayout
from kenzet.core.top.zone import Zone

Skill = Literal["straight", "curves", "freehand"]
SKILLS: tuple[Skill, ...] = ("straight", "curves", "freehand")
_SIZES = (Fraction(1), Fraction(2), Fraction(1, 2))
_FILLS_OUT = 0.6  # density times spacing: evenly spaced lines have 1
_WIDER = 1.3  # than their spacing: the gap of curved lines, before it is measured
_NEARLY = Fraction(1, 50)  # of a spacing: what remains at the edges is not seen
_KEPT = 10_000


@dataclass(frozen=True, slots=True)
class Candidate:
    """A fill for a zone: minutes at the needle over all its places, mm of stitching for each mm², the widest gap
    (mm; approximate for curved lines)."""

    zone: str
    fill: Fill
    minutes: float
    density: float
    gap: float
    skill: Skill
    even: bool
    ruled: bool

    @property
    def kind(self) -> type[Fill]:
        """The type of its fill; two candidates of one type count as one kind of fill."""
        return type(self.fill)


CANDIDATES: Table[tuple[Ground, str, Zone, str], tuple[Candidate, ...]] = Table("candidates by zone", _KEPT)


def candidates_for(laid: QuiltLayout, key: str, skills: frozenset[Skill]) -> list[Candidate]:
    """All candidates that suit zone ``key``; if some are ruled, only those. None is stiff on a quilt that should
    be soft, or has wider gaps than the batting allows."""
    zone = laid.zone(key)
    at = (
        laid.ground,
        key,
        _bare(zone),
        laid.quilt.kit.model_dump_json() + laid.quilt.stitching.model_dump_json() + laid.quilt.use,
    )
    found = laid.memo.get(CANDIDATES, at) or laid.memo.put(CANDIDATES, at, tuple(_all(laid, key)))
    can = [one for one in found if one.skill in skills]
    return [one for one in can if one.ruled] or can


def _bare(zone: Zone) -> Zone:
    """The zone without its quilting, which has no influence here."""
    return zone.model_copy(update={"fill": None, "over": None, "pins": (), "drawn_too": (), "by_hand": ()})


def _all(laid: QuiltLayout, key: str) -> Iterable[Candidate]:
    for model in FILLS.values():
        if not (model.is_spaced and model.lends_spacing) and "texture" not in model.group:
            continue
        seen, dense = set(), 0.0
        for size in _SIZES:
            if size < 1 and _too_stiff(laid, dense / float(size)):
                continue
            try:
                fill = scaled(model.model_validate({}), size)
            except ValidationError:
                break
            found = _candidate(laid, key, fill)
            if found is None:
                if size == 1:
                    break
                continue
            dense = max(dense, found.density)
            if found.fill.spacing.text not in seen:
                seen.add(found.fill.spacing.text)
                yield found


def _candidate(laid: QuiltLayout, key: str, fill: Fill) -> Candidate | None:
    shape = laid.shapes(laid.zone(key))[0]
    place = shape.places[0]
    tried = try_fill(laid, key, fill, shape, place)
    if tried is None or not shows(tried.drawing) or tried.fill.in_the_ditch:
        return None
    even, better = _even(tried.plan, place)
    if better is not None:
        again = try_fill(laid, key, better, shape, place)
        tried = again if again is not None and shows(again.drawing) else tried
    drawing, plan = tried.drawing, tried.plan
    spacing = float(tried.fill.spacing.mm)
    if drawing.fill.claimed_density is None and drawing.density * spacing < _FILLS_OUT:
        return None
    curved = any(isinstance(family, Paths) for family in drawing.families)
    quick = None if curved else plan.quick_gap(drawing)
    gap = quick.width if quick else spacing * _WIDER
    stiff = _too_stiff(laid, drawing.density)
    if gap > float(laid.quilt.kit.batting.limit.mm) + VISIBLE or stiff:
        return None
    if scale_trouble(drawing):
        return None
    minutes, _ = needle_minutes(plan, drawing, laid.quilt.stitching)
    places = sum(len(shape.places) for shape in laid.shapes(laid.zone(key)))
    ruled = (
        tried.fill.claimed_density is not None or best_offset_sum(plan.kit, tried.fill.spacing.mm).can_be_laid
    )
    return Candidate(key, tried.fill, minutes * places, drawing.density, gap, _skill(drawing), even, ruled)


def _too_stiff(laid: QuiltLayout, density: float) -> bool:
    return laid.quilt.use in WANTS_SOFT and hand(density, laid.quilt.use, laid.quilt.kit.batting) == "stiff"


def _skill(drawing: Drawing) -> Skill:
    if drawing.hints:
        return "freehand"
    return "straight" if all(trace.path.straight for trace in drawing.traces) else "curves"


def _even(plan: ZonePlan, place: str) -> tuple[bool, Fill | None]:
    """Whether the spacing comes out even or meets the piecing, as far as anyone can see; and the fill with the
    nearest spacing that does and is on a ruler, if that is another."""
    drawing = plan.drawings[0]
    spacing = drawing.fill.spacing.mm
    wishes = [wish.length for wish in plan.suggest_spacings(drawing, place) if not wish.values]
    plain = [wish for wish in wishes if _is_plain(wish) and best_offset_sum(plan.kit, wish.mm).can_be_laid]
    nearest = min(plain, key=lambda wish: abs(wish.mm - spacing), default=None)
    if nearest is not None and nearest.mm != spacing:
        try:
            values = {**drawing.fill.model_dump(mode="json"), "spacing": nearest.text}
            return True, type(drawing.fill).model_validate(values)
        except ValidationError:
            pass
    return any(abs(wish.mm - spacing) < _NEARLY * spacing for wish in wishes), None


def _is_plain(length: Length) -> bool:
    """Whether it is a whole number of sixteenths of an inch, or of millimetres."""
    return (length.mm / (MM_PER["in"] / 16)).denominator == 1 or length.mm.denominator == 1
