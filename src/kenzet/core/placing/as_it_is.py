"""How a line is placed from what is sewn now: as planned, if what it is planned from is there.

Otherwise (a line was skipped or unpicked, or another order is sewn) it is placed from the line on its other side,
from the reference of its reference, from a seam, or from a line farther away within a ruler's width. A line that
none of these places is sewn by eye.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import replace
from fractions import Fraction

import numpy as np

from kenzet.core.memo import Table
from kenzet.core.placing.place_line import Placing, planned
from kenzet.core.placing.placement import On, Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.line_references import SHORT, Reference, References, may_stray
from kenzet.core.ruler.offset_sums import best_offset_sum
from kenzet.core.tolerances import STOP_ERROR

_FAR = 6  # lines over
BESIDE = Table[tuple[ZonePlan, int], dict[int, list[Reference]]](
    "lines beside lines, by plan and drawing", 500
)
MIRRORED = Table[tuple[ZonePlan, int], References]("references from the other side, by plan and drawing", 500)


def placed(
    plan: ZonePlan,
    drawing: Drawing,
    line: int,
    there: Mapping[str, Collection[int]],
    word: str,
    last: int | None,
) -> Placement:
    """How ``line`` is placed when the lines ``there`` (by the words of their drawings in the log) are sewn;
    ``last`` is the last one of its own drawing, which the log names ``word``."""
    found, sewn = planned(plan, drawing, line), there.get(word, ())
    beyond = found.beyond is None or found.beyond.line in there.get(found.beyond.word, ())
    if not beyond or not all(other in sewn for other in found.needs):
        found = _Instead(plan, drawing, line).on_what_is_there(found, sewn, last)
    elif found.on == "line" and found.reference == last:
        found = replace(found, on="last")
    return _recounted(Placing(plan, drawing, line), found, sewn)


def _recounted(here: Placing, found: Placement, sewn: Collection[int]) -> Placement:
    """With its reference and its check counted among the lines that are sewn, as she counts them on the cloth."""
    if found.over > 1 and found.reference is not None and found.on in ("line", "last"):
        over = here.beside.over(found.reference, sewn)
        found = found if over == found.over else replace(found, over=over)
    if any(side.over > 1 for side in found.sides):
        sides = tuple(
            side
            if side.reference is None
            else replace(side, over=here.beside.over(side.reference, sewn, side.legs[0]))
            for side in found.sides
        )
        if [side.over for side in sides] != [side.over for side in found.sides]:
            found = replace(found, sides=sides, over=sides[0].over)
    check = found.check
    if check is not None:
        back = here.beside.over(check.line, sewn)
        if check.line not in sewn:
            return replace(found, check=None)
        return found if back == check.back else replace(found, check=replace(check, back=back))
    return found


class _Instead(Placing):
    """The placement of one line whose planned reference is missing."""

    def on_what_is_there(self, found: Placement, sewn: Collection[int], last: int | None) -> Placement:
        """Another placement in place of the planned one."""
        there = [one for one in self._beside() if one.line in sewn]
        there.sort(key=lambda one: one.line != last)
        for one in there:
            return self._on("last" if one.line == last else "line", one.distance, one.way, one.line)
        seam = self._from_other_side()
        if seam is not None:
            return self._on("seam", seam.distance, seam.way, None)
        drawn = set(self.marks.lines) - set(sewn)
        along = self._along_the_chain(sewn, last)
        return (
            along
            or self._farther(sewn, last, "line")
            or self._farther(drawn, None, "drawn")
            or self._by_eye()
        )

    def _beside(self) -> Iterable[Reference]:
        """The lines on either side from which it can be placed."""
        key = (self.plan, self.plan.number_of(self.drawing))
        return self.plan.memo.once(BESIDE, key, lambda: _lines_beside(self.references)).get(self.line, [])

    def _from_other_side(self) -> Reference | None:
        """The seam that it would be placed from if lines progressed the other way, or the one it is planned from."""
        if self.own.kind == "seam":
            return self.own
        machine = self.kit.machine

        def mirrored() -> References:
            other = machine.model_copy(update={"throat": "left" if machine.throat == "right" else "right"})
            return replace(self.plan, kit=self.kit.model_copy(update={"machine": other})).references(
                self.drawing
            )

        found = self.plan.memo.once(MIRRORED, (self.plan, self.plan.number_of(self.drawing)), mirrored)[
            self.line
        ]
        return found if found.kind == "seam" and self.line not in self.references.sides else None

    def _along_the_chain(self, sewn: Collection[int], last: int | None) -> Placement | None:
        """From the reference of its reference, and so on, until one is sewn or a seam is reached, within a ruler's
        width."""
        distance, line, over = Fraction(0), self.line, 0
        while over < _FAR:
            over += 1
            on = self.references[line]
            if on.kind not in ("line", "seam") or line in self.references.sides:
                return None
            distance += on.distance
            if on.kind == "seam" or on.line is None or on.line in sewn:
                break
            line = on.line
        else:
            return None
        there = on.kind == "line" and on.line is not None
        if best_offset_sum(self.kit, distance).etched is None or not (there or on.kind == "seam"):
            return None
        kind: On = "seam" if not there else "last" if on.line == last else "line"
        found = self._on(kind, distance, self.own.way, on.line)
        strays = may_stray(self.kit, found.error, found.length, self.beside.shared_with(on.line))
        return found if strays <= float(self.kit.tolerance.mm) + found.error else None

    def _farther(self, others: Collection[int], last: int | None, on: On) -> Placement | None:
        """From the nearest of ``others`` in the same family and piece that runs beside it within a ruler's width."""
        drawing, line = self.drawing, self.line
        many = len(drawing.stretches)
        beside = np.array([other for other in others if other < many], dtype=np.int64)
        if line >= many or not len(beside) or self.kit.sew_with == "walking foot":
            return None
        jobs, lines, ends = drawing.stretches.job, drawing.stretches.line, drawing.stretches.ends
        beside = beside[jobs[beside] == jobs[line]]
        family = drawing.straight[int(jobs[line]) % len(drawing.straight)]
        along = ends.reshape(-1, 2, 2) @ np.array(family.direction)
        shared = np.minimum(along[beside].max(axis=1), along[line].max()) - np.maximum(
            along[beside].min(axis=1), along[line].min()
        )
        own = float(np.ptp(along[line]))
        beside, shared = beside[shared >= SHORT / 2], shared[shared >= SHORT / 2]
        apart = np.abs(lines[beside] - lines[line])
        for k in np.argsort(apart, kind="stable").tolist():
            over = int(apart[k])
            if not 0 < over <= _FAR:
                continue
            first = int(min(lines[beside[k]], lines[line]))
            distance = sum((family.gaps[(first + n) % len(family.gaps)] for n in range(over)), Fraction(0))
            total = best_offset_sum(self.kit, distance, drawing.length_of(line))
            strays = may_stray(self.kit, float(total.off), own, float(shared[k]))
            if total.etched is not None and strays <= float(self.kit.tolerance.mm) + STOP_ERROR:
                way = 1 if lines[line] > lines[beside[k]] else -1
                kind: On = "last" if int(beside[k]) == last and on == "line" else on
                self.among = others
                return self._on(kind, distance, way, int(beside[k]))
        return None


def _lines_beside(references: References) -> dict[int, list[Reference]]:
    found: dict[int, list[Reference]] = {}
    for line, own in references.items():
        if own.kind == "line" and own.line is not None and line not in references.sides:
            found.setdefault(line, []).append(own)
            if own.line not in references.sides:
                found.setdefault(own.line, []).append(Reference("line", own.distance, -own.way, line))
    return found
