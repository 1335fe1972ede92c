"""The door for a machine that counts its stitches: JSON lines in, the step at hand out. See docs/machine-lines.md."""

from __future__ import annotations

import json
import threading
import time
from typing import Annotated, Literal

from flask import Response, current_app, request
from flask_openapi3 import APIBlueprint
from pydantic import Field, ValidationError

from kenzet.core.errors import BadValue
from kenzet.core.sewing.heard import Heard, Message, Says
from kenzet.core.sewing.now import Now, now
from kenzet.web import models as m
from kenzet.web.at_hand import answer, connection, laid_quilt
from kenzet.web.sewing import keep, logs

machine = APIBlueprint("machine", __name__, url_prefix="/api/quilts/<quilt>")

MOST_LINES = 2000
GONE_S = 15.0


class MachineSays(m.Wire):
    """A line: see ``Message``."""

    says: Says
    seq: Annotated[int, Field(ge=0, le=2**53)]
    at: Annotated[float, Field(ge=0, le=1e11, allow_inf_nan=False)]
    name: Annotated[str, Field(max_length=60)] = ""
    count: Annotated[int, Field(ge=0, le=100_000)] = 0
    mm: Annotated[float, Field(ge=0, le=1e5, allow_inf_nan=False)] = 0.0


class MachineStep(m.Wire):
    """The step at hand: ``mm`` of line and then of travelling; ``stops`` where the thread ends then."""

    kind: Literal["begin", "go", "line"]
    place: str
    line: int
    mm: float
    travel: float
    stops: bool


class MachineAnswer(m.Wire):
    """``faults`` are the lines of this call that were not taken as they are; ``step`` is None when all is sewn."""

    step: MachineStep | None
    faults: list[str]


class MachineHeard(m.Wire):
    """A machine that is heard just now: so much of the step at hand is sewn; ``faults`` are the last things it told wrongly."""

    name: str
    place: str
    line: int
    mm: float
    stitches: int
    faults: list[str]


class FollowView(m.Wire):
    """``count`` events are known, ``last`` is the id of the newest that holds."""

    count: int
    last: str
    machine: MachineHeard | None


class Machines:
    """The machines that are heard, by quilt; one message at a time."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self._heard: dict[str, Heard] = {}

    def at(self, quilt: str) -> Heard:
        """The machine at a quilt."""
        return self._heard.setdefault(quilt, Heard())

    def present(self, quilt: str) -> Heard | None:
        """The machine that has been heard just now."""
        found = self._heard.get(quilt)
        return found if found and found.begun and time.time() - found.when < GONE_S else None


@machine.post("/machine", responses={200: MachineAnswer})
def hear(path: m.QuiltPath) -> Response:
    """Messages as JSON lines, in order. A line that cannot be taken is told, and those after it are heard."""
    lines = request.get_data().decode("utf-8", "replace").splitlines()
    if len(lines) > MOST_LINES:
        raise BadValue(f"At most {MOST_LINES} lines at a time.", "lines")
    kept, laid = laid_quilt(path.quilt)
    machines: Machines = current_app.extensions["machines"]
    faults: list[str] = []
    with machines.lock:
        ways = logs().ways(kept, laid)

        def here() -> Now | None:
            with connection() as conn:
                return now(ways, logs().log(conn, path.quilt).sewn)

        heard = machines.at(path.quilt)
        for number, line in enumerate(lines, 1):
            if not line.strip():
                continue
            said = _read(line)
            if said is None:
                faults.append(f"Line {number} is cut short or not understood; it was left out.")
                continue
            events, fault = heard.take(said, time.time(), here)
            faults += [fault] if fault else []
            if events:
                keep(path.quilt, events)
        heard.faults.extend(faults)
        return answer(MachineAnswer(step=_step(here()), faults=faults))


@machine.get("/machine", responses={200: FollowView})
def follow(path: m.QuiltPath) -> Response:
    """Whether another device or a machine has told something, and where the machine is."""
    machines: Machines = current_app.extensions["machines"]
    with connection() as conn:
        log = logs().log(conn, path.quilt)
    heard = machines.present(path.quilt)
    view = FollowView(count=len(log), last=log.newest, machine=None)
    if heard:
        here = now(logs().ways(*laid_quilt(path.quilt)), log.sewn)
        view.machine = MachineHeard(
            name=heard.name, place=here.visit.place if here else "", line=here.steps[0].number if here else 0,
            mm=round(heard.mm, 2), stitches=heard.stitches + log.sewn.stitches, faults=list(heard.faults),
        )  # fmt: skip
    return answer(view)


def _read(line: str) -> Message | None:
    try:
        told = MachineSays.model_validate(json.loads(line))
    except (ValidationError, ValueError):
        return None
    return Message(told.says, told.seq, told.at, told.name, told.count, told.mm)


def _step(here: Now | None) -> MachineStep | None:
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
