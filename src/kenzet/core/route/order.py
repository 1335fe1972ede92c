"""The order of places: the quilter's school, from block to block.

Glossary: places whose centers are within one *band* count as one row; lengths are mm.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np

from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Point
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import Order
from kenzet.core.top.zone import TOP

_MID = 0.5


def in_order(laid: QuiltLayout, places: Sequence[tuple[int, str]]) -> list[tuple[int, str]]:
    """Blocks first, in the chosen order, then what lies between and around them, then what crosses the whole top.
    Places that were dragged into an order come first, in that order."""
    if laid.quilt.stitching.order == "my own":
        rank = {place: k for k, place in enumerate(laid.quilt.stitching.own)}
        rest = in_order_of(laid, [one for one in places if one[1] not in rank], "centre outward")
        return [*sorted((one for one in places if one[1] in rank), key=lambda one: rank[one[1]]), *rest]
    return in_order_of(laid, places, laid.quilt.stitching.order)


def in_order_of(laid: QuiltLayout, places: Sequence[tuple[int, str]], order: Order) -> list[tuple[int, str]]:
    """The places in the order of one school."""
    blocks = [
        one
        for one in places
        if one[1] in laid.quilt.parts_at and laid.quilt.parts_at[one[1]] in laid.quilt.blocks
    ]
    others = [one for one in places if one not in set(blocks)]
    others.sort(key=lambda one: (one[1] == TOP, one[1]))
    middles = {place: _middle(laid, place) for _, place in blocks}
    if laid.quilt.kit.machine.throat == "left":  # what is sewn moves out of the throat
        middles = {place: (laid.top.width - x, y) for place, (x, y) in middles.items()}
    sizes = [min(laid.top.at[place].width, laid.top.at[place].height) for _, place in blocks]
    band = _MID * min(sizes, default=1.0)
    keys = _ORDERS[order](middles, laid.middle, band)
    return [*sorted(blocks, key=lambda one: keys[one[1]]), *others]


def _middle(laid: QuiltLayout, place: str) -> Point:
    part = laid.top.at[place]
    x, y = place_all(part.places[place], np.array([part.centre]))[0].tolist()
    return x, y


Keys = dict[str, tuple[float, ...]]


def _rows(middles: dict[str, Point], band: float, along: int, upwards: bool) -> Keys:
    """Row by row (column by column if ``along`` is 1), back and forth."""
    across = sorted({round(at[1 - along] / band) for at in middles.values()}, reverse=not upwards)
    number = {row: k for k, row in enumerate(across)}
    found: Keys = {}
    for place, at in middles.items():
        row = number[round(at[1 - along] / band)]
        found[place] = (float(row), at[along] if row % 2 == 0 else -at[along])
    return found


def _outward(middles: dict[str, Point], middle: Point, band: float) -> Keys:
    """Ring by ring around the center; within a ring always the nearest to the last."""
    away = {place: max(abs(x - middle[0]), abs(y - middle[1])) for place, (x, y) in middles.items()}
    left = dict(sorted(middles.items(), key=lambda one: one[1]))
    found: Keys = {}
    here = middle
    while left:
        least = min(round(away[place] / band) for place in left)
        ring = [place for place in left if round(away[place] / band) == least]
        place = min(ring, key=lambda one: round(math.dist(left[one], here) / band))
        here = left.pop(place)
        found[place] = (float(len(found)),)
    return found


_ORDERS: dict[Order, Callable[[dict[str, Point], Point, float], Keys]] = {
    "centre outward": _outward,
    "edge to edge": lambda middles, middle, band: _rows(middles, band, 0, upwards=False),
    "column by column": lambda middles, middle, band: _rows(middles, band, 1, upwards=True),
    "from the bottom": lambda middles, middle, band: _rows(middles, band, 0, upwards=True),
}
