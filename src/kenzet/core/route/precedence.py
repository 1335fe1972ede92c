"""Which lines must be sewn before which: each rests on others, and a fill's sets follow each other."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterable, Sequence
from copy import copy

from kenzet.core.placing.line_order import LineOrder
from kenzet.core.route.network import Course


class Precedence:
    """The precedence of ``courses``. ``orders`` are those of their drawings, by ``zone``, None if any order is
    possible. Drawings in ``first`` are sewn before all others; ``words`` name the drawings."""

    def __init__(
        self,
        courses: Sequence[Course],
        orders: Sequence[LineOrder | None],
        first: Collection[int] = (),
        words: Sequence[str] = (),
    ) -> None:
        at = {(course.zone, course.number): k for k, course in enumerate(courses)}
        named = {word: zone for zone, word in enumerate(words)}
        self.needs: list[tuple[tuple[int, ...], ...]] = []
        """For every course the ways in which it is placed: the courses that must all be sewn."""
        self.scopes: list[tuple[int, int, int]] = []
        """The drawing, the piece and the turn in which it is sewn there."""
        for course in courses:
            order = None if course.freehand else orders[course.zone]
            if order is None:
                self.needs.append(())
                self.scopes.append((course.zone, course.piece, 0))
                continue
            ways = [
                tuple(at[course.zone, line] for line in way if (course.zone, line) in at)
                for way in order.rests_on[course.number]
            ]
            own = () if not all(ways) else tuple(ways)  # what is sewn in another pass is there
            beyond = order.beyond.get(course.number)
            other = None if beyond is None else at.get((named.get(beyond.word, -1), beyond.line))
            self.needs.append(own if other is None else tuple((*way, other) for way in own or ((),)))
            self.scopes.append((course.zone, order.pieces[course.number], order.turns[course.number]))
        self.first = frozenset(first) & {course.zone for course in courses}
        bare = not any(self.needs) and len({scope[:2] for scope in self.scopes}) == len(set(self.scopes))
        self.free = bare and (not self.first or len({course.zone for course in courses}) == len(self.first))

    def too_early(self, order: Iterable[int]) -> list[int]:
        """The courses of ``order`` that come before their reference."""
        done, found = set[int](), []
        for course in order:
            ways = self.needs[course]
            if course not in done and ways and not any(done.issuperset(way) for way in ways):
                found.append(course)
            done.add(course)
        return found

    def without(self, course: int) -> Precedence:
        """The same, except that ``course`` waits for nothing."""
        found = copy(self)
        found.needs = [() if k == course else ways for k, ways in enumerate(self.needs)]
        return found

    def begin(self) -> Sewn:
        """The state before anything is sewn."""
        return Sewn(self)

    def allows(self, order: Iterable[int]) -> bool:
        """Whether courses can be sewn in that order."""
        if self.free:
            return True
        sewn = self.begin()
        for course in order:
            if not sewn.ready(course):
                return False
            sewn.add(course)
        return True


class Sewn:
    """What is sewn so far, and what can come next."""

    def __init__(self, precedence: Precedence) -> None:
        self._precedence = precedence
        self._done: set[int] = set()
        self._left = Counter(precedence.scopes)
        self._first_left = sum(zone in precedence.first for zone, _, _ in precedence.scopes)

    def add(self, course: int) -> None:
        """Records that a course is sewn."""
        if course not in self._done:
            self._done.add(course)
            self._left[self._precedence.scopes[course]] -= 1
            self._first_left -= self._precedence.scopes[course][0] in self._precedence.first

    def ready(self, course: int) -> bool:
        """Whether its references are sewn, and every set before its own."""
        zone, piece, turn = self._precedence.scopes[course]
        if self._first_left and zone not in self._precedence.first:
            return False
        if any(self._left[zone, piece, before] for before in range(turn)):
            return False
        ways = self._precedence.needs[course]
        return not ways or any(self._done.issuperset(way) for way in ways)
