"""A disjoint-set forest: each element points to another of its set, and the root of every set to itself."""

from __future__ import annotations


def root(over: list[int], one: int) -> int:
    """The root of the set of ``one``; shortens the path on the way (path halving)."""
    while over[one] != one:
        over[one] = over[over[one]]
        one = over[one]
    return one
