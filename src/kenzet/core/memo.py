"""What was worked out before and need not be worked out again.

Glossary: a *table* holds one kind of result under keys that hold everything which decides it; the room that
works the result out declares the table. A *memo* is all tables together. It is handed to whoever works things out,
and changes no answer: without it the same values are found, only later.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from threading import RLock
from typing import Any, Generic, TypeVar, cast

from cachetools import LRUCache

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


@dataclass(frozen=True, eq=False)
class Table(Generic[K, V]):
    """Results of one kind: ``most`` of them at most, the least recently used go first."""

    name: str
    most: int


class Memo:
    """The tables of one quilt through its revisions. Safe to use from several threads."""

    def __init__(self, base: Memo | None = None) -> None:
        self._base = base
        self._tables: dict[object, LRUCache[Any, Any]] = {}
        self.lock: RLock = base.lock if base else RLock()
        """Held while something is looked up, changed, or made ``once``."""

    def get(self, table: Table[K, V], key: K) -> V | None:
        """What was kept under ``key``; None where nothing is."""
        with self.lock:
            found = self._tables[table].get(key) if table in self._tables else None
            if found is None and self._base is not None:
                return self._base.get(table, key)
            return cast("V | None", found)

    def put(self, table: Table[K, V], key: K, value: V) -> V:
        """Keep ``value``, which is given back."""
        with self.lock:
            self._tables.setdefault(table, LRUCache(table.most))[key] = value
        return value

    def once(self, table: Table[K, V], key: K, make: Callable[[], V]) -> V:
        """What was kept under ``key``, else what ``make`` gives; two threads that ask at once have it made once."""
        with self.lock:
            found = self.get(table, key)
            return self.put(table, key, make()) if found is None else found

    def forget(self, *tables: Table[Any, Any]) -> None:
        """Empty these tables, as where it is measured how long it takes to fill them."""
        with self.lock:
            for table in tables:
                self._tables.pop(table, None)

    def aside(self) -> Memo:
        """A memo for tries: it knows what this one knows, and what is kept in it crowds out nothing here."""
        return Memo(self)
