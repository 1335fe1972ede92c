"""What can go wrong, by outcome. Every error names the field that it is about.

Glossary: a *field* is a dotted path into what was sent, such as ``fill.spacing``; empty when the
whole request is meant.
"""

from __future__ import annotations


class KenzetError(Exception):
    """Base of all errors that a quilter may read. ``message`` is a sentence in her words."""

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field


class BadValue(KenzetError, ValueError):
    """A value that cannot be taken; the message says what would be accepted."""


class Unknown(KenzetError, LookupError):
    """Something that is named and is not there."""


class TooMany(KenzetError, OverflowError):
    """A plan that would hold more lines than anyone can sew; refused before it is drawn."""


class Stale(KenzetError, RuntimeError):
    """A change that was made on an older state than the one that is kept."""


class Unavailable(KenzetError, RuntimeError):
    """Something that the app needs (disk, port, database) is not to be had just now."""
