"""The quilted cloth under raking light as a picture file: patches in their fabrics, raised by the relief."""

from __future__ import annotations

import io
from typing import Literal

import numpy as np
from PIL import Image, ImageColor, ImageDraw

from kenzet.core.geom.affine import place_all
from kenzet.core.numbers.measure import INCH
from kenzet.core.relief.cloth import Light, Picture, Raster, cloth_heights, lit
from kenzet.core.relief.heights import Mask
from kenzet.core.top.fabric_color import PLAIN
from kenzet.core.top.quilt_layout import QuiltLayout

_FINER = 2  # times the raster, when patches are drawn: their edges are smooth then
Kind = Literal["png", "jpeg"]
_THREAD = 0.6  # mm that a line of stitches covers
_SPOT = 5.0  # mm of a spot of a busy print
_MOTTLED = 0.09  # how much lighter and darker its spots are


def relief_picture(
    laid: QuiltLayout, longer: int, light: Light = "upper left", back: bool = False, kind: Kind = "jpeg"
) -> bytes:
    """A picture with ``longer`` pixels along the longer side, or as many as the finest raster has."""
    raster = Raster.over(laid, longer)
    found, held = cloth_heights(laid, raster)
    fabric = with_thread(_fabrics(laid, raster, back), held, laid.quilt.kit.thread.colour, raster.wide)
    picture = Image.fromarray(lit(fabric, found, held, raster.wide, light, back))
    out = io.BytesIO()
    if kind == "png":
        picture.save(out, "PNG", dpi=(INCH / raster.wide, INCH / raster.wide))
    else:
        picture.save(out, "JPEG", quality=88)
    return out.getvalue()


def longer_side(laid: QuiltLayout, px: float) -> int:
    """The number of pixels along the longer side at ``px`` pixels an inch."""
    return max(round(max(laid.top.width, laid.top.height) / INCH * px), 60)


def with_thread(fabric: Picture, sewn: Mask, colour: str, wide: float) -> Picture:
    """The fabric with stitches in the color of a thread, which covers a part of a pixel of ``wide`` mm."""
    share = min(_THREAD / wide, 1.0)
    found = fabric.copy()
    found[sewn] = (fabric[sewn] * (1 - share) + np.array(ImageColor.getrgb(colour)[:3]) * share).astype(
        np.uint8
    )
    return found


def _fabrics(laid: QuiltLayout, raster: Raster, back: bool) -> Picture:
    """The color of the fabric at every pixel, mottled if its print is busy; for the back the backing, mirrored."""
    fabrics = laid.quilt.fabrics
    if back:
        backing = fabrics.get(laid.quilt.backing or "")
        plain = np.asarray(
            Image.new("RGB", (raster.columns, raster.rows), backing.colour if backing else PLAIN)
        )
        return _mottled(
            plain, np.full(plain.shape[:2], bool(backing and backing.print == "busy")), raster.wide
        )
    scale = _FINER / raster.wide
    size = (raster.columns * _FINER, raster.rows * _FINER)
    drawn, busy = Image.new("RGB", size, PLAIN), Image.new("1", size)
    pen, marker = ImageDraw.Draw(drawn), ImageDraw.Draw(busy)
    for part in laid.top.parts.values():
        for patch in part.patches.values():
            fabric = fabrics.get(patch.fabric)
            for placing in part.places.values():
                for polygon in getattr(patch.area, "geoms", [patch.area]):
                    placed = place_all(placing, np.asarray(polygon.exterior.coords)[:, :2])
                    at = np.column_stack([placed[:, 0] * scale, drawn.height - placed[:, 1] * scale])
                    outline = [(x, y) for x, y in at.tolist()]
                    pen.polygon(outline, fill=fabric.colour if fabric else PLAIN)
                    marker.polygon(outline, fill=int(bool(fabric and fabric.print == "busy")))
    smooth = np.asarray(drawn.resize((raster.columns, raster.rows), Image.Resampling.BOX))
    return _mottled(smooth, np.asarray(busy)[::_FINER, ::_FINER], raster.wide)


def _mottled(fabric: Picture, busy: Mask, wide: float) -> Picture:
    """A busy print as lighter and darker spots, the same every time."""
    if not busy.any():
        return fabric
    rows, columns = busy.shape
    cell = max(round(_SPOT / wide), 1)
    small = np.random.default_rng(1).standard_normal((-(-rows // cell) + 2, -(-columns // cell) + 2))
    large = Image.fromarray(small.astype(np.float32)).resize(
        (small.shape[1] * cell, small.shape[0] * cell), Image.Resampling.BICUBIC
    )
    spots = np.sign(np.asarray(large)[:rows, :columns]) * _MOTTLED
    return np.asarray(np.clip(fabric * (1 + spots * busy)[:, :, None], 0, 255), dtype=np.uint8)
