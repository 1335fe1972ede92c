"""What a line is laid from in the order in which she sews: the line beside it that is sewn, on whichever side, or a seam."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

from kenzet.core.drawing import Drawing
from kenzet.core.references import Reference
from kenzet.core.zone_plan import ZonePlan


@dataclass(frozen=True, slots=True)
class LaidOn:
    """``kind`` is "last" (the line just sewn), "line" (one sewn earlier), "seam" or "mark"; ``distance`` exact mm from it."""

    kind: Literal["last", "line", "seam", "mark"]
    distance: Fraction


def laid_on(plan: ZonePlan, drawing: Drawing, line: int, sewn: Collection[int], last: int | None) -> LaidOn:
    """For ``line``, with the lines ``sewn`` there, ``last`` the last of them.

    The plan lays lines from one side to the other; a route may come from the other side, where the same distance holds.
    """
    own = plan.references(drawing)[line]
    beside = [(other, far) for other, far in _beside(plan, drawing).get(line, ()) if other in sewn]
    for other, far in beside:
        if other == last:
            return LaidOn("last", far)
    if beside:
        return LaidOn("line", beside[0][1])
    if own.kind == "line" and own.line is None:
        return LaidOn("line", own.distance)
    seam = own if own.kind == "seam" else _from_other_side(plan, drawing, line)
    return LaidOn("seam", seam.distance) if seam.kind == "seam" else LaidOn("mark", plan.kit.reach)


def _beside(plan: ZonePlan, drawing: Drawing) -> dict[int, list[tuple[int, Fraction]]]:
    """The lines on either side of every line from which it can be laid, with their distance."""
    key = ("beside", plan.number_of(drawing))
    if key not in plan.kept:
        found: dict[int, list[tuple[int, Fraction]]] = {}
        for line, reference in plan.references(drawing).items():
            if reference.line is not None:
                found.setdefault(line, []).append((reference.line, reference.distance))
                found.setdefault(reference.line, []).append((line, reference.distance))
        plan.kept[key] = found
    kept: dict[int, list[tuple[int, Fraction]]] = plan.kept[key]
    return kept


def _from_other_side(plan: ZonePlan, drawing: Drawing, line: int) -> Reference:
    """What it would be laid from if lines progressed the other way."""
    key = ("from the other side", plan.number_of(drawing))
    if key not in plan.kept:
        machine = plan.kit.machine
        other = machine.model_copy(update={"throat": "left" if machine.throat == "right" else "right"})
        mirrored = replace(plan, kit=plan.kit.model_copy(update={"machine": other}))
        plan.kept[key] = mirrored.references(drawing)
    found: Reference = plan.kept[key][line]
    return found
