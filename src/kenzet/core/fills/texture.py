"""Freehand textures: no exact lines, but a name, a scale, entry and exit, and a density (L42)."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from typing import ClassVar, Literal

import numpy as np

from kenzet.core.fills.base import Family, Figure, Fill, Group, Paths, Site, Surrounds
from kenzet.core.fills.turned import Frame, chance, frame_of
from kenzet.core.numbers.measure import Length
from kenzet.core.params import Choice, Form, asked
from kenzet.texts import tr

Texture = Literal[
    "meander", "pebbles", "inward spirals", "wiggly echoes", "folded ribbon", "looped v", "loops on a wave",
    "back and forth", "flowers", "feathers", "ovals on a spine", "doubled swirls", "double s",
]  # fmt: skip
Entry = Literal["edge", "corner", "line"]
Thickness = Literal["open", "usual", "dense"]
_THICK = {"open": 0.7, "usual": 1.0, "dense": 1.4}

_LABELS = {
    "meander": tr("meander"), "pebbles": tr("pebbles"), "inward spirals": tr("inward spirals"), "wiggly echoes": tr("wiggly echoes"),
    "folded ribbon": tr("folded ribbon"), "looped v": tr("looped V"), "loops on a wave": tr("loops on a wave"),
    "back and forth": tr("back and forth"), "flowers": tr("flowers and sprigs"), "feathers": tr("feathers and ferns"),
    "ovals on a spine": tr("ovals on a spine"), "doubled swirls": tr("doubled swirls"), "double s": tr("double S, wedge rays"),
}  # fmt: skip

# sewn length times scale over area: pi over 4 packed rounds for pebbles, retraced half; others from one motif and
# the room it takes. All ours; the log will know better.
_DENSITY = {
    "meander": 1.3, "pebbles": 3.6, "inward spirals": 2.0, "wiggly echoes": 1.6, "folded ribbon": 1.7, "looped v": 1.6,
    "loops on a wave": 1.5, "back and forth": 1.0, "flowers": 3.0, "feathers": 2.4, "ovals on a spine": 2.2,
    "doubled swirls": 2.4, "double s": 1.5,
}  # fmt: skip

_NOTES = {
    "meander": tr("Wander in rows and never cross; travel along the edge when cornered."),
    "pebbles": tr("Slow, eye-catching and stiff: round each pebble, half round again, on to the next."),
    "inward spirals": tr("A dead end: each ends inside. Break there, and do them last."),
    "wiggly echoes": tr("Echo an edge from narrow to wide; they meet in a point."),
    "folded ribbon": tr("Needs practice; loops do instead."),
    "looped v": tr("An angled line, a loop, back beside it; shrink it into the corners."),
    "loops on a wave": tr("The center wave first, then a loop at every crest."),
    "back and forth": tr("The fastest dense fill: straight lines without a ruler."),
    "flowers": tr("Petals, center, echo; keep them simple."),
    "feathers": tr("Along a vein, lobes on both sides; end on a line set beforehand."),
    "ovals on a spine": tr("Stack ovals on both sides after the spine is sewn."),
    "doubled swirls": tr("Swirl in and out beside your own line, thick and thin."),
    "double s": tr("Rays from one corner: less dense inside, more outside."),
}  # fmt: skip


class FreehandTexture(Fill):
    """A placeholder: it counts towards density, time and thread, and is drawn as a light hint."""

    label: ClassVar[str] = tr("Freehand texture")
    help: ClassVar[str] = tr(
        "A freehand texture. It counts in density and thread; the lines only show the look."
    )
    tile: ClassVar[str] = (
        "M2 30Q8 20 14 28T26 26T34 32T46 26T56 31T70 26M2 16Q8 6 14 14T26 12T34 18T46 12T56 17T70 12M30 5A4 4 0 1138 5A4 4 0 1130 5"
    )
    group: ClassVar[Group] = "textures"
    order: ClassVar[int] = 61
    lends_spacing: ClassVar[bool] = False
    lines_are: ClassVar[str] = tr("Exact lines")

    surrounds: ClassVar[Surrounds] = "inside"

    kind: Literal["texture"] = "texture"
    spacing: Length = asked(
        "1/4 in", Form("length", tr("Scale"), tr("The size of a gap, pebble, loop or lobe as you sew it."))
    )
    texture: Texture = asked(
        "meander",
        Form(
            "choice",
            tr("Texture"),
            choices=tuple(Choice(key, label) for key, label in _LABELS.items()),
            after="spacing",
        ),
    )
    thickness: Thickness = asked(
        "usual",
        Form(
            "choice",
            tr("Sewn"),
            choices=(
                Choice("open", tr("loosely")),
                Choice("usual", tr("as usual")),
                Choice("dense", tr("densely")),
            ),
            after="texture",
        ),
    )
    enters: Entry = asked(
        "edge",
        Form(
            "choice", tr("Begin and end"),
            choices=(Choice("edge", tr("anywhere on the edge")), Choice("corner", tr("at a corner")), Choice("line", tr("on an end line"))),
        ),
    )  # fmt: skip

    @classmethod
    def surrounding(cls, spacing: Length, rounds: int) -> FreehandTexture:
        """The default texture."""
        return cls()

    @property
    def claimed_density(self) -> float:
        """mm of stitching for each mm²."""
        return _DENSITY[self.texture] * _THICK[self.thickness] / float(self.spacing.mm)

    def lay_out(self, site: Site) -> Iterable[Family]:
        """A hint: the texture's motif over the zone, the same every time."""
        frame = frame_of(site.region, 0.0, site.region.middle)
        size = max(float(self.spacing.mm) * 2, math.hypot(frame.width, frame.height) / 60)
        yield Paths(tuple(frame.path(rows) for rows in _HINTS[self.texture](frame, size)))

    def notes(self) -> Sequence[str]:
        """How to sew its path."""
        return (_NOTES[self.texture],)

    def figures(self, site: Site) -> Sequence[Figure]:
        """None: its density is shown with the others."""
        return ()


Rows = Iterable[np.ndarray]

_WAVE = 0.5  # the bulge of an arc of a wave


def _levels(frame: Frame, size: float) -> list[float]:
    many = max(int(frame.height / size), 1)
    return [frame.low + (k + 0.5) * frame.height / many for k in range(many)]


def _columns(frame: Frame, size: float) -> list[float]:
    many = max(int(frame.width / size), 1)
    return [frame.left + (k + 0.5) * frame.width / many for k in range(many)]


def _wandering(frame: Frame, size: float) -> Rows:
    dice = chance(7)
    for v in _levels(frame, size):
        us = np.arange(frame.left - size, frame.right + 2 * size, size * 0.8)
        bulges = [dice.uniform(0.5, 1.1) * (1 if k % 2 else -1) for k in range(len(us))]
        yield np.stack([us, [v + dice.uniform(-0.2, 0.2) * size for _ in us], bulges], axis=1)


def _straight(frame: Frame, size: float) -> Rows:
    for v in _levels(frame, size / 2):
        yield np.array([(frame.left - 1, v, 0.0), (frame.right + 1, v, 0.0)])


def _rounds(frame: Frame, size: float) -> Rows:
    dice = chance(5)
    for k, v in enumerate(_levels(frame, size * 0.9)):
        for u in _columns(frame, size):
            r = size * dice.uniform(0.3, 0.5)
            x = u + (size / 2 if k % 2 else 0.0)
            yield np.array([(x - r, v, 1.0), (x + r, v, 1.0), (x - r, v, 0.0)])


def _spirals(frame: Frame, size: float) -> Rows:
    for v in _levels(frame, size * 1.6):
        for u in _columns(frame, size * 1.6):
            radii = [size * 0.7 * (1 - k / 6) for k in range(6)]
            points = [(u + (r if k % 2 else -r), v, 0.9) for k, r in enumerate(radii)]
            yield np.array(points)


def _loops(frame: Frame, size: float) -> Rows:
    r = size * 0.3
    for v in _levels(frame, size * 1.4):
        rows: list[tuple[float, float, float]] = [(frame.left - size, v, 0.0)]
        for u in _columns(frame, size):
            rows += [(u, v, 1.0), (u, v + 2 * r, 1.0), (u, v, 0.0)]
        yield np.array([*rows, (frame.right + size, v, 0.0)])


def _loops_on_waves(frame: Frame, size: float) -> Rows:
    """Loops on every crest of a wave, and below every trough."""
    chord, r = size * 1.6, size * 0.35
    half = math.tan(math.atan(_WAVE) / 2)  # the bulge of half of such an arc
    for v in _levels(frame, 3.2 * size):
        row: list[tuple[float, float, float]] = []
        for k in range(int(frame.width / chord) + 3):
            u, side = frame.left + (k - 1) * chord, 1 if k % 2 else -1
            crest = (u + chord / 2, v + side * _WAVE * chord / 2)
            away = (crest[0], crest[1] + side * 2 * r)
            row += [(u, v, -side * half), (*crest, side * 1.0), (*away, side * 1.0), (*crest, -side * half)]
        yield np.array(row)


def _leaves(frame: Frame, size: float) -> Rows:
    for v in _levels(frame, size * 1.8):
        yield np.array([(frame.left - 1, v, 0.0), (frame.right + 1, v, 0.0)])
        for u in _columns(frame, size * 0.9):
            for side in (1, -1):
                tip = (u + size * 0.5, v + side * size * 0.7)
                yield np.array([(u, v, -0.5 * side), (*tip, -0.5 * side), (u, v, 0.0)])


def _rays(frame: Frame, size: float) -> Rows:
    reach = math.hypot(frame.width, frame.height)
    many = max(int(reach / size), 6)
    for k in range(1, many):
        a = math.radians(90 * k / many)
        u, v = frame.left + reach * math.cos(a), frame.low + reach * math.sin(a)
        middle = ((frame.left + u) / 2, (frame.low + v) / 2)
        yield np.array([(frame.left, frame.low, 0.25), (*middle, -0.25), (u, v, 0.0)])


_HINTS: dict[str, Callable[[Frame, float], Rows]] = {
    "meander": _wandering, "pebbles": _rounds, "inward spirals": _spirals, "wiggly echoes": _wandering,
    "folded ribbon": _loops, "looped v": _loops, "loops on a wave": _loops_on_waves, "back and forth": _straight,
    "flowers": _leaves, "feathers": _leaves, "ovals on a spine": _leaves, "doubled swirls": _spirals, "double s": _rays,
}  # fmt: skip
