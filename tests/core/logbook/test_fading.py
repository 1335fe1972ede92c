"""How long marks stay."""

import math

from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.logbook.fading import MarksStay, learnt_fading

KIT = Kit(
    tools={
        "air": Marker(name="Air pen", sort="pen that fades", hours=48),
        "chalk": Marker(name="Chalk", sort="chalk"),
    }
)


def test_the_soonest_that_marks_were_gone_counts_and_what_is_still_on_is_the_least():
    seen = [
        MarksStay("air", 30.0, True, 5.0),
        MarksStay("air", 22.5, True, 9.0),
        MarksStay("air", 10.0, False, 1.0),
        MarksStay("air", 90.0, False, 1.0),
    ]
    (found,) = learnt_fading(seen, KIT)
    assert (found.value, found.low, found.high, found.used) == (22.5, 10.0, 22.5, 48.0)
    assert (found.many, found.first, found.last, found.side) == (2, 5.0, 9.0, "air") and found.differs


def test_marks_that_are_still_on_teach_nothing_and_tools_that_are_gone_neither():
    assert learnt_fading([MarksStay("air", 300.0, False, 1.0), MarksStay("lost", 3.0, True, 1.0)], KIT) == []


def test_a_tool_that_was_said_to_stay_is_told_of_and_one_within_its_hours_is_no_news():
    (chalk,) = learnt_fading([MarksStay("chalk", 0.2, True, 1.0)], KIT)
    assert math.isnan(chalk.used) and chalk.differs and chalk.value == 1.0
    (air,) = learnt_fading([MarksStay("air", 48.0, True, 1.0)], KIT)
    assert not air.differs
