"""Fills side by side: the gallery of those that suit a zone, and the variants that she has pinned."""

from __future__ import annotations

from collections.abc import Sequence

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import Field

from kenzet.core.advice.suited_fills import Effort, Tried, effort, gallery, tried
from kenzet.core.fills import kind_of
from kenzet.core.fills.base import GROUPS
from kenzet.core.numbers.measure import COARSE, INCH, Unit, long_figure
from kenzet.core.tolerances import ROUNDING
from kenzet.core.top.quilt_layout import LaidQuilt, ZoneShape
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, laid_quilt

variants = APIBlueprint("variants", __name__, url_prefix="/api/quilts/<quilt>")


class Cost(m.Wire):
    """Bare numbers to sort by: minutes, inches sewn in a square inch, marks, and how hard it is from 1 to 4."""

    minutes: float
    density: float
    marks: int
    ease: int


class Card(m.Wire):
    """A fill as it would look in the zone, with what it costs. ``fill`` is what choosing it sets."""

    kind: str
    label: str
    group: str
    help: str
    fill: dict[str, object]
    drawing: m.DrawingView
    cost: Cost
    said: list[m.Row]


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
    """The pinned variants of a zone, the first of them the one that others are compared with."""

    rings: list[list[float]]
    patches: list[m.PatchView]
    cards: list[Card] = Field(max_length=3)
    table: list[VariantRow]


class VariantRow(m.Wire):
    """A figure of every variant; ``against`` says what changes against the first, empty where nothing does."""

    label: str
    cells: list[m.Words]
    against: list[str]


VariantsView.model_rebuild()


@variants.post("/gallery", responses={200: GalleryView})
def show_gallery(path: m.QuiltPath, body: ZoneRequest) -> Response:
    """Every fill that suits the zone, at sensible settings."""
    _, laid = laid_quilt(path.quilt)
    zone = laid.zone(body.zone)
    shape, place = _at(laid, body)
    held = zone.fill_at(place)
    given = held.model_dump(mode="json") if held else None
    cards = [_card(found, body.unit) for found in gallery(laid, body.zone, given, place)]
    return answer(
        GalleryView(rings=show.rings(shape.region.area.geoms), patches=_patches(shape), cards=cards)
    )


@variants.post("/variants", responses={200: VariantsView})
def show_variants(path: m.QuiltPath, body: ZoneRequest) -> Response:
    """The pinned variants, drawn and compared."""
    _, laid = laid_quilt(path.quilt)
    shape, place = _at(laid, body)
    pins = [tried(laid, body.zone, fill, shape, place) for fill in laid.zone(body.zone).pins]
    found = [pin for pin in pins if pin is not None]
    view = VariantsView(
        rings=show.rings(shape.region.area.geoms),
        patches=_patches(shape),
        cards=[_card(pin, body.unit) for pin in found],
        table=_table(found, body.unit),
    )
    return answer(view)


def _at(laid: LaidQuilt, body: ZoneRequest) -> tuple[ZoneShape, str]:
    zone = laid.zone(body.zone)
    shape = (laid.shape_at(zone, body.place) if body.place else None) or laid.shapes(zone)[0]
    return shape, body.place if body.place in shape.places else shape.places[0]


def _patches(shape: ZoneShape) -> list[m.PatchView]:
    return [
        m.PatchView(key=key, fabric=patch.fabric, rings=show.rings(patch.area.geoms))
        for key, patch in shape.part.patches.items()
    ]


def _card(found: Tried, unit: Unit) -> Card:
    drawing, fill = found.drawing, found.fill
    cost = effort(found)
    (view,) = show.drawings(found.plan)
    return Card(
        kind=kind_of(fill),
        label=fill.label,
        group=GROUPS[fill.group],
        help=fill.help,
        fill=fill.model_dump(mode="json"),
        drawing=view,
        cost=Cost(minutes=cost.minutes, density=drawing.density * INCH, marks=cost.marks, ease=cost.ease),
        said=[
            m.Row(label=["Apart"], words=[show.shown(fill.spacing.mm, unit)]),
            m.Row(label=["Density"], words=[show.density(drawing.density, unit)]),
            m.Row(label=["To draw"], words=[_marks(cost)]),
            m.Row(label=["To sew"], words=[minutes(cost.minutes)]),
        ],
    )


def _marks(cost: Effort) -> str:
    return f"{cost.marks:,} of {cost.lines:,}" if cost.lines else "nothing"


def minutes(number: float) -> str:
    """
    >>> minutes(0.4), minutes(12.4), minutes(150)
    ('under 1 min', 'about 12 min', 'about 2 h 30 min')
    """
    if number < 1:
        return "under 1 min"
    if number < 60:
        return f"about {number:.0f} min"
    return f"about {int(number // 60)} h {round(number % 60 / 5) * 5:.0f} min".replace(" 0 min", "")


def _table(found: Sequence[Tried], unit: Unit) -> list[VariantRow]:
    """Spacing, lines, marks, widest gap, density, length, thread stops; what changes against the first."""
    costs = [effort(pin) for pin in found]
    gaps = [pin.plan.widest_gap(pin.drawing).width for pin in found]
    rows = [
        ("Apart", [[show.shown(p.fill.spacing.mm, unit)] for p in found], [float(p.fill.spacing.mm) for p in found]),
        ("Lines", [[f"{p.drawing.lines:,}"] for p in found], [float(p.drawing.lines) for p in found]),
        ("Lines to draw", [[f"{c.marks:,}"] for c in costs], [float(c.marks) for c in costs]),
        ("Widest gap", [[show.shown(g, unit, COARSE[unit], about=True)] for g in gaps], gaps),
        ("Density", [[show.density(p.drawing.density, unit)] for p in found], [p.drawing.density for p in found]),
        ("Sewn", [[long_figure(p.drawing.stitched, unit)] for p in found], [p.drawing.stitched for p in found]),
        ("Thread stops, about", [[f"{c.stops:,}"] for c in costs], [float(c.stops) for c in costs]),
        ("Time, about", [[minutes(c.minutes)] for c in costs], [c.minutes for c in costs]),
    ]  # fmt: skip
    return [
        VariantRow(label=label, cells=[list(cell) for cell in cells], against=_against(numbers))
        for label, cells, numbers in rows
    ]


def _against(numbers: Sequence[float]) -> list[str]:
    """
    >>> _against([10.0, 15.0, 10.0]), _against([0.0, 3.0])
    (['', '+50 %', ''], ['', 'from none'])
    """
    if not numbers:
        return []
    first = numbers[0]
    said = [""]
    for number in numbers[1:]:
        if abs(number - first) < ROUNDING:
            said.append("")
        elif first == 0:
            said.append("from none")
        else:
            said.append(f"{100 * (number - first) / first:+.0f} %".replace("-", "−"))
    return said
