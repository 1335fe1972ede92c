"""In which pass over the quilt lines are sewn: what anchors it first, what can wait last, and what is sewn with one foot together."""

from __future__ import annotations

from typing import NamedTuple

from kenzet.core.kit.kit import Kit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.top.stitching import Stitching


class Pass(NamedTuple):
    """Passes follow each other in order of ``turn`` (0 before the rest, 2 after it), then the walking foot comes before others, then
    one ``family`` of lines before the next. Where all else is the same, what is ``freehand`` follows at each place when its lines are
    sewn and the ruler is laid aside.
    """

    turn: int
    later: bool
    foot: str
    family: int
    freehand: bool = False

    @property
    def over_the_quilt(self) -> tuple[int, bool, str, int]:
        """What is the same for all that is sewn in one pass over the quilt."""
        return self[:4]


FREEHAND = "ruler foot"
"""What textures are sewn with: no feed dogs carry them."""

_TURNS = {"first": 0, "with the rest": 1, "last": 2}


def passes_of(stitching: Stitching, kit: Kit, zone: str, drawing: Drawing) -> list[Pass]:
    """The passes in which ``drawing`` of a ``zone`` is sewn: one, or one for each of its families where she sews them one by one. What
    she says of the zone goes before what she says of the ditch; what is filled freehand is never sewn with the walking foot.
    """
    of_ditch = stitching.ditch if drawing.fill.in_the_ditch else "with the rest"
    rank = _TURNS[stitching.turns.get(zone, of_ditch)]
    if drawing.hints:
        return [Pass(rank, True, FREEHAND, 0, freehand=True)]
    many = len(drawing.straight) if stitching.families == "one by one" and drawing.has_sets else 1
    return [Pass(rank, kit.sew_with != "walking foot", kit.sew_with, family) for family in range(many)]
