"""A machine or counter that reports what it sews as JSON lines, and the address where the screen follows it."""

from __future__ import annotations

import json
import time
from dataclasses import replace

from flask import Response, request
from pydantic import ValidationError

from kenzet.core.errors import BadValue
from kenzet.core.sewing.heard import Message
from kenzet.core.sewing.now import Now, now
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_quilt
from kenzet.web.state.logs import logs
from kenzet.web.state.machines import machines
from kenzet.web.state.routes import routes
from kenzet.web.wire import base as m
from kenzet.web.wire.machine import FollowView, MachineAnswer, MachineSays, machine_heard, machine_step

machine = Blueprint("machine", __name__, url_prefix="/api/quilts/<quilt>")

MOST_LINES = 2000


@machine.post("/machine", responses={200: MachineAnswer})
def hear(path: m.QuiltKey) -> Response:
    """Messages as JSON lines, in order. An invalid line is reported, and the following ones are still read."""
    lines = request.get_data().decode("utf-8", "replace").splitlines()
    if len(lines) > MOST_LINES:
        raise BadValue(tr("At most {most_lines} lines at a time.", most_lines=MOST_LINES), "lines")
    kept, laid = laid_quilt(path.quilt)
    with machines().lock, connection() as conn:
        ways = routes().ways(kept, laid)

        def here() -> Now | None:
            return now(ways, logs().log(conn, path.quilt).sewn)

        heard, faults = machines().at(path.quilt), []
        for number, line in enumerate(lines, 1):
            said = _read(line)
            if said is None:
                if line.strip():
                    faults.append(
                        tr("Line {number} is cut short or not understood; it was left out.", number=number)
                    )
                continue
            events, fault = heard.take(said, time.time(), here)
            faults += [fault] if fault else []
            logs().keep(conn, path.quilt, [replace(event, plan=kept.revision) for event in events])
        heard.faults.extend(faults)
        return answer(MachineAnswer(step=machine_step(here()), faults=faults))


@machine.get("/machine", responses={200: FollowView})
def follow(path: m.QuiltKey) -> Response:
    """Whether another device or a machine has reported something, and where the machine is."""
    with connection() as conn:
        log = logs().log(conn, path.quilt)
    heard = machines().present(path.quilt)
    view = FollowView(count=len(log), last=log.newest, machine=None)
    if heard:
        here = now(routes().ways(*laid_quilt(path.quilt)), log.sewn)
        view.machine = machine_heard(heard, here, log.sewn.stitches)
    return answer(view)


def _read(line: str) -> Message | None:
    """None if it is empty, incomplete or not a message."""
    try:
        told = MachineSays.model_validate(json.loads(line))
    except (ValidationError, ValueError, RecursionError):
        return None
    return Message(told.kind, told.seq, told.at, told.name, told.count, told.mm)
