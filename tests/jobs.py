"""Whole jobs as a quilter has them, from the top to the last line; each is made by the changes that her clicks make."""

from __future__ import annotations

from collections.abc import Callable

from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import Length
from kenzet.core.top.quilt_layout import QuiltLayout
from tests.tops import after, patterned, single, wished

JOBS: dict[str, Callable[[], QuiltLayout]] = {}


def job(made: Callable[[], QuiltLayout]) -> Callable[[], QuiltLayout]:
    """Listed by its name in words."""
    JOBS[made.__name__.replace("_", " ")] = made
    return made


def inventory(*more: dict) -> dict:
    """A kit of a straight ruler with eighths and whatever else the job is done with, as a change."""
    ruler = {
        "kind": "straight ruler",
        "name": "Straight ruler",
        "etched": "eighths",
        "angles": "30, 45, 60",
        "length": "18 in",
    }
    rulers = {"straight": ruler, **{f"more-{n}": thing for n, thing in enumerate(more)}}
    return {"kind": "kit", "kit": Kit.model_validate({"rulers": rulers}).model_dump(mode="json")}


def arc(radius: str) -> dict:
    """A ruler whose outside edge has ``radius``, and its inside edge half an inch more, so that both sew one curve."""
    inside = Length.parse(radius).mm + Length.parse("1/2 in").mm
    return {
        "kind": "arc",
        "measured": "radius",
        "name": f"Arc {radius}",
        "outside": radius,
        "inside": Length.near(inside, "in").text,
    }


def zoned(
    laid: QuiltLayout, refs: list[str], fill: dict | None = None, everywhere: bool = True, **more
) -> QuiltLayout:
    """With a zone of ``refs`` that has ``fill``."""
    before = set(laid.quilt.zones)
    laid = after(laid, {"kind": "zone", "refs": refs, "everywhere": everywhere, **more})
    key = next(key for key in laid.quilt.zones if key not in before)
    return after(laid, {"kind": "fill", "zone": key, "fill": fill}) if fill else laid


def whole(laid: QuiltLayout, fill: dict | None = None, place: str = "1-1") -> QuiltLayout:
    """With one zone of all patches of the block at ``place``."""
    part = laid.quilt.parts_at[place]
    return zoned(laid, [f"{place}/{patch}" for patch in sorted(laid.quilt.part_patches[part])], fill)


def role(laid: QuiltLayout, fabric: str, place: str = "1-1") -> list[str]:
    """The patches of one fabric of the block at ``place``."""
    block = laid.quilt.blocks[laid.quilt.parts_at[place]]
    return [f"{place}/{patch}" for patch, of in sorted(block.fabric_of.items()) if of == fabric]


def block(name: str, size: str, *kit: dict) -> QuiltLayout:
    return after(single(name, size), inventory(*kit))


@job
def a_four_patch_with_chevrons() -> QuiltLayout:
    return whole(block("Four-patch", "10 in"), {"kind": "chevrons", "spacing": "3/4 in"})


@job
def curved_rows_with_uprights() -> QuiltLayout:
    fill = {
        "kind": "curved rows",
        "spacing": "5/8 in",
        "rise": "1 in",
        "rows": 3,
        "straights": "above",
        "apart": "3/8 in",
    }
    return whole(block("Plain", "9 in", arc("10 3/8 in")), fill)


@job
def a_melon_with_ditch_echoes_and_texture() -> QuiltLayout:
    laid = block("Melon", "8 in")
    laid = zoned(laid, role(laid, "main"))
    return after(laid, {"kind": "surround", "zone": next(iter(laid.quilt.zones))})


@job
def an_inset_square_with_quadrants() -> QuiltLayout:
    return whole(block("Plain", "7 in"), {"kind": "inset", "spacing": "3/8 in", "half": "1 1/4 in"})


@job
def hourglass_columns() -> QuiltLayout:
    laid = wished(block="5 in", columns=3, rows=3)
    laid = after(laid, {"kind": "new block", "block": patterned("Quarter-square triangles", "5 in")})
    key = next(key for key in laid.quilt.blocks if key != "plain")
    places = [place for place in laid.quilt.parts_at if laid.quilt.parts_at[place] == "plain"]
    laid = after(laid, {"kind": "paint", "places": places, "block": key}, inventory(arc("2 9/16 in")))
    return whole(laid, {"kind": "hourglass", "spacing": "5/8 in"})


@job
def a_pinwheel_through_the_centre() -> QuiltLayout:
    return whole(block("Pinwheel", "9 in", arc("13 7/16 in")), {"kind": "through", "spacing": "3/8 in"})


@job
def waves_stepped_and_slid() -> QuiltLayout:
    wave = {"kind": "wave", "name": "Wave"}
    fill = {
        "kind": "waves",
        "spacing": "3/8 in",
        "typed": "step",
        "period": "2 1/2 in",
        "depth": "1/2 in",
        "slide": "1/4 in",
    }
    return whole(block("Plain", "10 in", wave), fill)


@job
def a_fan_in_petals() -> QuiltLayout:
    laid = block("Orange peel", "8 in")
    return zoned(laid, role(laid, "main"), {"kind": "fan", "spacing": "1/8 in", "wide": "1/4 in"})


@job
def echo_shells() -> QuiltLayout:
    laid = block("Pinwheel", "10 in")
    return zoned(laid, role(laid, "main"), {"kind": "shells", "spacing": "5/8 in"})


@job
def taped_lines() -> QuiltLayout:
    laid = whole(block("Plain", "30 in"), {"kind": "lines", "spacing": "3/4 in", "angle": 90})
    return after(laid, {"kind": "marking", "zone": next(iter(laid.quilt.zones)), "marking": "tape"})


@job
def an_s_curve_on_an_on_point_grid() -> QuiltLayout:
    return whole(block("Plain", "9 in", arc("2 in")), {"kind": "s-curves", "spacing": "7/8 in"})


@job
def a_powdered_grid_with_a_motif() -> QuiltLayout:
    laid = whole(
        block("Plain", "8 in"),
        {"kind": "grid", "spacing": "1 in", "angle": 0, "second_angle": 90, "use": "drawn"},
    )
    key = next(iter(laid.quilt.zones))
    over = {"fill": {"kind": "continuous", "spacing": "1 in", "rise": "3/16 in"}, "cells": "all"}
    return after(
        laid,
        {"kind": "over", "zone": key, "over": over},
        {"kind": "marking", "zone": key, "marking": "stencil"},
    )


@job
def a_petal_with_lines_and_a_slanted_second_family() -> QuiltLayout:
    laid = block("Melon", "8 in")
    return zoned(
        laid, role(laid, "main"), {"kind": "grid", "spacing": "1/2 in", "angle": 45, "second_angle": 105}
    )


@job
def stepped_zigzag_rows() -> QuiltLayout:
    points = {"kind": "zigzag template", "name": "Points", "pitch": "1 1/2 in", "rise": "3/4 in"}
    fill = {
        "kind": "zigzag rows",
        "spacing": "3/8 in",
        "pitch": "1 1/2 in",
        "rise": "3/4 in",
        "rhythm": "1 2 1 3",
    }
    return whole(block("Plain", "9 in", points), fill)


@job
def pairs_at_sixty_degrees() -> QuiltLayout:
    return whole(block("Plain", "9 in"), {"kind": "pairs", "angle": 60, "crossed": "at 60 degrees"})


@job
def clamshells_with_a_second_arc() -> QuiltLayout:
    fill = {"kind": "clamshell", "spacing": "1 3/4 in", "second": "3/8 in", "fit": "whole"}
    return whole(block("Plain", "10 1/2 in", arc("5/8 in"), arc("1 in")), fill)


@job
def a_channel() -> QuiltLayout:
    return whole(block("Plain", "8 in"), {"kind": "channel"})


@job
def a_zigzag_fitted_to_seams() -> QuiltLayout:
    laid = block("Nine-patch", "11 1/4 in")
    return whole(laid, {"kind": "zigzag", "spacing": "3/4 in", "advance": "1 1/4 in", "throw": "3/4 in"})


@job
def an_eight_sided_shape_over_a_nine_patch() -> QuiltLayout:
    return whole(block("Nine-patch", "7 1/2 in"), {"kind": "corner cuts", "spacing": "3/8 in"})


@job
def a_pinned_echo_in_star_diamonds() -> QuiltLayout:
    laid = block("Eight-point diamond star", "12 in")
    return zoned(laid, role(laid, "main"), {"kind": "pinned", "spacing": "3/8 in", "rounds": 1})


@job
def a_wave_pair_in_a_mitred_border() -> QuiltLayout:
    laid = wished(arrangement="single block", block="20 in")
    border = {"width": "3 3/4 in", "fabric": "main", "corners": "mitred"}
    laid = after(laid, {"kind": "borders", "borders": [border]}, inventory({"kind": "wave", "name": "Wave"}))
    strips = sorted(laid.quilt.part_patches["border-1"])
    return zoned(
        laid,
        [f"border-1/{strip}" for strip in strips],
        {"kind": "wave border", "rounds": 2, "spacing": "1 1/4 in"},
    )


@job
def scallops_along_a_sash() -> QuiltLayout:
    laid = wished(arrangement="strips", block="4 in", columns=3, height="24 in")
    laid = after(laid, inventory(arc("1 13/16 in"), arc("1 1/16 in")))
    part = laid.quilt.parts_at["1-2"]
    return zoned(
        laid,
        [f"1-2/{p}" for p in laid.quilt.part_patches[part]],
        {"kind": "scallops", "spacing": "3/4 in", "unit": "4 in", "along": 1},
    )
