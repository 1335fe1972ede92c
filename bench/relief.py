"""The relief of a quilt: against the bare distance transform of the same raster, in the same run."""

from __future__ import annotations

from collections.abc import Callable
from statistics import median
from time import perf_counter

from scipy.ndimage import distance_transform_edt

from bench.king_size import king_size
from kenzet.core.relief.cloth import Raster, cloth_heights, stitched
from kenzet.core.relief.heights import heights
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from kenzet.formats.relief_picture import relief_picture

ROUNDS = 3


def measured(name: str, laid: QuiltLayout, wanted: float) -> str:
    """Medians of rounds that take turns, so that a slow spell strikes all."""
    raster = Raster.over(laid, 2400)
    cloth_heights(laid, raster)  # plans are kept from here on
    held = stitched(laid, raster)
    loft = float(laid.quilt.kit.batting.thickness.mm)
    does: dict[str, Callable[[], object]] = {
        "distance": lambda: distance_transform_edt(~held),
        "heights": lambda: heights(held, raster.wide, loft),
        "picture": lambda: relief_picture(laid, 2400),
        "coarse": lambda: relief_picture(laid, 330),
    }
    took: dict[str, list[float]] = {what: [] for what in does}
    for _ in range(ROUNDS):
        for what, do in does.items():
            begin = perf_counter()
            do()
            took[what].append(perf_counter() - begin)
    seconds = {what: median(each) for what, each in took.items()}
    return (
        f"relief: {name}, {raster.columns} x {raster.rows} pixels: heights {seconds['heights']:.2f} s, "
        f"{seconds['heights'] / seconds['distance']:.0f} times the distance transform; the picture {seconds['picture']:.2f} s "
        f"(wanted {wanted:g}), a coarse one {seconds['coarse']:.2f} s"
    )


def main() -> None:
    """The demo quilt and a king-size one, 20 pixels an inch or as many as the finest raster has."""
    print(measured("demo quilt", QuiltLayout(demo_quilts()[0]), 1.0))
    print(measured("king-size quilt", king_size(), 3.0))


if __name__ == "__main__":
    main()
