"""Words of another language are longer: with every text a third longer no control runs out of its panel or off the screen."""

from __future__ import annotations

import pytest

from tests.browser.test_access import STATES

LONGER = """() => {
  const walk = document.createTreeWalker(document.querySelector('#app'), NodeFilter.SHOW_TEXT)
  const mark = { a: 'aá', e: 'eé', i: 'ií', o: 'oó', u: 'uú', A: 'AÁ', E: 'EÉ', I: 'IÍ', O: 'OÓ', U: 'UÚ' }
  for (let node = walk.nextNode(); node; node = walk.nextNode()) {
    const within = node.parentElement
    if (!within || within.closest('svg, script, style, .figure, .mark')) continue
    if (/[a-z]{3}/i.test(node.nodeValue)) node.nodeValue = node.nodeValue.replace(/[aeiou]/gi, (letter) => mark[letter])
  }
}"""

OUT = """() => {
  const shown = (e) => e.checkVisibility?.() && getComputedStyle(e).position !== 'absolute'
  const scrolls = (e) => ['auto', 'scroll'].includes(getComputedStyle(e).overflowX)
  const out = []
  for (const control of document.querySelectorAll('#app button, #app a, #app input, #app select, #app h1, #app h2')) {
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


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["table", "phone"])
def test_longer_words_fit(table, size):
    start = table.url
    found = []
    for state in STATES:
        table.set_viewport_size({"width": 1280, "height": 800})
        table.goto(start)
        table.get_by_test_id("canvas").wait_for()
        state(table)
        table.set_viewport_size({"width": size[0], "height": size[1]})
        table.wait_for_timeout(150)
        table.evaluate(LONGER)
        found += [(getattr(state, "__name__", ""), *each) for each in table.evaluate(OUT)]
    assert found == []
