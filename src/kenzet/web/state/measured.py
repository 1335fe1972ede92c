"""Measured blocks as found, with the changes made since."""

from __future__ import annotations

from dataclasses import replace

from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.sides import Frame, frame_at
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say.inspect_words import key_of
from kenzet.store.logbook import Inspection


def findings_of(laid: QuiltLayout, one: Inspection) -> tuple[Frame, list[Finding]]:
    """Every side as found, with those that were removed or moved since; ``laid`` is the plan it was measured
    against."""
    whole = frame_at(laid, one.place)
    sides = tuple(side for side in whole.sides if key_of(side) in one.found["sides"])
    found = []
    for side in sides:
        key = key_of(side)
        unseen, offset, tilt, straight, sure, shade = one.found["sides"][key]
        finding = Finding(side, unseen, offset, tilt, straight, float(sure), shade)
        if key in one.struck:
            nudged = one.struck[key]
            finding = (
                replace(finding, unseen="no contrast")
                if nudged is None
                else replace(finding, unseen="", offset=nudged)
            )
        found.append(finding)
    return replace(whole, sides=sides), found
