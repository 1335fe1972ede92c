"""What a change is: a frozen wish that makes a new document from the one at hand."""

from __future__ import annotations

from pydantic import ValidationError

from kenzet.core.params import Frozen
from kenzet.core.top.document import Quilt, at_field
from kenzet.core.top.quilt_layout import QuiltLayout


class Change(Frozen):
    """Must override ``apply`` and have a ``kind``. Nothing is changed in place."""

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Must override. The changed document and what was done, in words. Raises KenzetError."""
        raise NotImplementedError


def applied(change: Change, laid: QuiltLayout) -> tuple[Quilt, str]:
    """What ``change`` makes. Raises KenzetError, also where what it makes is refused when it is put together."""
    try:
        return change.apply(laid)
    except ValidationError as error:
        raise at_field(error) from error
