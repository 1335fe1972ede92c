"""In which pass over the quilt lines are sewn: what lies in the ditch first or last, and what is sewn with one foot together."""

from __future__ import annotations

from typing import NamedTuple

from kenzet.core.drawing import Drawing
from kenzet.core.kit.kit import Kit
from kenzet.core.top.stitching import Stitching


class Pass(NamedTuple):
    """Passes follow each other in order of ``ditch`` (0 before the rest, 2 after it), then the walking foot comes before others."""

    ditch: int
    later: bool
    foot: str


def pass_of(stitching: Stitching, kit: Kit, drawing: Drawing) -> Pass:
    """The pass in which ``drawing`` is sewn."""
    rank = 1
    if stitching.ditch != "with the rest" and drawing.fill.in_the_ditch:
        rank = 0 if stitching.ditch == "first" else 2
    return Pass(rank, kit.sew_with != "walking foot", kit.sew_with)
