"""The program against trying out every plan."""

import itertools
import random

import pytest

from kenzet.core.advice.contrast import ratio
from kenzet.core.fills import FILLS
from kenzet.core.proposals.candidates import Candidate
from kenzet.core.proposals.program import Bounds, Problem, Program

KINDS = ("lines", "grid", "echo", "waves")


def candidate(zone, chance, k):
    kind = KINDS[k % len(KINDS)]
    fill = FILLS[kind].model_validate({"spacing": f"{chance.randint(2, 12)}/8 in"})
    return Candidate(
        zone, fill, chance.uniform(5, 90), chance.uniform(0.02, 0.2), 20.0, "straight", True, True
    )


def problem(seed):
    chance = random.Random(seed)
    zones = [f"z{k}" for k in range(4)]
    found = {zone: [candidate(zone, chance, k) for k in range(5)] for zone in zones[:3]}
    beside = [("z0", "z1"), ("z1", "z2"), ("z2", "z3")]
    places = {zone: chance.choice([1, 1, 4, 12]) for zone in found}
    kept = frozenset({FILLS["grid"]}) if chance.random() < 0.5 else frozenset()
    return Problem(
        found, places, {"z3": chance.uniform(0.0, 0.2)}, kept, beside, chance.choice([1, 2, 3]), 2.0
    ), chance


def alike(one, density, chosen):
    pairs = 0
    for a, b in one.beside:
        first = chosen[a].density if a in chosen else density[a]
        second = chosen[b].density if b in chosen else density[b]
        told = ratio(first, second)
        pairs += told is not None and told < one.reads
    return pairs


def allowed(one, chosen, bounds, area):
    kinds = {c.kind for c in chosen.values()}
    fresh = kinds - one.kept_kinds
    alone = sum(sum(one.places[c.zone] for c in chosen.values() if c.kind is kind) == 1 for kind in fresh)
    return (
        len(fresh) <= max(one.kinds - len(one.kept_kinds), 0)
        and alone <= 1
        and (bounds.minutes is None or sum(c.minutes for c in chosen.values()) <= bounds.minutes)
        and (
            bounds.firmness is None
            or sum(c.density * area[c.zone] for c in chosen.values()) <= bounds.firmness
        )
        and (bounds.alike is None or alike(one, one.stays, chosen) <= bounds.alike)
        and all(sum(chosen[z] == shown[z] for z in chosen) <= len(chosen) - 2 for shown in bounds.shown)
    )


@pytest.mark.parametrize("seed", range(24))
def test_no_plan_that_keeps_the_rules_costs_less(seed):
    one, chance = problem(seed)
    costs = {c: c.minutes + chance.uniform(0, 20) for some in one.candidates.values() for c in some}
    area = {zone: chance.uniform(100, 900) for zone in one.candidates}
    shown = ({zone: chance.choice(some) for zone, some in one.candidates.items()},) if seed % 3 == 0 else ()
    bounds = Bounds(
        chance.uniform(80, 240) if seed % 2 else None,
        chance.uniform(80, 300) if seed % 5 == 1 else None,
        chance.choice([0, 1, 2]) if seed % 4 == 2 else None,
        shown,
    )
    price = chance.uniform(0, 60)
    best = None
    for several in itertools.product(*one.candidates.values()):
        chosen = {c.zone: c for c in several}
        if allowed(one, chosen, bounds, area):
            cost = sum(costs[c] for c in several) + price * alike(one, one.stays, chosen)
            best = cost if best is None else min(best, cost)
    found = Program(one, costs, price, bounds, area).solve()
    assert (found is None) == (best is None)
    if found is not None:
        assert found.cost == pytest.approx(best, rel=4e-3)
        assert found.gap < 4e-3
        assert allowed(one, found.chosen, bounds, area)
        assert found.alike == alike(one, one.stays, found.chosen)
