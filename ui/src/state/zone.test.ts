/** Tries that come faster than the answers: none is lost, the newest of a sort wins. */
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../api/client'
import { quiltView, touched, views, zoneInfo, zoneView, type Fill } from '../testing/answers'
import { useQuilt } from './quilt'
import { useZone } from './zone'

type Asked = Views['PlanRequest']
const view = (values: object) => zoneView({ fill: values as Fill })

describe('tries on a zone', () => {
  let asked: Asked[] = []
  const kept: unknown[] = []
  beforeEach(() => {
    setActivePinia(createPinia())
    asked = []
    kept.length = 0
    vi.spyOn(useQuilt(), 'flush').mockResolvedValue()
    vi.spyOn(useQuilt(), 'keep').mockImplementation((_, change) => void kept.push((change as { fill: unknown }).fill))
    vi.spyOn(api, 'preview').mockImplementation((_, body, signal) => {
      asked.push(body)
      return new Promise((done, fail) => {
        signal.addEventListener('abort', () => fail(new DOMException('', 'AbortError')))
        const fill = (body.fill ?? { kind: 'lines', spacing: '3/4 in' }) as Record<string, unknown>
        const stepped = body.step ? { [body.step.field]: `stepped ${body.step.by}` } : {}
        setTimeout(() => (fill.spacing === 'bad' ? fail(new Problem(422, 'no', 'fill.spacing')) : done(view({ ...fill, ...(body.switch ? { kind: body.switch } : {}), ...stepped }))), 5)
      })
    })
  })

  afterEach(() => vi.restoreAllMocks())

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
    vi.spyOn(api, 'preview').mockImplementation(async (_, body) => {
      asked.push(body)
      return { ...view(body.fill ?? { kind: 'lines' }), measuring: !body.gap, known: [{ words: [body.gap ? 'measured' : ''], tone: 'tells' as const, mend: null, at: null }] }
    })
    const zone = useZone()
    await zone.choose('a')
    await zone.set('spacing', '1')
    await vi.advanceTimersByTimeAsync(100)
    await zone.set('spacing', '2')
    await vi.advanceTimersByTimeAsync(1000)
    expect(asked.filter((body) => body.gap).map((body) => body.fill)).toEqual([{ kind: 'lines', spacing: '2' }])
    expect(zone.plan?.known[0]?.words).toEqual(['measured'])
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
  it('shows the zone as a change made elsewhere has left it, at once', async () => {
    const quilt = useQuilt()
    quilt.view = quiltView({ zones: [zoneInfo()] })
    const zone = useZone()
    await zone.choose('a')
    vi.spyOn(api, 'change').mockResolvedValue(touched({ views: views({ zone: zoneView({ own_ruler: 'long' }) }) }))
    await zone.layWith('long', null)
    expect(zone.plan?.own_ruler).toBe('long')
  })
  it('a try that is not kept yet is not overwritten by what was kept before it, and the zone comes with it', async () => {
    vi.mocked(useQuilt().keep).mockRestore()
    vi.mocked(useQuilt().flush).mockRestore()
    const quilt = useQuilt()
    quilt.view = quiltView({ zones: [zoneInfo()] })
    const zone = useZone()
    await zone.choose('a')
    const sent = vi.spyOn(api, 'change').mockImplementation(async (_, body) => {
      await new Promise((done) => setTimeout(done, 30))
      const { fill } = (body.changes[0] as { change: { fill?: Fill } }).change
      return touched({ version: body.version + 1, views: views({ zone: body.views.zone ? zoneView({ fill: fill ?? view({ kind: 'lines' }).fill, own_ruler: 'long' }) : null }) })
    })
    const laid = zone.layWith('long', null)
    await zone.set('spacing', '1/2 in')
    await laid
    expect([zone.plan?.fill, zone.plan?.own_ruler]).toEqual([{ kind: 'lines', spacing: '1/2 in' }, ''])
    await quilt.flush()
    expect(sent.mock.calls[1]![1].knows).toEqual(['a'])
    expect([zone.plan?.fill, zone.plan?.own_ruler]).toEqual([{ kind: 'lines', spacing: '1/2 in' }, 'long'])
  })
  it('is left when it is gone', async () => {
    const quilt = useQuilt()
    quilt.view = quiltView({ zones: [zoneInfo()] })
    const zone = useZone()
    await zone.choose('a')
    vi.spyOn(api, 'change').mockResolvedValue(touched({ order: [] }))
    await quilt.make({ kind: 'zone gone', zone: 'a' })
    expect(zone.key).toBe('')
  })
})
