"""In which pass over the quilt lines are sewn: what lies in the ditch first or last, and what is sewn with one foot together."""

from __future__ import annotations

from typing import NamedTuple

from kenzet.core.drawing import Drawing
from kenzet.core.kit.kit import Kit
from kenzet.core.top.stitching import Stitching


class Pass(NamedTuple):
    """Passes follow each other in order of ``ditch`` (0 before the rest, 2 after it), then the walking foot comes before others, then
    one ``family`` of lines before the next.
    """

    ditch: int
    later: bool
    foot: str
    family: int


def passes_of(stitching: Stitching, kit: Kit, drawing: Drawing) -> list[Pass]:
    """The passes in which ``drawing`` is sewn: one, or one for each of its families where she sews them one by one."""
    rank = 1
    if stitching.ditch != "with the rest" and drawing.fill.in_the_ditch:
        rank = 0 if stitching.ditch == "first" else 2
    many = len(drawing.straight) if stitching.families == "one by one" and has_families(drawing) else 1
    return [Pass(rank, kit.sew_with != "walking foot", kit.sew_with, family) for family in range(many)]


def has_families(drawing: Drawing) -> bool:
    """Whether it consists of straight families only, and of more than one."""
    return len(drawing.straight) > 1 and not drawing.traces
