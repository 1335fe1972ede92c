"""The quilt's balance in words: what to know first, then each theme ranked."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

from kenzet import texts
from kenzet.core.balance.density import Hand, hand, limits
from kenzet.core.balance.effort import Accent, Asked, by_block, threads_by_zone
from kenzet.core.balance.gaps import Gap
from kenzet.core.balance.standing import Pair, Seen
from kenzet.core.balance.threads import ByZone, Look, ThreadOn, difference, look
from kenzet.core.balance.weigh import Balance
from kenzet.core.kit.things import Thing
from kenzet.core.logbook.swatch_lessons import ShrinkageByDensity
from kenzet.core.numbers.measure import COARSE, INCH, Unit, in_words
from kenzet.core.route.quilt import QuiltRoute
from kenzet.core.route.quilt_needle import whole_needle
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.balance_advice import GRAIN, UNEVEN, BalanceTold, known
from kenzet.say.fill_words import about_minutes
from kenzet.say.whereabouts import place_name
from kenzet.texts import tr

HAND_COLOURS: dict[Hand, str] = {
    "open": "#f6f1e4", "loose": "#ecd9a8", "soft": "#d9a86a", "firm": "#b3654a", "stiff": "#6d2740",
}  # fmt: skip
"""From light to dark, so that the order is visible without the hue."""
_OFF = 0.08  # of the quilt: a fill whose middle is farther off lies to one side


class ZoneRow(w.Said):
    """A zone with a figure: ``share`` is the length of its bar, 0 to 1."""

    zone: str
    name: str
    words: w.Words
    note: str
    share: float
    hand: Hand | None = None


class GapRow(w.Said):
    """A gap with its place on the quilt; ``over`` if it exceeds the batting's limit."""

    zone: str
    name: str
    words: w.Words
    note: str
    at: list[float]
    radius: float
    over: bool


class PairRow(w.Said):
    """Two neighbors and the ratio of their densities."""

    dense: str
    loose: str
    words: w.Words
    alike: bool


class AccentRow(w.Said):
    """A kind of fill and where it lies."""

    name: str
    words: w.Words
    note: str
    alone: bool


class ClothCell(w.Said):
    """How a thread shows on a fabric."""

    fabric: str
    colour: str
    look: Look
    figure: str


class ThreadRow(w.Said):
    """A thread on every quilted fabric, and on the backing."""

    key: str
    name: str
    colour: str
    used: bool
    words: str
    cells: list[ClothCell]
    note: str


class FirmnessView(w.Said):
    """A word of the map with its color, and the density from which it applies."""

    hand: Hand
    words: str
    colour: str


class BalanceView(w.Said):
    """Everything on the Balance station. ``reads`` is the ratio from which two zones look different."""

    known: list[BalanceTold]
    mean: w.Words
    hand: Hand
    widest: w.Words
    limit: w.Words
    time: str
    even: str
    hands: list[FirmnessView]
    measure: str
    densities: list[ZoneRow]
    gaps: list[GapRow]
    standings: list[ZoneRow]
    pairs: list[PairRow]
    reads: float
    seen: list[ZoneRow]
    accents: list[AccentRow]
    threads: list[ThreadRow]
    by_zone: list[str]
    times: list[ZoneRow]
    blocks: list[w.Row]
    washed: w.Words


def balance_view(
    laid: QuiltLayout,
    found: Balance,
    own: Mapping[str, Thing],
    ranked: tuple[list[ThreadOn], ByZone | None],
    route: QuiltRoute | None,
    reads: float,
    unit: Unit,
    shrinkage: ShrinkageByDensity | None = None,
) -> BalanceView:
    """``own`` are the quilter's tools and supplies; ``ranked`` her threads, ``route`` the route through the quilt
    (None if nothing is planned); ``shrinkage`` is learnt from swatches, if they tell it."""
    quilt = laid.quilt
    limit = float(quilt.kit.batting.limit.mm)
    widest = found.gaps[0] if found.gaps else None
    return BalanceView(
        known=known(laid, found, own, reads, unit),
        mean=[w.density(found.spread.mean, unit)],
        hand=hand(found.spread.mean, quilt.use, quilt.kit.batting),
        widest=[w.shown(widest.width, unit, COARSE[unit], about=True)] if widest else [tr("none")],
        limit=[w.shown(quilt.kit.batting.limit.mm, unit)],
        time=w.minutes(whole_needle(laid, route).seconds) if route else tr("nothing to sew yet"),
        even=_even(laid, found),
        hands=_hands(laid, unit),
        measure=tr("in per sq in") if unit == "in" else tr("cm per sq cm"),
        densities=_densities(laid, found, unit),
        gaps=[_gap(laid, gap, limit, unit) for gap in found.gaps],
        standings=[
            ZoneRow(
                zone=one.key,
                name=laid.zone(one.key).name,
                words=[f"{round(100 * one.rise)}%"],
                note=tr("all of it lies flat")
                if one.flat
                else tr("{share} of it stands high", share=_share(one.puffy)),
                share=min(one.rise, 1.0),
            )
            for one in found.standings
        ],
        pairs=[_pair(laid, pair, reads) for pair in found.pairs],
        reads=reads,
        seen=[
            ZoneRow(zone=one.key, name=laid.zone(one.key).name, words=[], note=_why(one), share=one.weight)
            for one in found.seen
        ],
        accents=[accent_row(laid, one, found.accents, unit) for one in found.accents],
        threads=[_thread(laid, one) for one in ranked[0]],
        by_zone=_by_zone(laid, *ranked),
        times=_times(laid, found, route),
        blocks=[_block(name, one) for name, one in (by_block(laid, route) if route else {}).items()],
        washed=_washed(laid, found, shrinkage, unit),
    )


def _share(share: float) -> str:
    whole = round(100 * share)
    return f"{whole}%" if whole else tr("none")


def _even(laid: QuiltLayout, found: Balance) -> str:
    if not found.spread.mean:
        return tr("Nothing is quilted yet.")
    share = found.spread.share
    how = tr("even") if share < UNEVEN / 2 else tr("fairly even") if share < UNEVEN else tr("uneven")
    return tr(
        "Over the whole quilt {how}: zones differ from the mean by {value}%.",
        how=how,
        value=round(100 * share),
    )


def _hands(laid: QuiltLayout, unit: Unit) -> list[FirmnessView]:
    soft, firm, stiff = limits(laid.quilt.use, laid.quilt.kit.batting)
    first, second, third = (f"{limit * (INCH if unit == 'in' else 10):.1f}" for limit in (soft, firm, stiff))
    words: dict[Hand, str] = {
        "open": "",
        "loose": tr("under {first}", first=first),
        "soft": tr("{first} to {second}", first=first, second=second),
        "firm": tr("{second} to {third}", second=second, third=third),
        "stiff": tr("over {third}", third=third),
    }
    return [FirmnessView(hand=hand, words=said, colour=HAND_COLOURS[hand]) for hand, said in words.items()]


def _densities(laid: QuiltLayout, found: Balance, unit: Unit) -> list[ZoneRow]:
    most = max((one.density for one in found.densities), default=0.0) or 1.0
    return [
        ZoneRow(
            zone=one.key,
            name=laid.zone(one.key).name,
            words=[w.density(one.density, unit)] if one.hand != "open" else [],
            note=tr(one.hand),
            share=one.density / most,
            hand=one.hand,
        )
        for one in found.densities
    ]


def _gap(laid: QuiltLayout, gap: Gap, limit: float, unit: Unit) -> GapRow:
    where = place_name(gap.place) if gap.place != "top" else tr("across the quilt")
    many = tr(", {places} places alike", places=gap.places) if gap.places > 1 else ""
    why = "" if gap.filled else tr("not quilted, ")
    left = tr(", {lines} left out", lines=texts.many(gap.left_out, "line")) if gap.left_out else ""
    return GapRow(
        zone=gap.zone,
        name=laid.zone(gap.zone).name if gap.zone else tr("Patches in no zone"),
        words=[w.shown(gap.width, unit, COARSE[unit], about=True)],
        note=f"{why}{where}{many}{left}",
        at=list(gap.at),
        radius=gap.width / 2,
        over=gap.width > limit + VISIBLE,
    )


def _pair(laid: QuiltLayout, pair: Pair, reads: float) -> PairRow:
    words = tr("one is unquilted") if pair.ratio is None else tr("{ratio} to 1", ratio=f"{pair.ratio:.1f}")
    return PairRow(
        dense=laid.zone(pair.dense).name,
        loose=laid.zone(pair.loose).name,
        words=[words],
        alike=pair.alike(reads),
    )


def _why(one: Seen) -> str:
    """The reasons why a zone is seen, the strongest first."""
    reasons = []
    if one.relief > 0.3:
        reasons.append(tr("stands out from what lies beside it"))
    elif one.relief < 0.12:
        reasons.append(tr("as high as its neighbors"))
    if one.thread:
        reasons.append(tr("the thread {look}", look=tr(look(one.thread))))
    if one.busy > 0.5:
        reasons.append(tr("a busy print hides it"))
    reasons.append(tr("{share} of the quilt", share=_share(one.share)))
    return ", ".join(reasons)


def accent_row(laid: QuiltLayout, one: Accent, every: Sequence[Accent], unit: Unit) -> AccentRow:
    """A kind of fill compared with ``every`` one of the quilt."""
    area = sum(accent.area for accent in every) or 1.0
    x, y = one.off[0] * laid.top.width, one.off[1] * laid.top.height
    if one.away < _OFF:
        lies = tr("balanced about the center")
    else:
        sides = [(abs(x), tr("{x} to the {which}", x=in_words(abs(x), unit, COARSE[unit]), which=tr("right") if x > 0 else tr("left"))),
                 (abs(y), f"{in_words(abs(y), unit, COARSE[unit])} {'above' if y > 0 else 'below'}")]  # fmt: skip
        lies = (
            tr("its middle lies {sides} of the center", sides=max(sides)[1])
            if max(sides)[0] == abs(x)
            else tr("its middle lies {sides} the center", sides=max(sides)[1])
        )
    return AccentRow(
        name=one.label,
        words=[texts.many(one.places, "place")],
        note=tr(
            "{share} of what is quilted, {about_minutes}, {lies}",
            share=_share(one.area / area),
            about_minutes=about_minutes(one.minutes),
            lies=lies,
        ),
        alone=one.places == 1,
    )


def _thread(laid: QuiltLayout, one: ThreadOn) -> ThreadRow:
    quilt = laid.quilt
    cells = [_cell(quilt.fabrics[name].name, quilt.fabrics[name].colour, far) for name, far in one.on.items()]
    backing = quilt.fabrics.get(quilt.backing or "")
    if backing:
        cells.append(
            _cell(
                tr("{name}, the backing", name=backing.name),
                backing.colour,
                difference(one.thread.colour, backing.colour),
            )
        )
    through = ", ".join(quilt.fabrics[name].name for name in one.through)
    kit = quilt.kit
    used = one.key == kit.thread_key or (kit.thread_key is None and one.thread == kit.thread)
    return ThreadRow(
        key=one.key,
        name=one.thread.name,
        colour=one.thread.colour,
        used=used,
        words=tr("{look} on the whole", look=tr(look(one.mean))),
        cells=cells,
        note=tr("Dark: ends may be seen through {through}.", through=through) if through else "",
    )


def look_words(laid: QuiltLayout, found: Balance, unit: Unit) -> list[str]:
    """For paper: the quilt's thread on its fabrics, how firm the quilt gets, and where each kind of fill lies."""
    thread, fabrics = laid.quilt.kit.thread, laid.quilt.fabrics
    used = {
        fabric
        for key, areas in found.cloth.items()
        if key in found.plans
        for fabric in areas
        if fabric in fabrics
    }
    ranked = sorted(used, key=lambda fabric: difference(thread.colour, fabrics[fabric].colour))
    on = ", ".join(
        tr(
            "{look} on {name}",
            look=tr(look(difference(thread.colour, fabrics[one].colour))),
            name=fabrics[one].name,
        )
        for one in ranked
    )
    feels = hand(found.spread.mean, laid.quilt.use, laid.quilt.kit.batting)
    said = [
        tr("Thread “{name}”: {on}.", name=thread.name, on=on),
        tr(
            "On the whole {feels}, {mean}. {even}",
            feels=tr(feels),
            mean=w.density(found.spread.mean, unit),
            even=_even(laid, found),
        ),
    ]
    for row in (accent_row(laid, one, found.accents, unit) for one in found.accents):
        said.append(f"{row.name}, {w.plain(row.words)}: {row.note}.")
    return said


def _cell(name: str, colour: str, far: float) -> ClothCell:
    return ClothCell(fabric=name, colour=colour, look=look(far), figure=f"{far:.0f}")


def _by_zone(laid: QuiltLayout, ranked: list[ThreadOn], each: ByZone | None) -> list[str]:
    if not ranked:
        return [tr("You have no thread yet: add one in Kit.")]
    best = ranked[0]
    said = [
        tr(
            "One thread for all zones: “{name}”; on the whole it {look}.",
            name=best.thread.name,
            look=tr(look(best.mean)),
        )
    ]
    if each is None:
        return said
    names = {one.key: one.thread.name for one in ranked}
    if each.changes == 0:
        return [*said, tr("None of your other threads suits a zone better.")]
    parts: dict[str, list[str]] = {}
    for zone, key in each.choice.items():
        parts.setdefault(key, []).append(f"“{laid.zone(zone).name}”")
    for key, zones in parts.items():
        said.append(tr("“{names}” for {zones}.", names=names[key], zones=", ".join(zones)))
    return [
        *said,
        tr(
            "That takes {changes} of thread, if each zone is sewn whole.",
            changes=texts.many(each.changes, "change"),
        ),
    ]


def _times(laid: QuiltLayout, found: Balance, route: QuiltRoute | None) -> list[ZoneRow]:
    begun = threads_by_zone(route) if route else Counter[str]()
    ranked = sorted(found.asked.items(), key=lambda one: -one[1].minutes)
    most = max((one.minutes for _, one in ranked), default=0.0) or 1.0
    return [
        ZoneRow(
            zone=key,
            name=laid.zone(key).name,
            words=[about_minutes(one.minutes)],
            note=tr(
                "{places}, {threads} begun there",
                places=texts.many(one.places, "place"),
                threads=texts.many(begun[key], "thread"),
            ),
            share=one.minutes / most,
        )
        for key, one in ranked
    ]


def _block(name: str, one: Asked) -> w.Row:
    cuts = texts.many(one.stops, "thread cut") if one.stops else tr("no thread cut")
    each, often = (tr(" each"), f", {texts.many(one.places, 'time')}") if one.places > 1 else ("", "")
    return w.Row(label=[f"{name}{often}"], words=[f"{about_minutes(one.minutes)}{each}, {cuts}"])


def _washed(laid: QuiltLayout, found: Balance, shrinkage: ShrinkageByDensity | None, unit: Unit) -> w.Words:
    batting = laid.quilt.kit.batting
    zones = [one for one in found.densities if one.area > 0]
    by_swatches = ""
    if shrinkage and zones:
        dense, loose = zones[0], zones[-1]
        whole = sum(one.area for one in zones)
        mean = sum(shrinkage.at(one.density) * one.area for one in zones) / whole
        batting = batting.model_copy(update={"shrinks": round(mean)})
        by_swatches = tr(
            "By your swatches “{name}” shrinks by {at} % and “{name2}” by {at2} %. ",
            name=laid.zone(loose.key).name,
            at=f"{shrinkage.at(loose.density):.1f}",
            name2=laid.zone(dense.key).name,
            at2=f"{shrinkage.at(dense.density):.1f}",
        )
    size, said = (laid.top.width, laid.top.height), list[str | w.Shown]()
    if (lost := batting.takes_up) is not None:
        size = _shrunk(size, lost)
        said += w.told(
            "Quilting takes up {lost} % on “{name}”: quilted about {size}. ",
            lost=f"{lost}", name=batting.name, size=_size(size, unit),
        )  # fmt: skip
    if (lost := batting.shrinks) is not None:
        size = _shrunk(size, lost)
        said += w.told(
            "“{name}” shrinks by {lost} %: after the wash about {size}. ",
            lost=f"{lost}", name=batting.name, size=_size(size, unit),
        )  # fmt: skip
    if batting.shrinks is None:
        return [
            *said,
            tr("Enter in Kit how much “{name}” shrinks in the wash; see its label.", name=batting.name),
        ]
    return [*said, by_swatches or tr("The fabrics shrink too, and dense quilting shrinks more.")]


def _shrunk(size: tuple[float, float], lost: float) -> tuple[float, float]:
    """Both sides after losing ``lost`` per cent, mm."""
    return size[0] * (1 - lost / 100), size[1] * (1 - lost / 100)


def _size(size: tuple[float, float], unit: Unit) -> w.Words:
    wide, high = size
    return [
        w.shown(wide, unit, GRAIN[unit] * 4, bare=True),
        " × ",
        w.shown(high, unit, GRAIN[unit] * 4),
    ]
