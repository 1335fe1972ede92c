"""What was worked out before: bounded, made once, and tries beside it."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from time import sleep

from kenzet.core.memo import Memo, Table

SQUARES = Table[int, int]("squares", 3)


def test_what_was_used_last_is_what_is_still_there():
    memo = Memo()
    for number in (1, 2, 3):
        memo.put(SQUARES, number, number**2)
    assert memo.get(SQUARES, 1) == 1
    memo.put(SQUARES, 4, 16)
    assert memo.get(SQUARES, 2) is None, "the one that was not used for longest goes"
    assert [memo.get(SQUARES, number) for number in (1, 3, 4)] == [1, 9, 16]


def test_two_that_ask_at_once_have_it_made_once():
    memo, made = Memo(), []

    def square():
        made.append(1)
        sleep(0.02)
        return 49

    with ThreadPoolExecutor(8) as pool:
        found = list(pool.map(lambda _: memo.once(SQUARES, 7, square), range(8)))
    assert found == [49] * 8 and len(made) == 1


def test_tries_know_what_is_kept_and_crowd_out_nothing():
    memo = Memo()
    memo.put(SQUARES, 1, 1)
    tries = memo.aside()
    for number in range(2, 20):
        tries.put(SQUARES, number, number**2)
    assert tries.get(SQUARES, 1) == 1 and memo.get(SQUARES, 19) is None
    assert memo.once(SQUARES, 1, lambda: 0) == 1
    memo.forget(SQUARES)
    assert memo.get(SQUARES, 1) is None
