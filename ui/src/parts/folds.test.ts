/** The storeys of a panel: what to know, and settings that fold away and still say what they hold. */
import { flushPromises, mount } from '@vue/test-utils'
import { nextTick } from 'vue'
import { describe, expect, it } from 'vitest'
import type { Views } from '../api/client'
import { byId, mounted } from '../testing/mounting'
import { field, figure } from '../testing/answers'
import FoldCard from './FoldCard.vue'
import KnownList from './KnownList.vue'
import WordsText from './WordsText.vue'
import { summary } from './summary'

const known = (words: string, more: Partial<Views['Known']> = {}): Views['Known'] => ({ words: [words], tone: 'tells', mend: null, at: null, ...more })

describe('A fold', () => {
  it('says what it holds while it is closed, and stays open for the next', async () => {
    const part = mount(FoldCard, { props: { name: 'Direction', says: ['45°'] }, slots: { default: '<p class="in">in it</p>' } })
    expect(part.find('.says').text()).toBe('45°')
    expect(part.find('.in').isVisible()).toBe(false)
    expect(byId(part, 'fold-Direction').attributes('aria-expanded')).toBe('false')
    await byId(part, 'fold-Direction').trigger('click')
    await nextTick()
    expect(part.find('.says').exists()).toBe(false)
    const next = mount(FoldCard, { props: { name: 'Direction', says: ['90°'] } })
    expect(byId(next, 'fold-Direction').attributes('aria-expanded')).toBe('true')
    await byId(next, 'fold-Direction').trigger('click')
    expect(byId(part, 'fold-Direction').attributes('aria-expanded')).toBe('false')
  })
  it('tells only what is set, with a word where the value alone says nothing', () => {
    const choice = field({ name: 'origin', label: 'Crossed', control: 'choice', text: 'no', shown: null, choices: [{ key: 'no', label: 'no', picks: '' }] })
    const angle = field({ control: 'angle', text: '45', shown: null })
    const unset = field({ control: 'count', text: '', shown: null, empty: 'until full' })
    const length = field({ label: 'Rise' })
    expect(summary([angle, choice, unset])).toEqual(['45°', ' · ', 'crossed: no'])
    expect(summary([length])).toEqual(['rise ', figure()])
    expect(summary([unset])).toEqual(['until full'])
  })
})

describe('What to know', () => {
  it('is three sentences at most, the rest at a click', async () => {
    const part = mounted(KnownList, { known: ['a', 'b', 'c', 'd', 'e'].map((words) => known(words)) })
    expect(part.findAll('.card').map((card) => card.text())).toEqual(['a', 'b', 'c'])
    expect(byId(part, 'known-more').text()).toBe('2 more to know')
    await byId(part, 'known-more').trigger('click')
    expect(part.findAll('.card')).toHaveLength(5)
  })
  it('mends itself and shows its place', async () => {
    const part = mounted(KnownList, { known: [known('a sliver', { tone: 'warns', mend: { label: 'Put a gap', values: { origin: 'centre gap' } }, at: [3, 4] })] })
    await byId(part, 'mend').trigger('click')
    await byId(part, 'show-place').trigger('click')
    await flushPromises()
    expect(part.emitted('mend')).toEqual([[{ origin: 'centre gap' }]])
    expect(part.emitted('show')).toEqual([[[3, 4]]])
  })
})

describe('Words', () => {
  it.each([
    ['63 5/8 in of it', ['63', '5', '8']],
    ['ruler has 3/4', ['3', '4']],
  ])('set a fraction that is written out: %s', (text, letters) => {
    const part = mount(WordsText, { props: { words: [text] } })
    expect(part.findAll('.whole, .fraction b').map((one) => one.text())).toEqual(letters)
  })
  it.each(['12/05/2026', '1.5/2', 'and/or'])('leave alone what is none: %s', (text) => {
    expect(mount(WordsText, { props: { words: [text] } }).find('.fraction').exists()).toBe(false)
  })
})
