"""Lengths, centers and chords of many sides at once, straight or arcs.

Glossary: a *side* leaves a vertex (x, y, bulge) for the next one, ``ahead`` (x, y); its bulge is the tangent of a
quarter of its angle, as in ``arcs``. Lengths are mm, angles radians; one row a side.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from kenzet.core.tolerances import CURVE_ERROR, LEAST_STEP, ROUNDING, SNAP

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Flags = NDArray[np.bool_]

_SOFT_TURN = math.radians(8.1)
_LEAST_CHORDS = 4


def far(dx: Floats, dy: Floats) -> Floats:
    """Euclidean length; quicker than ``np.hypot``, which guards against overflow that cannot happen here."""
    return np.asarray(np.sqrt(dx * dx + dy * dy))


def turned(arm: Floats, turn: Floats) -> Floats:
    """``arm`` (n, 2) rotated counter-clockwise by ``turn`` (n,)."""
    cos, sin, (x, y) = np.cos(turn), np.sin(turn), arm.T
    found = np.empty_like(arm)
    found[:, 0], found[:, 1] = x * cos - y * sin, x * sin + y * cos
    return found


def arc_lengths(chords: Floats, bulges: Floats) -> Floats:
    """The length of each arc over its chord: chord · (1 + b²) · arctan(b) / b."""
    bulge = np.abs(bulges)
    bent = bulge > ROUNDING
    safe = np.where(bent, bulge, 1.0)
    return np.asarray(chords * np.where(bent, np.arctan(safe) * (1 + safe * safe) / safe, 1.0))


def arcs(vertices: Floats, ahead: Floats) -> tuple[Flags, Floats, Floats]:
    """For each side: whether it rises over its chord by more than ``SNAP``, its center (n, 2) and its angle (0 for
    straight sides)."""
    begin, bulge = vertices[:, :2], vertices[:, 2]
    way = ahead - begin
    bent = np.abs(bulge) * far(way[:, 0], way[:, 1]) / 2 > SNAP
    reach = (1 - bulge * bulge) / (
        4 * np.where(bent, bulge, 1.0)
    )  # F24: times the chord turned a quarter to the left
    centre = begin + way / 2
    centre[:, 0] -= way[:, 1] * reach
    centre[:, 1] += way[:, 0] * reach
    return bent, centre, np.where(bent, 4 * np.arctan(bulge), 0.0)


@dataclass(frozen=True, slots=True)
class Chords:
    """Sides as drawn. For each chord: the ``side`` it belongs to, the ``share`` of that side at which it begins,
    the share that it covers (``step``), its ``begin`` and its ``end`` (n, 2)."""

    side: Ints
    share: Floats
    step: Floats
    begin: Floats
    end: Floats


def chords(vertices: Floats, ahead: Floats) -> Chords:
    """Sides divided into chords that stray from the arc by at most ``CURVE_ERROR``; a straight side is one chord."""
    if not vertices[:, 2].any():
        side = np.arange(len(vertices))
        return Chords(side, np.zeros(len(side)), np.ones(len(side)), vertices[:, :2], ahead)
    bent, centre, angle = arcs(vertices, ahead)
    count = np.ones(len(vertices), dtype=np.int64)
    radius = far(*(vertices[bent, :2] - centre[bent]).T)
    step = 2 * np.arccos(np.clip(1 - CURVE_ERROR / np.maximum(radius, CURVE_ERROR), 0.0, 1.0))
    wanted = np.ceil(np.abs(angle[bent]) / np.clip(step, LEAST_STEP, _SOFT_TURN))
    count[bent] = np.maximum(_LEAST_CHORDS, wanted)
    side = np.repeat(np.arange(len(vertices)), count)
    last = np.cumsum(count) - 1
    covers = 1.0 / count[side]
    share = (np.arange(len(side)) - (last - count + 1)[side]) * covers
    begin = vertices[side, :2]
    inner = np.flatnonzero(share > 0.0)
    of = side[inner]
    begin[inner] = centre[of] + turned(begin[inner] - centre[of], angle[of] * share[inner])
    end = np.concatenate([begin[1:], begin[:1]])
    end[last] = ahead
    return Chords(side, share, covers, begin, end)
