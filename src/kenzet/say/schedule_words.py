"""A schedule in words: what each session holds, and whether all is done in time."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from datetime import date, datetime, time, timedelta

from kenzet.core.logbook.schedule import MOST, Piece, Session
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w

_HALF, _WHOLE = 0.5, 0.995


class SessionRow(w.Said):
    """A session: its day and times, what it holds in lines, and the places."""

    day: str
    times: str
    lines: list[str]
    places: list[str]


class ScheduleView(w.Said):
    """Every session, and a sentence on when all is done."""

    says: str
    sessions: list[SessionRow]


def day_of(day: date) -> str:
    """
    >>> day_of(date(2026, 11, 30))
    'Monday, November 30'
    """
    return f"{day:%A, %B} {day.day}"


def session_lines(one: Session, names: Mapping[str, str], laid: QuiltLayout) -> list[str]:
    """What it holds, in the order in which it is done."""
    lines = []
    if one.bobbins:
        lines.append(f"Wind {w.many(one.bobbins, 'bobbin')} before you begin.")
    lines += [
        f"Mark {laid.zone(zone).name} within {hours} hours before: these marks fade."
        for zone, hours in one.marks
    ]
    if one.warm_up:
        lines.append("Warm up with freehand stitching on a scrap.")
    lines += [_piece(piece, names) for piece in one.pieces]
    if one.rests:
        lines.append(f"{w.many(one.rests, 'rest')} on the way.")
    return lines


def _piece(piece: Piece, names: Mapping[str, str]) -> str:
    name, minutes = names.get(piece.place, piece.place), max(round(piece.minutes), 1)
    if piece.begins == 0 and piece.ends >= _WHOLE:
        return f"{name}, {minutes} min"
    part = "the rest" if piece.ends >= _WHOLE else "begin" if piece.begins == 0 else "go on"
    return f"{name}, {part}, {minutes} min"


def schedule_view(
    laid: QuiltLayout,
    sessions: Sequence[Session],
    names: Mapping[str, str],
    at: time,
    by: date | None,
    longer: int,
    wanted: int,
) -> ScheduleView:
    """``by`` is the day by which all is to be done, ``longer`` the minutes that sessions would have to have for that (0 where it is done, -1 where there is none before), ``wanted`` those
    that they have.
    """
    rows = []
    for one in sessions:
        begins = datetime.combine(one.day, at)
        ends = begins + timedelta(minutes=math.ceil(one.minutes))
        rows.append(
            SessionRow(
                day=day_of(one.day), times=f"{_clock(begins)} to {_clock(ends)}", lines=session_lines(one, names, laid),
                places=list(dict.fromkeys(piece.place for piece in one.pieces)),
            )
        )  # fmt: skip
    return ScheduleView(says=_says(sessions, by, longer, wanted), sessions=rows)


def _clock(when: datetime) -> str:
    return f"{when.hour % 12 or 12}:{when:%M} {'am' if when.hour < 12 else 'pm'}"


def too_many(wanted: int) -> str:
    """Where no end comes in sight."""
    return f"With {wanted} minutes each it takes more than {MOST} sessions. Take longer ones."


def _says(sessions: Sequence[Session], by: date | None, longer: int, wanted: int) -> str:
    if not sessions:
        return "Nothing is left to sew, or no day is chosen."
    done = f"{w.many(len(sessions), 'session')}; all lines are sewn on {day_of(sessions[-1].day)}."
    if by is None or longer == 0:
        return done if by is None else f"{done} That is in time."
    if longer < 0:
        return f"{done} No session lies before {day_of(by)}."
    return f"{done} That is after {day_of(by)}: take about {longer} minutes instead of {wanted}, or one more day a week."
