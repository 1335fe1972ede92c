"""The entry point: from a quilt to its plan.

Cost: one scan for all straight families of a zone; one offset a ring. Each distinct drawing is planned once,
however many places share it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from fractions import Fraction

import numpy as np
import shapely

from kenzet.core.errors import BadValue, TooMany
from kenzet.core.fills.base import Family, Fill, Paths, Site
from kenzet.core.fills.manual_lines import BY_HAND, ManualLines
from kenzet.core.geom.arcs import soft_of
from kenzet.core.geom.cells import alternate
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Point, Region
from kenzet.core.kit.kit import Kit
from kenzet.core.memo import Table
from kenzet.core.numbers.measure import in_words
from kenzet.core.plan.drawing import Drawing, carried, cut_off, draw
from kenzet.core.plan.lay_beyond import ZoneBefore
from kenzet.core.plan.zone_plan import ZonePlan, site_at
from kenzet.core.tolerances import SAME_PHASE, SAME_PLACE, STOP_ERROR, VISIBLE
from kenzet.core.top.quilt_layout import Ground, QuiltLayout, ZoneShape
from kenzet.core.top.zone import Over, Zone
from kenzet.texts import tr

MOST_LINES = 200_000
_TRIES_KEPT = 3  # of each zone: the kept fill, and what is tried on it
JOINED = Table[tuple[Ground, str], tuple[tuple[ZonePlan, ZonePlan], ...]](
    "plans with the zones that are sewn before them", 10_000
)
PLANS = Table[tuple[Ground, str], tuple[ZonePlan, ...]]("plans by zone", 10_000)
COUNTS = Table[tuple[Ground, str], tuple[Zone, int]]("lines at most by zone", 10_000)
RINGS = Table[ZoneShape, Drawing]("the last rings of an outline that zones share", 2_000)


def plan_zone(laid: QuiltLayout, key: str) -> ZonePlan | None:
    """The plan of zone ``key``, or None if it has no fill or no place. Plans are cached by zone, top and kit.

    Raises Unknown; BadValue at ``fill.…`` or ``kit.foot.offset``; TooMany at ``fill.spacing``.
    """
    plan = _planned_alone(laid, key)
    before = () if plan is None else _sewn_before(laid, plan)
    if plan is None or not before:
        return plan
    at = (laid.ground, key)
    with laid.memo.lock:
        kept = laid.memo.get(JOINED, at) or ()
        for alone, joined in kept:
            if alone is plan and joined.before == before:
                return joined
        found = replace(plan, before=before)
        laid.memo.put(JOINED, at, ((plan, found), *kept)[:_TRIES_KEPT])
        return found


def _sewn_before(laid: QuiltLayout, plan: ZonePlan) -> tuple[ZoneBefore, ...]:
    """The drawings of zones of the same part that come before it in the quilt, are sewn in the same pass, and have
    parallel lines."""
    quilt, zone = laid.quilt, plan.zone
    stitching, found = quilt.stitching, []
    if (
        stitching.families == "one by one"
        or (zone.on_top and zone.by_hand)
        or plan.kit.sew_with == "walking foot"
    ):
        return ()
    mine = [
        drawing
        for drawing in plan.drawings
        if drawing.straight and drawing.fill.sewn and drawing.layer != BY_HAND
    ]
    for key, other in quilt.zones.items():
        if key == plan.key:
            break
        if not mine or other.part != zone.part or kit_of(laid, other).sew_with != plan.kit.sew_with:
            continue
        if stitching.turns.get(key) != stitching.turns.get(plan.key):
            continue
        if not _touch(laid, zone, other):
            continue
        alone = _planned_alone(laid, key)
        for drawing in alone.drawings if alone is not None else ():
            one = ZoneBefore(key, other.name, drawing)
            if drawing.fill.sewn and not drawing.fill.in_the_ditch and any(one.is_at(own) for own in mine):
                found.append(one)
    return tuple(found)


def _touch(laid: QuiltLayout, zone: Zone, other: Zone) -> bool:
    """Whether two zones of one part are neighbors at any place."""
    if not laid.is_laid(other):
        return False
    one, two = (laid.shapes(some)[0].uncut.area for some in (zone, other))
    (left, low, right, top), (x0, y0, x1, y1) = one.bounds, two.bounds
    apart = max(left - x1, x0 - right, low - y1, y0 - top)
    return apart < VISIBLE and bool(shapely.dwithin(one, two, VISIBLE))


def _planned_alone(laid: QuiltLayout, key: str) -> ZonePlan | None:
    """The plan of the zone without regard to zones sewn before it."""
    zone = laid.zone(key)
    if not _has_fill(zone) or not laid.is_laid(zone):
        return None
    at, kit = (laid.ground, key), kit_of(laid, zone)
    beside = _outlines_before(laid, key, zone)
    with laid.memo.lock:  # what is planned at two requests at once is planned once
        kept = laid.memo.get(PLANS, at) or ()
        for plan in kept:
            if (
                plan.zone == zone
                and plan.kit == kit
                and plan.least == least_line(laid)
                and plan.beside == beside
            ):
                return plan
        _refuse_a_flood(laid, key)
        found = _planned(laid, key, zone, beside)
        laid.memo.put(PLANS, at, (found, *kept)[:_TRIES_KEPT])
        return found


def kit_of(laid: QuiltLayout, zone: Zone) -> Kit:
    """The kit as used in the zone."""
    return laid.quilt.kit.for_zone(zone.ruler, zone.sew_with, zone.begin_other)


def least_line(laid: QuiltLayout) -> float:
    """The length below which lines are not sewn on their own, mm."""
    return float(laid.quilt.stitching.least_line.mm)


def _planned(laid: QuiltLayout, key: str, zone: Zone, beside: tuple[Zone, ...]) -> ZonePlan:
    drawings: list[Drawing] = []
    kit = kit_of(laid, zone)
    for number, shape in enumerate(laid.shapes(zone)):
        if number == 0:  # what the quilt's edge leaves of it elsewhere may be narrower
            check_foot(zone, shape.region, kit)
        for fill, places in _by_fill(zone, shape):
            check_hollow(fill, site_at(shape, places[0], laid.middle), kit)
            drawings += _drawn(fill, shape, places, laid)
    if beside:
        drawings = [_left_to_others(laid, drawing, beside) for drawing in drawings]
    if zone.over is not None:
        drawings += [above for base in list(drawings) for above in _over(zone.over, base, laid, kit)]
    if zone.by_hand:
        drawings += [_by_hand(zone, shape, laid.middle) for shape in laid.shapes(zone)]
    return ZonePlan(key, zone, kit, tuple(drawings), laid.middle, laid.memo, least_line(laid), beside)


def _outlines_before(laid: QuiltLayout, key: str, zone: Zone) -> tuple[Zone, ...]:
    """The zones of its part that come before it and sew their outline, if its own fill does too."""
    if zone.fill is None or not zone.fill.sews_outline:
        return ()
    found = []
    for other, one in laid.quilt.zones.items():
        if other == key:
            break
        if one.part == zone.part and one.fill is not None and one.fill.sews_outline and laid.is_laid(one):
            found.append(one)
    return tuple(found)


def _left_to_others(laid: QuiltLayout, drawing: Drawing, beside: Iterable[Zone]) -> Drawing:
    """The drawing without the parts of its outline that another zone at the same places already sews."""
    sewn = [
        shape.uncut.area.boundary
        for zone in beside
        for shape in laid.shapes(zone)
        if shape.part is drawing.shape.part and set(drawing.places) <= set(shape.places)
    ]
    if not sewn:
        return drawing
    there = shapely.buffer(shapely.union_all(sewn), STOP_ERROR)
    outline = {
        k for k, family in enumerate(drawing.families) if isinstance(family, Paths) and family.on_outline
    }
    traces = [
        part
        for trace in drawing.traces
        for part in (cut_off(trace, there) if trace.family in outline else (trace,))
        if part.length >= drawing.least
    ]
    return replace(drawing, traces=tuple(traces))


def _drawn(fill: Fill, shape: ZoneShape, places: list[str], laid: QuiltLayout) -> Iterable[Drawing]:
    """The distinct drawings over ``places``; rings of equal outlines are computed once for all zones."""
    least = least_line(laid)
    if not fill.follows_outline:
        for families, some in _distinct(fill, shape, places, laid.middle):
            yield draw(shape, fill, families, some, least=least)
        return
    model = shape.twin[0] if shape.twin else shape
    kept = laid.memo.get(RINGS, model)
    if kept is None or kept.fill != fill or kept.least != least:
        families = tuple(fill.lay_out(site_at(model, model.places[0], laid.middle)))
        uncut = replace(model, region=model.uncut, whole=None)
        kept = laid.memo.put(RINGS, model, draw(uncut, fill, families, model.places, least=least))
    yield carried(kept, shape, tuple(places))


def _by_hand(zone: Zone, shape: ZoneShape, middle: Point) -> Drawing:
    fill = ManualLines(lines=zone.by_hand)
    families = tuple(fill.lay_out(site_at(shape, shape.places[0], middle)))
    return draw(shape, fill, families, shape.places, layer=BY_HAND)


def _over(over: Over, base: Drawing, laid: QuiltLayout, kit: Kit) -> Iterable[Drawing]:
    """The second fill on top of ``base``, in the chosen cells; empty if there are none."""
    shape = base.shape
    if over.cells != "all":
        area = alternate(base.region, base.polylines, 0 if over.cells == "every other" else 1)
        if area.is_empty:
            return
        shape = replace(shape, region=Region(area, base.region.soft | soft_of(area)), twin=None, whole=None)
    shape = replace(shape, places=base.places)
    check_hollow(over.fill, site_at(shape, base.places[0], laid.middle), kit)
    for families, some in _distinct(over.fill, shape, list(base.places), laid.middle):
        yield draw(shape, over.fill, families, some, layer=1, least=least_line(laid))


def _has_fill(zone: Zone) -> bool:
    return bool(zone.fill is not None or zone.by_hand or any(apart.fill for apart in zone.apart))


def _by_fill(zone: Zone, shape: ZoneShape) -> list[tuple[Fill, list[str]]]:
    """The places of ``shape`` by their fill, the zone's common fill first."""
    if not zone.apart:
        return [(zone.fill, list(shape.places))] if zone.fill else []
    apart = {place for one in zone.apart for place in one.places}
    found = [(zone.fill, [place for place in shape.places if place not in apart])]
    found += [(one.fill, [place for place in shape.places if place in one.places]) for one in zone.apart]
    return [(fill, places) for fill, places in found if fill is not None and places]


def plan_quilt(laid: QuiltLayout) -> dict[str, ZonePlan]:
    """The plans of all zones with a fill, by key."""
    plans = ((key, plan_zone(laid, key)) for key in laid.quilt.zones)
    return {key: plan for key, plan in plans if plan is not None}


def check_quilt(laid: QuiltLayout, before: QuiltLayout | None = None) -> None:
    """Raises KenzetError if a zone cannot be planned. Zones that have not changed since ``before`` are not checked
    again."""
    same = before is not None and laid.top is before.top and laid.quilt.kit == before.quilt.kit
    for key, zone in laid.quilt.zones.items():
        if same and before is not None and before.quilt.zones.get(key) == zone:
            continue
        try:
            if laid.is_laid(zone):
                laid.shapes(zone)
            plan_zone(laid, key)
        except BadValue as error:
            known = before is not None and before.quilt.zones.get(key) == zone
            if not known or error.field == "kit.foot.offset":
                raise
            raise BadValue(
                tr("“{name}” would not fit any more: {message}", name=zone.name, message=error.message),
                error.field,
            ) from error


def check_foot(zone: Zone, region: Region, kit: Kit) -> None:
    """Raises BadValue if the foot's offset is larger than the zone allows (A105)."""
    foot = kit.foot.offset
    if kit.sew_with == "ruler foot" and float(kit.foot_offset) > region.inradius:
        widest = in_words(2 * region.inradius, foot.unit)
        raise BadValue(
            tr(
                "The foot's offset of {offset} is more than half of {name}, which is {widest} at its widest; no ruler could lie in it. Give the distance from the needle to the foot's rim.",
                offset=in_words(kit.foot_offset, foot.unit),
                name=zone.name,
                widest=widest,
            ),
            "kit.foot.offset",
        )


def check_hollow(fill: Fill, site: Site, kit: Kit) -> None:
    """Raises BadValue if the foot does not fit into the curve's hollow (A50)."""
    radius, unit = fill.tightest_inner_radius(site), kit.foot.offset.unit
    if kit.sew_with == "ruler foot" and radius is not None and radius < float(kit.foot_offset):
        raise BadValue(
            tr(
                "The hollow's radius would be {radius}; your foot of {offset} cannot go into it. Take a longer or a shallower curve.",
                radius=in_words(radius, unit),
                offset=in_words(kit.foot_offset, unit),
            ),
            "fill.depth",
        )


def _distinct(
    fill: Fill, shape: ZoneShape, places: list[str], middle: Point
) -> Iterable[tuple[tuple[Family, ...], tuple[str, ...]]]:
    """The different sets of families over ``places``, each with its places."""
    if not fill.follows_quilt:
        yield tuple(fill.lay_out(site_at(shape, places[0], middle))), tuple(places)
        return
    groups: list[tuple[tuple[Family, ...], list[str]]] = []
    for place in places:
        families = tuple(fill.lay_out(site_at(shape, place, middle)))
        for known, some in groups:
            if len(known) == len(families) and all(map(_same_lines, known, families)):
                some.append(place)
                break
        else:
            groups.append((families, [place]))
    for families, some in groups:
        yield families, tuple(some)


def _same_lines(one: Family, other: Family) -> bool:
    """Whether two families of one fill are the same lines: unbounded ones if their phases agree, others if all
    their points do."""
    if isinstance(one, Straight) and isinstance(other, Straight):
        pitch = float(one.pitch)
        off = (one.datum - other.datum) % pitch
        return min(off, pitch - off) < SAME_PHASE
    if isinstance(one, Paths) and isinstance(other, Paths):
        return len(one.paths) == len(other.paths) and all(
            len(a.vertices) == len(b.vertices) and np.abs(a.vertices - b.vertices).max() < SAME_PLACE
            for a, b in zip(one.paths, other.paths, strict=True)
        )
    return True


def _refuse_a_flood(laid: QuiltLayout, key: str) -> None:
    """Counts lines before anything is drawn. Raises TooMany if the whole quilt would have too many."""
    zones = laid.quilt.zones.items()
    counts = {k: _count(laid, k, zone) for k, zone in zones if _has_fill(zone) and laid.is_laid(zone)}
    total = sum(counts.values())
    zone = laid.quilt.zones[key]
    fill = zone.fill or next((apart.fill for apart in zone.apart if apart.fill), None)
    if total <= MOST_LINES or fill is None:
        return
    others = total - counts[key]
    unit = fill.spacing.unit
    hint = tr("Use a wider spacing in another zone first.")
    if others < MOST_LINES:
        wider = float(fill.spacing.mm) * counts[key] / (MOST_LINES - others)
        hint = tr(
            "Use a spacing of about {wider} or more.",
            wider=in_words(wider, unit, Fraction(1, 16 if unit == "in" else 1)),
        )
    raise TooMany(
        tr(
            "That would be {total} lines in the quilt; more than {most_lines} cannot be planned. {hint}",
            total=f"{total:,}",
            most_lines=f"{MOST_LINES:,}",
            hint=hint,
        ),
        "fill.spacing",
    )


def _count(laid: QuiltLayout, key: str, zone: Zone) -> int:
    at = (laid.ground, key)
    kept = laid.memo.get(COUNTS, at)
    if kept is None or (kept[0] is not zone and kept[0] != zone):
        kept = laid.memo.put(COUNTS, at, (zone, _counted(laid, zone)))
    return kept[1]


def _counted(laid: QuiltLayout, zone: Zone) -> int:
    return sum(
        fill.count_at_most(site_at(shape, places[0], laid.middle)) * len(places)
        for shape in laid.shapes(zone)
        for one, places in _by_fill(zone, shape)
        for fill in ([one, zone.over.fill] if zone.over else [one])
    )
