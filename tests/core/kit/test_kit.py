"""What she owns: things, the gate, her strip, her curves, her drift, and what a quilt takes over."""

from __future__ import annotations

import math
from fractions import Fraction as F

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from kenzet.core.errors import BadValue
from kenzet.core.geom.clip import Straight
from kenzet.core.kit.compatibility import foot_fault, ruler_fault
from kenzet.core.kit.curves import radius_of, ranked, rise_of, templates
from kenzet.core.kit.edges import ArcEdge, StraightEdge, WaveEdge, ZigzagEdge
from kenzet.core.kit.inventory import (
    KitFile,
    OneThing,
    behind,
    calibrated,
    first_things,
    new_key,
    taken_over,
)
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things import THINGS
from kenzet.core.kit.things.machine import Machine, RulerFoot, WalkingFoot
from kenzet.core.kit.things.rulers import ArcRuler, CombinedRuler, StraightRuler, WaveRuler
from kenzet.core.numbers.measure import MM_PER, Length
from kenzet.core.params import forms
from kenzet.core.ruler.drift import anchor_every, askew, error_after
from kenzet.core.ruler.offset_sums import (
    Mode,
    best_offset_sum,
    check_number,
    edge_of,
    hand_stops,
    placements,
    whole_stitches,
)
from tests.core.ruler.test_pose import laid
from tests.shapes import IN, REGIONS

INCH = MM_PER["in"]


def length(text: str) -> Length:
    return Length.parse(text)


@pytest.mark.parametrize("kind", THINGS)
def test_every_kind_of_thing_is_whole_as_it_comes_and_reads_back(kind):
    thing = OneThing.model_validate({"thing": {"kind": kind}}).thing
    assert thing.name == thing.label
    assert OneThing.model_validate({"thing": thing.model_dump(mode="json")}).thing == thing
    assert set(thing.ranges) <= set(forms(type(thing))), "a range belongs to a field"
    for field in thing.ranges:
        for wrong in ("0 in", "999999 mm", "1/0", "-1 in"):
            with pytest.raises(ValidationError) as refused:
                OneThing.model_validate({"thing": {"kind": kind, field: wrong}})
            assert refused.value.errors()[0]["loc"][-1] == field


@pytest.mark.parametrize("kind", [kind for kind, model in THINGS.items() if hasattr(model, "edges")])
def test_every_edge_can_be_run_along(kind):
    for edge in OneThing.model_validate({"thing": {"kind": kind}}).thing.edges:
        if isinstance(edge, StraightEdge):
            assert edge.lines[0] == 0
            assert list(edge.lines) == sorted(edge.lines)
            assert 0 < edge.lines[-1] <= edge.width
        elif isinstance(edge, ArcEdge):
            assert edge.radius > 0 < edge.usable
        else:
            assert isinstance(edge, WaveEdge | ZigzagEdge)


@pytest.mark.parametrize(
    ("values", "says"),
    [
        ({"kind": "arc", "outside": None}, "Give its outside curve"),
        ({"kind": "arc", "by": "sewn", "outside": "1/2 in"}, "no radius left"),
        ({"kind": "combined", "straight": None, "outside": None}, "at least one"),
        ({"kind": "straight ruler", "etched": "thirds"}, "not a length"),
        ({"kind": "straight ruler", "angles": "45, north"}, "Degrees between 0 and 180"),
        ({"kind": "tape", "moves": 0}, "greater than or equal to 1"),
        ({"kind": "machine", "throat": "behind"}, "right"),
    ],
)
def test_a_thing_that_cannot_be_is_refused_with_its_reason(values, says):
    with pytest.raises(ValidationError, match=says):
        OneThing.model_validate({"thing": values})


@pytest.mark.parametrize(
    ("shank", "thickness", "fault"),
    [
        ("high", "3 mm", "can slide under the foot"),  # A79
        ("high", "6 mm", ""),
        ("high", "1/4 in", ""),
        ("high", "9 mm", "shaft would strike"),
        ("low", "3 mm", ""),
        ("low", "1/4 in", "shaft would strike"),
        ("low", "2 mm", "can slide under the foot"),
    ],
)
def test_a79_a_ruler_of_the_wrong_thickness_is_gated(shank, thickness, fault):
    foot, ruler = RulerFoot(shank=shank), StraightRuler(name="Mine", thickness=length(thickness))
    said = ruler_fault(foot, ruler)
    assert (fault in said) if fault else said == ""
    assert not said or "manual" in said
    kit = Kit(machine=Machine(shank=shank), foot=foot, rulers={"mine": ruler})
    assert bool(kit.straight) == (not fault)
    total = best_offset_sum(kit, INCH * 3 / 4)
    assert total.can_be_laid == (not fault)


def test_what_the_foots_own_manual_says_goes_before_the_usual():
    foot = RulerFoot(shank="high", thinnest=length("2 mm"), thickest=length("4 mm"))
    assert ruler_fault(foot, StraightRuler(thickness=length("3 mm"))) == ""
    assert "at most" in ruler_fault(foot, StraightRuler(thickness=length("6 mm")))


def test_a_foot_of_another_shank_gates_every_ruler():
    assert foot_fault(Machine(shank="low"), RulerFoot(shank="low")) == ""
    assert "wrong height" in foot_fault(Machine(shank="low"), RulerFoot(shank="high"))
    kit = Kit(machine=Machine(shank="low"))
    assert kit.usable == {}
    assert not best_offset_sum(kit, INCH / 2).can_be_laid


@pytest.mark.parametrize("state", ["lent", "missing", "broken"])
def test_a_ruler_that_is_not_at_hand_is_not_planned_with(state):
    kit = Kit(rulers={"a": StraightRuler(state=state), "b": StraightRuler(length=length("6 in"))})
    assert [key for key, _ in kit.straight] == ["b"]
    assert best_offset_sum(kit, INCH).ruler == "b"


@pytest.mark.parametrize(
    ("spacing", "long", "ruler"),
    [
        ("5/8", 4, "short"),  # only that one has eighths: fit goes first
        ("3/4", 4, "short"),  # both fit in one placement: the shorter one is handier
        ("3/4", 11, "long"),  # one placement instead of two
        ("1/8", 30, "long"),  # behind the line any edge does: the fewest placements
    ],
)
def test_the_ruler_is_chosen_by_fit_then_placements_then_size(spacing, long, ruler):
    kit = Kit(
        rulers={"long": StraightRuler(), "short": StraightRuler(length=length("6 in"), etched="eighths")}
    )
    assert best_offset_sum(kit, length(spacing).mm, long * IN).ruler == ruler
    assert best_offset_sum(kit, length(spacing).mm, long * IN, "long").ruler == "long"  # her choice holds


def test_a7_a_foot_measured_right_across_counts_by_half():
    foot = RulerFoot(offset=length("13 mm"), measured="across")
    kit = Kit(foot=foot)
    assert float(kit.foot_offset) == 6.5
    assert float(best_offset_sum(kit, F(15)).wanted) == 8.5
    strip = calibrated(foot, length("2.04 in"), 9, "offset", "2026-05-01")
    assert (strip.measured, strip.history[0].offset.text) == ("to the rim", "6.5 mm")


def test_a71_a72_a78_placements_hand_stops_and_whole_stitches():
    assert [placements(long, 6, 1) for long in (9.5, 16)] == [2, 3]
    assert hand_stops(9.5, 5, [4.6]) == [4.6]
    many, long = whole_stitches(1.458 * IN, 2.5)
    assert (many, round(long, 3)) == (15, 2.469)
    assert pytest.approx(14.8, abs=0.02) == 1.458 * IN / 2.5


def test_f46_a_collar_counts_in():
    kit = Kit(foot=RulerFoot(collar=length("5/8 in")))
    assert kit.foot_offset == INCH * 7 / 8
    assert best_offset_sum(kit, INCH * 9 / 8).etched == INCH / 4


@pytest.mark.parametrize(
    ("spacing", "mode", "gauge"),
    [
        ("3/8", Mode.TOE, "left toe"), ("1/2", Mode.TOE, "right toe"), ("1", Mode.BAR, "guide bar"), ("5", Mode.BAR, ""),
    ],
)  # fmt: skip
def test_a_walking_foot_goes_by_its_toes_its_bar_or_drawn_lines(spacing, mode, gauge):
    foot = WalkingFoot(right=length("1/2 in"))
    total = best_offset_sum(Kit(sew_with="walking foot", walking=foot), length(spacing).mm)
    assert (total.mode, total.gauge, total.can_be_laid) == (mode, gauge, bool(gauge))


@pytest.mark.parametrize("angle", [90.0, 60.0, 135.0, 0.0])
def test_a80_a107_a_mirrored_machine_swaps_the_sides_and_nothing_else(angle):
    family = Straight(angle, INCH * 3 / 4, 0.0)
    right, refs = laid(REGIONS["square"], family, Kit())
    left, mirrored = laid(REGIONS["square"], family, Kit(machine=Machine(throat="left")))
    assert (right.ends == left.ends).all()
    across = {ref.way * (1 if family.normal[0] > 0 else -1) for ref in refs.values() if ref.kind != "mark"}
    swapped = {
        ref.way * (1 if family.normal[0] > 0 else -1) for ref in mirrored.values() if ref.kind != "mark"
    }
    if angle == 0.0:
        assert refs == mirrored  # level lines have no left and right
    elif len(across) == 1:
        assert across == {1}, "lines progress to the right, the ruler lies left, outside the throat"
        assert swapped == {-1}


def test_a9_a_strip_of_nine_lines_tells_r():
    foot = calibrated(RulerFoot(), length("2.04 in"), 9, "offset", "2026-05-01")
    assert foot.offset.text == "0.255 in"
    assert [(old.offset.text, old.until) for old in foot.history] == [("1/4 in", "2026-05-01")]
    again = calibrated(foot, length("32 mm"), 6, "left", "2026-06-01")
    assert (again.offset.text, again.left.text, len(again.history)) == ("0.255 in", "6.4 mm", 2)
    assert again.history[-1].how == "6 lines over 32 mm, left"


@pytest.mark.parametrize(
    ("span", "lines", "field"), [("2 in", 1, "lines"), ("2 in", 99, "lines"), ("40 in", 9, "span"), ("1/4 in", 9, "span")]
)  # fmt: skip
def test_a_strip_that_cannot_be_is_refused_at_its_field(span, lines, field):
    with pytest.raises(BadValue) as refused:
        calibrated(RulerFoot(), length(span), lines, "offset", "2026-05-01")
    assert refused.value.field == field


def circles(*sewn, **more):
    """A kit with rulers whose outside edges sew these diameters, inches."""
    edges = {f"d{d}": ArcRuler(outside=length(f"{d} in"), by="sewn", **more) for d in sewn}
    return Kit(rulers=edges)


def test_a38_a39_her_circles_for_chord_8_and_rise_1_1_4():
    radius = radius_of(8 * IN, 1.25 * IN)
    assert radius / IN == pytest.approx(7.025)
    angle = 2 * math.asin(4 * IN / radius)
    found = ranked(circles(10, 12, 14, 16, 20), radius, angle)
    strays = {fit.ruler: fit.stray / IN for fit in found}
    wanted = {"d10": 0.750, "d12": 0.278, "d14": 0.005, "d16": -0.178, "d20": -0.415}
    assert strays == pytest.approx(wanted, abs=6e-4)
    assert (found[0].ruler, found[0].verdict) == ("d14", "fits")
    assert {fit.verdict for fit in found[1:]} == {"will not do"}


def test_a40_by_the_plastics_edge():
    radius = radius_of(8.0, 1.25)
    assert radius - 0.25 == pytest.approx(6.775)
    outside, inside = (ArcEdge(side, r * IN, 100) for side, r in (("outside", 6.775), ("inside", 7.275)))
    assert outside.sewn(0.25 * IN) == pytest.approx(7.025 * IN)
    assert inside.sewn(0.25 * IN) == pytest.approx(7.025 * IN)


def test_f45_an_edge_shorter_than_the_arc_is_moved_along():
    found = ranked(circles(15, usable=length("4 in")), 7.5 * IN, 2 * math.asin(4.5 / 7.5))
    along = 9.6525 * (7.25 / 7.5)  # on the plastic, which lies r inside the sewn line
    assert found[0].placements == math.ceil(along / 4) == 3


def test_a_hollow_tighter_than_the_foot_is_left_out_and_a_circle_too_small_will_not_do():
    tight = Kit(rulers={"in": ArcRuler(outside=None, inside=length("3/8 in"))})
    assert ranked(tight, 20.0, 1.0) == []
    (small,) = ranked(circles(4), 5 * IN, 2.0)
    assert small.verdict == "will not do"
    assert math.isfinite(small.stray)


@given(chord=st.floats(5, 500), share=st.floats(0.01, 0.49))
def test_chord_and_rise_come_back(chord, share):
    rise = chord * share
    assert rise_of(radius_of(chord, rise), chord) == pytest.approx(rise, rel=1e-9)


@given(bias=st.floats(0, 0.2), spread=st.floats(0.005, 0.2), tolerance=st.floats(0.01, 0.5))
def test_f36_the_anchor_is_the_last_line_that_holds(bias, spread, tolerance):
    every = anchor_every(bias, spread, tolerance)
    assert every == 0 or error_after(every, bias, spread) <= tolerance * (1 + 1e-6)
    assert error_after(every + 1, bias, spread) > tolerance * (1 - 1e-6)


def test_f47_a_foot_of_5_mm_and_a_ruler_of_quarters():
    total = best_offset_sum(Kit(foot=RulerFoot(offset=length("5 mm"))), INCH * 3 / 4)
    assert not total.can_be_laid
    assert float(total.off) / IN == pytest.approx(-0.05315, abs=1e-5)
    assert error_after(8, float(total.off) / IN, 0) == pytest.approx(0.425, abs=1e-3)


@pytest.mark.parametrize(
    ("offset", "etched", "out", "every"),
    [
        ("0.255 in", "1/2 in", 0.005, 3),
        ("6 mm", "1/2 in", -0.01378, 2),
        ("5 mm", None, 0, 1),
        ("1/4 in", "1/2 in", 0, 4),
    ],
)
def test_f36_a_mark_that_nearly_does_it_is_taken_as_long_as_it_holds(offset, etched, out, every):
    total = best_offset_sum(Kit(foot=RulerFoot(offset=length(offset))), INCH * 3 / 4)
    assert total.etched == (etched and length(etched).mm)
    assert float(total.out) / IN == pytest.approx(out, abs=1e-5)
    assert anchor_every(float(total.off) / IN, 1 / 32, 1 / 8) == every


def test_a81_a_ruler_laid_askew():
    assert askew(1 / 16, 5) == pytest.approx(0.716, abs=1e-3)
    assert 12 * (1 / 16) == 0.75


def test_a_quilt_takes_over_what_is_at_hand_and_says_where_it_is_behind():
    things = dict(first_things())
    kit = taken_over(Kit(), things)
    assert not behind(kit, things)
    assert (kit.machine_key, kit.foot_key, sorted(kit.rulers)) == (
        "machine", "ruler-foot", ["arc-14-in-circle", "straight-ruler", "wave"],
    )  # fmt: skip
    things["ruler-foot"] = calibrated(things["ruler-foot"], length("2.04 in"), 9, "offset", "2026-05-01")
    things["wave"] = things["wave"].model_copy(update={"state": "lent"})
    things["new"] = CombinedRuler(name="Scallop piece")
    found = behind(kit, things)
    assert (found.changed, found.new, found.away) == (("Ruler foot",), ("Scallop piece",), ("Wave",))
    now = taken_over(kit, things)
    assert (now.foot.offset.text, now.foot.history) == ("0.255 in", ())  # A86: the rest is computed again
    assert not behind(now, things)
    other = taken_over(now, {**things, "second": RulerFoot(name="Second")}, {"foot": "second"})
    assert other.foot.name == "Second"
    with pytest.raises(BadValue) as refused:
        taken_over(now, things, {"foot": "wave"})
    assert refused.value.field == "kit.foot"


def test_keys_are_told_apart():
    assert new_key("Ärger & Söhne", {}) == "arger-sohne"
    assert new_key("???", {"thing": 1}) == "thing-2"
    file = KitFile(things=tuple(first_things().values()))
    assert KitFile.model_validate_json(file.model_dump_json()) == file
    assert F(1, 4) * INCH == length("1/4 in").mm


@pytest.mark.parametrize(
    ("period", "depth", "verdict"),
    [
        ("2 1/2 in", "1/2 in", "fits"),
        ("2 1/2 in", "9/16 in", "can be nudged"),
        ("3 in", "1/2 in", "will not do"),
    ],
)
def test_a_wave_is_judged_by_what_adds_up_over_its_repeats(period, depth, verdict):
    kit = Kit(rulers={"wave": WaveRuler(), "straight": StraightRuler()})
    (fit,) = templates(kit, WaveEdge(float(length(period).mm), float(length(depth).mm), 30 * IN))
    assert (fit.ruler, fit.verdict, fit.placements) == ("wave", verdict, 3)
    assert templates(kit, ZigzagEdge(30.0, 20.0, 100.0)) == []


def test_what_must_lie_under_another_etched_line_when_all_is_right():
    kit = Kit()
    total = best_offset_sum(kit, INCH * 3 / 4)
    even = [INCH * 3 / 4 * k for k in (2, 3, 4)]
    assert check_number(total, edge_of(kit, total), even) == (
        1,
        INCH * 2,
    )  # 3 · 3/4 − 1/4; the ruler ends before 4
    assert check_number(total, edge_of(kit, total), even[:1]) == (
        0,
        INCH * 5 / 4,
    )  # only two lines lie there yet
    assert check_number(total, edge_of(kit, total), [INCH, INCH * 5 / 2]) == (
        1,
        INCH * 9 / 4,
    )  # gaps that differ
    assert check_number(total, edge_of(kit, total), []) is None
    wide = best_offset_sum(kit, INCH * 5 / 2)
    assert check_number(wide, edge_of(kit, wide), [INCH * 5]) is None


def test_a_zone_may_be_laid_with_a_ruler_or_a_foot_of_her_choice():
    kit = Kit(rulers={"a": StraightRuler(), "b": StraightRuler(etched="eighths")})
    assert kit.for_zone(None, None) is kit
    assert kit.edges  # worked out, and not taken along
    assert [key for key, _ in kit.for_zone("a", None).straight] == ["a"]
    assert kit.for_zone("gone", "walking foot").sew_with == "walking foot"
    assert [key for key, _ in kit.changed(rulers={"b": kit.rulers["b"]}).straight] == ["b"]


@pytest.mark.parametrize(("throat", "r"), [("right", "6 mm"), ("left", "1/4 in")])
def test_a_needle_off_the_middle_counts_on_the_side_where_rulers_lie(throat, r):
    foot = RulerFoot.model_validate({"offset": "1/4 in", "left": "6 mm", "collar": "1/8 in"})
    kit = Kit(foot=foot, machine=Machine(throat=throat))
    assert kit.foot_offset == Length.parse(r).mm + INCH / 8
