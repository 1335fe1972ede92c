/** Tries that come faster than the answers: none is lost, the newest of a sort wins. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'
import { useZone } from './zone'

type Asked = Views['PlanRequest']
const view = (fill: Record<string, unknown>) => ({ zone: 'a', fill, fields: [], drawings: [], totals: [], edges: [], corners: [] }) as never

describe('tries on a zone', () => {
  let asked: Asked[] = []
  const kept: unknown[] = []
  beforeEach(() => {
    setActivePinia(createPinia())
    asked = []
    kept.length = 0
    vi.spyOn(useQuilt(), 'flush').mockResolvedValue()
    vi.spyOn(useQuilt(), 'keep').mockImplementation((_, change) => void kept.push((change as { fill: unknown }).fill))
    vi.spyOn(api, 'plan').mockImplementation((_, body, signal) => {
      asked.push(body)
      return new Promise((done, fail) => {
        signal.addEventListener('abort', () => fail(new DOMException('', 'AbortError')))
        const fill = (body.fill ?? { kind: 'lines', spacing: '3/4 in' }) as Record<string, unknown>
        const stepped = body.step ? { [body.step.field]: `stepped ${body.step.by}` } : {}
        setTimeout(() => (fill.spacing === 'bad' ? fail(new Problem(422, 'no', 'fill.spacing')) : done(view({ ...fill, ...(body.switch ? { kind: body.switch } : {}), ...stepped }))), 5)
      })
    })
  })

  it('adds up presses of one key', async () => {
    const zone = useZone()
    await zone.choose('a')
    await Promise.all([zone.step('spacing', 1), zone.step('spacing', 1), zone.step('spacing', 1)])
    expect(asked.at(-1)!.step).toEqual({ field: 'spacing', by: 3 })
    expect(kept).toEqual([{ kind: 'lines', spacing: 'stepped 3' }])
    await zone.step('spacing', -1)
    expect(asked.at(-1)!.step).toEqual({ field: 'spacing', by: -1 })
  })
  it('does not lose a change of fill when a value follows at once', async () => {
    const zone = useZone()
    await zone.choose('a')
    await Promise.all([zone.change('grid'), zone.set('angle', 0), zone.step('spacing', 1)])
    expect(zone.plan?.fill).toEqual({ kind: 'grid', angle: 0, spacing: 'stepped 1' })
  })
  it('lays the ruler on the plan that is coming, not on the one before', async () => {
    const laid: Asked[] = []
    vi.spyOn(api, 'ruler').mockImplementation(async (_, body) => {
      laid.push(body)
      return { line: 4 } as never
    })
    const zone = useZone()
    await zone.choose('a')
    await Promise.all([zone.set('angle', 0), Promise.resolve().then(() => zone.lay())])
    await vi.waitFor(() => expect(zone.line).toEqual({ number: 4, side: -1 }))
    expect(laid.map((body) => body.fill)).toEqual([{ kind: 'lines', spacing: '3/4 in', angle: 0 }])
  })
  it('asks for a widest gap that takes long once she pauses, and not for a plan she has left', async () => {
    vi.useFakeTimers()
    vi.spyOn(api, 'plan').mockImplementation(async (_, body) => {
      asked.push(body)
      return { ...(view(body.fill ?? { kind: 'lines' }) as object), measuring: !body.gap, rows: [body.gap ? 'measured' : ''] } as never
    })
    const zone = useZone()
    await zone.choose('a')
    await zone.set('spacing', '1')
    await vi.advanceTimersByTimeAsync(100)
    await zone.set('spacing', '2')
    await vi.advanceTimersByTimeAsync(1000)
    expect(asked.filter((body) => body.gap).map((body) => body.fill)).toEqual([{ kind: 'lines', spacing: '2' }])
    expect(zone.plan?.rows).toEqual(['measured'])
    vi.useRealTimers()
  })
  it('a look that is answered after the zone was left does not bring it back', async () => {
    const zone = useZone()
    const looked = zone.choose('a')
    await vi.waitFor(() => expect(asked).toHaveLength(1))
    await zone.choose('')
    await looked
    expect([zone.key, zone.plan]).toEqual(['', undefined])
  })
  it('a try under way is kept when another zone is chosen at once', async () => {
    const zone = useZone()
    await zone.choose('a')
    const tried = zone.set('spacing', '1/2 in')
    await vi.waitFor(() => expect(asked).toHaveLength(2))
    await Promise.all([tried, zone.choose('b')])
    expect(kept).toEqual([{ kind: 'lines', spacing: '1/2 in' }])
    expect(asked.at(-1)!.zone).toBe('b')
  })
  it('keeps the last good plan and nothing else while something wrong is typed', async () => {
    const zone = useZone()
    await zone.choose('a')
    await zone.set('spacing', 'bad')
    expect(zone.wrong).toEqual({ field: 'fill.spacing', message: 'no' })
    expect(zone.plan?.fill).toEqual({ kind: 'lines', spacing: '3/4 in' })
    expect(kept).toEqual([])
    await zone.set('spacing', '1/2 in')
    expect(zone.wrong).toBeUndefined()
    expect(kept).toEqual([{ kind: 'lines', spacing: '1/2 in' }])
  })
})
