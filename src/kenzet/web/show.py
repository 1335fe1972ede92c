"""From core values to words: everything that the slip says is put into words here.

Nothing is computed but the choice of words; figures come from the core.
"""

from __future__ import annotations

import zlib
from collections.abc import Iterable
from fractions import Fraction

import numpy as np

from kenzet.core.fills import FILLS, Fill
from kenzet.core.fills.base import GROUPS
from kenzet.core.marks.marking import marks_of
from kenzet.core.numbers.measure import INCH, Length, Unit, figure, long_figure
from kenzet.core.params import Form, forms
from kenzet.core.plan.drawing import Trace
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.blocks import Block
from kenzet.core.top.layout import block_part
from kenzet.core.top.quilt_layout import LaidQuilt, ZoneShape
from kenzet.core.top.zone import BORDER, SASHING, TOP, Zone
from kenzet.web import models as m


def shown(
    mm: Fraction | float, unit: Unit, grain: Fraction | None = None, bare: bool = False, about: bool = False
) -> m.Shown:
    """A figure for the wire; ``bare`` leaves the unit unsaid, ``about`` scant and generous."""
    f = figure(mm, unit, grain, about)
    return m.Shown(
        minus=f.minus,
        whole=f.whole,
        num=f.num,
        den=f.den,
        hair=f.hair,
        unit="" if bare else unit,
        text=f.text,
    )


def drawings(plan: ZonePlan | None) -> list[m.DrawingView]:
    """Coordinates to a thousandth of a millimetre."""
    if plan is None:
        return []
    return [
        m.DrawingView.model_construct(
            part=drawing.shape.part.key,
            places=list(drawing.places),
            layer=drawing.layer,
            lines=drawing.stretches.ends.round(3).tolist(),
            paths=_flat(drawing.traces),
            hints=_flat(drawing.hints),
        )
        for drawing in plan.drawings
    ]


def _flat(traces: Iterable[Trace]) -> list[list[float]]:
    return [trace.polyline.round(3).ravel().tolist() for trace in traces]


def parts(laid: LaidQuilt) -> list[m.PartView]:
    """The parts with their patches."""
    return [
        m.PartView(
            key=key,
            of=part.of,
            name=part.name,
            width=part.width,
            height=part.height,
            places=[m.PlaceView(id=place, at=list(at)) for place, at in part.places.items()],
            patches=[
                m.PatchView(key=name, fabric=patch.fabric, rings=rings(patch.area.geoms))
                for name, patch in part.patches.items()
            ],
        )
        for key, part in laid.top.parts.items()
    ]


def block_patches(key: str, block: Block, width: float, height: float) -> list[m.PatchView]:
    """The patches of a block that is ``width`` by ``height`` mm."""
    part = block_part(key, key, block, width, height, {})
    return [
        m.PatchView(key=name, fabric=patch.fabric, rings=rings(patch.area.geoms))
        for name, patch in part.patches.items()
    ]


def by(width: Length, height: Length, unit: Unit) -> m.Words:
    """A size; a square is said once."""
    if width.mm == height.mm:
        return [shown(width.mm, unit)]
    return [shown(width.mm, unit, bare=True), " × ", shown(height.mm, unit)]


def shapes(found: Iterable[ZoneShape]) -> list[m.ShapeView]:
    """The outlines of a zone."""
    return [
        m.ShapeView(part=s.part.key, places=list(s.places), rings=rings(s.region.area.geoms)) for s in found
    ]


def ground(quilt_id: str, laid: LaidQuilt) -> m.GroundView | None:
    """The photograph under the plan."""
    under = laid.quilt.ground
    if under is None:
        return None
    at, width, height = laid.frame_of(under.place)
    told_apart = zlib.crc32(f"{under.photo} {under.corners} {under.place} {width} {height}".encode())
    return m.GroundView(
        url=f"/api/quilts/{quilt_id}/ground.jpg?of={told_apart:08x}",
        at=list(at),
        width=width,
        height=height,
        place=under.place,
        strength=under.strength,
        photo=under.photo,
        corners=[list(corner) for corner in under.corners],
    )


def rings(polygons: Iterable) -> list[list[float]]:
    """Flat x, y lists to a thousandth of a millimetre, holes after outlines."""
    found = [ring for p in polygons for ring in (p.exterior, *p.interiors)]
    return [np.asarray(ring.coords)[:-1].round(3).ravel().tolist() for ring in found]


def occurs(laid: LaidQuilt, zone: Zone) -> str:
    """How often a zone is there, in words."""
    if zone.part == TOP:
        return f"{len(zone.patches)} patches, across the quilt"
    if zone.part == SASHING:
        return (
            "one piece, between all blocks" if _is_whole(laid, zone) else f"{len(zone.patches)} of the sashes"
        )
    if zone.part.startswith(BORDER):
        return "one piece, all round" if _is_whole(laid, zone) else f"{len(zone.patches)} of its pieces"
    many = f"{len(zone.patches)} patches" if len(zone.patches) > 1 else "one patch"
    if zone.slices:
        pieces = len(zone.slices[-1].inside)
        many = "a piece" if pieces == 1 else f"{pieces} pieces"
    times = len(laid.places(zone)) if laid.is_laid(zone) else 0
    if times == 0:
        return f"{many}; this block is laid nowhere yet"
    apart = sum(len(one.places) for one in zone.apart)
    if times == 1:
        return f"{many}, in one block"
    within = " in this block" if zone.part in laid.quilt.blocks else ""
    same = f"the same in all {times}" if not apart else f"the same in {times - apart} of {times}"
    return f"{many}{within} · {same}"


def _is_whole(laid: LaidQuilt, zone: Zone) -> bool:
    return len(zone.patches) == len(laid.quilt.part_patches[zone.part]) and not zone.slices


def place_name(place: str) -> str:
    """
    >>> place_name("2-3"), place_name("side-4"), place_name("border-1")
    ('row 2, block 3', 'side 4', 'border 1')
    """
    row, _, column = place.partition("-")
    return f"row {row}, block {column}" if row.isdigit() else place.replace("-", " ")


def fields(fill: Fill, unit: Unit) -> list[m.FieldView]:
    """The form of a fill with what it holds."""
    values = fill.model_dump(mode="json")
    found = []
    for name, form in forms(type(fill)).items():
        used = form.only_with is None or values[form.only_with[0]] in form.only_with[1]
        found.append(field(name, form, getattr(fill, name), unit, used))
    return found


def field(name: str, form: Form, value: object, unit: Unit, used: bool = True) -> m.FieldView:
    """One parameter for the wire."""
    return m.FieldView(
        name=name,
        label=form.label,
        help=form.help,
        control=form.control,
        text=length_text(value, unit) if isinstance(value, Length) else _plain(value),
        shown=shown(value.mm, unit) if isinstance(value, Length) else None,
        empty=form.empty,
        choices=[m.ChoiceView(key=c.key, label=c.label, picks=c.picks) for c in form.choices],
        presets=list(form.presets),
        used=used,
        minor=form.minor,
    )


def length_text(length: Length, unit: Unit) -> str:
    """What a field holds to be edited: as it was typed, its unit left out where it is the one she reads."""
    return length.text.removesuffix(f" {unit}")


def _plain(value: object) -> str:
    if value is None:
        return ""
    return f"{value:g}" if isinstance(value, float) else str(value)


def plain(words: m.Words) -> str:
    """Words with their figures in one line, for paper."""
    return "".join(word if isinstance(word, str) else f"{word.text} {word.unit}".strip() for word in words)


def minutes(seconds: float) -> str:
    """
    >>> minutes(20), minutes(160), minutes(7000)
    ('under a minute', '3 min', '1 h 57')
    """
    if seconds < 30:
        return "under a minute" if seconds else "none"
    whole = round(seconds / 60)
    return f"{whole} min" if whole < 60 else f"{whole // 60} h {whole % 60:02d}"


def density(per_mm: float, unit: Unit) -> str:
    """Sewn length by area, in the unit in which she thinks of it."""
    return f"{per_mm * INCH:.1f} in a sq in" if unit == "in" else f"{per_mm * 10:.1f} cm a sq cm"


def fill_kinds() -> list[m.FillKind]:
    """The chooser's tiles."""
    return [
        m.FillKind(kind=kind, label=model.label, group=GROUPS[model.group], help=model.help, tile=model.tile)
        for kind, model in FILLS.items()
    ]


def totals(plans: Iterable[ZonePlan], unit: Unit) -> list[m.Total]:
    """What the whole plan costs as far as it is reckoned."""
    plans = list(plans)
    stitched = sum(plan.stitched_in_quilt for plan in plans)
    lines = sum(plan.lines_in_quilt for plan in plans)
    marked = [(marks_of(plan, drawing), len(drawing.places)) for plan in plans for drawing in plan.drawings]
    marks = sum(one.count * many for one, many in marked)
    seconds = sum(one.seconds * many for one, many in marked)
    return [
        m.Total(label="Stitching", words=[long_figure(stitched, unit)], amount=round(stitched, 2)),
        m.Total(label="Lines to sew", words=[f"{lines:,}"], amount=lines),
        m.Total(label="Marks to draw", words=[f"{marks:,}"], amount=marks),
        m.Total(label="Marking", words=[minutes(seconds)], amount=round(seconds)),
    ]
