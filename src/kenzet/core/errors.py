"""Errors by outcome. Every error names the field that it is about.

Glossary: a *field* is a dotted path into the request, such as ``fill.spacing``; empty if the error is about the
whole request.
"""

from __future__ import annotations


class KenzetError(Exception):
    """Base of all errors shown to a quilter; ``message`` is a sentence."""

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field


class BadValue(KenzetError, ValueError):
    """A value that is not accepted; the message says what would be."""


class Unknown(KenzetError, LookupError):
    """A name or key that does not exist."""


class TooMany(KenzetError, OverflowError):
    """A plan with more lines than anyone could sew; refused before it is drawn."""


class Stale(KenzetError, RuntimeError):
    """A change based on an older state than the stored one."""


class Unavailable(KenzetError, RuntimeError):
    """A resource (disk, port, database) that is not available now."""
