"""Hand-drawn blocks with their seams, and drawing files."""

from __future__ import annotations

from kenzet.core.geom.arcs import Arc, inner_points
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.top.blocks import Block, Seam
from kenzet.core.top.bring import Brought
from kenzet.say import words as w
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn
from kenzet.web.wire.docs import ChangeDoc

MOST_BYTES = 10_000_000


class BlockOfQuilt(m.QuiltKey):
    """Identifies a block of a quilt."""

    block: m.ZoneKey


class GridSpot(m.Wire):
    """A point where a seam may begin or end: in mm and in grid units."""

    at: list[float]
    grid: list[float]
    name: str


class SeamView(m.Wire):
    """A seam as drawn (flat x, y, mm, y up), its rise as typed, its side, and whether it divides nothing."""

    points: list[float]
    rise: str
    left: bool
    open: bool


class BlockDrawing(m.Wire):
    """A drawn block with everything that can be clicked."""

    key: str
    name: str
    columns: int
    rows: int
    width: float
    height: float
    spots: list[GridSpot]
    seams: list[SeamView]
    patches: list[m.PatchView]
    appliques: list[str]


class FileQuery(m.Reading):
    """The name of a drawing file, and the width of the block; by default its true size."""

    name: str
    width: str = ""


class BroughtView(m.Wire):
    """A block read from a file, not stored yet: ``change`` stores it; ``said`` lists the repairs."""

    name: str
    size: w.Words
    width: float
    height: float
    patches: list[m.PatchView]
    fabrics: dict[str, str]
    said: list[str]
    change: ChangeDoc


def seam_view(seam: Seam, is_open: bool, unit: Unit) -> SeamView:
    """A seam as it is drawn, with its measures."""
    points = [seam.start, *inner_points(seam.start, seam.end, seam.bulge), seam.end]
    rise = Arc(seam.start, seam.end, seam.bulge).rise if seam.bulge else 0.0
    return SeamView(
        points=[round(v, 3) for point in points for v in point],
        rise=w.length_text(Length.near(rise, unit), unit) if rise else "",
        left=seam.bulge <= 0,
        open=is_open,
    )


def brought_view(found: Brought, query: FileQuery) -> BroughtView:
    """The result of reading a drawing file."""
    name = query.name.rsplit(".", 1)[0].replace("_", " ").replace("-", " ").strip()[:80] or tr("Brought in")
    width, height = (Length.near(side, query.unit) for side in (found.width, found.height))
    block = Block(name=name[:1].upper() + name[1:], width=width, height=height, art=found.art)
    return BroughtView(
        name=block.name,
        size=w.by(width, height, query.unit),
        width=found.width,
        height=found.height,
        patches=drawn.block_patches("brought", block, found.width, found.height),
        fabrics={key: fabric.colour for key, fabric in found.fabrics.items()},
        said=list(found.said),
        change={
            "kind": "bring",
            "block": block.model_dump(mode="json"),
            "fabrics": {key: fabric.model_dump(mode="json") for key, fabric in found.fabrics.items()},
        },
    )
