"""Whether a photograph shows the block it is said to show."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import cv2
import numpy as np
import shapely

from kenzet.core.geom.affine import invert, place_all
from kenzet.core.geom.region import Floats
from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.sides import Frame
from kenzet.core.inspect.view import MARGIN, Flat
from kenzet.core.numbers.robust import trend
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.quilt_layout import QuiltLayout

Fault = Literal["", "another block", "too little seen"]
_FAR = 2.2  # mm: lines of another block are found anywhere in their bands
_FAR_SHARE = 0.25
_DRIFTS = 5  # lines: a set of so many may have drifted
_WELL_SEEN = 0.6
_LEAST_SEEN, _FEWEST = 0.15, 3
_SEAMS_FOUND = 0.15
_ENOUGH_SEAMS = 4
_UNEVEN = 0.22  # between the quartiles of how light one patch is, as a share
_CELL = 4.0  # mm: larger than a print's figures
_CELLS = 12


def fault(
    laid: QuiltLayout, frame: Frame, flat: Flat, lines: Sequence[Finding], seams: Sequence[Finding]
) -> Fault:
    """The reason why it does not, or none. ``seams`` are the findings for seams inside the frame between different
    fabrics."""
    seen = [one for one in lines if not one.unseen]
    share = _length(seen) / max(_length(lines), EQUAL)
    far = _astray(seen)
    if len(seen) >= 2 and _length(far) > _FAR_SHARE * _length(seen):
        return "another block"
    found = sum(not one.unseen for one in seams) / max(len(seams), 1)
    told_by_seams = len(seams) >= _ENOUGH_SEAMS
    if share < _WELL_SEEN and told_by_seams and found < _SEAMS_FOUND:
        return "another block"
    if share < _WELL_SEEN and _patches_differ_within(laid, frame, flat):
        return "another block"
    if (len(seen) < _FEWEST or share < _LEAST_SEEN) and not (told_by_seams and found > 1 / 2):
        return "too little seen"
    return ""


def _astray(seen: Sequence[Finding]) -> list[Finding]:
    """Findings far from where the other lines of their set predict them; a set as a whole may drift."""
    sets: dict[tuple[str, int], list[Finding]] = {}
    for one in seen:
        sets.setdefault(one.side.set, []).append(one)
    found = []
    for mine in sets.values():
        rows = np.array([one.side.row for one in mine], dtype=float)
        aside = np.array([one.offset for one in mine])
        if len(np.unique(rows)) >= _DRIFTS:
            slope, level = trend(rows, aside)
            expected = level + slope * rows
            aside = aside - (expected if np.abs(expected).min() < _FAR else 0.0)  # it begins near its plan
        found += [one for one, out in zip(mine, aside.tolist(), strict=True) if abs(out) > _FAR]
    return found


def _length(some: Sequence[Finding]) -> float:
    return sum(one.side.length for one in some)


def _patches_differ_within(laid: QuiltLayout, frame: Frame, flat: Flat) -> bool:
    """Whether most patches that should be one fabric contain both light and dark areas in the picture."""
    if frame.place not in laid.top.at:
        return False
    part = laid.top.at[frame.place]
    placing, _, _ = laid.frame_of(frame.place)
    step = max(round(_CELL * flat.px), 1)
    cells = cv2.resize(
        flat.light, (flat.light.shape[1] // step, flat.light.shape[0] // step), interpolation=cv2.INTER_AREA
    )
    columns, rows = np.meshgrid(np.arange(cells.shape[1]), np.arange(cells.shape[0]))
    x = (columns + 1 / 2) * step / flat.px - MARGIN
    y = frame.height + MARGIN - (rows + 1 / 2) * step / flat.px
    uneven = judged = 0.0
    for patch in part.patches.values():
        area = shapely.transform(
            patch.area,
            lambda points: _in_frame(place_all(part.places[frame.place], points), placing),
        )
        inside = cells[shapely.contains_xy(shapely.buffer(area, -_CELL / 2), x, y)]
        if len(inside) < _CELLS:
            continue
        low, middle, high = np.quantile(inside, [0.25, 0.5, 0.75])
        judged += area.area
        uneven += area.area * bool((high - low) / max(middle, 1) > _UNEVEN)
    return uneven > judged / 2


def _in_frame(points: Floats, placing) -> Floats:  # type: ignore[no-untyped-def]
    return np.array([invert(placing, (x, y)) for x, y in points.tolist()])
