"""Fills side by side, with their costs."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import Field

from kenzet.core.advice.suited_fills import TriedFill, effort
from kenzet.core.fills import kind_of
from kenzet.core.fills.base import GROUPS
from kenzet.core.numbers.measure import COARSE, INCH, Unit, long_figure
from kenzet.core.top.quilt_layout import QuiltLayout, ZoneShape
from kenzet.core.top.stitching import Stitching
from kenzet.say import words as w
from kenzet.say.fill_words import about_minutes, against, marks_words
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn
from kenzet.web.wire.docs import FillDoc


class Cost(m.Wire):
    """Plain numbers to sort by: minutes, inches sewn per square inch, marks, and difficulty from 1 to 4."""

    minutes: float
    density: float
    marks: int
    ease: int


class Card(m.Wire):
    """A fill as it would look in the zone, with its costs. ``fill`` is what choosing it sets."""

    kind: str
    label: str
    group: str
    help: str
    fill: FillDoc
    drawing: m.DrawingView
    cost: Cost
    said: list[w.Row]


class GalleryView(m.Wire):
    """The zone's outline and its patches, and every fill that suits it."""

    rings: list[list[float]]
    patches: list[m.PatchView]
    cards: list[Card]


class ZoneRequest(m.Reading):
    """A zone, seen at ``place``."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""


class VariantsView(m.Wire):
    """The kept variants of a zone; the others are compared with the first."""

    rings: list[list[float]]
    patches: list[m.PatchView]
    cards: list[Card] = Field(max_length=3)
    table: list[VariantRow]


class VariantRow(m.Wire):
    """A figure of every variant; ``against`` says what changes against the first, empty where nothing does."""

    label: str
    cells: list[w.Words]
    against: list[str]


def shape_of(laid: QuiltLayout, body: ZoneRequest) -> tuple[ZoneShape, str]:
    """The shape of the zone at the place, and the place."""
    zone = laid.zone(body.zone)
    shape = (laid.shape_at(zone, body.place) if body.place else None) or laid.shapes(zone)[0]
    return shape, body.place if body.place in shape.places else shape.places[0]


def patches_of(shape: ZoneShape) -> list[m.PatchView]:
    """The patches of the zone's part."""
    return [
        m.PatchView(key=key, fabric=patch.fabric, rings=drawn.rings(patch.area.geoms))
        for key, patch in shape.part.patches.items()
    ]


def card(found: TriedFill, stitching: Stitching, unit: Unit) -> Card:
    """A fill as it would look, with its costs."""
    drawing, fill = found.drawing, found.fill
    cost = effort(found.plan, drawing, stitching)
    (view,) = drawn.drawings(found.plan)
    return Card(
        kind=kind_of(fill),
        label=fill.label,
        group=GROUPS[fill.group],
        help=fill.help,
        fill=fill.model_dump(mode="json"),
        drawing=view,
        cost=Cost(minutes=cost.minutes, density=drawing.density * INCH, marks=cost.marks, ease=cost.ease),
        said=[
            w.Row(label=[tr("Spacing")], words=[w.shown(fill.spacing.mm, unit)]),
            w.Row(label=[tr("Density")], words=[w.density(drawing.density, unit)]),
            w.Row(label=[tr("To mark")], words=[marks_words(cost)]),
            w.Row(label=[tr("To sew")], words=[about_minutes(cost.minutes)]),
        ],
    )


def table_of(found: Sequence[TriedFill], stitching: Stitching, unit: Unit) -> list[VariantRow]:
    """Spacing, lines, marks, widest gap, density, length, thread cuts; and how each differs from the first."""
    costs = [effort(pin.plan, pin.drawing, stitching) for pin in found]
    gaps = [pin.plan.widest_gap(pin.drawing).width for pin in found]
    rows: list[tuple[str, Sequence[w.Words], list[float]]] = [
        (tr("Spacing"), [[w.shown(p.fill.spacing.mm, unit)] for p in found], [float(p.fill.spacing.mm) for p in found]),
        (tr("Lines"), [[f"{p.drawing.lines:,}"] for p in found], [float(p.drawing.lines) for p in found]),
        (tr("Lines to mark"), [[f"{c.marks:,}"] for c in costs], [float(c.marks) for c in costs]),
        (tr("Widest gap"), [[w.shown(g, unit, COARSE[unit], about=True)] for g in gaps], gaps),
        (tr("Density"), [[w.density(p.drawing.density, unit)] for p in found], [p.drawing.density for p in found]),
        (tr("Sewn"), [[long_figure(p.drawing.stitched, unit)] for p in found], [p.drawing.stitched for p in found]),
        (tr("Thread cuts, about"), [[f"{c.stops:,}"] for c in costs], [float(c.stops) for c in costs]),
        (tr("Time, about"), [[about_minutes(c.minutes)] for c in costs], [c.minutes for c in costs]),
    ]  # fmt: skip
    return [
        VariantRow(label=label, cells=[list(cell) for cell in cells], against=against(numbers))
        for label, cells, numbers in rows
    ]
