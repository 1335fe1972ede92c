/** The ruler bench: a ruler is laid by the core, moved here, and what she keeps becomes part of the plan. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { useBench } from '../../state/bench'
import { useZone } from '../../state/zone'
import { benchEdge, benchView, zoneInfo, zoneView } from '../../testing/answers'
import { answers, byId, changes, mounted, opened } from '../../testing/mounting'
import BenchStation from './BenchStation.vue'

type Laid = Awaited<ReturnType<typeof api.layRuler>>
const laid = (line: number, x = 50): Laid => ({ ruler: 'long', edge: 0, line, side: -1, x, y: 50, angle: 90, fit: null }) as unknown as Laid
const press = (key: string, more: KeyboardEventInit = {}) => window.document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }))

beforeEach(() => {
  opened({ zones: [zoneInfo()] })
  vi.spyOn(api, 'preview').mockResolvedValue(zoneView())
  vi.spyOn(api, 'layRuler').mockImplementation(async (_, body) => laid(body.line ?? 0))
})
afterEach(() => {
  station?.unmount()
  station = undefined
  vi.restoreAllMocks()
})
let station: ReturnType<typeof mounted> | undefined
async function bench(view = benchView()) {
  vi.spyOn(api, 'bench').mockResolvedValue(view)
  await useZone().choose('a', '1-1')
  station = mounted(BenchStation, {}, { RulerOnCloth: true, CurvePicks: true })
  await flushPromises()
  return station
}

describe('a ruler on the bench', () => {
  it('lies for the first line of the zone at once', async () => {
    await bench()
    expect(vi.mocked(api.layRuler).mock.calls.map(([, body]) => [body.zone, body.line])).toEqual([['a', null]])
    expect(useBench().lay).toEqual({ x: 50, y: 50, angle: 90 })
    expect(byId(station!, 'bench-long').attributes('aria-pressed')).toBe('true')
  })
  it('that is broken is shown, and cannot be taken', async () => {
    await bench()
    const broken = byId(station!, 'bench-bent')
    expect(broken.attributes()).toHaveProperty('disabled')
    expect(broken.attributes('title')).toBe('It is broken.')
  })
  it('lies in the middle where no line is planned, and nothing is blamed on her', async () => {
    vi.mocked(api.layRuler).mockRejectedValue(new Problem(422, 'No line is planned here.', 'line'))
    await bench()
    expect(useBench().lay).toEqual({ x: 50, y: 50, angle: 90 })
    expect(byId(station!, 'bench-wrong').exists()).toBe(false)
    press('l')
    await flushPromises()
    expect(byId(station!, 'bench-wrong').text()).toBe('No line is planned here.')
  })
  it('moves by keys, in small steps and in large ones, as she sees it', async () => {
    await bench()
    press('ArrowRight')
    press('ArrowUp', { shiftKey: true })
    expect(useBench().lay).toEqual({ x: 50.5, y: 54, angle: 90 })
    press(']')
    press('r')
    expect(useBench().lay.angle).toBe(90 - 1 + 15)
  })
  it('of two lines that are asked for quickly the later one is shown', async () => {
    await bench()
    const { ask, waiting } = answers<Laid>()
    vi.mocked(api.layRuler).mockImplementation(ask)
    void useBench().choose(3, -1)
    void useBench().choose(4, -1)
    waiting[1]!.done(laid(4, 70))
    waiting[0]!.done(laid(3, 60))
    await flushPromises()
    expect([useBench().line!.number, useBench().lay.x]).toEqual([4, 70])
  })
})

describe('a line that is kept', () => {
  it('is a change of the plan, with where the ruler lies', async () => {
    await bench()
    const sent = changes()
    press('k')
    await flushPromises()
    expect(sent).toMatchObject([{ kind: 'keep line', zone: 'a', place: '1-1', ruler: 'long', edge: 0, x: 50, y: 50, angle: 90 }])
    expect(vi.mocked(api.bench)).toHaveBeenCalledTimes(2)
  })
  it('that is refused is said, and the ruler stays where it lies', async () => {
    await bench()
    vi.spyOn(api, 'change').mockRejectedValue(new Problem(422, 'A line lies there already.', 'change.x'))
    await byId(station!, 'keep-line').trigger('click')
    await flushPromises()
    expect(byId(station!, 'bench-wrong').text()).toBe('A line lies there already.')
    expect(useBench().lay.x).toBe(50)
  })
  it('is taken up again', async () => {
    await bench(benchView({ hand: [{ words: ['upright'] } as unknown as Views['HandView']] }))
    const sent = changes()
    await byId(station!, 'take-up-0').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'take up line', zone: 'a', number: 0 }])
  })
})

describe('what hinders', () => {
  it('a foot that has no ruler to go along is told', async () => {
    await bench(benchView({ refused: 'The walking foot runs along no ruler.' }))
    expect(station!.find('[role=alert]').text()).toBe('The walking foot runs along no ruler.')
  })
  it('an edge that is too tight for the foot is told', async () => {
    await bench(benchView({ rulers: [{ key: 'long', name: 'Long', fault: '', edges: [benchEdge({ needle: [], straight: false })] }] }))
    expect(station!.text()).toContain('too tight')
    expect(byId(station!, 'keep-line').attributes()).toHaveProperty('disabled')
  })
})
