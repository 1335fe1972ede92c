"""A planned block for the stand-in of a camera, which sews and photographs it: its fabrics and its sides."""

from __future__ import annotations

from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from kenzet.core.geom.affine import place_all, unplaced
from kenzet.core.inspect.sides import Frame
from kenzet.core.relief.cloth import batting_heights
from kenzet.core.top.fabric_color import PLAIN
from kenzet.core.top.quilt_layout import QuiltLayout


def fabric_at(laid: QuiltLayout, frame: Frame, px: float) -> tuple[NDArray[np.uint8], NDArray[np.bool_]]:
    """The fabrics in the frame, ``px`` pixels a mm, (rows, columns, 3), and where their print is busy."""
    placing, width, height = laid.frame_of(frame.place)
    size = round(width * px), round(height * px)
    drawn, busy = Image.new("RGB", size, PLAIN), Image.new("1", size)
    pen, marker = ImageDraw.Draw(drawn), ImageDraw.Draw(busy)
    box = shapely.box(0, 0, width, height)
    for part in laid.top.parts.values():
        for place, lies in part.places.items():
            if frame.place in laid.top.at and place != frame.place:
                continue
            for patch in part.patches.values():
                moved = shapely.transform(patch.area, lambda points, lies=lies: place_all(lies, points))
                inside = unplaced(placing, moved).intersection(box)
                fabric = laid.quilt.fabrics.get(patch.fabric)
                for polygon in getattr(inside, "geoms", [inside]):
                    if polygon.geom_type != "Polygon" or polygon.is_empty:
                        continue
                    outline = np.asarray(polygon.exterior.coords)[:, :2]
                    at = [(x, y) for x, y in (np.array([0, height]) + outline * [1, -1]).dot(px).tolist()]
                    pen.polygon(at, fill=fabric.colour if fabric else PLAIN)
                    marker.polygon(at, fill=int(bool(fabric and fabric.print == "busy")))
    return np.asarray(drawn), np.asarray(busy)


def told_sides(frame: Frame) -> list[dict[str, Any]]:
    """Every side of the frame, including those too short to be measured: its identity, its position in its set,
    and its path."""
    every = (*frame.sides, *frame.short)
    first: dict[tuple[str, int], int] = {}
    for side in every:
        first[side.set] = min(first.get(side.set, side.row), side.row)
    return [
        {
            "who": {
                "drawing": side.word,
                "line": side.line,
                "side": side.number,
                "length": round(side.length, 3),
            },
            "rank": side.row - first[side.set],
            "path": side.path,
        }
        for side in every
    ]


def sewn_block_parts(laid: QuiltLayout, frame: Frame, px: float) -> dict[str, Any]:
    """The input of the camera stand-in: sizes, ``fabric`` and ``busy`` at ``px`` pixels a mm, ``sides``, and the
    height of the cloth between stitches on the quilt's batting."""
    fabric, busy = fabric_at(laid, frame, px)
    batting = laid.quilt.kit.batting
    return {
        "width": frame.width, "height": frame.height, "fabric": fabric, "busy": busy, "sides": told_sides(frame),
        "raised": lambda held, pixel: batting_heights(held, pixel, batting),
    }  # fmt: skip
