"""The quilted cloth under raking light as a picture file: patches in their fabrics, raised by the relief."""

from __future__ import annotations

import io
from typing import Literal

import numpy as np
from PIL import Image, ImageDraw

from kenzet.core.geom.affine import place_all
from kenzet.core.numbers.measure import INCH
from kenzet.core.relief.cloth import Light, Picture, Raster, cloth_heights, lit
from kenzet.core.top.fabric_color import PLAIN
from kenzet.core.top.quilt_layout import QuiltLayout

_FINER = 2  # times the raster, when patches are drawn: their edges are smooth then
Kind = Literal["png", "jpeg"]


def relief_picture(
    laid: QuiltLayout, longer: int, light: Light = "upper left", back: bool = False, kind: Kind = "jpeg"
) -> bytes:
    """With ``longer`` pixels along the longer side, or as many as the finest raster has."""
    raster = Raster.over(laid, longer)
    found, held = cloth_heights(laid, raster)
    picture = Image.fromarray(lit(_fabrics(laid, raster, back), found, held, raster.wide, light, back))
    out = io.BytesIO()
    if kind == "png":
        picture.save(out, "PNG", dpi=(INCH / raster.wide, INCH / raster.wide))
    else:
        picture.save(out, "JPEG", quality=88)
    return out.getvalue()


def longer_side(laid: QuiltLayout, px: float) -> int:
    """How many pixels the longer side has at ``px`` an inch."""
    return max(round(max(laid.top.width, laid.top.height) / INCH * px), 60)


def _fabrics(laid: QuiltLayout, raster: Raster, back: bool) -> Picture:
    """The color of the fabric at every pixel; on the back that of the backing."""
    fabrics = laid.quilt.fabrics
    if back:
        backing = fabrics.get(laid.quilt.backing or "")
        plain = Image.new("RGB", (raster.columns, raster.rows), backing.colour if backing else PLAIN)
        return np.asarray(plain)
    scale = _FINER / raster.wide
    drawn = Image.new("RGB", (raster.columns * _FINER, raster.rows * _FINER), PLAIN)
    pen = ImageDraw.Draw(drawn)
    for part in laid.top.parts.values():
        for patch in part.patches.values():
            fabric = fabrics.get(patch.fabric)
            for placing in part.places.values():
                for polygon in getattr(patch.area, "geoms", [patch.area]):
                    placed = place_all(placing, np.asarray(polygon.exterior.coords)[:, :2])
                    at = np.column_stack([placed[:, 0] * scale, drawn.height - placed[:, 1] * scale])
                    pen.polygon([(x, y) for x, y in at.tolist()], fill=fabric.colour if fabric else PLAIN)
    return np.asarray(drawn.resize((raster.columns, raster.rows), Image.Resampling.BOX))
