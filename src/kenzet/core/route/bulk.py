"""How much of a quilt has to lie in the machine's throat at a place, and which edge should be turned that way."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from kenzet.core.geom.affine import place_all
from kenzet.core.route.needle import roll
from kenzet.core.top.layout import Part
from kenzet.core.top.quilt_layout import QuiltLayout

_MOST = 0.6  # of the quilt's width: what is wider lies on both sides of the needle anyway


@dataclass(frozen=True, slots=True)
class InThroat:
    """With the quilt's ``edge`` towards the machine's body, at most ``width`` mm lie there, ``thick`` mm when
    rolled up (F43)."""

    edge: Literal["left", "right", "top", "bottom"]
    width: float
    thick: float


def least_in_throat(laid: QuiltLayout, part: Part, place: str) -> InThroat | None:
    """The edge with which the least of the quilt lies in the throat; None for parts that cover most of the quilt."""
    outline = np.array([(0.0, 0.0), (part.width, 0.0), (part.width, part.height), (0.0, part.height)])
    corners = place_all(part.places[place], outline)
    (left, low), (right, high) = corners.min(axis=0).tolist(), corners.max(axis=0).tolist()
    wide, tall = laid.top.width, laid.top.height
    if right - left > _MOST * wide and high - low > _MOST * tall:
        return None
    within: dict[Literal["left", "right", "top", "bottom"], float] = {
        "right": wide - left,
        "left": right,
        "top": tall - low,
        "bottom": high,
    }
    edge = min(within, key=lambda one: round(within[one], 3))
    return InThroat(edge, within[edge], roll(within[edge], float(laid.quilt.kit.batting.thickness.mm)))
