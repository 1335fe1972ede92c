/** Balance: what it lists, what its buttons do, and when it asks again. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api, Problem, type Views } from '../../api/client'
import { useBalance } from '../../state/balance'
import { useQuilt } from '../../state/quilt'
import { zoneInfo } from '../../testing/answers'
import { byId, changes, mounted, opened } from '../../testing/mounting'
import BarRows from './BarRows.vue'
import ThreadTable from './ThreadTable.vue'
import TryPlace from './TryPlace.vue'
import KnownList from '../../parts/KnownList.vue'

const told = (says: string, more: Partial<Views['BalanceTold']> = {}): Views['BalanceTold'] => ({ words: [says], tone: 'tells', steps: [], at: null, ...more })
const weighed = (more: Partial<Views['BalanceView']> = {}): Views['BalanceView'] => ({
  known: [told('All well.')], mean: ['1.5 in per sq in'], hand: 'soft', widest: ['4 in'], limit: ['8 in'], time: '2 h', even: 'even', hands: [], measure: 'in a sq in',
  densities: [], gaps: [], standings: [], pairs: [], reads: 2, seen: [], accents: [], threads: [], by_zone: [], times: [], blocks: [], washed: [], ...more,
})

beforeEach(() => {
  localStorage.clear()
  opened()
})
afterEach(() => vi.restoreAllMocks())

describe('what to know', () => {
  it('shows three sentences, and the rest when asked', async () => {
    const part = mounted(KnownList, { known: ['a', 'b', 'c', 'd', 'e'].map((one) => told(one)), busy: false })
    expect(part.findAll('.card')).toHaveLength(3)
    await part.find('.more').trigger('click')
    expect(part.findAll('.card')).toHaveLength(5)
    expect(part.find('.more').text()).toBe('Show less')
  })
  it('passes on the step and the place that were pressed', async () => {
    const step: Views['BalanceStep'] = { label: 'Set it', zone: 'star', station: '', values: { spacing: '1 in' }, change: null }
    const part = mounted(KnownList, { known: [told('Too wide.', { tone: 'warns', steps: [step], at: [3, 4] })], busy: false })
    await byId(part, 'mend').trigger('click')
    await byId(part, 'show-place').trigger('click')
    expect(part.emitted('step')).toEqual([[step]])
    expect(part.emitted('show')).toEqual([[[3, 4]]])
    expect(part.find('.card').classes()).toContain('weld')
  })
})

describe('ranked zones', () => {
  it('draws a bar as long as the share, and tells which is chosen', async () => {
    const rows: Views['ZoneRow'][] = [{ zone: 'a', name: 'Star', words: ['2.9'], note: 'firm', share: 0.5, hand: 'firm' }, { zone: 'b', name: 'Border', words: [], note: 'open', share: 0, hand: 'open' }]
    const part = mounted(BarRows, { rows, chosen: 'a', colours: { firm: '#b3654a' } })
    const bars = part.findAll('.bar i').map((bar) => bar.attributes('style'))
    expect(bars[0]).toContain('width: 50%')
    expect(bars[1]).toContain('width: 1%')
    expect(part.findAll('button').map((one) => one.attributes('aria-pressed'))).toEqual(['true', 'false'])
    await part.findAll('button')[1]!.trigger('click')
    expect(part.emitted('choose')).toEqual([['b']])
  })
})

describe('threads', () => {
  it('shows each on each cloth, and offers those that are not in use', async () => {
    const row = (key: string, used: boolean): Views['ThreadRow'] => ({ key, name: key, colour: '#888888', used, words: 'blends', note: '', cells: [{ fabric: 'Sand', colour: '#ddccaa', look: 'blends', figure: '12' }] })
    const part = mounted(ThreadTable, { threads: [row('gray', true), row('cream', false)], busy: false })
    expect(part.findAll('svg').map((one) => one.attributes('aria-label'))).toEqual(['gray on Sand: blends', 'cream on Sand: blends'])
    expect(part.find('[data-testid=use-gray]').exists()).toBe(false)
    await byId(part, 'use-cream').trigger('click')
    expect(part.emitted('use')).toEqual([['cream']])
  })
})

describe('weighing', () => {
  it('asks while it is looked at, again when the plan has changed, and not otherwise', async () => {
    const asked = vi.spyOn(api, 'balance').mockResolvedValue(weighed())
    const balance = useBalance()
    useQuilt().view = { ...useQuilt().view!, version: 2 }
    await nextTick()
    expect(asked).not.toHaveBeenCalled()
    balance.open = true
    await flushPromises()
    expect(asked).toHaveBeenCalledTimes(1)
    useQuilt().view = { ...useQuilt().view!, version: 3 }
    await flushPromises()
    balance.reads = 3
    await flushPromises()
    expect(asked.mock.calls.map(([, , reads]) => reads)).toEqual([2, 2, 3])
    balance.close()
    useQuilt().view = { ...useQuilt().view!, version: 4 }
    await flushPromises()
    expect(asked).toHaveBeenCalledTimes(3)
  })
  it('keeps the last good figures where the server does not answer', async () => {
    const asked = vi.spyOn(api, 'balance').mockResolvedValueOnce(weighed({ hand: 'firm' }))
    const balance = useBalance()
    balance.open = true
    await flushPromises()
    asked.mockRejectedValueOnce(new Problem(0, 'Kenzet does not answer.'))
    await balance.look()
    expect(balance.view?.hand).toBe('firm')
    expect(balance.trouble).toBe('Kenzet does not answer.')
  })
})

describe('a kind of fill in another zone', () => {
  const tried = (note: string): Views['TryView'] => ({ row: { name: 'Grid', words: ['13 places'], note, alone: false }, at: [10, 20], fill: { kind: 'grid' } as never })
  it('is tried first, and sewn there when she says so', async () => {
    opened({ zones: [zoneInfo({ key: 'a', name: 'Star', fill: 'Grid' }), zoneInfo({ key: 'b', name: 'Border', fill: '' })] })
    vi.spyOn(api, 'tryPlace').mockResolvedValue(tried('balanced about the center'))
    const sent = changes()
    const part = mounted(TryPlace, { name: 'Grid' })
    expect(part.findAll('option').map((one) => one.text())).toEqual(['no other zone', 'Border'])
    await byId(part, 'try-Grid').setValue('b')
    await flushPromises()
    expect(part.emitted('show')).toEqual([[[10, 20]]])
    expect(byId(part, 'tried').text()).toContain('With it in “Border” too: balanced')
    expect(sent).toEqual([])
    await byId(part, 'try-fill').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'fill', zone: 'b', place: null, fill: { kind: 'grid' } }])
  })
  it('says why it cannot lie there', async () => {
    opened({ zones: [zoneInfo({ key: 'b', name: 'Border', fill: '' })] })
    vi.spyOn(api, 'tryPlace').mockRejectedValue(new Problem(422, 'It needs a curve.', 'zone'))
    const part = mounted(TryPlace, { name: 'Grid' })
    await byId(part, 'try-Grid').setValue('b')
    await flushPromises()
    expect(part.find('[role=alert]').text()).toBe('It needs a curve.')
  })
})
