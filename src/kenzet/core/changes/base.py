"""The base of all changes: a frozen request that makes a new document from the present one."""

from __future__ import annotations

from pydantic import ValidationError

from kenzet.core.params import Frozen
from kenzet.core.top.document import Quilt, at_field
from kenzet.core.top.quilt_layout import QuiltLayout


class Change(Frozen):
    """Must override ``apply`` and have a ``kind``. Nothing is changed in place."""

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Must override. Returns the changed document, and what was done, in words. Raises KenzetError."""
        raise NotImplementedError


def applied(change: Change, laid: QuiltLayout) -> tuple[Quilt, str]:
    """The result of ``change``. Raises KenzetError, also if the changed document is not valid."""
    try:
        return change.apply(laid)
    except ValidationError as error:
        raise at_field(error) from error
