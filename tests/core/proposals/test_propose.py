"""Whole plans for real quilts."""

import pytest

from kenzet.core.balance.gaps import gaps
from kenzet.core.errors import BadValue
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.proposals.candidates import SKILLS, candidates_for
from kenzet.core.proposals.propose import AIMS, STEP, Wish, open_zones, propose
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.tops import wished


@pytest.fixture(scope="module")
def laid():
    return QuiltLayout(demo_quilts()[0])


@pytest.fixture(scope="module")
def four(laid):
    """A plan for each aim, no two alike."""
    zones, found = open_zones(laid, everything=True), []
    for aim in AIMS:
        found.append(propose(laid, Wish(aim, zones), found))
    return found


def minutes(proposal):
    return sum(one.minutes for one in proposal.choice.chosen.values())


def firmness(proposal):
    plans = plan_quilt(proposal.laid)
    return sum(plan.stitched_in_quilt for plan in plans.values())


def test_candidates_suit_her_hands_her_rulers_and_the_use(laid):
    for skills in (("straight",), ("straight", "curves"), SKILLS):
        found = candidates_for(laid, "star-background", frozenset(skills))
        assert {one.skill for one in found} <= set(skills)
        assert all(one.ruled and one.gap < 8 * 25.4 for one in found)
        assert all(one.density < 3.5 / 25.4 for one in found)  # a lap quilt wants to be soft
    assert len({one.kind for one in candidates_for(laid, "border", frozenset(SKILLS))}) >= 8


def test_each_fills_every_zone_with_few_kinds_and_keeps_the_battings_limit(laid, four):
    limit = float(laid.quilt.kit.batting.limit.mm)
    for one in four:
        assert set(one.fills) == set(laid.quilt.zones)
        assert len({type(fill) for fill in one.fills.values()}) <= 3
        plans = plan_quilt(one.laid)
        assert all(gap.width <= limit for gap in gaps(one.laid, plans) if gap.zone)
        assert one.choice.gap < 0.01


def test_they_differ_in_every_other_zone_and_each_is_the_best_at_its_aim(four):
    quick, texture, straight, soft = four
    for k, one in enumerate(four):
        for other in four[:k]:
            same = sum(one.choice.chosen[zone] == other.choice.chosen[zone] for zone in one.fills)
            assert same <= len(one.fills) // 2
    assert minutes(quick) == min(minutes(one) for one in four)
    assert firmness(soft) < firmness(texture)
    assert all(candidate.skill == "straight" for candidate in straight.choice.chosen.values())
    focus = texture.choice.chosen[texture.focus]
    assert focus.density < texture.choice.chosen["star-points"].density / 2


def test_the_same_wish_gives_the_same_plan(laid, four):
    again = propose(QuiltLayout(demo_quilts()[0]), four[0].wish)
    assert again.fills == four[0].fills


def test_moves_go_on_from_a_plan(laid, four):
    texture = four[1]
    quicker = propose(laid, texture.wish, (), texture, "quicker")
    assert minutes(quicker) <= STEP * minutes(texture) + 1e-6
    softer = propose(laid, texture.wish, (), texture, "softer")
    assert firmness(softer) < firmness(texture)
    other = propose(laid, texture.wish, four, texture, "another")
    assert all(other.fills != one.fills for one in four)
    contrast = propose(laid, four[0].wish, (), four[0], "contrast")
    assert contrast.choice.alike < four[0].choice.alike


def test_what_she_has_fixed_stays_and_counts_among_the_kinds(laid):
    found = propose(laid, Wish("quick", ("border",)))
    assert set(found.fills) == {"border"}
    for key, zone in laid.quilt.zones.items():
        if key != "border":
            assert found.laid.quilt.zones[key] == zone
    assert len({type(zone.fill) for zone in found.laid.quilt.zones.values()}) <= 3


def test_her_hours_are_kept_on_the_plans_own_way(laid):
    zones = open_zones(laid, everything=True)
    found = propose(laid, Wish("texture", zones, hours=8))
    assert found.minutes <= 8 * 60
    with pytest.raises(BadValue, match="hours"):
        propose(laid, Wish("quick", zones, hours=0.5))


def test_a_quilt_without_zones_is_told_to_make_some_first():
    with pytest.raises(BadValue, match="no zones yet"):
        propose(wished(columns=2, rows=2, block="6 in"), Wish("quick", ()))


def test_nothing_to_fill_is_said(laid):
    with pytest.raises(BadValue, match="has a fill already"):
        propose(laid, Wish("quick", ()))
