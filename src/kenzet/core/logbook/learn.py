"""What sewn work teaches: the foot's true offset, the scatter of lines, pace, stitch length, thread on a bobbin.

Every estimate is robust (medians, Theil-Sen slopes), has a 95 % interval and is combined with the value in use as
a prior, so that a few lines change it little. Nothing is changed here; lengths are mm, times seconds.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Literal, get_args

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.sides import Side, along
from kenzet.core.kit.kit import Kit
from kenzet.core.logbook.by_hand import LaidSpan, from_spans
from kenzet.core.numbers.robust import scatter as scatter_of
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_zone
from kenzet.core.route.needle import TAIL, thread
from kenzet.core.route.unit import Technique
from kenzet.core.sewing.log import PAUSE_S, Event
from kenzet.core.sewing.stretch import LEAST, Stretch
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.stitching import Pace

Key = Literal[
    "offset",
    "spread",
    "straight",
    "curved",
    "walking",
    "freehand",
    "lay",
    "turn",
    "stitch",
    "bobbin",
    "thickness",
    "rise",
    "firmness",
    "shrinks",
    "takes_up",
    "fades",
]
NINETEEN_OF_TWENTY = 1.96
FEWEST = 6
"""The least number of lines or bobbins to learn from."""
_MOST_PAIRS = 400  # of the newest lines, for slopes
_OFFSET_SD = 0.5  # mm: how far a measured offset of a foot may be out
_PACE_SD = 0.35  # of a pace, as a share, before anything is known
_LAY_SD = 6.0
_TURN_SD = 2.0  # seconds
_LEAST_STITCHES = 200
_ALIKE = 10  # lines that differ by less than one part of so many are as long: no slope is told by them
_LONGEST_S = 240.0  # for one line: more was something else


@dataclass(frozen=True, slots=True)
class Learnt:
    """An estimate ``value`` with its interval from ``low`` to ``high``; ``used`` is the value in use, NaN if there is
    none.

    It comes from ``many`` lines (bobbins, swatches) seen between the times ``first`` and ``last``. ``side`` is the
    side of the needle where the ruler was (for an offset), or the key of a marking tool (for hours until marks
    fade). Paces are mm a minute; values of a batting other than its thickness are per cent.
    """

    key: Key
    value: float
    low: float
    high: float
    used: float
    many: int
    first: float
    last: float
    side: str = ""

    @property
    def differs(self) -> bool:
        """Whether the value in use lies outside the interval."""
        return not self.low <= self.used <= self.high


@dataclass(frozen=True, slots=True)
class LaidLine:
    """A line placed from another one with an etched line: it is ``out`` mm farther from it than computed, seen at
    time ``when`` with the ruler on ``side`` of the needle; ``foot`` is the offset in the plan."""

    out: float
    when: float
    side: str
    foot: float


def laid_lines(laid: QuiltLayout, findings: Sequence[Finding], when: float) -> list[LaidLine]:
    """From one measured block and the plan it was sewn by: every straight line that was placed from a line that is
    seen too."""
    seen: dict[tuple[str, int], list[Finding]] = {}
    for one in findings:
        if not one.unseen and len(one.side.path) == 2:
            seen.setdefault((one.side.word, one.side.line), []).append(one)
    found: list[LaidLine] = []
    for one in findings:
        side = one.side
        if one.unseen or len(side.path) != 2:
            continue
        plan = plan_zone(laid, side.zone)
        if plan is None:
            continue
        on = planned(plan, side.drawing, side.line)
        total = on.total
        if on.on not in ("last", "line") or on.by != "etched line" or on.reference is None or total is None:
            continue
        beside = _beside(side, seen.get((side.word, on.reference), []))
        if beside is None:
            continue
        toward = _normal(side) * math.copysign(1.0, _toward(beside.side, side))
        mine = one.offset * float(toward @ _normal(side))
        its = beside.offset * float(toward @ _normal(beside.side))
        lies = "left" if plan.kit.machine.throat == "right" else "right"
        foot = float(plan.kit.foot.to_rim_at("left" if lies == "left" else "right"))
        found.append(LaidLine(mine - its - float(total.out), when, lies, foot))
    return found


def _normal(side: Side) -> Floats:
    found: Floats = along(side.path, np.array([side.length / 2]))[1][0]
    return found


def _toward(reference: Side, side: Side) -> float:
    """The distance of a line to the left of its reference, mm."""
    away: Floats = side.path.mean(axis=0) - reference.path.mean(axis=0)
    return float(away @ _normal(side))


def _beside(side: Side, others: Iterable[Finding]) -> Finding | None:
    """The nearest side of another line that runs along this one."""
    along_it = [
        one for one in others if abs(float(_normal(one.side) @ _normal(side))) > math.cos(math.radians(2))
    ]
    return min(
        along_it,
        key=lambda one: float(np.hypot(*(one.side.path.mean(axis=0) - side.path.mean(axis=0)))),
        default=None,
    )


def learnt_offset(lines: Sequence[LaidLine], kit: Kit, spans: Sequence[LaidSpan] = ()) -> list[Learnt]:
    """The foot's offset for each side on which rulers were, and the scatter of lines (F14, F36).

    If the offset is greater than assumed by δ, every line placed from the last one comes out δ too far. ``spans``
    were measured with a tape.
    """
    found = []
    for side in sorted({line.side for line in lines} | {span.side for span in spans}):
        mine = [line for line in lines if line.side == side]
        taped = [span for span in spans if span.side == side]
        many = len(mine) * (len(mine) >= FEWEST) + sum(span.gaps for span in taped)
        if many < FEWEST:
            continue
        used = float(kit.foot.to_rim_at("left" if side == "left" else "right"))
        value, sd, times = used, _OFFSET_SD, [span.when for span in taped]
        if len(mine) >= FEWEST:
            out = np.array([line.out for line in mine])
            error = 1.2533 * max(scatter_of(out), EQUAL) / math.sqrt(len(out))  # of a median
            foot = np.array([line.foot for line in mine])
            value, sd = weighed(value, sd, float(np.median(foot + out)), error)
            times += [line.when for line in mine]
        by_tape = from_spans(taped, kit)
        if by_tape:
            value, sd = weighed(value, sd, *by_tape)
        found.append(_learnt("offset", value, sd, used, many, times, side))
    if len(lines) >= 2 * FEWEST:
        out = np.array([line.out for line in lines])
        scatter = scatter_of(out)  # of a gap: F36 adds up the gaps
        sd = scatter * 1.17 / math.sqrt(len(out))  # of a median absolute deviation
        found.append(
            _learnt("spread", scatter, sd, float(kit.spread.mm), len(out), [line.when for line in lines])
        )
    return found


def weighed(prior: float, prior_sd: float, value: float, sd: float) -> tuple[float, float]:
    """A prior and a measurement combined by their precisions, and the standard deviation of the result.

    >>> weighed(10.0, 1.0, 12.0, 1.0)
    (11.0, 0.7071067811865476)
    """
    one, other = 1 / prior_sd**2, 1 / max(sd, EQUAL) ** 2
    return (prior * one + value * other) / (one + other), math.sqrt(1 / (one + other))


def _learnt(
    key: Key, value: float, sd: float, used: float, many: int, times: Collection[float], side: str = ""
) -> Learnt:
    low, high = value - NINETEEN_OF_TWENTY * sd, value + NINETEEN_OF_TWENTY * sd
    return Learnt(key, value, max(low, 0.0), high, used, many, min(times), max(times), side)


@dataclass(frozen=True, slots=True)
class Timed:
    """A sewn line: ``far`` mm of stitching in ``seconds``, including placing the ruler and ``turns`` of the quilt."""

    technique: Technique
    far: float
    seconds: float
    when: float
    turns: int = 0


@dataclass(frozen=True, slots=True)
class HowSewn:
    """The technique of a drawing, and by line number the places along it (mm) where the quilt is turned."""

    technique: Technique
    corners: Mapping[int, tuple[float, ...]] = field(default_factory=dict)

    def turns(self, sewn: Iterable[Stretch]) -> int:
        """The number of turns within some stretches."""
        return sum(
            one.begins + LEAST < at < one.ends - LEAST
            for one in sewn
            for at in self.corners.get(one.line, ())
        )


def timed(
    events: Sequence[Event], how_of: Mapping[tuple[int, str], HowSewn], left_out: Collection[float]
) -> list[Timed]:
    """Every line whose time is known: from the event before it, without pauses. ``how_of`` is keyed by plan
    revision and drawing; sittings that began at a time in ``left_out`` are ignored."""
    found = []
    ordered = sorted(events, key=lambda event: event.when)
    begun = ordered[0].when if ordered else 0.0
    for before, event in pairwise(ordered):
        if event.when - before.when > PAUSE_S:
            begun = event.when if event.when - before.when > 3600 else begun
            continue
        took = event.when - before.when
        if (
            event.kind != "sewn"
            or not event.sewn
            or not 0 < took < _LONGEST_S
            or round(begun) in {round(at) for at in left_out}
        ):
            continue
        how = HowSewn("freehand") if event.freehand else how_of.get((event.plan, event.sewn[0].of))
        if how is not None and event.far > 0:
            found.append(Timed(how.technique, event.far, took, event.when, how.turns(event.sewn)))
    return found


def learnt_pace(lines: Sequence[Timed], pace: Pace) -> list[Learnt]:
    """Pace in mm a minute by technique, seconds to place a ruler and seconds for a turn.

    The model is seconds = placing + mm / pace + turns × turn. The pace is a Theil-Sen slope with Kendall's
    interval over lines without turns (over all lines if there are too few); the residuals give the other two.
    """
    found, lays, turns = [], list[tuple[float, float]](), list[tuple[float, float, list[float]]]()
    for technique in get_args(Technique):
        mine = [line for line in lines if line.technique == technique][-_MOST_PAIRS:]
        if len(mine) < FEWEST:
            continue
        plain = [line for line in mine if not line.turns]
        some = plain if len(plain) >= FEWEST else mine
        far, took = np.array([line.far for line in some]), np.array([line.seconds for line in some])
        slope, error = _slope(far, took)
        if slope is None or slope <= 0:
            continue
        used = float(getattr(pace, technique).mm)
        share = math.log(60 / slope), max(error / slope, EQUAL)
        value, sd = weighed(math.log(used), _PACE_SD, *share)
        low, high = math.exp(value - NINETEEN_OF_TWENTY * sd), math.exp(value + NINETEEN_OF_TWENTY * sd)
        times = [line.when for line in mine]
        found.append(Learnt(technique, math.exp(value), low, high, used, len(mine), min(times), max(times)))
        rest = np.array([line.seconds - slope * line.far for line in mine])
        some_turns = np.array([line.turns for line in mine], float)
        way = error * float(np.median([line.far for line in mine]))  # how far the needle's time may be out
        each, its = _slope(some_turns, rest) if (some_turns > 0).sum() >= FEWEST else (None, 0.0)
        if each is not None:
            out = math.hypot(its, way / float(np.median(some_turns[some_turns > 0])))
            turns.append((max(each, 0.0), out, [line.when for line in mine if line.turns]))
        if technique in ("straight", "curved"):
            lays += [
                (left, line.when)
                for left, line in zip(rest.tolist(), mine, strict=True)
                if not line.turns or not plain
            ]
    return [*found, *_lay(lays, pace), *_turn(turns, pace)]


def _lay(seen: Sequence[tuple[float, float]], pace: Pace) -> list[Learnt]:
    """The seconds to place a ruler, from the remainder after the needle's time is subtracted, and when that was
    seen."""
    if len(seen) < FEWEST:
        return []
    rest = np.array([seconds for seconds, _ in seen])
    error = 1.2533 * scatter_of(rest) / math.sqrt(len(rest))
    value, sd = weighed(float(pace.lay), _LAY_SD, max(float(np.median(rest)), 0.0), error)
    return [_learnt("lay", value, sd, float(pace.lay), len(seen), [when for _, when in seen])]


def _turn(seen: Sequence[tuple[float, float, list[float]]], pace: Pace) -> list[Learnt]:
    """The seconds for a turn, from the estimates of all techniques with their standard deviations, and when that
    was seen."""
    value, sd = float(pace.turn), _TURN_SD
    for each, error, _ in seen:
        value, sd = weighed(value, sd, each, error)
    times = [when for *_, some in seen for when in some]
    return [_learnt("turn", value, sd, float(pace.turn), len(times), times)] if times else []


def _slope(far: Floats, took: Floats) -> tuple[float | None, float]:
    """The median slope over all pairs, and its standard error from Kendall's ranks; None if all lines have the
    same length."""
    one, other = np.triu_indices(len(far), 1)
    apart = far[other] - far[one]
    use = np.abs(apart) > np.median(far) / _ALIKE
    if use.sum() < FEWEST:
        return None, 0.0
    slopes = np.sort((took[other] - took[one])[use] / apart[use])
    n = len(far)
    half = (
        NINETEEN_OF_TWENTY * math.sqrt(n * (n - 1) * (2 * n + 5) / 18) * len(slopes) / (n * (n - 1) / 2) / 2
    )
    low, high = (int(np.clip(len(slopes) / 2 + sign * half, 0, len(slopes) - 1)) for sign in (-1, 1))
    return float(np.median(slopes)), float(slopes[high] - slopes[low]) / (2 * NINETEEN_OF_TWENTY)


def learnt_stitch(events: Sequence[Event], kit: Kit) -> list[Learnt]:
    """The stitch length, from machines that count stitches."""
    counted = [event for event in events if event.stitches > 3 and event.far > 0]
    stitches = sum(event.stitches for event in counted)
    if stitches < _LEAST_STITCHES:
        return []
    each = np.array([event.far / event.stitches for event in counted])
    value = sum(event.far for event in counted) / stitches
    sd = scatter_of(each) / math.sqrt(len(each))
    return [
        _learnt(
            "stitch",
            value,
            max(sd, 0.01 * value),
            float(kit.stitch.mm),
            len(counted),
            [e.when for e in counted],
        )
    ]


def learnt_bobbin(events: Sequence[Event], kit: Kit) -> list[Learnt]:
    """The thread that a bobbin holds, from what was sewn between two full ones (F41)."""
    per_mm = thread(1.0, float(kit.batting.thickness.mm), float(kit.stitch.mm))
    used, way, threads = [], 0.0, 0
    full = False
    for event in events:
        way += event.far
        threads += event.kind == "begun"
        if event.kind == "bobbin":
            if full and way > 0:
                used.append((way * per_mm + threads * TAIL, event.when))
            full, way, threads = True, 0.0, 0
    if len(used) < 2:
        return []
    amounts = np.array([amount for amount, _ in used])
    holds = float(kit.bobbin.holds.mm)
    spread = scatter_of(amounts)
    error = max(1.2533 * spread, 0.05 * holds) / math.sqrt(len(amounts))
    value, sd = weighed(holds, 0.25 * holds, float(np.median(amounts)), error)
    return [_learnt("bobbin", value, sd, holds, len(used), [when for _, when in used])]
