"""How long marks stay, learnt from marks found gone: they had faded by that time at the latest."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.logbook.learn import Learnt


@dataclass(frozen=True, slots=True)
class MarksStay:
    """Marks of ``tool`` (its key in the kit) that had been on for ``hours``: ``faded`` if they were found gone,
    else still visible. ``when`` is in seconds since 1970."""

    tool: str
    hours: float
    faded: bool
    when: float


def learnt_fading(seen: Sequence[MarksStay], kit: Kit) -> list[Learnt]:
    """For each tool of the kit whose marks were found gone: the shortest time after which that happened, as lines
    not sewn by then lose their marks. It is at least as long as any marks of the tool have been seen to last."""
    found = []
    for key in sorted({one.tool for one in seen if one.faded}):
        tool = kit.tools.get(key)
        if not isinstance(tool, Marker):
            continue
        gone = [one for one in seen if one.tool == key and one.faded]
        least = max(min(one.hours for one in gone), 1.0)
        on = [one.hours for one in seen if one.tool == key and not one.faded and one.hours < least]
        times = [one.when for one in gone]
        used = math.nan if tool.hours is None else float(tool.hours)
        found.append(
            Learnt("fades", least, max(on, default=0.0), least, used, len(gone), min(times), max(times), key)
        )
    return found
