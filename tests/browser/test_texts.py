"""Every screen in the language for tests: what was forgotten in the catalogue stands there in plain English, and what does not fit runs out."""

from __future__ import annotations

import calendar
import re
import tempfile
from pathlib import Path

import pytest

from kenzet.demo import demo_quilts, demo_swatches
from kenzet.texts.pseudo import PSEUDO
from tests.browser.test_access import PHONE, STATES, TABLE
from tests.served import Served

TABLET = {"width": 768, "height": 1024}

OUT = """() => {
  const shown = (e) => e.checkVisibility?.() && getComputedStyle(e).position !== 'absolute'
  const scrolls = (e) => ['auto', 'scroll'].includes(getComputedStyle(e).overflowX)
  const out = []
  for (const control of document.querySelectorAll('#app button, #app a, #app input, #app select, #app h1, #app h2, #app h3, #app p, #app dt, #app dd, #app label, #app legend, #app small, #app li')) {
    if (!shown(control) || control.closest('svg, .sr')) continue
    const box = control.getBoundingClientRect()
    if (!box.width || !box.height) continue
    let holder = control.parentElement
    while (holder && holder !== document.body && getComputedStyle(holder).overflowX === 'visible') holder = holder.parentElement
    if (holder && scrolls(holder) && !holder.matches('aside, .home, .say')) continue
    const right = Math.min(innerWidth, holder ? holder.getBoundingClientRect().right : innerWidth)
    if (box.right > right + 1) out.push([control.tagName, control.innerText.slice(0, 40), Math.round(box.right - right)])
  }
  if (document.documentElement.scrollWidth > innerWidth) out.push(['page', 'scrolls sideways', document.documentElement.scrollWidth])
  return out
}"""


READ = """() => {
  const found = []
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  for (let node = walk.nextNode(); node; node = walk.nextNode()) {
    const within = node.parentElement
    if (within && !within.closest('script, style, noscript, kbd, [data-testid=backup]')) found.push(node.nodeValue)
  }
  const told = ['aria-label', 'title', 'placeholder', 'alt', 'aria-valuetext']
  for (const part of document.querySelectorAll(told.map((name) => `[${name}]`).join()))
    for (const name of told) found.push(part.getAttribute(name) ?? '')
  return found
}"""

NO_TEXT = {
    *("in", "mm", "cm", "oz", "yd", "px", "Kenzet", "am", "pm", "Esc", "Enter", "Shift", "space"),  # units, keys, the app's own name
    *calendar.month_name, *calendar.day_name,  # of a calendar in English
}  # fmt: skip


def named(document):
    """Every word of a name or a note in a document, which she wrote."""
    if isinstance(document, dict):
        for key, value in document.items():
            if key in ("name", "notes", "told") and isinstance(value, str):
                yield from re.findall(r"[A-Za-z]+", value)
            yield from named(value)
    elif isinstance(document, (list, tuple)):
        for value in document:
            yield from named(value)


@pytest.fixture(scope="module")
def served():
    with tempfile.TemporaryDirectory(prefix="kenzet-browser-") as home:
        app = Served(Path(home), language=PSEUDO)
        yield app
        app.stop()


def test_nothing_was_forgotten_and_everything_fits_in_another_language(table):
    """Each text of the catalogue is longer by a third there and has no plain vowel left."""
    written = {*named([quilt.model_dump(mode="json") for quilt in demo_quilts()])}
    written |= {*named([swatch.model_dump(mode="json") for swatch in demo_swatches()])}
    forgotten, out = set(), set()
    start = table.url
    table.emulate_media(reduced_motion="reduce")
    for state in STATES:
        name = getattr(state, "__name__", "")
        table.set_viewport_size(TABLE)
        table.goto(start)
        table.get_by_test_id("canvas").wait_for()
        state(table)
        for said in table.evaluate(READ):
            words = re.findall(r"[^\W\d_]+", said)
            plain = [
                word for word in words if re.fullmatch("[A-Za-z]{2,}", word) and re.search("[aeiou]", word)
            ]
            if left := [word for word in plain if word not in written | NO_TEXT]:
                forgotten.add((name, " ".join(left), said.strip()[:120]))
        for size in (TABLE, TABLET, PHONE):
            table.set_viewport_size(size)
            table.wait_for_timeout(80)
            out |= {(name, size["width"], *each) for each in table.evaluate(OUT)}
    assert sorted(forgotten) == []
    assert sorted(out) == []
