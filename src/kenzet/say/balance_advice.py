"""Advice on a quilt's balance: the most harmful point first, each with its remedy."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from typing import Literal

from kenzet import texts
from kenzet.core.advice.contrast import FEW
from kenzet.core.balance.density import WANTS_EVEN, WANTS_SOFT
from kenzet.core.balance.effort import scale_trouble
from kenzet.core.balance.gaps import Gap
from kenzet.core.balance.tell_apart import tell_apart
from kenzet.core.balance.weigh import Balance
from kenzet.core.kit.things import Thing
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.numbers.measure import COARSE, MM_PER, Length, Unit, in_words
from kenzet.core.plan.close_gap import closing_lines
from kenzet.core.tolerances import VISIBLE
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import words as w
from kenzet.say.fill_words import about_minutes
from kenzet.texts import tr

UNEVEN = 0.35
"""Share of the mean: a garment hangs unevenly if its pieces differ by more (our choice)."""
GRAIN: dict[Unit, Fraction] = {"in": MM_PER["in"] / 16, "mm": Fraction(1)}
_LOST = 30.0  # minutes on a busy print that are worth a word
_SAVING = 0.15  # of all minutes: a zone that takes less is not worth a word
_MOST_ALIKE = 2
_EQUALLY = 1.05
Station = Literal["", "top", "fills", "kit"]


class BalanceStep(w.Said):
    """A button: it opens ``station`` with ``zone`` chosen, sets ``values`` of its fill, or makes a ``change`` of
    the quilt."""

    label: str
    zone: str
    station: Station = ""
    values: dict[str, str | None] | None = None
    change: dict[str, str] | None = None


class BalanceTold(w.Said):
    """One point of advice, with its place on the quilt (mm) and its remedies."""

    words: w.Words
    tone: Literal["warns", "tells"]
    at: list[float] | None = None
    steps: list[BalanceStep]


def known(
    laid: QuiltLayout, found: Balance, own: Mapping[str, Thing], reads: float, unit: Unit
) -> list[BalanceTold]:
    """All points; ``own`` are the quilter's tools and supplies, ``reads`` the ratio from which two zones look
    different."""
    told = [
        *_too_wide(laid, found, own, unit),
        *_too_stiff(laid, found, unit),
        *_alike(laid, found, reads, unit),
        *_uneven(laid, found),
        *_beside_open(laid, found),
        *_lost_on_prints(laid, found),
        *_alone(found),
        *_scale(laid, found),
        *_saves_most(laid, found),
    ]
    return sorted(told, key=lambda one: one.tone == "tells")


def _name(laid: QuiltLayout, zone: str) -> str:
    return f"“{laid.zone(zone).name}”" if zone else tr("Patches in no zone")


def _too_wide(laid: QuiltLayout, found: Balance, own: Mapping[str, Thing], unit: Unit) -> list[BalanceTold]:
    batting = laid.quilt.kit.batting
    limit, told, said = float(batting.limit.mm), [], set[str]()
    for gap in found.gaps:
        if gap.width <= limit + VISIBLE or gap.zone in said:
            continue
        said.add(gap.zone)
        steps = [_close(laid, found, gap, limit, unit), *_lines_through(found, gap, batting.limit)]
        if wide := _other_batting(own, batting, gap.width):
            steps.append(BalanceStep(label=tr("“{wide}” allows this gap", wide=wide), zone="", station="kit"))
        told.append(
            BalanceTold(
                words=w.told(
                    "{name} has a gap of {width}; the batting allows {mm}{rstrip}",
                    name=_name(laid, gap.zone),
                    width=w.shown(gap.width, unit, COARSE[unit], about=True),
                    mm=w.shown(batting.limit.mm, unit),
                    rstrip=f". {_left_out(gap)}".rstrip() if gap.left_out else ".",
                ),
                tone="warns",
                at=list(gap.at),
                steps=steps,
            )
        )
    return told


def _left_out(gap: Gap) -> str:
    return tr("{lines} left out there as too short.", lines=texts.many(gap.left_out, "line"))


def _close(laid: QuiltLayout, found: Balance, gap: Gap, limit: float, unit: Unit) -> BalanceStep:
    """The remedy for a gap: a fill, or a smaller spacing."""
    if not gap.zone:
        return BalanceStep(label=tr("Make a zone of it"), zone="", station="top")
    fill = found.plans[gap.zone].drawing_at(gap.place).fill if gap.filled else None
    if fill is None or not fill.is_spaced or gap.left_out:
        return BalanceStep(
            label=tr("Choose a fill") if fill is None else tr("Open the fill"), zone=gap.zone, station="fills"
        )
    steps = (fill.spacing.mm * Fraction(limit / gap.width)) / GRAIN[unit]
    spacing = Length.near(max(steps.__floor__(), 1) * GRAIN[unit], unit)
    return BalanceStep(
        label=tr("Set the spacing to {mm}", mm=in_words(spacing.mm, unit)),
        zone=gap.zone,
        values={"spacing": spacing.text},
    )


def _lines_through(found: Balance, gap: Gap, limit: Length) -> list[BalanceStep]:
    """A few additional lines, if they are enough."""
    if not gap.filled:
        return []
    drawings = [one for one in found.plans[gap.zone].drawings if gap.place in one.places]
    many = len(closing_lines(drawings, float(limit.mm)))
    if not many:
        return []
    label = tr("Sew a line through it") if many == 1 else tr("Sew {many} lines through its gaps", many=many)
    change = {"kind": "close gap", "zone": gap.zone, "place": gap.place, "limit": limit.text}
    return [BalanceStep(label=label, zone="", change=change)]


def _other_batting(own: Mapping[str, Thing], now: Batting, gap: float) -> str:
    fits = [
        thing for thing in own.values()
        if isinstance(thing, Batting) and thing.name != now.name and thing.state == "at hand" and float(thing.limit.mm) >= gap
    ]  # fmt: skip
    return fits[0].name if fits else ""


def _too_stiff(laid: QuiltLayout, found: Balance, unit: Unit) -> list[BalanceTold]:
    if laid.quilt.use not in WANTS_SOFT:
        return []
    stiff = [one for one in found.densities if one.hand == "stiff"]
    if not stiff:
        return []
    names = ", ".join(f"“{laid.zone(one.key).name}”" for one in stiff[:3])
    return [
        BalanceTold(
            words=[
                texts.counted(
                    len(stiff),
                    "{names} gets stiff for a {use}: {density}.",
                    "{names} get stiff for a {use}: {density}.",
                    names=names,
                    use=_use(laid),
                    density=w.density(stiff[0].density, unit),
                )
            ],
            tone="warns",
            steps=[BalanceStep(label=tr("Open the fill"), zone=stiff[0].key, station="fills")],
        )
    ]


def _use(laid: QuiltLayout) -> str:
    use = laid.quilt.use
    return tr(use) if use in ("garment or bag", "practice piece") else tr("{use} quilt", use=tr(use))


def _alike(laid: QuiltLayout, found: Balance, reads: float, unit: Unit) -> list[BalanceTold]:
    told = []
    densities = {one.key: one.density for one in found.densities}
    for pair in found.pairs:
        if not pair.alike(reads) or pair.ratio is None:
            continue
        one, other = laid.zone(pair.dense).name, laid.zone(pair.loose).name
        step = BalanceStep(label=tr("Open “{other}”", other=other), zone=pair.loose, station="fills")
        apart = tell_apart(laid, found.plans, densities, found.pairs, pair, reads, GRAIN[unit])
        if apart:
            spacing = Length.near(apart.spacing, unit)
            label = tr("Set “{name}” to {mm}", name=laid.zone(apart.zone).name, mm=in_words(spacing.mm, unit))
            step = BalanceStep(label=label, zone=apart.zone, values={"spacing": spacing.text})
        about = (
            tr("equally densely")
            if pair.ratio < _EQUALLY
            else tr("nearly as densely ({ratio} to 1)", ratio=f"{pair.ratio:.1f}")
        )
        told.append(
            BalanceTold(
                words=[
                    tr(
                        "“{one}” and “{other}” lie beside each other and are quilted {about}: they will look alike.",
                        one=one,
                        other=other,
                        about=about,
                    )
                ],
                tone="tells",
                steps=[step],
            )
        )
    return told[:_MOST_ALIKE]


def _uneven(laid: QuiltLayout, found: Balance) -> list[BalanceTold]:
    if laid.quilt.use not in WANTS_EVEN or found.spread.share < UNEVEN:
        return []
    return [
        BalanceTold(
            words=[
                tr(
                    "A garment or a bag hangs evenly when all of it is quilted equally densely. This plan is not."
                )
            ],
            tone="warns",
            steps=[],
        )
    ]


def _beside_open(laid: QuiltLayout, found: Balance) -> list[BalanceTold]:
    hands = {one.key: one.hand for one in found.densities}
    for pair in found.pairs:
        if pair.ratio is None and hands[pair.dense] in ("firm", "stiff"):
            one, other = laid.zone(pair.dense).name, laid.zone(pair.loose).name
            return [
                BalanceTold(
                    words=[
                        tr(
                            "“{one}” is {hands} and “{other}” beside it is open: “{other}” will puff up, and the seam between them may ripple.",
                            one=one,
                            hands=tr(hands[pair.dense]),
                            other=other,
                        )
                    ],
                    tone="tells",
                    steps=[
                        BalanceStep(label=tr("Fill “{other}”", other=other), zone=pair.loose, station="fills")
                    ],
                )
            ]
    return []


def _lost_on_prints(laid: QuiltLayout, found: Balance) -> list[BalanceTold]:
    spent = sorted(
        ((one.minutes, key) for key, one in found.asked.items() if found.busy.get(key, 0) > 0.5), reverse=True
    )
    if not spent or spent[0][0] < _LOST:
        return []
    minutes, key = spent[0]
    return [
        BalanceTold(
            words=[
                tr(
                    "“{name}” takes {about_minutes} and lies on a busy print, where quilting is hardly seen. A simpler fill would do.",
                    name=laid.zone(key).name,
                    about_minutes=about_minutes(minutes),
                )
            ],
            tone="tells",
            steps=[BalanceStep(label=tr("Choose a fill"), zone=key, station="fills")],
        )
    ]


def _alone(found: Balance) -> list[BalanceTold]:
    places = sum(one.places for one in found.accents)
    alone = [one for one in found.accents if one.places == 1]
    if places < FEW or not alone or len(found.accents) < 2:
        return []
    return [
        BalanceTold(
            words=[
                tr(
                    "{label} is used in one place only. An accent looks balanced when it is repeated elsewhere.",
                    label=alone[0].label,
                )
            ],
            tone="tells",
            steps=[],
        )
    ]


def _scale(laid: QuiltLayout, found: Balance) -> list[BalanceTold]:
    for key, plan in found.plans.items():
        for drawing in plan.drawings:
            trouble = scale_trouble(drawing)
            if trouble:
                why = (
                    tr(
                        "is too large for its patches: hardly two lines fit side by side, so it does not look like a fill"
                    )
                    if trouble == "coarse"
                    else tr("is so fine that its lines run together")
                )
                return [
                    BalanceTold(
                        words=[
                            tr(
                                "{label} in “{name}” {why}.",
                                label=drawing.fill.label,
                                name=laid.zone(key).name,
                                why=why,
                            )
                        ],
                        tone="tells",
                        steps=[BalanceStep(label=tr("Open the fill"), zone=key, station="fills")],
                    )
                ]
    return []


def _saves_most(laid: QuiltLayout, found: Balance) -> list[BalanceTold]:
    """The zone that saves most time if it is left out, weighted by how little it shows."""
    whole = sum(one.minutes for one in found.asked.values())
    seen = {one.key: one.weight for one in found.seen}
    worth = [(one.minutes * (1 - seen.get(key, 0.0)), one.minutes, key) for key, one in found.asked.items()]
    if len(worth) < 2 or not whole:
        return []
    _, minutes, key = max(worth)
    if minutes < _SAVING * whole:
        return []
    return [
        BalanceTold(
            words=[
                tr(
                    "Leaving out “{name}” saves {about_minutes} at the needle. No other zone shows less for the time it takes.",
                    name=laid.zone(key).name,
                    about_minutes=about_minutes(minutes),
                )
            ],
            tone="tells",
            steps=[BalanceStep(label=tr("Choose a simpler fill"), zone=key, station="fills")],
        )
    ]
