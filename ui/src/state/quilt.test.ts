/** Saving as she goes: one change at a time, joined where they belong together, retried under one key. */
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem } from '../api/client'
import { useQuilt } from './quilt'

const view = (version: number) => ({ version, undo: null, redo: null, totals: [], zones: [], parts: [], name: 'Q' }) as never

describe('keeping changes', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    setActivePinia(createPinia())
    vi.spyOn(api, 'home').mockResolvedValue({ unit: 'in', quilts: [] })
    vi.spyOn(api, 'quilt').mockImplementation(async () => view(1))
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
  let version = 1
  const answers = () =>
    vi.spyOn(api, 'change').mockImplementation(async () => ({ version: ++version, undo: 'x', redo: null }))

  it('sends the last of many quick tries, on the version last seen', async () => {
    version = 1
    const sent = answers()
    const quilt = await opened()
    for (const n of [1, 2, 3]) quilt.keep('zone', { n })
    expect(quilt.saving).toBe('saving')
    await vi.runAllTimersAsync()
    expect(sent).toHaveBeenCalledTimes(1)
    expect(sent.mock.calls[0]![1]).toMatchObject({ version: 1, changes: [{ joins: false, change: { n: 3 } }] })
    quilt.keep('zone', { n: 4 })
    await vi.runAllTimersAsync()
    expect(sent.mock.calls[1]![1]).toMatchObject({ version: 2, changes: [{ joins: true, change: { n: 4 } }] })
    expect(quilt.saving).toBe('saved')
  })
  it('loses none of two subjects and does not join them', async () => {
    version = 1
    const sent = answers()
    const quilt = await opened()
    quilt.keep('a', { n: 1 })
    quilt.keep('b', { n: 2 })
    await quilt.flush()
    const both = sent.mock.calls.flatMap((call) => call[1].changes)
    expect(both.map((one) => one.change)).toEqual([{ n: 1 }, { n: 2 }])
    expect(both.map((one) => one.joins)).toEqual([false, false])
  })
  it('tries again under the same key while the app does not answer', async () => {
    version = 1
    const sent = answers().mockRejectedValueOnce(new Problem(0, 'no answer'))
    const quilt = await opened()
    quilt.keep('a', { n: 1 })
    await vi.advanceTimersByTimeAsync(400)
    expect(quilt.saving).toBe('waiting')
    await vi.runAllTimersAsync()
    expect(sent.mock.calls[0]![1].changes[0]!.key).toBe(sent.mock.calls[1]![1].changes[0]!.key)
    expect(quilt.saving).toBe('saved')
  })
  it('takes the newest state when another window was faster', async () => {
    answers().mockRejectedValueOnce(new Problem(409, 'changed in another window'))
    const quilt = await opened()
    quilt.keep('a', { n: 1 })
    await vi.runAllTimersAsync()
    expect(quilt.trouble).toContain('another window')
    expect(quilt.taken).toBe(2)
  })
  it('is not saved while a try is reckoned that will be kept if it holds', async () => {
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
