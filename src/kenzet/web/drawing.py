"""A block of her own: the points and seams to draw with, and drawings that are brought in."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Arc, inner_points
from kenzet.core.numbers.measure import Length, Unit
from kenzet.core.top.blocks import Block, Drawn, Seam
from kenzet.core.top.bring import Brought, bring
from kenzet.core.top.seams import crossings, in_mm, pieced
from kenzet.formats.dxf_in import read_dxf
from kenzet.formats.svg_in import read_svg
from kenzet.web import models as m
from kenzet.web import show
from kenzet.web.at_hand import answer, laid_quilt, upload

drawing = APIBlueprint("drawing", __name__, url_prefix="/api")

MOST_BYTES = 10_000_000


class BlockPath(m.QuiltPath):
    """Which block of which quilt."""

    block: m.ZoneKey


class GridSpot(m.Wire):
    """A point at which a seam may begin or end: in mm and in grid units."""

    at: list[float]
    grid: list[float]
    name: str


class SeamView(m.Wire):
    """A seam as drawn (flat x, y, mm, y up), its rise as typed, on which side, and whether it parts nothing."""

    points: list[float]
    rise: str
    left: bool
    open: bool


class BlockDrawing(m.Wire):
    """A drawn block with everything that can be pointed at."""

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
    """A drawing's file name, and the width that the block is to have; true size where it is left out."""

    name: str
    width: str = ""


class BroughtView(m.Wire):
    """A block that was read and is not kept yet: ``change`` keeps it; ``said`` tells what was mended."""

    name: str
    size: m.Words
    width: float
    height: float
    patches: list[m.PatchView]
    fabrics: dict[str, str]
    said: list[str]
    change: dict[str, Any]


@drawing.get("/quilts/<quilt>/blocks/<block>/drawing", responses={200: BlockDrawing})
def block_drawing(path: BlockPath, query: m.Reading) -> Response:
    """A drawn block, its seams and the points to draw from."""
    _, laid = laid_quilt(path.quilt)
    block = laid.quilt.blocks.get(path.block)
    if block is None or not isinstance(block.art, Drawn):
        raise BadValue("There is no drawn block of that name here.", "block")
    art, width, height = block.art, float(block.width.mm), float(block.height.mm)
    seams = in_mm(art.seams, width / art.grid[0], height / art.grid[1])
    loose = set(pieced(width, height, seams).open)
    return answer(
        BlockDrawing(
            key=path.block,
            name=block.name,
            columns=art.grid[0],
            rows=art.grid[1],
            width=width,
            height=height,
            spots=[
                GridSpot(at=[x * width / art.grid[0], y * height / art.grid[1]], grid=[x, y], name=name)
                for name, (x, y) in crossings(art.grid, (width, height), art.seams)
            ],
            seams=[_seam(seam, k in loose, query.unit) for k, seam in enumerate(seams)],
            patches=show.block_patches(path.block, block, width, height),
            appliques=[name for name, patch in art.patches.items() if patch.applique],
        )
    )


def _seam(seam: Seam, is_open: bool, unit: Unit) -> SeamView:
    points = [seam.start, *inner_points(seam.start, seam.end, seam.bulge), seam.end]
    rise = Arc(seam.start, seam.end, seam.bulge).rise if seam.bulge else 0.0
    return SeamView(
        points=[round(v, 3) for point in points for v in point],
        rise=show.length_text(Length.near(rise, unit), unit) if rise else "",
        left=seam.bulge <= 0,
        open=is_open,
    )


@drawing.post("/read-drawing", responses={200: BroughtView})
def read_drawing(query: FileQuery) -> Response:
    """A block out of an SVG or DXF file, sent as it is; nothing is kept."""
    data = upload(MOST_BYTES, "A drawing")
    width = None
    if query.width.strip():
        try:
            width = Length.parse(query.width, query.unit)
        except BadValue as error:
            raise BadValue(error.message, "width") from error
    ending = query.name.rsplit(".", 1)[-1].lower()
    if ending not in ("svg", "dxf"):
        raise BadValue("A drawing in SVG or DXF is wanted; this file's name ends otherwise.", "file")
    return answer(_brought(bring((read_svg if ending == "svg" else read_dxf)(data), width), query))


def _brought(found: Brought, query: FileQuery) -> BroughtView:
    name = query.name.rsplit(".", 1)[0].replace("_", " ").replace("-", " ").strip()[:80] or "Brought in"
    width, height = (Length.near(side, query.unit) for side in (found.width, found.height))
    block = Block(name=name[:1].upper() + name[1:], width=width, height=height, art=found.art)
    return BroughtView(
        name=block.name,
        size=show.by(width, height, query.unit),
        width=found.width,
        height=found.height,
        patches=show.block_patches("brought", block, found.width, found.height),
        fabrics={key: fabric.colour for key, fabric in found.fabrics.items()},
        said=list(found.said),
        change={
            "kind": "bring",
            "block": block.model_dump(mode="json"),
            "fabrics": {key: fabric.model_dump(mode="json") for key, fabric in found.fabrics.items()},
        },
    )
