"""Hand-drawn blocks: the points and seams to draw with, and drawing files."""

from __future__ import annotations

from flask import Response

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Length
from kenzet.core.top.blocks import Drawn
from kenzet.core.top.seams import crossings, in_mm, pieced
from kenzet.formats.apart import apart
from kenzet.formats.readers import read_block
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, laid_quilt, upload
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn
from kenzet.web.wire.drawing import (
    MOST_BYTES,
    BlockDrawing,
    BlockOfQuilt,
    BroughtView,
    FileQuery,
    GridSpot,
    brought_view,
    seam_view,
)

drawing = Blueprint("drawing", __name__, url_prefix="/api")


@drawing.get("/quilts/<quilt>/blocks/<block>/drawing", responses={200: BlockDrawing})
def block_drawing(path: BlockOfQuilt, query: m.Reading) -> Response:
    """A drawn block, its seams and the points to draw from."""
    _, laid = laid_quilt(path.quilt)
    block = laid.quilt.blocks.get(path.block)
    if block is None or not isinstance(block.art, Drawn):
        raise BadValue(tr("There is no drawn block of that name here."), "block")
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
            seams=[seam_view(seam, k in loose, query.unit) for k, seam in enumerate(seams)],
            patches=drawn.block_patches(path.block, block, width, height),
            appliques=[name for name, patch in art.patches.items() if patch.applique],
        )
    )


@drawing.post("/read-drawing", responses={200: BroughtView})
def read_drawing(query: FileQuery) -> Response:
    """A block from an SVG or DXF file in the request body; nothing is stored."""
    data = upload(MOST_BYTES, tr("A drawing"))
    width = None
    if query.width.strip():
        try:
            width = Length.parse(query.width, query.unit)
        except BadValue as error:
            raise BadValue(error.message, "width") from error
    ending = query.name.rsplit(".", 1)[-1].lower()
    if ending not in ("svg", "dxf"):
        raise BadValue(tr("Choose an .svg or .dxf file."), "file")
    return answer(brought_view(apart(read_block, data, ending, width, what=tr("This drawing")), query))
