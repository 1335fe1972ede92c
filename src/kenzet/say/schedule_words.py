"""A schedule in words: what each session contains, and whether everything is finished in time."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from datetime import date, datetime, time, timedelta

from kenzet import texts
from kenzet.core.logbook.schedule import MOST, Piece, Session
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.texts import tr

_HALF, _WHOLE = 0.5, 0.995


class SessionRow(w.Said):
    """A session: its day and times, its contents, and the places."""

    day: str
    times: str
    lines: list[str]
    places: list[str]


class ScheduleView(w.Said):
    """Every session, and a sentence on when everything is finished."""

    says: str
    sessions: list[SessionRow]


def session_lines(one: Session, names: Mapping[str, str], laid: QuiltLayout) -> list[str]:
    """Its contents, in the order in which they are done."""
    lines = []
    if one.bobbins:
        lines.append(tr("Wind {bobbins} before you begin.", bobbins=texts.many(one.bobbins, "bobbin")))
    lines += [
        tr(
            "Mark {name} within {hours} hours before: these marks fade.",
            name=laid.zone(zone).name,
            hours=hours,
        )
        for zone, hours in one.marks
    ]
    if one.warm_up:
        lines.append(tr("Warm up with freehand stitching on a scrap."))
    lines += [_piece(piece, names) for piece in one.pieces]
    if one.rests:
        lines.append(tr("{rests} on the way.", rests=texts.many(one.rests, "rest")))
    return lines


def _piece(piece: Piece, names: Mapping[str, str]) -> str:
    name, minutes = names.get(piece.place, piece.place), max(round(piece.minutes), 1)
    if piece.begins == 0 and piece.ends >= _WHOLE:
        return tr("{name}, {minutes} min", name=name, minutes=minutes)
    part = tr("the rest") if piece.ends >= _WHOLE else tr("begin") if piece.begins == 0 else tr("go on")
    return tr("{name}, {part}, {minutes} min", name=name, part=part, minutes=minutes)


def schedule_view(
    laid: QuiltLayout,
    sessions: Sequence[Session],
    names: Mapping[str, str],
    at: time,
    by: date | None,
    longer: int,
    wanted: int,
) -> ScheduleView:
    """``by`` is the day by which everything should be finished, ``longer`` the minutes that sessions would need
    for that (0 if it is finished, -1 if there is none before), ``wanted`` the minutes they have."""
    rows = []
    for one in sessions:
        begins = datetime.combine(one.day, at)
        ends = begins + timedelta(minutes=math.ceil(one.minutes))
        rows.append(
            SessionRow(
                day=texts.on_day(one.day, weekday=True), times=tr("{clock} to {clock2}", clock=_clock(begins), clock2=_clock(ends)), lines=session_lines(one, names, laid),
                places=list(dict.fromkeys(piece.place for piece in one.pieces)),
            )
        )  # fmt: skip
    return ScheduleView(says=_says(sessions, by, longer, wanted), sessions=rows)


def _clock(when: datetime) -> str:
    return f"{when.hour % 12 or 12}:{when:%M} {'am' if when.hour < 12 else 'pm'}"


def too_many(wanted: int) -> str:
    """What to say if too many sessions would be needed."""
    return tr(
        "At {wanted} minutes each this takes more than {most} sessions. Choose longer sessions.",
        wanted=wanted,
        most=MOST,
    )


def _says(sessions: Sequence[Session], by: date | None, longer: int, wanted: int) -> str:
    if not sessions:
        return tr("Nothing is left to sew, or no day is chosen.")
    done = tr(
        "{sessions}; all lines are sewn on {day}.",
        sessions=texts.many(len(sessions), "session"),
        day=texts.on_day(sessions[-1].day, weekday=True),
    )
    if by is None or longer == 0:
        return done if by is None else tr("{done} That is on time.", done=done)
    if longer < 0:
        return tr("{done} No session falls before {by}.", done=done, by=texts.on_day(by, weekday=True))
    return tr(
        "{done} That is after {by}: sew about {longer} minutes instead of {wanted}, or one more day a week.",
        done=done,
        by=texts.on_day(by, weekday=True),
        longer=longer,
        wanted=wanted,
    )
