"""Progress and remaining time in words: place by place, and what fits into the time available."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence

from kenzet.core.inspect.sides import is_whole
from kenzet.core.logbook.forecast import LeftThere, Range, in_all
from kenzet.core.logbook.status import STAGES, PlaceStatus, Stage, share_of
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import TOP
from kenzet.say import words as w
from kenzet.say.whereabouts import placed
from kenzet.texts import tr

STAGE_WORDS: dict[Stage, str] = {
    "planned": tr("not begun"), "marked": tr("marked"), "begun": tr("begun"), "anchored": tr("ditch sewn"), "filled": tr("filled, ditch left"),
    "finished": tr("sewn"), "inspected": tr("inspected"),
}  # fmt: skip


_HOURS_S = 7200.0
"""From two hours on, a range is in whole hours."""


class PlaceRow(w.Said):
    """A place: ``at`` is its center in the quilt, mm; ``share`` is how much of it is sewn, 0 to 1.

    ``whole``: it has four corners, and can be measured from a photograph. ``left`` is the remaining time, empty if
    it is sewn.
    """

    place: str
    name: str
    stage: Stage
    words: str
    share: float
    at: list[float]
    outline: list[list[float]]
    whole: bool
    left: str


class StageRow(w.Said):
    """A stage and the number of places at it, for the key of the picture."""

    stage: Stage
    words: str
    many: int


def part_names(laid: QuiltLayout) -> dict[str, str]:
    """The name of the part at every place; that of the whole top names its zone, if it has only one."""
    names = {place: placed(part.name, place) for place, part in laid.top.at.items()}
    across = [zone.name for zone in laid.quilt.zones.values() if zone.part == TOP]
    return names | {TOP: across[0] if len(across) == 1 else tr("Zones across the quilt")}


def place_rows(
    laid: QuiltLayout,
    found: Sequence[PlaceStatus],
    outlines: Mapping[str, list[list[float]]],
    left: Sequence[LeftThere] = (),
    spread: tuple[float, float] = (1.0, 1.0),
) -> list[PlaceRow]:
    """A row for every place; ``outlines`` are in the quilt's coordinates, flat x, y, including holes."""
    names = part_names(laid)
    rows = []
    for one in found:
        outline = outlines[one.place]
        at = [(min(outline[0][k::2]) + max(outline[0][k::2])) / 2 for k in (0, 1)]
        share = (
            ""
            if one.stage in ("planned", "marked", "finished", "inspected")
            else tr(", {percent} sewn", percent=_percent(one.share))
        )
        rows.append(
            PlaceRow(
                place=one.place, name=names.get(one.place, one.part), stage=one.stage, words=STAGE_WORDS[one.stage] + share,
                share=round(one.share, 4), at=[round(v, 1) for v in at], outline=outline, whole=is_whole(laid, one.place),
                left=range_words(in_all([there for there in left if there.place == one.place], spread)),
            )
        )  # fmt: skip
    return rows


def stage_rows(found: Sequence[PlaceStatus]) -> list[StageRow]:
    """Only stages that some place has reached."""
    many = Counter(one.stage for one in found)
    return [
        StageRow(stage=stage, words=STAGE_WORDS[stage], many=many[stage]) for stage in STAGES if many[stage]
    ]


def range_words(time: Range) -> str:
    """A time with its range; empty if nothing is left.

    >>> range_words(Range(1800, 1500, 2400)), range_words(Range(28800, 22900, 38000)), range_words(Range(0, 0, 0))
    ('25 to 40 min', '6 to 11 h', '')
    """
    if time.seconds < 1:
        return ""
    if time.low >= _HOURS_S:
        return tr("{floor} to {ceil} h", floor=math.floor(time.low / 3600), ceil=math.ceil(time.high / 3600))
    low, high = w.minutes(time.low), w.minutes(time.high)
    if low == high:
        return low
    return (
        tr("{low} to {high}", low=low.removesuffix(" min"), high=high)
        if low.endswith("min") and high.endswith("min") and "under" not in low
        else tr("{low} to {high}", low=low, high=high)
    )


def fits_words(
    found: Sequence[LeftThere],
    left: Sequence[LeftThere],
    names: Mapping[str, str],
    spread: tuple[float, float],
) -> str:
    """What fits into the time available."""
    if not left:
        return tr("Everything planned is sewn.")
    if not found:
        need = range_words(in_all(left[:1], spread))
        return tr(
            "{get} takes {need}, longer than you have. Begin, and stop at the end of a line.",
            get=names.get(left[0].place, left[0].place),
            need=need,
        )
    places = list(dict.fromkeys(names.get(one.place, one.place) for one in found))
    what = (
        places[0]
        if len(places) == 1
        else tr(
            "{places} places, from {places2} to {places3}",
            places=len(places),
            places2=places[0],
            places3=places[-1],
        )
    )
    end = (
        tr("Your thread ends there.")
        if found[-1].stops
        else tr("The thread goes on from there: stop with the needle down, or end the thread.")
    )
    return f"{what}: {range_words(in_all(found, spread))}. {end}"


def _percent(share: float) -> str:
    """Never 100 % before everything is sewn, nor 0 % after the first stitch."""
    return f"{min(max(round(100 * share), 1), 99)} %" if 0 < share < 1 else f"{100 * share:.0f} %"


def share_words(found: Sequence[PlaceStatus]) -> str:
    """The share of the quilt that is sewn."""
    return _percent(share_of(found))
