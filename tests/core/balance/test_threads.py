"""Whether a thread shows: the library's figure against the formula written out here, and that against published pairs."""

import math
import random

import pytest

from kenzet.core.balance.threads import by_zone, compared, difference, on_cloth
from kenzet.core.kit.things.supplies import Thread
from kenzet.core.top.blocks import Fabric

PAIRS = [  # L, a, b of two colors, and their CIEDE2000
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425), ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, 2.8361, -74.02), (50, 0, -82.7485), 3.4412), ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0),
    ((50, 0, 0), (50, -1, 2), 2.3669), ((50, 2.49, -0.001), (50, -2.49, 0.0009), 7.1792),
    ((50, 2.5, 0), (73, 25, -18), 27.1492), ((50, 2.5, 0), (61, -5, 29), 22.8977),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644), ((2.0776, 0.0795, -1.135), (0.9033, -0.0636, -0.5514), 0.9082),
]  # fmt: skip


def ciede2000(one, other):
    (l1, a1, b1), (l2, a2, b2) = one, other
    mean = (math.hypot(a1, b1) + math.hypot(a2, b2)) / 2
    g = 0.5 * (1 - math.sqrt(mean**7 / (mean**7 + 25**7)))
    a1, a2 = a1 * (1 + g), a2 * (1 + g)
    c1, c2 = math.hypot(a1, b1), math.hypot(a2, b2)
    h1, h2 = (math.degrees(math.atan2(b, a)) % 360 if a or b else 0.0 for a, b in ((a1, b1), (a2, b2)))
    turn = h2 - h1
    turn = turn - 360 if turn > 180 else turn + 360 if turn < -180 else turn
    turn = 0.0 if c1 * c2 == 0 else turn
    dl, dc, dh = l2 - l1, c2 - c1, 2 * math.sqrt(c1 * c2) * math.sin(math.radians(turn) / 2)
    light, chroma = (l1 + l2) / 2, (c1 + c2) / 2
    if c1 * c2 == 0:
        hue = h1 + h2
    elif abs(h1 - h2) <= 180:
        hue = (h1 + h2) / 2
    else:
        hue = (h1 + h2 + 360) / 2 if h1 + h2 < 360 else (h1 + h2 - 360) / 2
    cos = lambda degrees: math.cos(math.radians(degrees))  # noqa: E731
    t = 1 - 0.17 * cos(hue - 30) + 0.24 * cos(2 * hue) + 0.32 * cos(3 * hue + 6) - 0.2 * cos(4 * hue - 63)
    sl = 1 + 0.015 * (light - 50) ** 2 / math.sqrt(20 + (light - 50) ** 2)
    sc, sh = 1 + 0.045 * chroma, 1 + 0.015 * chroma * t
    rt = (
        -2
        * math.sqrt(chroma**7 / (chroma**7 + 25**7))
        * math.sin(math.radians(60 * math.exp(-(((hue - 275) / 25) ** 2))))
    )
    return math.sqrt((dl / sl) ** 2 + (dc / sc) ** 2 + (dh / sh) ** 2 + rt * dc / sc * dh / sh)


def lab(colour):
    """Of #rrggbb under the white of screens (D65)."""
    r, g, b = (int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5))
    r, g, b = (v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4 for v in (r, g, b))
    x = (0.4123908 * r + 0.3575843 * g + 0.1804808 * b) / 0.9504559
    y = 0.2126390 * r + 0.7151687 * g + 0.0721923 * b
    z = (0.0193308 * r + 0.1191948 * g + 0.9505322 * b) / 1.0890578
    fx, fy, fz = (v ** (1 / 3) if v > (6 / 29) ** 3 else v / (3 * (6 / 29) ** 2) + 4 / 29 for v in (x, y, z))
    return 116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)


@pytest.mark.parametrize(("one", "other", "wanted"), PAIRS)
def test_the_formula_gives_the_published_figures(one, other, wanted):
    assert ciede2000(one, other) == pytest.approx(wanted, abs=1e-4)


def test_the_library_gives_what_the_formula_gives():
    chance = random.Random(7)
    for _ in range(200):
        one, other = (f"#{chance.randrange(1 << 24):06x}" for _ in range(2))
        assert difference(one, other) == pytest.approx(ciede2000(lab(one), lab(other)), abs=2e-3)


FABRICS = {"cream": Fabric(name="Cream", colour="#f2ead8"), "navy": Fabric(name="Navy", colour="#26324f")}
THREADS = {
    "white": Thread(name="White", colour="#f0e9da"), "blue": Thread(name="Blue", colour="#28344f"), "gray": Thread(name="Gray", colour="#8b8f94"),
}  # fmt: skip


def test_the_thread_that_shows_least_by_area_comes_first_and_a_dark_one_may_be_seen_through_light_cloth():
    ranked = compared(THREADS, FABRICS, {"cream": 9000.0, "navy": 1000.0})
    assert ranked[0].key == "white"
    wanted = 0.9 * difference("#f0e9da", "#f2ead8") + 0.1 * difference("#f0e9da", "#26324f")
    assert ranked[0].mean == pytest.approx(wanted)
    assert {one.key: one.through for one in ranked} == {"white": (), "gray": (), "blue": ("cream",)}
    assert compared(THREADS, FABRICS, {"cream": 1.0, "navy": 99.0})[0].key == "blue"


def test_a_thread_for_each_zone_costs_changes():
    zones = {"a": {"cream": 1.0}, "b": {"navy": 1.0}, "c": {"cream": 2.0}}
    found = by_zone(THREADS, FABRICS, zones, "white")
    assert dict(found.choice) == {"a": "white", "b": "blue", "c": "white"}
    assert found.changes == 2
    assert by_zone(THREADS, FABRICS, zones, "white", ("a", "c", "b")).changes == 1
    assert found.saves == pytest.approx(
        (difference("#f0e9da", "#26324f") - difference("#28344f", "#26324f")) / 4
    )
    assert on_cloth("#000000", FABRICS, {}) == 0.0
