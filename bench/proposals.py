"""Whole plans: how long each takes, and how far it may be from the best of its aim (the solver's own bound)."""

from __future__ import annotations

from time import perf_counter

from kenzet.core.errors import BadValue
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.proposals.candidates import candidates_for
from kenzet.core.proposals.propose import AIMS, Proposal, Wish, open_zones, propose
from kenzet.core.top.patterns import offers
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from tests.tops import after, patterned, wished

ZONES = 30


def sampler() -> QuiltLayout:
    """Twelve blocks of the chooser, each another, with ``ZONES`` zones in all."""
    laid = wished(columns=4, rows=3, block="12 in")
    names = [name for name, _ in offers() if name != "Plain"]
    for k, name in enumerate(names[:12]):
        before = set(laid.quilt.blocks)
        laid = after(laid, {"kind": "new block", "block": patterned(name)})
        (key,) = set(laid.quilt.blocks) - before
        laid = after(laid, {"kind": "paint", "places": [f"{k // 4 + 1}-{k % 4 + 1}"], "block": key})
    for place, part in laid.top.at.items():
        roles: dict[str, list[str]] = {}
        for key, patch in part.patches.items():
            roles.setdefault(patch.fabric, []).append(f"{place}/{key}")
        for refs in roles.values():
            if len(laid.quilt.zones) < ZONES:
                laid = after(laid, {"kind": "zone", "refs": refs})
    return laid


def measured(name: str, laid: QuiltLayout) -> None:
    """One aim after another, as the app asks for them."""
    plan_quilt(laid)
    zones = open_zones(laid, everything=True)
    began = perf_counter()
    wish = Wish("quick", zones)
    many = sum(len(candidates_for(laid, zone, wish.skills)) for zone in zones)
    print(f"proposals: {name}, {len(zones)} zones, {many} candidates in {perf_counter() - began:.1f} s")
    shown: list[Proposal] = []
    for aim in AIMS:
        begin = perf_counter()
        try:
            one = propose(laid, Wish(aim, zones), shown)
        except BadValue as none:
            print(f"  {aim}: none ({none.message})")
            continue
        shown.append(one)
        print(
            f"  {aim}: {perf_counter() - begin:.1f} s, {perf_counter() - began:.1f} s from the start; "
            f"at most {100 * one.choice.gap:.2f} % from the best, {one.choice.alike} pairs alike"
        )


def main() -> None:
    """The demo quilts and a sampler."""
    for quilt in demo_quilts()[:2]:
        measured(quilt.name, QuiltLayout(quilt))
    measured("sampler", sampler())


if __name__ == "__main__":
    main()
