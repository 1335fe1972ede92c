"""Swatches: quilted samples that show how a fill turns out on a batting, and what was observed.

Glossary: a *swatch* is a zone of a quilt as planned when the swatch was added to the book; later changes of the
quilt do not affect it. What was *found* is entered by the quilter and can be changed. Its *bulge* is the height of
a sheet in it under even pressure, divided by that pressure: mm². It depends only on the drawing, so that the
height of the cloth is the smaller of the loft and pressure × bulge.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Any, Literal

import numpy as np
import shapely
from pydantic import Field, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.fills import AnyFill
from kenzet.core.geom.region import Floats
from kenzet.core.kit.kit import ThingKey
from kenzet.core.kit.things.supplies import Batting, Thread
from kenzet.core.numbers.measure import INCH, Length
from kenzet.core.params import Choice, Form, Frozen, asked, in_range
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.relief.cloth import along
from kenzet.core.relief.heights import CHANNEL, Heights, Mask, heights
from kenzet.core.tolerances import DIVISOR
from kenzet.core.top.blocks import Name
from kenzet.core.top.document import Quilt, Use, zone_of
from kenzet.core.top.fabric_color import PLAIN
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr

MOST_SWATCHES = 300
MOST_PHOTOS = 6
_MOST_LINES = 20_000
_FINEST = INCH / 20
_LONGER = 800  # pixels of the longer side, at most
_ACROSS = 24  # pixels of the widest gap, where there is room
_MOST_GROWN = 1.05  # cloth may be pulled a little longer than it was, not more
_FARTHEST = 20_000.0  # mm from the origin
_LEAST_CLOTH = 1.0  # mm²
_DENSEST, _LONGEST = 10.0, 2e7  # mm of stitching for each mm², and in all
FlatLine = Annotated[tuple[float, ...], Field(min_length=4, max_length=40_000)]
"""A polyline as x, y, x, y, … in mm."""
PhotoId = Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]
Felt = Literal["", "loose", "soft", "firm", "stiff"]
FELT: tuple[Felt, ...] = ("loose", "soft", "firm", "stiff")


class Swatch(Frozen):
    """A sample as sewn: the ``fill`` of a zone of the quilt named ``quilt``, its ``use`` and ``batting``, thread,
    stitch, needle and tension.

    ``rings`` are its outline and ``lines`` its stitching, mm, y up; ``density`` is mm for each mm², ``gap`` the
    widest gap, mm, ``bulge`` mm². ``fabric`` is the color of its cloth.
    """

    quilt: Name
    zone: Name
    use: Use
    fill: AnyFill
    batting: Batting
    batting_key: ThingKey | None = None
    thread: Thread
    stitch: Length
    needle: str = Field("", max_length=40)
    tension: str = Field("", max_length=40)
    fabric: str = Field(pattern=r"^#[0-9a-fA-F]{6}$")
    rings: Annotated[tuple[FlatLine, ...], Field(min_length=1, max_length=400)]
    lines: Annotated[tuple[FlatLine, ...], Field(max_length=_MOST_LINES)]
    density: float = Field(ge=0, le=10)
    gap: float = Field(ge=0, le=10_000)
    bulge: float = Field(ge=0, le=1e8)


class SwatchFound(Frozen):
    """What was observed of a swatch: a name, how it feels, how ``high`` the cloth stands in the middle of its
    widest gap, the length of a side when ``pieced``, quilted (``before`` the wash) and ``after`` the wash,
    whether to sew it ``again``, notes and photographs."""

    name: Name
    felt: Felt = asked(
        "", Form("choice", tr("It feels"), choices=tuple(Choice(one, tr(one)) for one in FELT))
    )
    high: Length | None = asked(
        None, Form("length", tr("Height in its widest gap"), tr("From the stitches up to the top of the cloth."), empty=tr("not measured"))
    )  # fmt: skip
    pieced: Length | None = asked(
        None, Form("length", tr("A side before quilting"), empty=tr("not measured"))
    )
    before: Length | None = asked(
        None, Form("length", tr("The same side, quilted"), empty=tr("not measured"))
    )
    washed: Literal["no", "yes"] = asked(
        "no", Form("choice", tr("Washed"), choices=(Choice("no", tr("not yet")), Choice("yes", tr("yes"))))
    )
    after: Length | None = asked(
        None,
        Form("length", tr("The same side, washed"), empty=tr("not measured"), only_with=("washed", ("yes",))),
    )
    again: Literal["", "yes", "no"] = asked(
        "", Form("choice", tr("Sew it again"), choices=(Choice("yes", tr("yes")), Choice("no", tr("no"))))
    )
    notes: str = Field("", max_length=2000)
    photos: Annotated[tuple[PhotoId, ...], Field(max_length=MOST_PHOTOS)] = ()

    @model_validator(mode="after")
    def _measured(self) -> SwatchFound:
        if self.high is not None:
            _at("high", self.high, "1/64 in", "3 in", tr("The height"))
        sides = [("pieced", self.pieced), ("before", self.before), ("after", self.after)]
        known = [(field, side) for field, side in sides if side is not None]
        for field, side in known:
            _at(field, side, "1 in", "150 in", tr("A side"))
        for (_, earlier), (field, later) in pairwise(known):
            if later.mm > earlier.mm * _MOST_GROWN:
                raise BadValue(
                    tr("Quilting and washing make a side shorter. It cannot be longer than the {earlier} measured before.", earlier=earlier.text), field
                )  # fmt: skip
        return self

    @property
    def took_up(self) -> float | None:
        """Per cent of a side taken up by quilting; None if unknown."""
        return _lost(self.pieced, self.before)

    @property
    def shrunk(self) -> float | None:
        """Per cent of a side lost in the wash; None if unknown."""
        return _lost(self.before, self.after) if self.washed == "yes" else None


def _lost(earlier: Length | None, later: Length | None) -> float | None:
    if earlier is None or later is None:
        return None
    return max(100 * (1 - float(later.mm / earlier.mm)), 0.0)


class KeptSwatch(Frozen):
    """A swatch with what was observed."""

    swatch: Swatch
    found: SwatchFound


class SwatchBook(Frozen):
    """A file of swatches, to carry them from one Kenzet to another."""

    format: Literal["kenzet.swatches"] = "kenzet.swatches"
    version: Literal[1] = 1
    swatches: Annotated[tuple[KeptSwatch, ...], Field(max_length=MOST_SWATCHES)]


def check_drawable(swatch: Swatch) -> None:
    """Refuses a swatch from elsewhere that is no piece of cloth with stitching on it, or too much of it to draw.
    Raises BadValue at ``rings`` or ``lines``."""
    for field, flat, least in (("rings", swatch.rings, 3), ("lines", swatch.lines, 2)):
        numbers = np.concatenate([*map(np.asarray, flat), np.zeros(0)])
        if any(len(one) % 2 or len(one) < 2 * least for one in flat):
            raise BadValue(tr("An outline or a line of {name} is not whole.", name=swatch.zone), field)
        if np.abs(numbers).max(initial=0.0) > _FARTHEST:
            raise BadValue(tr("{name} is larger than any quilt.", name=swatch.zone), field)
    rings = polylines(swatch.rings)
    area = _cloth(rings).area
    if area < _LEAST_CLOTH:
        raise BadValue(tr("The outline of {name} has no area.", name=swatch.zone), "rings")
    lengths = [np.hypot(*np.diff(line, axis=0).T).sum() for line in polylines(swatch.lines)]
    if sum(lengths) > min(_DENSEST * area, _LONGEST):
        raise BadValue(tr("{name} holds more stitching than cloth can.", name=swatch.zone), "lines")


def _at(field: str, length: Length, least: str, most: str, what: str) -> None:
    try:
        in_range(length, least, most, what)
    except BadValue as error:
        raise BadValue(error.message, field) from error


def swatch_of(laid: QuiltLayout, zone: str, place: str = "") -> Swatch:
    """A zone of a quilt as drawn at ``place``, or as drawn at most of its places. Raises Unknown, and BadValue if
    nothing is sewn in it."""
    quilt = laid.quilt
    named = zone_of(quilt, zone)
    plan = plan_zone(laid, zone)
    if plan is None or not plan.has_drawing_at(place):
        raise BadValue(tr("{name} has no fill there yet.", name=named.name), "zone")
    drawing = plan.drawing_at(place)
    at = place or drawing.places[0]
    sewn = [one for one in plan.drawings if at in one.places and one.fill.sewn]
    if not sewn:
        raise BadValue(tr("The lines of {name} are only marked, not sewn.", name=named.name), "zone")
    lines = [line for one in sewn for line in (*one.polylines, *(hint.polyline for hint in one.hints))]
    rings = _rings(drawing.region.area)
    kit, gap = plan.kit, plan.widest_gap(drawing).width
    return Swatch(
        quilt=quilt.name, zone=named.name, use=quilt.use, fill=sewn[0].fill, batting=kit.batting, batting_key=kit.batting_key,
        thread=kit.thread, stitch=kit.stitch, needle=kit.needle, tension=kit.tension, fabric=_fabric(quilt, drawing), rings=tuple(_flat(ring) for ring in rings),
        lines=tuple(_flat(line) for line in lines), density=sum(one.density for one in sewn), gap=gap,
        bulge=_bulge(rings, lines, gap),
    )  # fmt: skip


def _rings(area: Any) -> list[Floats]:
    return [np.asarray(ring.coords)[:, :2] for ring in shapely.get_rings(shapely.get_parts(area))]


def _flat(way: Floats) -> tuple[float, ...]:
    return tuple(np.asarray(way).round(2).ravel().tolist())


def _fabric(quilt: Quilt, drawing: Drawing) -> str:
    """The color of the fabric that covers most of the drawing."""
    areas: dict[str, float] = {}
    for patch in drawing.shape.part.patches.values():
        inside = patch.area.intersection(drawing.region.area).area
        areas[patch.fabric] = areas.get(patch.fabric, 0.0) + float(inside)
    most = max(areas, key=lambda key: areas[key], default="")
    found = quilt.fabrics.get(most)
    return found.colour if found else PLAIN


def polylines(flat: tuple[FlatLine, ...]) -> list[Floats]:
    """Polylines as arrays, (n, 2) mm each."""
    return [np.asarray(one, dtype=float).reshape(-1, 2) for one in flat]


@dataclass(frozen=True)
class Spread:
    """A swatch on a raster of pixels ``wide`` mm: where its ``cloth`` is, where it is ``sewn``, and where it is
    ``held`` down: by stitches, along its outline and outside. Row 0 is at the top; the margin is two pixels."""

    cloth: Mask
    sewn: Mask
    held: Mask
    wide: float


def spread_out(rings: list[Floats], lines: list[Floats], wanted: float) -> Spread:
    """The raster of a swatch, with pixels ``wanted`` mm wide if it does not get too large."""
    every = np.concatenate(rings)
    (left, low), (right, high) = every.min(axis=0), every.max(axis=0)
    wide = max(wanted, max(right - left, high - low) / _LONGER)
    columns, rows = round((right - left) / wide) + 4, round((high - low) / wide) + 4

    def drawn(some: list[Floats]) -> Mask:
        mask: Mask = np.zeros((rows, columns), dtype=bool)
        for line in some:
            points = along(line, wide / 2)
            column = np.clip(((points[:, 0] - left) / wide + 2).astype(np.int64), 0, columns - 1)
            row = np.clip(((high - points[:, 1]) / wide + 2).astype(np.int64), 0, rows - 1)
            mask[row, column] = True
        return mask

    whole = _cloth(rings)
    shapely.prepare(whole)
    x = left + (np.arange(columns) - 1.5) * wide
    y = high - (np.arange(rows) - 1.5) * wide
    cloth: Mask = shapely.contains_xy(whole, *np.meshgrid(x, y))
    sewn = drawn(lines)
    return Spread(cloth, sewn & cloth, ~cloth | sewn | drawn(rings), wide)


def _cloth(rings: list[Floats]) -> shapely.Geometry:
    """The area of rings; an inner one is a hole in the outer one."""
    whole = shapely.Polygon()
    for ring in rings:
        whole = whole.symmetric_difference(shapely.Polygon(ring).buffer(0))
    return whole


def _bulge(rings: list[Floats], lines: list[Floats], gap: float) -> float:
    found = spread_out(rings, lines, max(min(_FINEST, gap / _ACROSS), _FINEST / _ACROSS))
    farther = float(max(found.held.shape)) * found.wide
    loft = max(farther**2, CHANNEL)  # so high that it stops nothing
    sheet: Heights = heights(found.held, found.wide, loft, 1 / loft)
    return float(sheet.max()) * CHANNEL**2 / 8


def height(swatch: Swatch, batting: Batting) -> float:
    """The height of a swatch's cloth in its widest gap, mm, by the model of the relief (see ``relief.heights``)."""
    loft = float(batting.thickness.mm)
    return min(loft, pressure(batting) * swatch.bulge)


def pressure(batting: Batting) -> float:
    """What lifts the cloth, 1/mm: such that a channel one inch wide rises to the batting's ``rise``."""
    return max(8 * batting.rise / 100 * float(batting.thickness.mm) / CHANNEL**2, DIVISOR)
