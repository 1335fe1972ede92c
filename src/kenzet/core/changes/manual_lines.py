"""Changes of lines placed by hand on the ruler bench."""

from __future__ import annotations

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from kenzet.core.bench.readout import ON_IT, BenchReading, BenchReference, Lay, read, references_in
from kenzet.core.changes.base import Change
from kenzet.core.errors import BadValue, Unknown
from kenzet.core.fills.manual_lines import MOST_BY_HAND, ManualLine
from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.kit import Kit, ThingKey
from kenzet.core.kit.ruler_outline import plastic
from kenzet.core.numbers.measure import MM_PER, Length
from kenzet.core.plan.close_gap import closing_lines
from kenzet.core.plan.planner import plan_zone
from kenzet.core.top.blocks import Key
from kenzet.core.top.document import Quilt, with_zone
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Place
from kenzet.texts import tr

_Mm = Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False)]
_Degrees = Annotated[float, Field(ge=-3600, le=3600, allow_inf_nan=False)]


class KeepLine(Change):
    """The line that a ruler at this position sews becomes part of a zone's plan. With ``whole``, the ruler is
    moved along from edge to edge."""

    kind: Literal["keep line"] = "keep line"
    zone: Key
    place: Place
    ruler: ThingKey
    edge: Annotated[int, Field(ge=0, le=9)] = 0
    x: _Mm
    y: _Mm
    angle: _Degrees
    whole: bool = True

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue at ``ruler`` if it is unsafe or not usable, at ``lay`` if it sews no line in the zone."""
        zone, kit = laid.zone(self.zone), laid.quilt.kit
        check_ruler(kit, self.ruler, self.edge)
        shape = laid.shape_at(zone, self.place)
        if shape is None:
            raise Unknown(tr("{name} is not at {place}.", name=zone.name, place=self.place), "place")
        if len(zone.by_hand) >= MOST_BY_HAND:
            raise BadValue(
                tr(
                    "A zone holds at most {most_by_hand} lines placed by hand. Remove one first.",
                    most_by_hand=MOST_BY_HAND,
                ),
                "lay",
            )
        part = plastic(kit.rulers[self.ruler].edges, self.edge, float(kit.foot_offset))
        references = references_in(plan_zone(laid, self.zone), shape, self.place)
        lay = Lay(self.x, self.y, self.angle)
        reading = read(part, lay, shape.region, references, float(kit.foot_offset), self.whole)
        if part.needle is None:
            raise BadValue(tr("Your foot cannot go along this edge: it is too tight for it."), "ruler")
        if reading.sewn is None:
            raise BadValue(tr("The needle’s line does not lie in this zone. Move the ruler onto it."), "lay")
        for held in reading.held:
            if abs(held.away) <= ON_IT and references[held.reference].kind != "seam":
                raise BadValue(tr("The needle runs along a line that is in the plan already."), "lay")
        on, distance = _laid_on(reading, references, kit)
        vertices = tuple(
            (round(x, 6), round(y, 6), round(b, 12)) for x, y, b in reading.sewn.vertices.tolist()
        )
        line = ManualLine(vertices=vertices, ruler=self.ruler, on=on, distance=distance)
        quilt = with_zone(laid.quilt, self.zone, by_hand=(*zone.by_hand, line))
        return quilt, tr("{name}: a line placed by hand", name=zone.name)


class TakeUpLine(Change):
    """Deletes a line placed by hand."""

    kind: Literal["take up line"] = "take up line"
    zone: Key
    number: Annotated[int, Field(ge=0)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises Unknown."""
        zone = laid.zone(self.zone)
        if self.number >= len(zone.by_hand):
            raise Unknown(
                tr("There is no line number {number} placed by hand here.", number=self.number + 1), "number"
            )
        left = zone.by_hand[: self.number] + zone.by_hand[self.number + 1 :]
        return with_zone(laid.quilt, self.zone, by_hand=left), tr("{name}: a line removed", name=zone.name)


class CloseGap(Change):
    """Adds straight lines through the gaps of a zone that are wider than ``limit``, at ``place`` and wherever the
    zone has the same drawing. Each of them has to be marked."""

    kind: Literal["close gap"] = "close gap"
    zone: Key
    place: Place
    limit: Length

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue if no lines can close the gaps, or the zone has too many lines placed by hand."""
        zone = laid.zone(self.zone)
        plan = plan_zone(laid, self.zone)
        drawings = [one for one in plan.drawings if self.place in one.places] if plan else []
        lines = closing_lines(drawings, float(self.limit.mm)) if drawings else []
        if not lines:
            raise BadValue(
                tr("A few lines cannot close the gaps of {name}. Choose a smaller spacing.", name=zone.name),
                "limit",
            )
        if len(zone.by_hand) + len(lines) > MOST_BY_HAND:
            raise BadValue(
                tr("A zone holds at most {most_by_hand} lines placed by hand.", most_by_hand=MOST_BY_HAND),
                "limit",
            )
        new = tuple(
            ManualLine(vertices=tuple((round(x, 6), round(y, 6), 0.0) for x, y in line.tolist()))
            for line in lines
        )
        quilt = with_zone(laid.quilt, self.zone, by_hand=(*zone.by_hand, *new))
        return quilt, tr("{name}: {new} lines through its gaps", name=zone.name, new=len(new)) if len(
            new
        ) > 1 else tr("{name}: a line through its gap", name=zone.name)


def check_ruler(kit: Kit, key: str, edge: int) -> None:
    """Checks a ruler and one of its edges.

    Raises BadValue or Unknown at ``ruler``: not in the kit, not at hand, unsafe (A79), or without that edge.
    """
    ruler = kit.rulers.get(key)
    if ruler is None or edge >= len(ruler.edges):
        raise Unknown(tr("There is no such ruler in this quilt's kit."), "ruler")
    if ruler.state != "at hand":
        raise BadValue(tr("“{name}” is {state}.", name=ruler.name, state=tr(ruler.state)), "ruler")
    fault = ruler_fault(kit.foot, ruler) or foot_fault(kit.machine, kit.foot)
    if fault:
        raise BadValue(fault, "ruler")


def _laid_on(
    reading: BenchReading, references: list[BenchReference], kit: Kit
) -> tuple[Literal["seam", "line", ""], Length | None]:
    """What the line is placed from: the nearest reference that lies under the edge or an etched line (F1)."""
    for held in reading.held:
        if held.etched is None:
            continue
        distance = held.etched + kit.foot_offset
        on: Literal["seam", "line"] = "seam" if references[held.reference].kind == "seam" else "line"
        return on, Length.of(Fraction(distance) / MM_PER["in"])
    return "", None
