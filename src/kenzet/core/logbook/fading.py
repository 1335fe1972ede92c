"""How long marks stay, from those that she found gone by themselves: they were gone by then at the latest."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.logbook.learn import Learnt


@dataclass(frozen=True, slots=True)
class MarksStay:
    """Marks of the tool ``tool`` (its key in the kit) that were there for ``hours``: ``faded`` where she found them gone then, else they are still on; told ``when``, seconds since 1970."""

    tool: str
    hours: float
    faded: bool
    when: float


def learnt_fading(seen: Sequence[MarksStay], kit: Kit) -> list[Learnt]:
    """For each tool of the kit whose marks she found gone: the fewest hours after which that was, for what is not sewn by then is lost. They stayed at least as long as
    marks of it, put on later or earlier, are still on by now.
    """
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
