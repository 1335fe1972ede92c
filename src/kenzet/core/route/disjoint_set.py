"""Things that hang together: each points to another of its set, one of every set to itself."""

from __future__ import annotations


def root(over: list[int], one: int) -> int:
    """The one of its set that points to itself; the way there is made shorter."""
    while over[one] != one:
        over[one] = over[over[one]]
        one = over[one]
    return one
