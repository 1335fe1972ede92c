"""The way in: from a quilt to its plan.

Glossary: a *drawing* is one distinct set of lines with the placings that share it (blocks laid alike
share one; lines that flow from the quilt's centre may differ from block to block). A *line* is a
stretch of a straight family or one ring of an echo; lines of a drawing are numbered, stretches first.

Cost: one scan for all straight families of a zone; one offset a ring. Each distinct drawing is
planned once, however often it is placed.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np

from kenzet.core.drawing import Drawing, draw
from kenzet.core.errors import BadValue, TooMany, Unknown
from kenzet.core.fills.base import Family, Fill, Mend, Site, Wish
from kenzet.core.gaps import widest_gap
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Point, Region
from kenzet.core.kit.kit import Kit
from kenzet.core.laying import Pose, Reference, Stretch, Sum, pose, reckon, references
from kenzet.core.marks.ticks import TickedEdge, ticked_edges
from kenzet.core.measure import in_words
from kenzet.core.slivers import EdgeGap, edge_gaps
from kenzet.core.top.changes import zone_of
from kenzet.core.top.document import MarkMethod, Quilt, Zone
from kenzet.core.top.layout import Part, Top, invert, lay_out, zone_region

MOST_LINES = 200_000


class LaidQuilt:
    """A quilt with its top laid out and its zones' regions, each worked out once."""

    def __init__(self, quilt: Quilt) -> None:
        self.quilt = quilt
        self._regions: dict[tuple[str, tuple[str, ...]], Region] = {}

    @cached_property
    def top(self) -> Top:
        """The parts and their placings."""
        return lay_out(self.quilt)

    def zone(self, key: str) -> Zone:
        """Raises Unknown for a zone that is not in the quilt."""
        return zone_of(self.quilt, key)

    def region(self, zone: Zone) -> Region:
        """The zone's area in its part's coordinates."""
        key = (zone.part, zone.patches)
        if key not in self._regions:
            self._regions[key] = zone_region(self.top, zone)
        return self._regions[key]

    def with_quilt(self, quilt: Quilt) -> LaidQuilt:
        """The same top for a quilt that differs only in zones, fills or kit."""
        other = LaidQuilt(quilt)
        if quilt.blocks == self.quilt.blocks and quilt.layout == self.quilt.layout:
            other.__dict__["top"] = self.top
            other._regions = self._regions
        return other


@dataclass(frozen=True)
class ZonePlan:
    """Everything reckoned for one zone. ``drawings`` together hold every placing of the part once."""

    key: str
    zone: Zone
    fill: Fill
    kit: Kit
    part: Part
    region: Region
    drawings: tuple[Drawing, ...]
    sites: tuple[Site, ...]

    def drawing_at(self, placing: int) -> Drawing:
        """The drawing of placing number ``placing``. Raises Unknown."""
        for drawing in self.drawings:
            if placing in drawing.placings:
                return drawing
        raise Unknown(
            f"{self.part.name} is laid {len(self.part.placings)} times; there is no number {placing + 1}."
        )

    @property
    def lines_in_quilt(self) -> int:
        """All lines of the zone over the whole quilt."""
        return sum(drawing.lines * len(drawing.placings) for drawing in self.drawings)

    @property
    def stitched_in_quilt(self) -> float:
        """mm over the whole quilt."""
        return sum(drawing.stitched * len(drawing.placings) for drawing in self.drawings)

    @property
    def sum(self) -> Sum:
        """The sum that lays each line from the one before."""
        return reckon(self.fill.spacing.mm, self.kit.foot.offset.mm, self.kit.ruler)

    def widest_gap(self, drawing: Drawing) -> float:
        """F44 for one drawing, mm."""
        return widest_gap(self.region, drawing.families, drawing.stretches)

    def edge_gaps(self, drawing: Drawing) -> list[EdgeGap]:
        """What is left along the edges that run with the lines, the narrowest first."""
        return edge_gaps(self.region, drawing.families)

    def mend(self, placing: int) -> Mend | None:
        """What would leave no sliver along an edge."""
        return self.fill.mend(self.sites[placing])

    def wishes(self, placing: int) -> list[Wish]:
        """Spacings near hers that come out even or meet the corners."""
        return list(self.fill.wishes(self.sites[placing]))

    def references(self, drawing: Drawing) -> dict[int, Reference]:
        """What every line of ``drawing`` is laid from, by line number."""
        return _ring_references(self, drawing) if drawing.rings else _stretch_references(self, drawing)

    def telling_line(self, drawing: Drawing) -> int:
        """The line that shows best how the others are laid: the longest one laid from another."""
        laid = self.references(drawing)
        follows = [line for line, ref in laid.items() if ref.kind == "line"] or list(laid)
        if not follows:
            raise BadValue("No line lies in this zone.", "line")
        return max(follows, key=lambda line: (round(drawing.length_of(line), 3), -line))

    def marked(self, drawing: Drawing, method: MarkMethod) -> list[int]:
        """The lines to draw: all, or only those that nothing sewn or pieced gives a place to."""
        if method == "all lines":
            return list(range(drawing.lines))
        return sorted(line for line, ref in self.references(drawing).items() if ref.kind == "mark")

    def ticked(self, drawing: Drawing) -> list[TickedEdge]:
        """The zone's edges with a tick for every line that meets them."""
        return ticked_edges(self.region, drawing.stretches, self.kit.marking_step.mm)

    def line_ends(self, drawing: Drawing, line: int, side: int = -1) -> tuple[Point, Point]:
        """Start and end of a stretch, or of side ``side`` (the longest if -1) of a ring."""
        if not 0 <= line < drawing.lines:
            raise Unknown(f"There are {drawing.lines} lines here; there is no number {line + 1}.", "line")
        if line < len(drawing.stretches):
            x0, y0, x1, y1 = drawing.stretches.ends[line].tolist()
            return (x0, y0), (x1, y1)
        points = drawing.rings[line - len(drawing.stretches)].points
        following = np.roll(points, -1, axis=0)
        k = side if 0 <= side < len(points) else int(np.hypot(*(following - points).T).argmax())
        return tuple(points[k].tolist()), tuple(following[k].tolist())

    def pose(self, drawing: Drawing, line: int, side: int = -1) -> tuple[Pose, Reference, Sum]:
        """Where the ruler lies for a line, what it is laid from, and the sum for it."""
        start, end = self.line_ends(drawing, line, side)
        reference = self.references(drawing)[line]
        foot = self.kit.foot.offset.mm
        if line >= len(drawing.stretches):
            distance = (
                drawing.rings[line - len(drawing.stretches)].distance if reference.kind != "mark" else foot
            )
            return self._posed(self.region, start, end, False, distance), reference, self._reckon(distance)
        piece, _ = drawing.piece_and_family(line)
        distance = self._exact(reference) if reference.kind != "mark" else foot
        laid = self._posed(self.region.pieces[piece], start, end, reference.way < 0, distance)
        return laid, reference, self._reckon(distance)

    def _exact(self, reference: Reference) -> Fraction:
        if reference.kind == "line":
            return self.fill.spacing.mm
        return Fraction(reference.distance).limit_denominator(10**6)

    def _reckon(self, distance: Fraction) -> Sum:
        return reckon(distance, self.kit.foot.offset.mm, self.kit.ruler)

    def _posed(self, piece: Region, start: Point, end: Point, left: bool, distance: Fraction) -> Pose:
        return pose(piece, start, end, left, distance, self.kit)


def _stretch_references(plan: ZonePlan, drawing: Drawing) -> dict[int, Reference]:
    by_job: dict[int, list[Stretch]] = {}
    directions = [family.direction for family in drawing.families if isinstance(family, Straight)]
    for index, (job, line) in enumerate(
        zip(drawing.stretches.job.tolist(), drawing.stretches.line.tolist(), strict=True)
    ):
        ux, uy = directions[job % len(directions)]
        x0, y0, x1, y1 = drawing.stretches.ends[index].tolist()
        by_job.setdefault(job, []).append(Stretch(index, line, x0 * ux + y0 * uy, x1 * ux + y1 * uy))
    found: dict[int, Reference] = {}
    for job, stretches in by_job.items():
        piece, number = divmod(job, len(drawing.families))
        family = drawing.families[number]
        if isinstance(family, Straight):
            found |= references(plan.region.pieces[piece], family, stretches, plan.kit)
    return found


def _ring_references(plan: ZonePlan, drawing: Drawing) -> dict[int, Reference]:
    """The first round is laid on the seam, every other on the round outside it; drawn where no mark fits."""
    found = {}
    for number, ring in enumerate(drawing.rings):
        laid = reckon(ring.distance, plan.kit.foot.offset.mm, plan.kit.ruler).can_be_laid
        kind = ("seam" if ring.round == 0 else "line") if laid else "mark"
        found[number] = Reference(kind, float(ring.distance) if laid else 0.0, 1)
    return found


def site_at(laid: LaidQuilt, part: Part, region: Region, placing: int) -> Site:
    """Where a fill is laid, as placing number ``placing`` of its part sees it."""
    middle = (laid.top.width / 2, laid.top.height / 2)
    return Site(region, part.centre, invert(part.placings[placing], middle))


def plan_zone(laid: LaidQuilt, key: str) -> ZonePlan | None:
    """The plan of zone ``key``, or None where it is left open.

    Raises Unknown; BadValue at ``fill.…`` or ``kit.foot.offset``; TooMany at ``fill.spacing``.
    """
    zone = laid.zone(key)
    if zone.fill is None:
        return None
    part, region, kit = laid.top.parts[zone.part], laid.region(zone), laid.quilt.kit
    check_foot(zone, region, kit)
    _refuse_a_flood(laid, key)
    drawings = tuple(
        draw(region, families, placings) for families, placings in _distinct(laid, zone.fill, part, region)
    )
    sites = tuple(site_at(laid, part, region, k) for k in range(len(part.placings)))
    return ZonePlan(key, zone, zone.fill, kit, part, region, drawings, sites)


def plan_quilt(laid: LaidQuilt) -> dict[str, ZonePlan]:
    """The plans of all zones that have a fill, by key."""
    plans = ((key, plan_zone(laid, key)) for key in laid.quilt.zones)
    return {key: plan for key, plan in plans if plan is not None}


def check_foot(zone: Zone, region: Region, kit: Kit) -> None:
    """Raises BadValue where the foot's offset is larger than what fits into the zone (A105)."""
    foot = kit.foot.offset
    if float(foot.mm) > region.inradius:
        widest = in_words(2 * region.inradius, foot.unit)
        raise BadValue(
            f"The foot's offset of {foot.text} is more than half of {zone.name}, which is {widest} at its "
            "widest; no ruler could lie in it. Give the distance from the needle to the foot's rim.",
            "kit.foot.offset",
        )


def check_kit(laid: LaidQuilt) -> None:
    """``check_foot`` for every zone that has a fill."""
    for zone in laid.quilt.zones.values():
        if zone.fill is not None:
            check_foot(zone, laid.region(zone), laid.quilt.kit)


def _distinct(
    laid: LaidQuilt, fill: Fill, part: Part, region: Region
) -> Iterable[tuple[tuple[Family, ...], tuple[int, ...]]]:
    """The different sets of families over the placings of a part, each with its placings."""
    if not fill.follows_quilt:
        yield tuple(fill.lay_out(site_at(laid, part, region, 0))), tuple(range(len(part.placings)))
        return
    groups: dict[tuple[float, ...], tuple[tuple[Family, ...], list[int]]] = {}
    for placing in range(len(part.placings)):
        families = tuple(fill.lay_out(site_at(laid, part, region, placing)))
        phases = tuple(_phase(family) for family in families)
        groups.setdefault(phases, (families, []))[1].append(placing)
    for families, placings in groups.values():
        yield families, tuple(placings)


def _phase(family: Family) -> float:
    """Where the lines of an unbounded family fall within one pitch, to a ten-thousandth of a mm."""
    if not isinstance(family, Straight):
        return 0.0
    pitch = float(family.pitch)
    phase = round(family.datum % pitch, 4)
    return 0.0 if abs(phase - pitch) < 1e-4 else phase


def _refuse_a_flood(laid: LaidQuilt, key: str) -> None:
    """Counts before anything is drawn. Raises TooMany where the whole quilt would hold too many lines."""
    counts = {k: _count(laid, zone) for k, zone in laid.quilt.zones.items() if zone.fill is not None}
    total = sum(counts.values())
    fill = laid.quilt.zones[key].fill
    if total <= MOST_LINES or fill is None:
        return
    others = total - counts[key]
    unit = fill.spacing.unit
    hint = "Thin out another zone first."
    if others < MOST_LINES:
        wider = float(fill.spacing.mm) * counts[key] / (MOST_LINES - others)
        hint = (
            f"Set them about {in_words(wider, unit, Fraction(1, 16 if unit == 'in' else 1))} apart or more."
        )
    raise TooMany(
        f"That would be {total:,} lines in the quilt; more than {MOST_LINES:,} cannot be planned. {hint}",
        "fill.spacing",
    )


def _count(laid: LaidQuilt, zone: Zone) -> int:
    fill, region, part = zone.fill, laid.region(zone), laid.top.parts[zone.part]
    assert fill is not None
    return fill.count_at_most(site_at(laid, part, region, 0)) * len(part.placings)
