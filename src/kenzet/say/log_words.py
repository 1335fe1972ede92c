"""The log in words: progress, every sitting, every block, what it was sewn with, and what is left to finish."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any, Literal

from kenzet import texts
from kenzet.core.kit.kit import Kit
from kenzet.core.logbook.sewn_with import SewnWith
from kenzet.core.logbook.sittings import Mishap, Sitting, There, ThreadEnds, merged
from kenzet.core.logbook.status import PlaceStatus
from kenzet.core.numbers.measure import Unit, figure, long_figure
from kenzet.core.route.unit import Technique
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.by_hand_words import TapeRow
from kenzet.say.learn_words import LearntRow
from kenzet.say.log_places import PlaceRow, StageRow, part_names
from kenzet.texts import tr

VERDICT_WORDS = {"keep": tr("Keep"), "touch up": tr("Touch up"), "rip": tr("Rip and sew again")}
_ENDS = {
    "tie and bury": tr("tie and bury them"), "tiny stitches": tr("clip them"), "run off": tr("clip them"), "caught by the edge": tr("the binding catches them"),
}  # fmt: skip
_TECHNIQUES: dict[Technique, str] = {
    "straight": tr("along a ruler"),
    "curved": tr("along a curved edge"),
    "walking": tr("walking foot"),
    "freehand": tr("freehand"),
}
_EYE = {"eye": tr("by eye"), "freehand": tr("freehand")}


class RemarkRow(w.Said):
    """A remark of the quilter about something."""

    id: str
    about: str
    kind: Literal["verdict", "note", "photo", "done", "left out", "measured"]
    told: str
    when: str


class MishapRow(w.Said):
    """Something that went wrong; ``at`` is its place in the quilt, mm."""

    place: str
    words: str
    at: list[float] | None


class ThereRow(w.Said):
    """What was sewn of a zone at a place, and with what; ``fill`` is null if its plan is no longer known."""

    place: str
    zone: str
    name: str
    where: str
    words: str
    rows: list[w.Row]
    fill: dict[str, Any] | None = None


class SittingRow(w.Said):
    """A sitting: its day and times, figures, what was sewn and what went wrong."""

    key: str
    day: str
    times: str
    words: str
    rows: list[w.Row]
    there: list[ThereRow]
    mishaps: list[MishapRow]
    search: str


class BlockRow(w.Said):
    """Everything that happened at one place."""

    place: str
    name: str
    when: str
    rows: list[w.Row]
    there: list[ThereRow]
    mishaps: list[MishapRow]
    search: str


class ToolRow(w.Said):
    """A foot, ruler or thread, and how much was sewn with it."""

    name: str
    words: str
    note: str


class TodoRow(w.Said):
    """A task to finish; ``key`` is saved when it is ``done``; ``at`` are places in the quilt, mm."""

    key: str
    words: str
    note: str
    place: str
    done: bool
    at: list[list[float]]


class LogView(w.Said):
    """Everything on the Log station. ``next`` is what is sewn next, empty if nothing is left."""

    share: float
    sewn: str
    time: str
    left: str
    range: str
    next: str
    stages: list[StageRow]
    places: list[PlaceRow]
    sittings: list[SittingRow]
    blocks: list[BlockRow]
    zones: list[ThereRow]
    tools: list[ToolRow]
    todo: list[TodoRow]
    learnt: list[LearntRow]
    remarks: list[RemarkRow]
    taped: list[TapeRow]


Facts = Mapping[tuple[int, str], SewnWith | None]
"""What was sewn with, by plan revision and drawing word."""


def day_words(when: float) -> str:
    """
    >>> day_words(0)[-4:]
    '1970'
    """
    return texts.on_day(datetime.fromtimestamp(when), weekday=True, year=True)


def clock_words(when: float) -> str:
    """Hours and minutes of the day."""
    then = datetime.fromtimestamp(when)
    return f"{then.hour % 12 or 12}:{then:%M} {'am' if then.hour < 12 else 'pm'}"


def sitting_rows(laid: QuiltLayout, some: Sequence[Sitting], facts: Facts, unit: Unit) -> list[SittingRow]:
    """All sittings, the newest first."""
    names = part_names(laid)
    return [_sitting(names, one, facts, unit) for one in reversed(some)]


def _sitting(names: Mapping[str, str], one: Sitting, facts: Facts, unit: Unit) -> SittingRow:
    there = [_there(names, mine, facts, unit) for mine in one.there]
    mishaps = [_mishap(names, mishap) for mishap in one.mishaps]
    blocks = len({mine.place for mine in one.there})
    rows = [
        _row(tr("Stitching"), long_figure(one.length, unit)),
        _row(tr("At the needle"), w.minutes(one.seconds)),
        *_by_technique(one.there, facts),
    ]
    if one.threads:
        rows.append(_row(tr("Threads begun"), str(one.threads)))
    if one.bobbins:
        rows.append(_row(tr("Bobbins put in"), str(one.bobbins)))
    if one.rests:
        rows.append(_row(tr("Rests"), ", ".join(w.minutes(end - begin) for begin, end in one.rests)))
    day, times = (
        day_words(one.begun),
        tr("{clock} to {clock2}", clock=clock_words(one.begun), clock2=clock_words(one.ended)),
    )
    words = (
        tr("{length} in {places}", length=long_figure(one.length, unit), places=texts.many(blocks, "place"))
        if blocks
        else tr("Nothing sewn")
    )
    text = " ".join(
        [
            day,
            words,
            *(f"{mine.name} {mine.where} {w.plain(_all(mine.rows))}" for mine in there),
            *(m.words for m in mishaps),
        ]
    )
    return SittingRow(
        key=f"sitting:{one.begun:.0f}", day=day, times=times, words=words, rows=rows, there=there, mishaps=mishaps,
        search=text.lower(),
    )  # fmt: skip


def _by_technique(some: Sequence[There], facts: Facts) -> list[w.Row]:
    """The minutes of each technique, as far as they are known."""
    seconds: Counter[str] = Counter()
    for one in some:
        known = facts.get((one.plan, one.drawing))
        if known:
            seconds[_TECHNIQUES[known.technique]] += round(one.seconds)
    told = [f"{name} {w.minutes(long)}" for name, long in seconds.most_common() if long > 0]
    return [_row(tr("By technique"), " · ".join(told))] if told else []


def _all(rows: Sequence[w.Row]) -> w.Words:
    return [word for row in rows for word in (*row.label, " ", *row.words, " ")]


def _row(label: str, *words: str | w.Shown) -> w.Row:
    return w.Row(label=[label], words=list(words))


def _there(names: Mapping[str, str], one: There, facts: Facts, unit: Unit) -> ThereRow:
    known = facts.get((one.plan, one.drawing))
    rows = [_row(tr("Sewn"), f"{texts.many(len(one.lines), 'line')}, {long_figure(one.length, unit)}")]
    rows += _rows_of(one, unit)
    if known:
        rows += with_rows(known, unit)
    words = f"{texts.many(len(one.lines), 'line')}, {w.minutes(one.seconds)}"
    return ThereRow(
        place=one.place,
        zone=one.zone,
        name=known.zone if known else one.zone,
        where=names.get(one.place, one.place),
        words=words,
        rows=rows,
        fill=known.fill.model_dump(mode="json") if known else None,
    )


def _rows_of(one: There, unit: Unit) -> list[w.Row]:
    rows = [_row(tr("Time"), w.minutes(one.seconds))]
    if one.freehand:
        rows.append(_row(tr("Freehand"), long_figure(one.freehand, unit)))
    if one.threads:
        rows.append(_row(tr("Threads begun"), str(one.threads)))
    if one.skipped:
        rows.append(_row(tr("Skipped"), texts.many(one.skipped, "line")))
    if one.broken:
        rows.append(_row(tr("Thread broke"), texts.many(one.broken, "time")))
    if one.unpicked:
        rows.append(_row(tr("Unpicked"), long_figure(one.unpicked, unit)))
    if one.stitches:
        rows.append(_row(tr("Stitches"), texts.number(one.stitches)))
    return rows


def with_rows(known: SewnWith, unit: Unit) -> list[w.Row]:
    """The fill, and the tools in its plan."""
    kit, fill = known.kit, known.fill
    rows = [_row(tr("Fill"), fill.label)]
    if fill.is_spaced and not fill.in_the_ditch:
        rows.append(_row(tr("Spacing planned"), w.shown(fill.spacing.mm, unit)))
    rows.append(_row(tr("Foot"), *_foot(kit, unit)))
    if known.etched:
        rows.append(_row(tr("Ruler lines"), _etched(known, unit)))
    for by, says in _EYE.items():
        if known.ways[by] and by == "eye":
            rows.append(
                _row(
                    tr("Lines by eye"),
                    tr("{ways} of {values}", ways=known.ways[by], values=sum(known.ways.values())),
                )
            )
        elif known.ways[by]:
            rows.append(_row(tr("Placed"), says))
    side = tr("left") if kit.machine.throat == "right" else tr("right")
    rows.append(
        _row(
            tr("Thread"),
            *w.told("{name}; stitch {mm}", name=kit.thread.name, mm=w.shown(kit.stitch.mm, "mm")),
        )
    )
    rows += [
        _row(label, said)
        for label, said in ((tr("Needle"), kit.needle), (tr("Tension"), kit.tension))
        if said
    ]
    rows.append(_row(tr("Ruler position"), tr("on the {side} of the needle", side=side)))
    return rows


def _foot(kit: Kit, unit: Unit) -> w.Words:
    if kit.sew_with == "walking foot" and kit.walking:
        return [kit.walking.name]
    return w.told("{name}, needle to rim {offset}", name=kit.foot.name, offset=w.shown(kit.foot_offset, unit))


def _etched(known: SewnWith, unit: Unit) -> str:
    by_ruler: dict[str, list[str]] = defaultdict(list)
    for (ruler, line), _ in known.etched.most_common():
        at = tr("edge") if line == 0 else f"{figure(line, unit).text} {unit}"  # type: ignore[arg-type]
        by_ruler[known.kit.rulers[ruler].name if ruler in known.kit.rulers else ruler].append(at)
    return "; ".join(f"{name}: {', '.join(lines)}" for name, lines in by_ruler.items())


def _mishap(names: Mapping[str, str], one: Mishap) -> MishapRow:
    what = {"broke": tr("Thread broke"), "unpicked": tr("Unpicked"), "skipped": tr("Skipped")}[one.kind]
    at = [round(v, 1) for v in one.at] if one.at else None
    return MishapRow(
        place=one.place,
        words=tr(
            "{what} in {get}, line {line}", what=what, get=names.get(one.place, one.place), line=one.line + 1
        ),
        at=at,
    )


def block_rows(laid: QuiltLayout, some: Sequence[Sitting], facts: Facts, unit: Unit) -> list[BlockRow]:
    """Every place where something was sewn, the latest first."""
    names = part_names(laid)
    every = [one for sitting in some for one in sitting.there]
    mishaps = [one for sitting in some for one in sitting.mishaps]
    found = []
    for place, whole in sorted(merged(every, "place").items(), key=lambda one: -one[1].last):
        here = [one for one in every if one.place == place]
        mine = merged(here, "zone")
        there = [_there(names, one, facts, unit) for one in mine.values()]
        rows = [
            _row(tr("Sewn"), long_figure(whole.length, unit)),
            *_rows_of(whole, unit),
            *_by_technique(here, facts),
        ]
        its = [_mishap(names, one) for one in mishaps if one.place == place]
        name = names.get(place, place)
        text = " ".join(
            [name, *(f"{one.name} {w.plain(_all(one.rows))}" for one in there), *(m.words for m in its)]
        )
        found.append(
            BlockRow(
                place=place, name=name, when=day_words(whole.last), rows=rows, there=there, mishaps=its, search=text.lower()
            )
        )  # fmt: skip
    return found


def zone_rows(some: Sequence[Sitting], facts: Facts, unit: Unit) -> list[ThereRow]:
    """Every zone with something sewn, over all its places."""
    every = [one for sitting in some for one in sitting.there]
    found = []
    for zone, whole in merged(every, "zone").items():
        known = facts.get((whole.plan, whole.drawing))
        places = len({one.place for one in every if one.zone == zone})
        rows = [
            _row(
                tr("Sewn"),
                tr(
                    "{lines}, {length}, in {places}",
                    lines=texts.many(len(whole.lines), "line"),
                    length=long_figure(whole.length, unit),
                    places=texts.many(places, "place"),
                ),
            )
        ]
        rows += _rows_of(whole, unit)
        rows += with_rows(known, unit) if known else []
        words = f"{long_figure(whole.length, unit)}, {w.minutes(whole.seconds)}"
        found.append(
            ThereRow(
                place="", zone=zone, name=known.zone if known else zone, where="", words=words, rows=rows
            )
        )
    return found


def tool_rows(some: Sequence[Sitting], facts: Facts, unit: Unit) -> list[ToolRow]:
    """What was sewn with every foot, ruler and thread."""
    length: Counter[tuple[str, str]] = Counter()
    seconds: Counter[tuple[str, str]] = Counter()
    for one in (one for sitting in some for one in sitting.there):
        known = facts.get((one.plan, one.drawing))
        if known is None:
            continue
        kit = known.kit
        foot = kit.walking.name if kit.sew_with == "walking foot" and kit.walking else kit.foot.name
        rulers = {kit.rulers[key].name for key, _ in known.etched if key in kit.rulers}
        for tool in [
            (foot, tr("foot")),
            (kit.thread.name, tr("thread")),
            *((name, tr("ruler")) for name in rulers),
        ]:
            length[tool] += round(one.length)
            seconds[tool] += round(one.seconds)
    return [
        ToolRow(name=name, words=long_figure(far, unit), note=f"{what}, {w.minutes(seconds[name, what])}")
        for (name, what), far in length.most_common()
    ]


def todo_rows(
    laid: QuiltLayout,
    ends: Sequence[ThreadEnds],
    marked: Mapping[str, str],
    found: Sequence[PlaceStatus],
    ticked: Mapping[str, str],
) -> list[TodoRow]:
    """What remains when the lines are sewn. ``marked`` are zones with marks still on, and how these are removed;
    ``ticked`` are finished tasks, with their count at that time."""
    names = part_names(laid)
    how = _ENDS[laid.quilt.stitching.ends]
    rows = []
    for one in ends:
        key, many = f"ends:{one.place}", len(one.at)
        done = min(int(ticked.get(key, "0")), many)
        still = many - done or many
        rows.append(
            TodoRow(
                key=key, words=f"{names.get(one.place, one.place)}: {texts.many(2 * still, 'thread end')}", note=how, place=one.place,
                done=done == many, at=[[round(x, 1), round(y, 1)] for x, y in one.at],
            )
        )  # fmt: skip
    for zone, off in marked.items():
        key = f"marks:{zone}"
        rows.append(
            TodoRow(
                key=key,
                words=tr("Marks of {name}", name=laid.zone(zone).name),
                note=off,
                place="",
                done=False,
                at=[],
            )
        )
    for place in found:
        if place.ditch > 0 and place.left < place.whole:
            name = names.get(place.place, place.part)
            rows.append(
                TodoRow(
                    key=f"ditch:{place.place}",
                    words=tr("{name}: the ditch is not sewn", name=name),
                    note="",
                    place=place.place,
                    done=False,
                    at=[],
                )
            )
    if laid.quilt.basted == "pins":
        done = bool(ticked.get("pins"))
        rows.append(
            TodoRow(
                key="pins",
                words=tr("Basting pins out"),
                note=tr("Before the foot reaches them, and all before washing."),
                place="",
                done=done,
                at=[],
            )
        )
    return rows
