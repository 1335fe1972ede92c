/** Saving as she goes: one change after another, joined where they belong together, retried under one key; what is touched is shown. */
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Change, type Views } from '../api/client'
import { fill, quiltView, touched, views, zoneInfo, zoneView } from '../testing/answers'
import { useQuilt } from './quilt'

const name = (to: string): Change => ({ kind: 'name', name: to })
const names = (sent: { changes: object[] }) => sent.changes.map((one) => ('change' in one ? (one.change as { name: string }).name : ''))

describe('keeping changes', () => {
  let version = 1
  const answers = (some: Partial<Views['Touched']> = {}) => vi.spyOn(api, 'change').mockImplementation(async () => touched({ version: ++version, ...some }))
  beforeEach(() => {
    version = 1
    vi.useFakeTimers()
    setActivePinia(createPinia())
    vi.spyOn(api, 'home').mockResolvedValue({ unit: 'in', quilts: [], exports: [] })
    vi.spyOn(api, 'quilt').mockImplementation(async () => quiltView({ zones: [zoneInfo(), zoneInfo({ key: 'b' })] }))
  })
  afterEach(() => {
    vi.useRealTimers()
    vi.restoreAllMocks()
  })
  async function opened() {
    const quilt = useQuilt()
    await quilt.open('q')
    return quilt
  }

  it('sends the last of many quick tries, on the version last seen', async () => {
    const sent = answers()
    const quilt = await opened()
    for (const to of ['a', 'b', 'c']) quilt.keep('zone', name(to))
    expect(quilt.saving).toBe('saving')
    await vi.runAllTimersAsync()
    expect(sent).toHaveBeenCalledTimes(1)
    expect(sent.mock.calls[0]![1]).toMatchObject({ version: 1, changes: [{ joins: false, change: { name: 'c' } }] })
    quilt.keep('zone', name('d'))
    await vi.runAllTimersAsync()
    expect(sent.mock.calls[1]![1]).toMatchObject({ version: 2, changes: [{ joins: true, change: { name: 'd' } }] })
    expect(quilt.saving).toBe('saved')
  })
  it('loses none of two subjects and does not join them', async () => {
    const sent = answers()
    const quilt = await opened()
    quilt.keep('a', name('one'))
    quilt.keep('b', name('two'))
    await quilt.flush()
    expect(sent.mock.calls.flatMap((call) => names(call[1]))).toEqual(['one', 'two'])
    expect(sent.mock.calls.flatMap((call) => call[1].changes.map((one) => one.joins))).toEqual([false, false])
  })
  it('makes changes that come faster than the answers one after another, each from what the one before has left', async () => {
    const quilt = await opened()
    const seen: string[] = []
    const sent = vi.spyOn(api, 'change').mockImplementation(async (_, body) => {
      await new Promise((done) => setTimeout(done, 100))
      return touched({ version: body.version + 1, name: `${names(body)[0]!}` })
    })
    const both = ['chord', 'rise'].map((what) =>
      quilt.make(() => {
        seen.push(quilt.view!.name)
        return name(`${quilt.view!.name} ${what}`)
      }),
    )
    expect(quilt.saving).toBe('saving')
    await vi.runAllTimersAsync()
    await Promise.all(both)
    expect(seen).toEqual(['Harbour', 'Harbour chord'])
    expect(sent.mock.calls.map((call) => call[1].version)).toEqual([1, 2])
    expect([quilt.view!.name, quilt.saving]).toEqual(['Harbour chord rise', 'saved'])
  })
  it('makes the one that follows a refused one', async () => {
    const quilt = await opened()
    vi.spyOn(api, 'change').mockRejectedValueOnce(new Problem(422, 'too wide', 'change.rise')).mockResolvedValueOnce(touched({ name: 'second' }))
    const first = quilt.make(name('first'))
    const second = quilt.make(name('second'))
    await expect(first).rejects.toMatchObject({ field: 'change.rise' })
    await second
    expect(quilt.view!.name).toBe('second')
  })
  it('sends what waits before a change that is made at once, and steps back after both', async () => {
    const order: string[] = []
    const quilt = await opened()
    vi.spyOn(api, 'change').mockImplementation(async (_, body) => {
      order.push(names(body)[0]!)
      return touched({ version: body.version + 1 })
    })
    vi.spyOn(api, 'walk').mockImplementation(async (_, way, body) => {
      order.push(`${way} on ${body.version}`)
      return touched({ version: body.version + 1, undo: null, redo: 'a change' })
    })
    quilt.keep('a', name('kept'))
    void quilt.make(name('made'))
    await quilt.walk('undo')
    expect(order).toEqual(['kept', 'made', 'undo on 3'])
    expect(quilt.view).toMatchObject({ undo: null, redo: 'a change', version: 4 })
  })
  it('tries again under the same key while the app does not answer', async () => {
    const sent = answers().mockRejectedValueOnce(new Problem(0, 'no answer'))
    const quilt = await opened()
    quilt.keep('a', name('x'))
    await vi.advanceTimersByTimeAsync(400)
    expect(quilt.saving).toBe('waiting')
    await vi.runAllTimersAsync()
    expect(sent.mock.calls[0]![1].changes[0]!.key).toBe(sent.mock.calls[1]![1].changes[0]!.key)
    expect(quilt.saving).toBe('saved')
  })
  it('sends another value under a key of its own when the answer to the one before was lost', async () => {
    const sent = answers().mockRejectedValueOnce(new Problem(0, 'no answer'))
    const quilt = await opened()
    quilt.keep('spacing', name('first'))
    await vi.advanceTimersByTimeAsync(400)
    quilt.keep('spacing', name('second'))
    quilt.keep('spacing', name('third'))
    await vi.runAllTimersAsync()
    const [lost, again] = sent.mock.calls.map((call) => call[1])
    expect(names(again!)).toEqual(['first', 'third'])
    expect(again!.changes[0]!.key).toBe(lost!.changes[0]!.key)
    expect(again!.changes[1]!.key).not.toBe(lost!.changes[0]!.key)
    expect(again!.changes[1]!.joins).toBe(true)
  })
  it('takes the newest state when another window was faster', async () => {
    answers().mockRejectedValueOnce(new Problem(409, 'changed in another window'))
    const quilt = await opened()
    quilt.keep('a', name('x'))
    await vi.runAllTimersAsync()
    expect(quilt.trouble).toContain('another window')
    expect(quilt.read).toBe(2)
  })
  it('shows what was touched and reads nothing else again', async () => {
    answers({ zones: [zoneInfo({ key: 'b', fill: 'Echo' })], totals: [{ label: 'Lines', words: ['4'], amount: 4, how: '' }] })
    const quilt = await opened()
    const read = vi.mocked(api.quilt).mock.calls.length
    const before = quilt.zones[0]
    await quilt.make(name('x'))
    expect(quilt.zones.map((zone) => zone.fill)).toEqual(['Straight lines', 'Echo'])
    expect(quilt.zones[0]).toBe(before)
    expect(quilt.totals[0]!.amount).toBe(4)
    expect(vi.mocked(api.quilt).mock.calls).toHaveLength(read)
  })
  it('takes zones that came, and leaves those that went', async () => {
    answers({ zones: [zoneInfo({ key: 'c' })], order: ['c', 'b'] })
    const quilt = await opened()
    await quilt.make(name('x'))
    expect(quilt.zones.map((zone) => zone.key)).toEqual(['c', 'b'])
  })
  it('answers what is open on the screen with the change, but not what the screen knows already', async () => {
    const sent = answers({ views: views({ zone: zoneView({ fill: fill({ spacing: '1 in' }) }) }) })
    const quilt = await opened()
    const taken: (string | undefined)[] = []
    const close = quilt.shows({
      ask: (knows) => (knows.includes('a') ? undefined : { top: true }),
      take: ({ zone }) => void taken.push(zone?.fill?.spacing),
    })
    await quilt.make(name('x'))
    quilt.keep('a 0 spacing', { kind: 'fill', zone: 'a', place: null, fill: fill() }, 'a')
    await quilt.flush()
    expect(sent.mock.calls.map((call) => [call[1].knows, call[1].views])).toEqual([[[], { top: true }], [['a'], {}]])
    expect(taken[0]).toBe('1 in')
    close()
    await quilt.make(name('y'))
    expect(sent.mock.calls.at(-1)![1].views).toEqual({})
  })
  it('says above the quilt what a plain control was refused, and shows what is kept', async () => {
    answers().mockRejectedValueOnce(new Problem(422, 'That would not fit.'))
    const quilt = await opened()
    await quilt.set(name('x'))
    expect([quilt.trouble, quilt.read]).toEqual(['That would not fit.', 2])
  })
  it('is not saved while a trial is computed that will be kept if it holds', async () => {
    const quilt = useQuilt()
    let answer: (held: string) => void = () => {}
    const tried = quilt.trying(new Promise<string>((done) => (answer = done)))
    expect(quilt.saving).toBe('saving')
    answer('held')
    expect(await tried).toBe('held')
    expect(quilt.saving).toBe('saved')
    await expect(quilt.trying(Promise.reject(new Error('refused')))).rejects.toThrow()
    expect(quilt.saving).toBe('saved')
  })
})
