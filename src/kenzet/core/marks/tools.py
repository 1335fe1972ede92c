"""Marking tools: which shows on a fabric, how its marks are removed, what they must not touch, how much to mark at a
time.

Colors are compared in OKLab, where equal distances look equally different; the limits are our choice.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from coloraide import Color

from kenzet.core.kit.things.base import Thing
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.drawing import Drawing
from kenzet.core.top.document import Quilt
from kenzet.texts import tr

WELL, FAINT = 0.27, 0.13
_LEAST = 1.0  # mm²
PACE_MM_H = INCH * 45 * 60 * 0.4
"""Length of line sewn in an hour, including placing and turning: two fifths of 45 in a minute."""
Shows = Literal["shows well", "is faint", "is hardly seen"]

_NAMES = {
    "white": "#ffffff", "black": "#111111", "blue": "#2f6fd0", "red": "#c8322b", "pink": "#e58aa5", "yellow": "#f2d64b",
    "green": "#3f8f57", "purple": "#7a4fa3", "violet": "#7a4fa3", "orange": "#e08a2e", "brown": "#7a5332", "grey": "#8a8a8a",
    "gray": "#8a8a8a", "silver": "#c0c0c0",
}  # fmt: skip

_CARE: dict[str, tuple[str, str]] = {
    "pen that washes out": (tr("Comes off with cold water."), tr("No iron and no soap before the mark is out: they set it.")),
    "pen that fades": (tr("Fades by itself."), tr("Damp and light take it sooner; an iron can set it. Mark only what you sew before it goes.")),
    "chalk": (tr("Brushes off."), tr("Handling rubs it away: mark a little at a time.")),
    "powder": (tr("Pats and brushes off."), tr("No iron and no damp: they set some powders. Pat, do not rub.")),
    "pencil": (tr("Washes out, slowly."), tr("Mark lightly; hard strokes stay.")),
    "crease": (tr("Disappears when pressed or damp."), tr("A crease has no color: it shows in slanting light, and on cotton only.")),
    "heat pen": (tr("An iron takes it off."), tr("Cold may bring the mark back: wash it out at the end.")),
}  # fmt: skip


def apart(one: str, other: str) -> float:
    """The difference of two colors (#rrggbb): 1 from black to white.

    >>> round(apart("#ffffff", "#000000"), 2), apart("#336699", "#336699")
    (1.0, 0.0)
    """
    return float(Color(one).delta_e(other, method="ok"))


def colour_of(marker: Marker) -> str | None:
    """Its color as #rrggbb; None if it has none, or its name is unknown."""
    said = marker.colour.strip().lower()
    if marker.sort == "crease":
        return None
    return said if len(said) == 7 and said[0] == "#" else _NAMES.get(said.split(" ")[-1])


def choices(tools: Mapping[str, Thing], fabrics: Sequence[tuple[str, str, str]]) -> list[MarkerChoice]:
    """The marking tools for ``fabrics`` (name, #rrggbb, print), sorted by how well they show on their worst
    fabric."""
    found = []
    for key, tool in tools.items():
        if not isinstance(tool, Marker) or tool.state != "at hand":
            continue
        colour = colour_of(tool)
        if colour is None or not fabrics:
            found.append((FAINT, MarkerChoice(key, tool, None, "")))
            continue
        least, name = min((_seen(colour, its, kind), name) for name, its, kind in fabrics)
        shows: Shows = "shows well" if least >= WELL else "is faint" if least >= FAINT else "is hardly seen"
        found.append((least, MarkerChoice(key, tool, shows, name)))
    return [choice for _, choice in sorted(found, key=lambda pair: -pair[0])]


def _seen(colour: str, fabric: str, kind: str) -> float:
    """The visible difference; a busy print hides half of it."""
    return apart(colour, fabric) * (0.5 if kind == "busy" else 1.0)


def care(marker: Marker) -> tuple[str, str]:
    """How its marks are removed, and what they must not touch."""
    return _CARE[marker.sort]


def batch(marker: Marker, lengths: Iterable[float]) -> int | None:
    """F39: how many lines can be sewn before their marks fade; None if they stay."""
    long = [length for length in lengths if length > 0]
    if marker.hours is None or not long:
        return None
    return max(math.floor(marker.hours * PACE_MM_H / (sum(long) / len(long))), 1)


def fabrics_of(quilt: Quilt, drawing: Drawing) -> list[tuple[str, str, str]]:
    """Name, color and print of every fabric under the drawing."""
    patches = drawing.shape.part.patches.values()
    keys = dict.fromkeys(
        patch.fabric for patch in patches if patch.area.intersection(drawing.region.area).area > _LEAST
    )
    found = (quilt.fabrics[key] for key in keys if key in quilt.fabrics)
    return [(fabric.name, fabric.colour, fabric.print) for fabric in found]


@dataclass(frozen=True, slots=True)
class MarkerChoice:
    """A marking tool for a zone, and how it shows on the fabric where it shows least."""

    key: str
    marker: Marker
    shows: Shows | None
    worst: str

    @property
    def fits(self) -> bool:
        """Whether it shows well everywhere."""
        return self.shows in (None, "shows well")
