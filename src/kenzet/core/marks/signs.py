"""Small signs, of our own design, that name a freehand texture in the middle of its zone.

A sign consists of strokes in a unit square, drawn ``SIZE`` mm high.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kenzet.core.fills.base import Fill
from kenzet.core.geom.region import Floats, Point, Region

SIZE = 9.0
_TURN = np.linspace(0, 2 * np.pi, 25)
_ALONG = np.linspace(0, 1, 25)


def _round(x: float, y: float, r: float) -> Floats:
    return np.stack([x + r * np.cos(_TURN), y + r * np.sin(_TURN)], axis=1)


def _wavy(high: float, turns: float = 1.0, y: float = 0.5) -> Floats:
    return np.stack([_ALONG, y + high * np.sin(turns * _TURN)], axis=1)


def _wound(turns: float) -> Floats:
    return np.stack(
        [
            0.5 + (0.48 - 0.4 * _ALONG) * np.cos(turns * _TURN),
            0.5 + (0.48 - 0.4 * _ALONG) * np.sin(turns * _TURN),
        ],
        axis=1,
    )


def _of(*points: Point) -> Floats:
    return np.array(points)


STROKES: dict[str, tuple[Floats, ...]] = {
    "meander": (_wavy(0.3, 1.5),),
    "pebbles": (_round(0.25, 0.3, 0.22), _round(0.72, 0.3, 0.2), _round(0.5, 0.72, 0.22)),
    "inward spirals": (_wound(3),),
    "wiggly echoes": (_wavy(0.12, 2, 0.3), _wavy(0.12, 2, 0.7)),
    "folded ribbon": (_of((0, 0.2), (0.7, 0.2), (0.3, 0.8), (1, 0.8)),),
    "looped v": (_of((0, 1), (0.4, 0.25)), _round(0.5, 0.14, 0.14), _of((0.6, 0.25), (1, 1))),
    "loops on a wave": (_wavy(0.1, 1, 0.2), _round(0.25, 0.6, 0.2), _round(0.75, 0.6, 0.2)),
    "back and forth": (_of((0, 0.15), (1, 0.15), (1, 0.5), (0, 0.5), (0, 0.85), (1, 0.85)),),
    "flowers": tuple(_round(0.5 + 0.28 * x, 0.5 + 0.28 * y, 0.2) for x, y in ((1, 0), (0, 1), (-1, 0), (0, -1))),
    "feathers": (_of((0.5, 0), (0.5, 1)), *(_of((0.5, y), (x, y + 0.3)) for y in (0.1, 0.4, 0.7) for x in (0.1, 0.9))),
    "ovals on a spine": (_of((0.5, 0), (0.5, 1)), _round(0.28, 0.5, 0.2), _round(0.72, 0.5, 0.2)),
    "doubled swirls": (_wound(2), _round(0.5, 0.5, 0.12)),
    "double s": (_wavy(0.22, 1, 0.32), _wavy(0.22, 1, 0.68)),
}  # fmt: skip


@dataclass(frozen=True, eq=False)
class Sign:
    """``strokes`` are in the part's coordinates, mm; ``at`` is their center and ``names`` the texture."""

    names: str
    at: Point
    strokes: tuple[Floats, ...]


def sign_of(piece: Region, fill: Fill) -> Sign:
    """The sign of a freehand texture inside ``piece``, smaller where the piece is narrow."""
    at = piece.area.geoms[0].representative_point()
    names = str(getattr(fill, "texture", "meander"))
    size = min(SIZE, 1.4 * piece.inradius)
    strokes = tuple((stroke - 0.5) * size + (at.x, at.y) for stroke in STROKES[names])
    return Sign(names, (at.x, at.y), strokes)
