/** Marks: what is drawn, what is printed on which printer, what is done at the table. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { useQuilt } from '../../state/quilt'
import { useZone } from '../../state/zone'
import { marksView, tableStep, tableView, zoneInfo, zoneView } from '../../testing/answers'
import { answers, byId, changes, mounted, opened } from '../../testing/mounting'
import MarksStation from './MarksStation.vue'
import PrepCard from './PrepCard.vue'
import PrinterCard from './PrinterCard.vue'
import TableStation from './TableStation.vue'

const method = (key: Views['MethodView']['key'], words: string): Views['MethodView'] => ({ key, label: key, words: [words] })
const two = [method('first lines', '8 to mark'), method('all lines', '92 to mark')]
const printers = (some: Partial<Views['PrintersView']> = {}): Views['PrintersView'] => ({ printers: [], bar: '6 in', asks: '', ...some })

beforeEach(() => {
  opened({ zones: [zoneInfo()] })
  vi.spyOn(api, 'printers').mockResolvedValue(printers())
  vi.spyOn(api, 'prep').mockResolvedValue({ layered: 'after marking', basted: 'pins', steps: ['Press the top.'] })
  vi.spyOn(api, 'preview').mockResolvedValue(zoneView())
})
afterEach(() => vi.restoreAllMocks())
async function station(view = marksView({ methods: two })) {
  vi.spyOn(api, 'marks').mockResolvedValue(view)
  await useZone().choose('a')
  const part = mounted(MarksStation)
  await flushPromises()
  return part
}

describe('the marks of a zone', () => {
  it('are told with every way of marking, and another way is one request', async () => {
    const part = await station()
    expect(byId(part, 'method-first-lines').attributes('aria-pressed')).toBe('true')
    const sent = changes(() => ({ marks: marksView({ methods: two, method: 'all lines', note: ['All of them are drawn.'] }) }))
    await byId(part, 'method-all-lines').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'marking', zone: 'a', marking: 'all lines' }])
    expect(byId(part, 'method-all-lines').attributes('aria-pressed')).toBe('true')
    expect(part.text()).toContain('All of them are drawn.')
    expect(vi.mocked(api.marks)).toHaveBeenCalledTimes(1)
  })
  it('go back to what the app finds best', async () => {
    const part = await station(marksView({ methods: two, method: 'all lines', chosen_by_her: true }))
    const sent = changes(() => ({ marks: marksView({ methods: two }) }))
    await byId(part, 'method-best').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'marking', zone: 'a', marking: null }])
    expect(byId(part, 'method-best').exists()).toBe(false)
  })
  it('that make the route shorter are counted, and given up again', async () => {
    const part = await station(marksView({ drawn_too: 2 }))
    expect(byId(part, 'drawn-too').text()).toContain('2 lines are marked for a shorter route')
    const sent = changes(() => ({ marks: marksView() }))
    await byId(part, 'draw-no-more').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'drawn too', zone: 'a', spots: [] }])
    expect(byId(part, 'drawn-too').exists()).toBe(false)
  })
  it('that were refused come back as they are kept, with the reason above the quilt', async () => {
    const part = await station()
    vi.spyOn(api, 'change').mockRejectedValue(new Problem(422, 'Nothing can be marked so.'))
    vi.spyOn(api, 'quilt').mockResolvedValue(useQuilt().view!)
    await byId(part, 'method-all-lines').trigger('click')
    await flushPromises()
    expect(useQuilt().trouble).toBe('Nothing can be marked so.')
    expect(byId(part, 'method-first-lines').attributes('aria-pressed')).toBe('true')
  })
  it('are not told for an open zone, and why', async () => {
    vi.spyOn(api, 'marks').mockRejectedValue(new Problem(422, 'This zone is unquilted. Choose a fill for it first.', 'zone'))
    await useZone().choose('a')
    const part = mounted(MarksStation)
    await flushPromises()
    expect(part.text()).toContain('This zone is unquilted')
  })
  it('of a zone that was left are not shown when they come late', async () => {
    const { ask, waiting } = answers<Views['MarksView']>()
    vi.spyOn(api, 'marks').mockImplementation(ask)
    const zone = useZone()
    await zone.choose('a')
    const part = mounted(MarksStation)
    await flushPromises()
    await zone.choose('')
    waiting[0]!.done(marksView({ methods: two }))
    await flushPromises()
    expect(byId(part, 'method-first-lines').exists()).toBe(false)
  })
  it('offer no sheet where it would have too many pages, but say so', async () => {
    const part = await station(marksView({ methods: two, at_the_table: 9, pages: 0, pages_words: 'That would be 300 pages.' }))
    expect(byId(part, 'pdf').exists()).toBe(false)
    expect(part.find('[role=alert]').text()).toBe('That would be 300 pages.')
  })
  it('say without alarm that there is nothing to print where nothing is drawn', async () => {
    const part = await station(marksView({ methods: two, at_the_table: 0, pages: 0, pages_words: 'Nothing is drawn here.' }))
    expect(byId(part, 'pdf').exists()).toBe(false)
    expect(part.find('[role=alert]').exists()).toBe(false)
    expect(part.text()).toContain('Nothing is drawn here.')
  })
})

describe('the list before sewing', () => {
  it('follows her school at once', async () => {
    const part = mounted(PrepCard)
    await flushPromises()
    const sent = changes()
    await byId(part, 'layered-before').trigger('click')
    expect(byId(part, 'layered-before').attributes('aria-pressed')).toBe('true')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'layers', layered: 'before marking', basted: 'pins' }])
    expect(vi.mocked(api.prep)).toHaveBeenCalledTimes(2)
  })
})

describe('a printer', () => {
  const card = async (chosen = '') => {
    const part = mounted(PrinterCard, { chosen, paper: 'letter' })
    await flushPromises()
    return part
  }
  async function read(part: Awaited<ReturnType<typeof card>>, across: string, up: string) {
    await byId(part, 'check-printer').trigger('click')
    await byId(part, 'bar-across').setValue(across)
    await byId(part, 'bar-up').setValue(up)
    await byId(part, 'printer-keep').trigger('click')
    await flushPromises()
  }
  it('is corrected by what she reads off the bars, and chosen', async () => {
    const sent = vi.spyOn(api, 'checkPrinter').mockResolvedValue(printers({ printers: [{ name: 'My printer', across: 1.01, up: 1, words: 'corrected by +1.0 % across' }] }))
    const part = await card()
    await read(part, '5 15/16', '6')
    expect(sent.mock.calls[0]![0]).toEqual({ name: 'My printer', across: '5 15/16', up: '6', unit: 'in', sure: false })
    expect(part.emitted('choose')).toEqual([['My printer']])
  })
  it('that is far out is asked about before that is kept', async () => {
    const sent = vi.spyOn(api, 'checkPrinter').mockResolvedValueOnce(printers({ asks: 'Was “fit to page” on?' })).mockResolvedValueOnce(printers())
    const part = await card()
    await read(part, '5', '5')
    expect(byId(part, 'printer-asks').text()).toContain('Was “fit to page” on?')
    expect(part.emitted('choose')).toBeUndefined()
    await byId(part, 'printer-sure').trigger('click')
    await flushPromises()
    expect(sent.mock.calls[1]![0].sure).toBe(true)
    expect(part.emitted('choose')).toEqual([['My printer']])
  })
  it('says at its field what cannot be read, and keeps what was typed', async () => {
    vi.spyOn(api, 'checkPrinter').mockRejectedValue(new Problem(422, '“six” is not a length.', 'across'))
    const part = await card()
    await read(part, 'six', '6')
    expect(part.find('[role=alert]').text()).toBe('“six” is not a length.')
    expect(byId(part, 'bar-across').attributes('aria-invalid')).toBe('true')
    expect((byId(part, 'bar-across').element as HTMLInputElement).value).toBe('six')
  })
  it('that is gone is not chosen any more', async () => {
    const part = await card('Old one')
    expect(part.emitted('choose')).toEqual([['']])
  })
  it('is forgotten at one click', async () => {
    vi.spyOn(api, 'printers').mockResolvedValue(printers({ printers: [{ name: 'Desk', across: 1, up: 1, words: 'true' }] }))
    const gone = vi.spyOn(api, 'deletePrinter').mockResolvedValue(printers())
    const part = await card('Desk')
    await byId(part, 'corrected').find('button').trigger('click')
    await flushPromises()
    expect(gone).toHaveBeenCalledWith('Desk', 'in')
    expect(part.emitted('choose')).toEqual([['']])
  })
})

describe('at the table', () => {
  const press = (key: string) => window.document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  async function table(view = tableView({ times: 2, steps: [tableStep({ lay: ['First'] }), tableStep({ lay: ['Second'] })] })) {
    localStorage.clear()
    opened({ zones: [zoneInfo()] })
    vi.spyOn(api, 'preview').mockResolvedValue(zoneView())
    await useZone().choose('a')
    vi.spyOn(api, 'table').mockImplementation(async (_, body) => ({ ...view, done: body.done ?? view.done }))
    const page = mounted(TableStation)
    await flushPromises()
    return page
  }
  it('goes on step by step through all blocks, and tells how far it is', async () => {
    const page = await table()
    expect(byId(page, 'lay').text()).toBe('First')
    press(' ')
    press(' ')
    await flushPromises()
    expect(byId(page, 'stroke-count').text()).toContain('block 2 of 2')
    expect(vi.mocked(api.table).mock.calls.at(-1)![1].done).toBe(2)
    press('Backspace')
    await flushPromises()
    expect(byId(page, 'lay').text()).toBe('Second')
    page.unmount()
  })
  it('begins where she left off, and ends', async () => {
    const page = await table(tableView({ done: 1, steps: [tableStep({ lay: ['First'] }), tableStep({ lay: ['Second'] })] }))
    expect(byId(page, 'lay').text()).toBe('Second')
    press('Enter')
    press('Enter')
    await flushPromises()
    expect(byId(page, 'all-drawn').exists()).toBe(true)
    expect(byId(page, 'stroke-next').attributes()).toHaveProperty('disabled')
    page.unmount()
  })
  it('keeps what is done while nothing answers', async () => {
    const page = await table()
    vi.mocked(api.table).mockRejectedValue(new Problem(0, 'Kenzet does not answer.'))
    press(' ')
    await flushPromises()
    expect(byId(page, 'lay').text()).toBe('Second')
    expect(byId(page, 'unsent').exists()).toBe(true)
    page.unmount()
  })
  it('says so where nothing to mark', async () => {
    const page = await table(tableView())
    expect(page.text()).toContain('Nothing to mark here')
    page.unmount()
  })
})
