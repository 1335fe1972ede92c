/** At the machine: what a press tells, what is shown then, and what happens while the server is away. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { spoken } from '../../sewing/aloud'
import { figure, sewHere, sewingStep, sewingView } from '../../testing/answers'
import { byId, mounted, opened } from '../../testing/mounting'
import MachineStation from './MachineStation.vue'

vi.mock('vue-router', async (real) => ({ ...(await real<object>()), useRoute: () => ({ params: { quilt: 'q' }, query: {} }) }))
const line = (number: number, some: Partial<Views['SewingStepView']> = {}) => sewingStep({ number, lay: [`Lay ${number}`], ...some })
const view = (...steps: Views['SewingStepView'][]) => sewingView({ here: sewHere({ steps }) })
const press = (key: string, more: KeyboardEventInit = {}) => window.document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }))
let station: ReturnType<typeof mounted>

beforeEach(() => {
  localStorage.clear()
  opened()
  vi.spyOn(api, 'sendEvents').mockImplementation(async (_, { events }) => ({ count: events.length, refused: [] }))
})
afterEach(() => {
  station.unmount()
  vi.restoreAllMocks()
})
async function at(...steps: Views['SewingStepView'][]) {
  vi.spyOn(api, 'sewing').mockResolvedValue(view(...steps))
  station = mounted(MachineStation, {}, { MachineOverlay: true })
  await flushPromises()
}
const kinds = () => vi.mocked(api.sendEvents).mock.calls.flatMap(([, { events }]) => events.map((one) => one.kind))

describe('the next line', () => {
  it('is shown at once, and the one before is told', async () => {
    await at(line(1), line(2), line(3))
    expect(byId(station, 'lay').text()).toBe('Lay 1')
    press(' ')
    await station.vm.$nextTick()
    expect(byId(station, 'lay').text()).toBe('Lay 2')
    await flushPromises()
    expect(kinds()).toEqual(['sewn'])
  })
  it('comes at any key that a pedal may send, but not while it is held down', async () => {
    await at(line(1), line(2), line(3))
    press('PageDown')
    press('PageDown', { repeat: true })
    await flushPromises()
    expect(byId(station, 'lay').text()).toBe('Lay 2')
  })
  it('goes back by one, which is told as not having happened', async () => {
    await at(line(1), line(2), line(3))
    press(' ')
    press('b')
    await flushPromises()
    expect(byId(station, 'lay').text()).toBe('Lay 1')
    expect(kinds()).toEqual(['sewn', 'undone'])
  })
  it('left for later is told as skipped, and what is next is asked for', async () => {
    await at(line(1), line(2))
    vi.mocked(api.sewing).mockResolvedValue(view(line(2)))
    await byId(station, 'skip').trigger('click')
    await flushPromises()
    expect(kinds()).toEqual(['skipped'])
    expect(byId(station, 'lay').text()).toBe('Lay 2')
  })
})

describe('a server that is away', () => {
  it('holds nothing up, and is told all when it answers again', async () => {
    await at(line(1), line(2), line(3))
    vi.mocked(api.sendEvents).mockRejectedValue(new Problem(0, 'Kenzet does not answer.'))
    press(' ')
    press(' ')
    await flushPromises()
    expect(byId(station, 'lay').text()).toBe('Lay 3')
    expect(byId(station, 'lost').exists()).toBe(true)
    vi.mocked(api.sendEvents).mockClear().mockImplementation(async (_, { events }) => ({ count: 2, refused: [], events }) as never)
    window.dispatchEvent(new Event('online'))
    await flushPromises()
    expect(kinds()).toEqual(['sewn', 'sewn'])
    expect(byId(station, 'lost').exists()).toBe(false)
  })
  it('shows after a reload what was known before', async () => {
    await at(line(1), line(2), line(3))
    vi.mocked(api.sendEvents).mockRejectedValue(new Problem(0, 'Kenzet does not answer.'))
    press(' ')
    await flushPromises()
    station.unmount()
    vi.mocked(api.sewing).mockRejectedValue(new Problem(0, 'Kenzet does not answer.'))
    station = mounted(MachineStation, {}, { MachineOverlay: true })
    await flushPromises()
    expect(byId(station, 'lay').text()).toBe('Lay 2')
  })
  it('that refuses an event says why, and what is next is asked for again', async () => {
    await at(line(1), line(2))
    vi.mocked(api.sendEvents).mockImplementation(async () => ({ count: 0, refused: [{ id: 'x', why: 'This line was sewn on another device.' }] }) as never)
    const before = vi.mocked(api.sewing).mock.calls.length
    press(' ')
    await flushPromises()
    expect(station.find('[role=alert]').text()).toBe('This line was sewn on another device.')
    expect(vi.mocked(api.sewing).mock.calls.length).toBe(before + 1)
  })
})

describe('what is left', () => {
  it('of a zone is gone to by a click, also where its place is visited twice', async () => {
    vi.spyOn(api, 'sewing').mockResolvedValue(sewingView({ here: sewHere({ steps: [line(1)] }), zones: [{ place: 'border-1', visit: 7, name: 'Border', words: '3 lines in one place' }] }))
    station = mounted(MachineStation, {}, { MachineOverlay: true })
    await flushPromises()
    await byId(station, 'left').trigger('click')
    await byId(station, 'left-zones').find('button').trigger('click')
    await flushPromises()
    expect(vi.mocked(api.sewing).mock.lastCall?.[1]).toMatchObject({ place: 'border-1', visit: 7 })
  })
})

describe('the end', () => {
  it('is said, with what was skipped', async () => {
    vi.spyOn(api, 'sewing').mockResolvedValue(sewingView({ here: null, skipped: 3 }))
    station = mounted(MachineStation, {}, { MachineOverlay: true })
    await flushPromises()
    expect(station.text()).toContain('3 lines wait')
    await byId(station, 'next').trigger('click')
    await flushPromises()
    expect(kinds()).toEqual(['taken up'])
  })

  it('space takes up what was skipped', async () => {
    vi.spyOn(api, 'sewing').mockResolvedValue(sewingView({ here: null, skipped: 1 }))
    station = mounted(MachineStation, {}, { MachineOverlay: true })
    await flushPromises()
    press(' ')
    await flushPromises()
    expect(kinds()).toEqual(['taken up'])
  })
})

describe('a line that turns', () => {
  it('is told leg by leg', async () => {
    const legs = [['2 in; pivot 90° to the left'], ['3 in']]
    await at(line(1, { legs }))
    expect(byId(station, 'legs').findAll('li').map((one) => one.text())).toEqual(legs.map(([text]) => text))
  })
})

describe('under a finger', () => {
  const touch = async (from: [number, number], to: [number, number], pointerType = 'touch') => {
    const said = station.find('.told')
    for (const [kind, [clientX, clientY]] of [['pointerdown', from], ['pointerup', to]] as const) {
      said.element.dispatchEvent(new PointerEvent(kind, { bubbles: true, pointerType, clientX, clientY }))
    }
    await flushPromises()
  }
  it('a tap or a swipe to the left goes on, a swipe to the right goes back, and scrolling does neither', async () => {
    await at(line(1), line(2), line(3))
    await touch([100, 100], [102, 101])
    expect(byId(station, 'lay').text()).toBe('Lay 2')
    await touch([200, 100], [100, 110])
    expect(byId(station, 'lay').text()).toBe('Lay 3')
    await touch([100, 100], [220, 104])
    expect(byId(station, 'lay').text()).toBe('Lay 2')
    await touch([100, 100], [110, 260])
    await touch([100, 100], [100, 100], 'mouse')
    expect(byId(station, 'lay').text()).toBe('Lay 2')
  })
})

describe('read to her', () => {
  const spokenFigures: [Partial<Views['Shown']>, string][] = [
    [{ whole: '1', num: 3, den: 8 }, '1 and 3 eighths inches'],
    [{ whole: '0', num: 1, den: 2 }, 'half an inch'],
    [{ whole: '0', num: 3, den: 4 }, '3 quarters of an inch'],
    [{ whole: '1', num: 0, den: 1 }, '1 inch'],
    [{ whole: '18', num: 0, den: 1, unit: 'mm' }, '18 millimeters'],
    [{ whole: '0', num: 1, den: 4, hair: 1, unit: '' }, 'generous one quarter'],
  ]
  it.each(spokenFigures)('%o is said as %s', (some, said) => expect(spoken(['', figure(some)])).toBe(said))
  it('each step once it is at hand, when she has asked for it', async () => {
    const heard: string[] = []
    vi.stubGlobal('SpeechSynthesisUtterance', class { constructor(public text: string) {} })
    vi.stubGlobal('speechSynthesis', { cancel: () => undefined, speak: (one: { text: string }) => heard.push(one.text) })
    await at(line(1), line(2))
    expect(heard).toEqual([])
    await byId(station, 'aloud').trigger('click')
    press(' ')
    await flushPromises()
    expect(heard.map((text) => text.slice(0, 5))).toEqual(['Lay 1', 'Lay 2'])
    vi.unstubAllGlobals()
  })
})
