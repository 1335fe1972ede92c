"""A measured block in words: whether to keep it, what shows, what to sew again, planned beside actual."""

from __future__ import annotations

import math
from fractions import Fraction

from kenzet import texts
from kenzet.core.inspect.judge import Judged, Report, SetFigures, Truth, Verdict, measured_path
from kenzet.core.inspect.sides import Frame, Side
from kenzet.core.numbers.measure import COARSE, INCH, MM_PER, Unit
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.whereabouts import placed
from kenzet.texts import tr

VERDICTS: dict[Verdict, str] = {
    "keep": tr("Keep the block as it is."),
    "touch up": tr("Touch up the block."),
    "rip": tr("Some lines are worth sewing again."),
}
_UNSEEN = {
    "too close": tr("too close to the next line to be told apart"),
    "no contrast": tr("does not stand out from the fabric"),
    "two places": tr("could be in two places"),
    "halves differ": tr("its two halves disagree"),
}
_ALL_SEEN = 0.9
_FINE: dict[Unit, Fraction] = {"in": Fraction(1, 32), "mm": Fraction(1, 5)}
"""The step to which errors are rounded: a picture shows no less."""


class SideView(w.Said):
    """A side in the picture: ``points`` where it is (or was planned, if it was not seen), flat x, y in the frame, mm;
    ``planned`` likewise.

    ``key`` identifies it. A larger ``offset`` (mm) moves it ``toward`` one side, a smaller one ``back`` to the
    other.
    """

    key: str
    truth: Truth
    points: list[float]
    planned: list[float]
    words: w.Words
    note: str
    struck: bool
    nudged: bool
    offset: float
    toward: str
    back: str


class SetRow(w.Said):
    """A set of lines, planned beside actual."""

    name: str
    lines: str
    planned: w.Words
    actual: w.Words
    worst: w.Words
    drift: w.Words


class PlaceOfLine(w.Said):
    """A line to look at, in words, with its midpoint in the frame, mm."""

    key: str
    words: w.Words
    note: str
    at: list[float]


class InspectionView(w.Said):
    """A measured block; ``width`` and ``height`` of its frame, and the ``margin`` around it in the picture, mm."""

    id: str
    place: str
    name: str
    when: str
    width: float
    height: float
    margin: float
    verdict: Verdict
    says: str
    sentences: list[w.Words]
    tolerance: w.Words
    sides: list[SideView]
    sets: list[SetRow]
    worst: list[PlaceOfLine]
    repair: list[PlaceOfLine]
    missed: list[PlaceOfLine]
    gaps: list[w.Row]


def key_of(side: Side) -> str:
    """The key of a side."""
    return f"{side.word}/{side.line}/{side.number}"


def _least(unit: Unit) -> float:
    """The rounding step of errors, mm."""
    return float(_FINE[unit] * MM_PER[unit])


def away(mm: float, unit: Unit) -> str:
    """A viewing distance.

    >>> away(3700, "in"), away(3700, "mm"), away(100, "in")
    ('12 ft', '3.7 m', 'under 1 ft')
    """
    if unit == "mm":
        return f"{mm / 1000:.1f} m"
    feet = round(mm / (12 * INCH))
    return tr("{feet} ft", feet=feet) if feet else tr("under 1 ft")


def signed(mm: float, unit: Unit) -> w.Words:
    """A difference, with its sign in words.

    >>> signed(0.0, "in")
    ['none']
    """
    if abs(mm) < _least(unit) / 2:
        return [tr("none")]
    return [w.shown(abs(mm), unit, _FINE[unit], about=True), tr(" wider") if mm > 0 else tr(" narrower")]


def inspection_view(
    laid: QuiltLayout,
    frame: Frame,
    said: Report,
    ident: str,
    when: str,
    margin: float,
    struck: dict[str, float | None],
    unit: Unit,
) -> InspectionView:
    """``struck`` are sides that the quilter has removed (None) or moved (mm), by key."""
    part = laid.top.at.get(frame.place)
    kit = laid.quilt.kit
    return InspectionView(
        id=ident, place=frame.place, name=placed(part.name, frame.place) if part else laid.quilt.name, when=when,
        width=round(frame.width, 2), height=round(frame.height, 2), margin=margin,
        verdict=said.verdict, says=VERDICTS[said.verdict], sentences=_sentences(laid, said, unit),
        tolerance=[w.shown(kit.tolerance.mm, unit)],
        sides=[_side(laid, one, struck, unit) for one in said.judged],
        sets=[_set(laid, one, unit) for one in said.sets],
        worst=[_line(laid, one, unit) for one in said.worst if one.seen_from > 0],
        repair=[_line(laid, one, unit) for one in said.judged if one.verdict != "keep"],
        missed=[
            PlaceOfLine(
                key="", words=w.told('By {length}', length=_length(one.by, unit)), note=tr("{name}, line {line}", name=laid.zone(one.zone).name, line=one.line + 1),
                at=[round(v, 1) for v in one.at],
            )
            for one in said.missed
            if one.by > float(kit.tolerance.mm) / 2
        ][:6],
        gaps=[
            w.Row(
                label=[laid.zone(one.zone).name],
                words=w.told("{sewn}, planned {planned}", sewn=w.shown(one.sewn, unit, COARSE[unit], about=True), planned=w.shown(one.planned, unit, COARSE[unit], about=True)),
            )
            for one in said.gaps
        ],
    )  # fmt: skip


def _length(mm: float, unit: Unit) -> w.Shown:
    return w.shown(mm, unit, _FINE[unit], about=True)


def _sentences(laid: QuiltLayout, said: Report, unit: Unit) -> list[w.Words]:
    """The reasons for the verdict, the most important first."""
    kit = laid.quilt.kit
    seen, every = len(said.seen), len(said.judged)
    true = sum(one.truth == "within" for one in said.seen)
    within = w.shown(kit.tolerance.mm, unit)
    found: list[w.Words] = []
    if seen:
        found.append(
            w.told(
                "{true} of {lines} seen lie within {within} of the plan.",
                true=true,
                lines=texts.many(seen, "line"),
                within=within,
            )
        )
    worst = said.worst[0] if said.worst else None
    look = away(float(kit.seen_from.mm), unit)
    if worst and worst.seen_from < float(kit.seen_from.mm):
        found.append([tr("From {look} away no difference is visible.", look=look)])
    elif worst:
        found.append(
            [
                tr(
                    "The worst place is visible from up to {away} away; you look from {look}.",
                    away=away(worst.seen_from, unit),
                    look=look,
                )
            ]
        )
    if every and seen < _ALL_SEEN * every:
        found.append(
            [
                texts.counted(
                    every - seen,
                    "{count} line could not be seen and is left out.",
                    "{count} lines could not be seen and are left out.",
                )
            ]
        )
    return found


def _side(laid: QuiltLayout, one: Judged, struck: dict[str, float | None], unit: Unit) -> SideView:
    side, finding = one.finding.side, one.finding
    key = key_of(side)
    name = tr("{name}, line {line}", name=laid.zone(side.zone).name, line=side.line + 1)
    words: w.Words = (
        w.told("{name}: not seen", name=name) if finding.unseen else [name, ": ", *_off(one, unit)]
    )
    note = _UNSEEN[finding.unseen] if finding.unseen else ""
    if struck.get(key, 0.0) is None:
        words, note = w.told("{name}: struck out", name=name), tr("you struck it out")
    path = measured_path(finding)
    toward, back = _ways(side)
    return SideView(
        key=key, truth=one.truth, points=[round(v, 2) for v in path.ravel().tolist()],
        planned=[round(v, 2) for v in side.path.ravel().tolist()], words=words, note=note,
        struck=key in struck and struck[key] is None, nudged=struck.get(key) is not None, offset=round(finding.offset, 2), toward=toward, back=back,
    )  # fmt: skip


def _off(one: Judged, unit: Unit) -> w.Words:
    if abs(one.finding.offset) < _least(unit) / 2:
        return [tr("on its line")]
    toward, back = _ways(one.finding.side)
    return w.told(
        "{length} too far {toward}",
        length=_length(abs(one.finding.offset), unit),
        toward=toward if one.finding.offset > 0 else back,
    )


def _ways(side: Side) -> tuple[str, str]:
    """The directions in the picture of a side's left and right."""
    way = side.path[-1] - side.path[0]
    if abs(way[1]) > abs(way[0]):
        return (tr("left"), tr("right")) if way[1] > 0 else (tr("right"), tr("left"))
    return (tr("up"), tr("down")) if way[0] > 0 else (tr("down"), tr("up"))


def _line(laid: QuiltLayout, one: Judged, unit: Unit) -> PlaceOfLine:
    side = one.finding.side
    x, y = side.path.mean(axis=0).tolist()
    words: w.Words = w.told(
        "{name}, line {line}: {off}", name=laid.zone(side.zone).name, line=side.line + 1, off=_off(one, unit)
    )
    if one.gap is not None and abs(one.gap) >= _least(unit):
        words += w.told("; the gap beside it is {signed}", signed=signed(one.gap, unit))
    says = {"keep": tr("keep"), "touch up": tr("sew the end that strays again"), "rip": tr("sew it again")}[
        one.verdict
    ]
    return PlaceOfLine(
        key=key_of(side),
        words=words,
        note=tr("{says}; shows from up to {away}", says=says, away=away(one.seen_from, unit)),
        at=[round(x, 1), round(y, 1)],
    )


def _set(laid: QuiltLayout, one: SetFigures, unit: Unit) -> SetRow:
    name = laid.zone(one.zone).name
    angle = tr(", set {family}", family=one.family + 1) if one.family > 0 else ""
    none: w.Words = ["–"]
    return SetRow(
        name=f"{name}{angle}", lines=tr("{seen} of {many}", seen=one.seen, many=one.many),
        planned=[w.shown(one.planned, unit)] if one.planned is not None else none,
        actual=[w.shown(one.spacing, unit, _FINE[unit], about=True)] if one.spacing is not None else none,
        worst=signed(one.worst_gap, unit) if one.worst_gap is not None else none,
        drift=_drift(one, unit),
    )  # fmt: skip


def _drift(one: SetFigures, unit: Unit) -> w.Words:
    if one.drift is None:
        return ["–"]
    if math.isclose(one.drift, 0, abs_tol=_least(unit) / 2):
        return [tr("none")]
    return [_length(abs(one.drift), unit)]
