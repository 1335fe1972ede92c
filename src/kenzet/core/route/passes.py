"""The passes over the quilt in which lines are sewn: what anchors it first, what waits until last, and what shares
a foot."""

from __future__ import annotations

from typing import NamedTuple

from kenzet.core.kit.kit import Kit
from kenzet.core.plan.drawing import Drawing
from kenzet.core.top.stitching import Stitching


class Pass(NamedTuple):
    """Passes are sorted by ``turn`` (0 before the rest, 2 after it); then the walking foot comes first, then one
    ``family`` of lines after the other. If all else is equal, ``freehand`` quilting follows at each place after
    its lines, when the ruler is put aside."""

    turn: int
    later: bool
    foot: str
    family: int
    freehand: bool = False

    @property
    def over_the_quilt(self) -> tuple[int, bool, str, int]:
        """What all lines of one pass over the quilt have in common."""
        return self[:4]


FREEHAND = "ruler foot"
"""The foot for textures, which are sewn with the feed dogs lowered."""

_TURNS = {"first": 0, "with the rest": 1, "last": 2}


def passes_of(stitching: Stitching, kit: Kit, zone: str, drawing: Drawing) -> list[Pass]:
    """The passes in which ``drawing`` of a ``zone`` is sewn: one, or one for each family if these are sewn one by
    one. A setting for the zone overrides one for the ditch; freehand quilting never uses the walking foot."""
    of_ditch = stitching.ditch if drawing.fill.in_the_ditch else "with the rest"
    rank = _TURNS[stitching.turns.get(zone, of_ditch)]
    if drawing.hints:
        return [Pass(rank, True, FREEHAND, 0, freehand=True)]
    many = len(drawing.straight) if stitching.families == "one by one" and drawing.has_sets else 1
    return [Pass(rank, kit.sew_with != "walking foot", kit.sew_with, family) for family in range(many)]
