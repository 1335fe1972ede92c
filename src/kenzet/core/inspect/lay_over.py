"""Aligns the plan with a photograph: first by the corners that were clicked, then by seams and by lines known to be
straight.

A click is some tenths of a mm off, and a lens bends straight lines. Seams between two fabrics are visible over
their whole length: a least-squares fit (Gauss-Newton with Huber weights) moves the four corners and finds the
distortion, such that seams lie on their plan and straight lines of stitches are straight, within what the clicks
allow.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from kenzet.core.geom.affine import invert, place_all
from kenzet.core.geom.region import Floats
from kenzet.core.inspect.find import Finding, find_seam, findings
from kenzet.core.inspect.sides import LEAST_SIDE, Frame
from kenzet.core.inspect.view import Flat, Pixels, View, flat_of
from kenzet.core.tolerances import EQUAL, NUDGE, SNAP
from kenzet.core.top.quilt_layout import QuiltLayout

_CLICK, _SEAM, _WOBBLE = 0.6, 0.35, 0.3  # mm: how far each may be out
_BEND = 0.04  # of a lens
_HUBER = 1.5  # standard deviations
_ROUNDS = 6
_FEWEST = 24  # spots: with fewer the corners stay where she clicked them

_LONGEST = 40  # lines: they tell whether the lens bends


@dataclass(frozen=True, eq=False)
class LaidOver:
    """The camera view, the flattened frame, where its sides were found, and the seams inside the frame, found or
    not."""

    view: View
    flat: Flat
    findings: list[Finding]
    inner_seams: list[Finding]


def seams_in(laid: QuiltLayout, frame: Frame) -> list[Floats]:
    """The straight seams between different fabrics in a frame, (2, 2) mm each; its outline is one of them."""
    if frame.place not in laid.top.at:
        return []
    part = laid.top.at[frame.place]
    placing, _, _ = laid.frame_of(frame.place)
    sides: dict[tuple[float, ...], list[str]] = {}
    for patch in part.patches.values():
        ring = shapely.get_coordinates(
            shapely.simplify(shapely.get_exterior_ring(shapely.get_parts(patch.area)[0]), 0)
        )
        points = np.array(
            [invert(placing, (x, y)) for x, y in place_all(part.places[frame.place], ring).tolist()]
        )
        for a, b in zip(points[:-1].round(3).tolist(), points[1:].round(3).tolist(), strict=True):
            sides.setdefault((*min(a, b), *max(a, b)), []).append(patch.fabric)
    found = []
    for ends, fabrics in sides.items():
        path = np.array(ends).reshape(2, 2)
        if np.hypot(*(path[1] - path[0])) >= LEAST_SIDE and (_on_rim(frame, path) or len(set(fabrics)) > 1):
            found.append(path)
    return found


def laid_over(
    photo: Pixels, corners: Floats, laid: QuiltLayout, frame: Frame, once: bool = False
) -> LaidOver:
    """``corners`` (4, 2) px as clicked, in the order of ``View.of``; with ``once``, they are not refined."""
    size, pixels = (frame.width, frame.height), (photo.shape[1], photo.shape[0])
    view = View.of(corners, size, pixels)
    flat = flat_of(photo, view, size)
    every = [find_seam(flat, path) for path in seams_in(laid, frame)]
    inner = [one for one in every if not _on_rim(frame, one.side.path)]
    seams = [one for one in every if not one.unseen]
    if not once:
        long = sorted((one for one in frame.sides if len(one.path) == 2), key=lambda one: -one.length)[
            :_LONGEST
        ]
        lines = [one for one in findings(flat, long) if not one.unseen]
        better = _fitted(view, corners, size, pixels, seams, lines)
        if better is not None:
            view, flat = better, flat_of(photo, better, size)
    return LaidOver(view, flat, findings(flat, frame.sides), inner)


def _on_rim(frame: Frame, path: Floats) -> bool:
    rim = shapely.box(0, 0, frame.width, frame.height).exterior
    return bool(shapely.distance(rim, shapely.points(path)).max() < SNAP)


def _fitted(
    view: View,
    corners: Floats,
    size: tuple[float, float],
    pixels: tuple[int, int],
    seams: Sequence[Finding],
    lines: Sequence[Finding],
) -> View | None:
    """The refined view; None if too few sides are seen."""
    straight = [
        one for one in lines if len(one.side.path) == 2 and one.spots is not None and len(one.spots) > 3
    ]
    groups = [_group(view, one) for one in (*seams, *straight)]
    if sum(len(seen) for seen, _, _ in groups) < _FEWEST:
        return None
    ends = [len(seams) > k for k in range(len(groups))]
    scale = float(np.hypot(*(corners[1] - corners[0]))) / size[0]

    def view_by(values: Floats) -> View:
        return View.of(corners + values[:8].reshape(4, 2) * scale, size, pixels, float(values[8]))

    def residuals(values: Floats) -> Floats:
        seen_by = view_by(values)
        rest = [values[:8] / _CLICK, values[8:] / _BEND]
        for (seen, planned, normal), absolute in zip(groups, ends, strict=True):
            aside = ((seen_by.to_frame(seen) - planned) * normal).sum(axis=1)
            if absolute:
                rest.append(aside / _SEAM)
            else:
                far = np.arange(len(aside)) - (len(aside) - 1) / 2
                slope = (far * aside).sum() / (far**2).sum()
                rest.append((aside - aside.mean() - slope * far) / _WOBBLE)
        return np.concatenate(rest)

    values = np.zeros(9)
    steps = np.diag([NUDGE] * 9)
    for _ in range(_ROUNDS):
        now = residuals(values)
        slopes = np.stack([(residuals(values + step) - now) / NUDGE for step in steps], axis=1)
        weight = np.sqrt(np.minimum(1, _HUBER / np.maximum(np.abs(now), EQUAL)))
        weight[:9] = 1
        move = np.linalg.lstsq(slopes * weight[:, None], -now * weight, rcond=None)[0]
        values = values + move
    return view_by(values)


def _group(view: View, finding: Finding) -> tuple[Floats, Floats, Floats]:
    """For every spot of a finding along a straight side: its pixel, its place on the plan, and the normal there."""
    assert finding.spots is not None
    start, end = finding.side.path
    way = (end - start) / np.hypot(*(end - start))
    normal = np.array([-way[1], way[0]])
    planned = start + finding.spots[:, :1] * way
    return (
        view.to_photo(planned + finding.spots[:, 1:] * normal),
        planned,
        np.broadcast_to(normal, planned.shape),
    )
