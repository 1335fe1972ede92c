"""Messages from and to a machine."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from kenzet.core.sewing.heard import Heard, Says
from kenzet.core.sewing.now import Now
from kenzet.web.wire import base as m


class MachineSays(m.Wire):
    """One message: see ``Message``."""

    kind: Says
    seq: Annotated[int, Field(ge=0, le=2**53)]
    at: Annotated[float, Field(ge=0, le=1e11, allow_inf_nan=False)]
    name: Annotated[str, Field(max_length=60)] = ""
    count: Annotated[int, Field(ge=0, le=100_000)] = 0
    mm: Annotated[float, Field(ge=0, le=1e5, allow_inf_nan=False)] = 0.0


class MachineStep(m.Wire):
    """The present step: ``mm`` of line and then of travel; ``stops`` if the thread is cut then."""

    kind: Literal["begin", "go", "line"]
    place: str
    line: int
    mm: float
    travel: float
    stops: bool


class MachineAnswer(m.Wire):
    """``faults`` are the messages of this call that were not accepted as sent; ``step`` is null when everything is
    sewn."""

    step: MachineStep | None
    faults: list[str]


class MachineHeard(m.Wire):
    """A machine that is sending now: how much of the present step is sewn; ``faults`` are its last invalid
    messages."""

    name: str
    place: str
    line: int
    mm: float
    stitches: int
    faults: list[str]


class FollowView(m.Wire):
    """``count`` events are known, ``last`` is the id of the newest one that was not undone."""

    count: int
    last: str
    machine: MachineHeard | None


def machine_step(here: Now | None) -> MachineStep | None:
    """The next step for a machine."""
    if here is None:
        return None
    step = here.steps[0]
    return MachineStep(
        kind=step.kind,
        place=here.visit.place,
        line=step.number,
        mm=round(sum(move.length for move in step.sews), 3),
        travel=round(sum(move.length for move in step.travels) + step.from_place, 3),
        stops=step.stops,
    )


def machine_heard(heard: Heard, here: Now | None, counted: int) -> MachineHeard:
    """Its progress; ``counted`` stitches were reported before the present step."""
    return MachineHeard(
        name=heard.name,
        place=here.visit.place if here else "",
        line=here.steps[0].number if here else 0,
        mm=round(heard.mm, 2),
        stitches=heard.stitches + counted,
        faults=list(heard.faults),
    )
