"""The marks of a zone in words: the cost of each method, what it leaves to the eye, what to mark with."""

from __future__ import annotations

import math
from collections.abc import Sequence
from fractions import Fraction

import numpy as np
import shapely

from kenzet.core.geom.edge_ticks import TickedEdge
from kenzet.core.geom.place_names import nth
from kenzet.core.geom.region import Floats
from kenzet.core.marks.marking import Marks, by_eye, left_to_the_eye, marks_of, methods
from kenzet.core.marks.tools import MarkerChoice, batch, care
from kenzet.core.numbers.measure import COARSE, Unit, long_figure, rounded
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.line_references import ANGLE
from kenzet.core.top.zone import MarkMethod
from kenzet.say import words as w
from kenzet.texts import tr

_MOST_STROKES = 400  # that are looked at for crossings
_ANOTHER_LEAN = 20  # degrees between two strokes


class MethodView(w.Said):
    """A method of marking and its cost."""

    key: MarkMethod
    label: str
    words: w.Words


class TickView(w.Said):
    """A tick: its foot and tip in the part, and its figures."""

    points: list[float]
    shown: w.Shown
    error: w.Words


class EdgeView(w.Said):
    """An edge with its ticks, counted from its datum corner (``points`` start there)."""

    name: str
    from_corner: str
    points: list[float]
    ticks: list[TickView]
    note: w.Words


class ToolView(w.Said):
    """A marking tool, and how it shows on the zone's fabrics."""

    key: str
    label: str
    words: str
    fits: bool


DRAWN: dict[str, tuple[str, ...]] = {
    "stroke": ("stroke",),
    "tick": ("tick",),
    "dot": ("dot",),
    "sign": ("sign",),
    "placing": (tr("placing of tape or stencil"), tr("placings of tape or stencil")),
}
"""Kinds of marks, singular and plural."""
METHOD_LABELS: dict[MarkMethod, str] = {
    "nothing": tr("Nothing"), "first lines": tr("First line of each set"), "anchors": tr("Anchors"),
    "ticks": tr("Ticks on the edges"), "dots": tr("Dots at ends and corners"), "all lines": tr("Every line"),
    "half": tr("Half the lines"), "tape": tr("Along tape"), "stencil": tr("Powder through a stencil"), "fill signs": tr("A sign of the texture"),
}  # fmt: skip


_TAPE = {
    (
        True,
        False,
    ): tr("Sew up along one edge of each strip and down along the other. Then move the strips. Peel slowly."),
    (False, True): (
        tr(
            "Sew up along one edge of each strip and down along the other. When all are off, halve the gaps: each line between is placed from the one beside it."
        )
    ),
    (
        False,
        False,
    ): tr(
        "Sew along one edge of each strip, changing direction each time. Then move the strips. Peel slowly."
    ),
}


def tool_view(choice: MarkerChoice) -> ToolView:
    """A tool and how it shows on its worst fabric."""
    words = tr("{shows} on {worst}", shows=tr(choice.shows), worst=choice.worst) if choice.shows else ""
    return ToolView(key=choice.key, label=choice.marker.name, words=words, fits=choice.fits)


def tool_words(choice: MarkerChoice, drawing: Drawing, marks: Marks) -> list[str]:
    """How its marks are removed, what they must not touch, how much to mark at a time; what to do where it does
    not show."""
    said = [*care(choice.marker)]
    if not choice.fits:
        said.insert(
            0,
            tr(
                "It {shows} on {worst}: use another tool, or sew along tape.",
                shows=tr(choice.shows or ""),
                worst=choice.worst,
            ),
        )
    many = batch(choice.marker, [drawing.length_of(k) for k in range(drawing.lines)])
    if many is not None and many < drawing.lines * len(drawing.places):
        said.append(
            tr(
                "The marks fade within {hours} h: mark no more than {many} lines before you sew them.",
                hours=choice.marker.hours,
                many=many,
            )
        )
    return said


def pens_by_lean(offered: Sequence[MarkerChoice], tool: MarkerChoice, marks: Marks) -> list[str]:
    """If marked lines of two directions cross and two visible pens are at hand: a pen for each direction."""
    other = next((one for one in offered if one.key != tool.key and one.fits), None)
    lines = [shapely.linestrings(stroke) for stroke in marks.strokes[:_MOST_STROKES]]
    if other is None or not tool.fits or len(lines) < 2:
        return []
    leans = np.array([_lean(stroke) for stroke in marks.strokes[: len(lines)]])
    tree = shapely.STRtree(lines)
    one, crossed = tree.query(lines, predicate="crosses")
    apart = np.abs((leans[one] - leans[crossed] + 90) % 180 - 90)
    if not (apart > _ANOTHER_LEAN).any():
        return []
    return [
        tr(
            "Where marked lines cross, {name} for those in one direction and {name2} for the others show which one to follow.",
            name=tool.marker.name,
            name2=other.marker.name,
        )
    ]


def _lean(stroke: Floats) -> float:
    """Its angle from end to end, degrees."""
    (x0, y0), (x1, y1) = stroke[0].tolist(), stroke[-1].tolist()
    return math.degrees(math.atan2(y1 - y0, x1 - x0)) % 180


def rows_of(found: ZonePlan, drawing: Drawing, marks: Marks, unit: Unit) -> list[w.Row]:
    """The cost of the marks, here and in the quilt, and what they leave to the eye."""
    times = sum(len(d.places) for d in found.drawings)
    many = tr(" · in the quilt") if times > 1 else ""
    rows = []
    if marks.strokes:
        both = long_figure(marks.pen, unit) + (
            f" · {long_figure(marks.pen * times, unit)}" if times > 1 else ""
        )
        rows.append(w.Row(label=[tr("Marked length here") + many], words=[both]))
    spent = w.minutes(marks.seconds)
    rows.append(
        w.Row(
            label=[tr("Time to mark") + many],
            words=[spent + (f" · {w.minutes(marks.seconds * times)}" if times > 1 else "")],
        )
    )
    rows += _tool_rows(found, marks, unit)
    every_line = marks_of(found, drawing, "all lines") if "all lines" in methods(found, drawing) else None
    if every_line and every_line.seconds > marks.seconds + 30:
        saved = w.minutes((every_line.seconds - marks.seconds) * times)
        rows.append(w.Row(label=[tr("Saved, compared with marking all")], words=[saved]))
    out = left_to_the_eye(found, drawing, marks)
    if out:
        rows.append(
            w.Row(
                label=[tr("The last line may be off by")],
                words=[w.shown(out, unit, COARSE[unit] / 2, about=True)],
            )
        )
    if found.ticked(drawing):
        rows.append(w.Row(label=[tr("Ticks rounded to")], words=[w.shown(found.kit.step_in(unit), unit)]))
    return rows


def _tool_rows(found: ZonePlan, marks: Marks, unit: Unit) -> list[w.Row]:
    """The tape to cut, or how the stencil is moved over the zone."""
    if marks.tape:
        tape = marks.tape
        return [
            w.Row(
                label=[tr("Strips to cut")],
                words=w.told(
                    "{strips}, each {strip}",
                    strips=tape.strips,
                    strip=w.shown(tape.strip, unit, Fraction(1), about=True),
                ),
            ),
            w.Row(
                label=[tr("Placements")],
                words=[
                    tr(
                        "{placements} ×, in {rounds} rounds",
                        placements=len(tape.placements),
                        rounds=len(tape.rounds),
                    )
                ],
            ),
            w.Row(label=[tr("Tape used")], words=[long_figure(tape.used, unit)]),
        ]
    if marks.stencil:
        stencil = marks.stencil
        return [
            w.Row(
                label=[tr("Placements")],
                words=[
                    tr(
                        "{placements} ×: {columns} across, {rows} down",
                        placements=stencil.placements,
                        columns=stencil.columns,
                        rows=stencil.rows,
                    )
                ],
            ),
            w.Row(label=[tr("Partly filled")], words=[f"{stencil.partial}"]),
        ]
    return []


def method_view(found: ZonePlan, drawing: Drawing, method: MarkMethod, unit: Unit) -> MethodView:
    """A method of marking and what it amounts to."""
    marks = marks_of(found, drawing, method)
    hang = by_eye(found, drawing, marks) if method == "nothing" else []
    words: w.Words = [tr("{count} to mark", count=marks.count) if marks.count else tr("none to mark")]
    if method == "anchors" and marks.every:
        words = [tr("every {nth} · {count} to mark", nth=nth(marks.every), count=marks.count)]
    if method == "ticks":
        words = [
            tr("{ticks} ticks", ticks=marks.ticks)
            + (tr(", {lines} lines", lines=len(marks.lines)) if marks.lines else "")
        ]
    if marks.tape:
        strips = tr("{strips} strips", strips=marks.tape.strips) if marks.tape.strips > 1 else tr("1 strip")
        words = [tr("{strips}, {placements} places", strips=strips, placements=len(marks.tape.placements))]
    if marks.stencil:
        words = [tr("placed {placements} ×", placements=marks.stencil.placements)]
    if method == "dots":
        words = [tr("{dots} dots", dots=len(marks.dots))]
    if method == "half":
        words = [tr("the other half freehand")]
    if hang:
        words = [
            tr("{hang} {which} by eye", hang=len(hang), which=tr("line") if len(hang) == 1 else tr("lines"))
        ]
    return MethodView(key=method, label=METHOD_LABELS[method], words=words)


_NOTHING_TO_DRAW = {
    False: tr(
        "Nothing to mark: place the first line of each set from a seam, and every other line from the line before."
    ),
    True: tr(
        "Nothing to mark: lines run between points where seams meet, and each sewn line places the next."
    ),
}


def note_of(found: ZonePlan, drawing: Drawing, marks: Marks, unit: Unit) -> w.Words:
    """Why this is marked, and how the other lines are placed."""
    special = _special_note(found, drawing, marks)
    if special:
        return [special]
    by_method: dict[MarkMethod, str] = {
        "all lines": tr("Mark every line and sew along the marks. No line depends on the line before."),
        "ticks": tr(
            "Ticks show both ends of every line: place the ruler from tick to tick. All ticks are counted from the same corner."
        ),
        "dots": tr("Dots show every end and corner: place the ruler from dot to dot."),
        "tape": _TAPE[marks.tape.both, marks.tape.halving] if marks.tape else "",
        "stencil": tr("Place the stencil over the last powdered line to continue the grid. Pat, do not rub."),
        "half": tr("Mark half the lines and sew the other half freehand, for practice."),
        "nothing": tr("No marks: lines that no seam or earlier line locates are placed by eye."),
    }
    if marks.method in by_method and (marks.method != "nothing" or by_eye(found, drawing, marks)):
        return [by_method[marks.method]]
    plain = _plain_note(found, drawing, marks)
    if plain:
        return [plain]
    spacing = w.shown(drawing.fill.spacing.mm, unit)
    across = tr(" The second set begins across the first, by a square or slanted line of the ruler.")
    return [
        *w.told(
            "Marked where no seam runs along the lines. Every other line is placed {spacing} from the one before.",
            spacing=spacing,
        ),
        *([across] if (found.references(drawing).kinds == ANGLE).any() else []),
    ]


def _plain_note(found: ZonePlan, drawing: Drawing, marks: Marks) -> str:
    """Why so little is marked, or why what is; empty for lines placed one from another."""
    if marks.middles:
        return tr(
            "Of each row that your template sews, only the middle line is marked, with a dot at one crest or point."
        )
    if marks.dotted:
        other = tr(" and the first lines") if marks.lines else ""
        return tr(
            "Dots mark the ends and corners that no seam or sewn line shows. They{other} place the rest.",
            other=other,
        )
    if not marks.lines:
        return _NOTHING_TO_DRAW[bool(found.references(drawing).points)]
    if marks.method == "anchors":
        return tr(
            "These marked lines stop small errors from adding up. Place each line between them from the line before."
        )
    return "" if drawing.fill.is_spaced else tr("Marked where no seam or stitched line locates the line.")


def _special_note(found: ZonePlan, drawing: Drawing, marks: Marks) -> str:
    """What to say about lines that are not placed one from another."""
    references = found.references(drawing)
    alone = drawing.traces and not len(drawing.stretches)
    if drawing.hints:
        return tr("A freehand texture has no exact lines. A small sign shows which texture goes where.")
    if not drawing.fill.sewn:
        return tr("These lines are marks only, as a base for other lines. They are not sewn.")
    if alone and len(references.marked) == len(references):
        return tr("No seam or stitched line locates these lines: mark each one, or its ends and corners.")
    if marks.method != "all lines" and not found.sum(drawing).can_be_laid and drawing.lines:
        return tr("No etched line of your ruler makes this spacing with your foot, so mark every line.")
    if alone and all(trace.closed for trace in drawing.traces) and not marks.dots:
        return tr(
            "Rings meet no edge, so there are no ticks. Place each ring from the seam or from the ring outside it."
        )
    return ""


def edge_view(ticked: TickedEdge, step: Fraction, unit: Unit) -> EdgeView:
    """An edge with its ticks, counted from its datum corner."""
    return EdgeView(
        name=ticked.name,
        from_corner=tr(ticked.edge.datum),
        points=[*ticked.edge.start, *ticked.edge.end],
        ticks=[
            TickView(
                points=list(ticked.edge.at(float(tick.at))),
                shown=w.shown(tick.drawn, unit, bare=True),
                error=_error(tick.error, unit),
            )
            for tick in ticked.ticks
        ],
        note=_edge_note(ticked, unit, step),
    )


def _error(error: Fraction, unit: Unit) -> w.Words:
    grain = COARSE[unit] / (4 if unit == "in" else 1)
    near = w.shown(abs(error), unit, grain, about=True)
    if near.whole == "0" and near.num == 0:
        return [tr("exact")]
    return [near, tr(" over") if error > 0 else tr(" under")]


def _edge_note(ticked: TickedEdge, unit: Unit, step: Fraction) -> w.Words:
    """Why every tick is counted from the corner."""
    if not ticked.gap or not ticked.stepped or ticked.stepped < step / 4:
        return [tr("Every tick is counted from the corner, so errors do not add up.")]
    return w.told(
        "Every figure is counted from the corner. Stepping {rounded} {ticks} times instead would end {stepped} out.",
        rounded=w.shown(rounded(ticked.gap, step), unit),
        ticks=len(ticked.ticks) - 1,
        stepped=w.shown(ticked.stepped, unit, COARSE[unit], about=True),
    )


CAUTION = tr(
    "Test the marker on a scrap of this fabric first. Do not press the quilt before the marks are gone."
)
