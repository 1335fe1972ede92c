"""Things as a table: the same things come back; what a stranger wrote is refused with its line."""

from __future__ import annotations

import csv
import io

import pytest

from kenzet.core.errors import BadValue
from kenzet.core.kit.inventory import KitFile, first_things
from kenzet.core.kit.things.rulers import ArcRuler, StraightRuler
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.numbers.measure import Length
from kenzet.formats import kit_csv


def test_things_come_back_from_their_table():
    odd = StraightRuler(name="=cmd", etched=(Length.parse("1/4 in"), Length.parse("9 mm")))
    things = [
        *first_things().values(),
        odd,
        Marker(name="+1, “quoted”", hours=48),
        ArcRuler(outside=None, inside=Length.parse("9 in")),
    ]
    data = kit_csv.dump(things)
    assert b"'=cmd" in data, "a spreadsheet must not take a name for a formula"
    assert list(KitFile.model_validate({"things": kit_csv.load(data)}).things) == things


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"\xff\xfe\x00", "not a CSV table"), (b"", "must name its columns"), (b"name,state\nx,y\n", "must be"),
        (b"kind,name\nspaceship,x\n", "Line 2: .*spaceship"), (b"kind,name\ntape,x,y,z\n", "Line 2"),
    ],
)  # fmt: skip
def test_what_is_no_table_of_things_is_refused(data, says):
    with pytest.raises(BadValue, match=says) as refused:
        kit_csv.load(data)
    assert refused.value.field == "file"


def test_a_table_parted_by_semicolons_is_read_as_well():
    things = first_things().values()
    rows = list(csv.reader(io.StringIO(kit_csv.dump(things).decode("utf-8-sig"), newline="")))
    out = io.StringIO(newline="")
    csv.writer(out, delimiter=";").writerows(rows)
    assert kit_csv.load(out.getvalue().encode()) == kit_csv.load(kit_csv.dump(things))
