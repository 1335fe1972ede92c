/** Log: the swatch book, what was learnt, and what is asked of her about a block. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { drawing, field, zoneInfo } from '../../testing/answers'
import { byId, changes, mounted, opened } from '../../testing/mounting'
import { useLog } from '../../state/log'
import { useSwatches } from '../../state/swatches'
import LearntList from './LearntList.vue'
import SwatchBook from './SwatchBook.vue'
import SwatchCard from './SwatchCard.vue'
import TapeCard from './TapeCard.vue'

const row = (label: string, words: string): Views['Row'] => ({ label: [label], words: [words], typed: false })
const swatch = (id: string, more: Partial<Views['SwatchRow']> = {}): Views['SwatchRow'] => ({
  id, name: `Swatch ${id}`, of: 'Cloth, lines', day: 'Monday', label: 'Lines', notes: '', photos: [], fill: { kind: 'lines' } as never, search: `swatch ${id} lines`,
  rows: [row('Spacing', '1 in'), row('Batting', 'Wool'), row('Feels', 'soft')],
  fields: [field({ name: 'felt', label: 'It feels', control: 'choice', text: 'soft', choices: ['soft', 'firm'].map((key) => ({ key, label: key, picks: '' as const })) }), field({ name: 'high', label: 'Height', control: 'length', text: '', shown: null, empty: 'not measured' })],
  ...more,
})
const view = (list: Views['SwatchRow'][], added = ''): Views['SwatchesView'] => ({ swatches: list, added })

beforeEach(() => {
  vi.useRealTimers()
  opened()
})
afterEach(() => vi.restoreAllMocks())

describe('the swatch book', () => {
  it('shows what is found by words, and puts a zone into the book under its name', async () => {
    vi.spyOn(api, 'swatches').mockResolvedValue(view(['a', 'b', 'c', 'd'].map((id) => swatch(id))))
    const book = useSwatches()
    await book.show()
    const board = mounted(SwatchBook)
    expect(board.findAll('li')).toHaveLength(4)
    await byId(board, 'swatch-find').setValue(' SWATCH B ')
    expect(board.findAll('li')).toHaveLength(1)
    await byId(board, 'swatch-find').setValue('velvet')
    expect(board.text()).toContain('No swatch with')
    const sent = vi.spyOn(api, 'addSwatch').mockResolvedValue(view([swatch('e')], 'e'))
    book.zone = 'star'
    await book.add('Mine')
    expect(sent.mock.calls[0]![1]).toMatchObject({ zone: 'star', name: 'Mine' })
    expect(book.chosen?.id).toBe('e')
  })
  it('says why a book could not be read and keeps what was there', async () => {
    vi.spyOn(api, 'swatches').mockResolvedValue(view([swatch('a')]))
    const book = useSwatches()
    await book.show()
    vi.spyOn(api, 'importSwatches').mockRejectedValue(new Problem(422, 'This file holds no swatches.', 'file'))
    await book.bring(new File(['{'], 'x.json'))
    const board = mounted(SwatchBook)
    expect(board.find('[role=alert]').text()).toContain('holds no swatches')
    expect(board.findAll('li')).toHaveLength(1)
  })
  it('keeps notes once she pauses, and at once when she goes on to another', async () => {
    vi.spyOn(api, 'swatches').mockResolvedValue(view([swatch('a'), swatch('b')]))
    const sent = vi.spyOn(api, 'changeSwatch').mockResolvedValue(view([swatch('a'), swatch('b')]))
    const book = useSwatches()
    await book.show()
    await book.choose('a')
    book.type('notes', 'spri')
    book.type('notes', 'springy')
    expect(sent).not.toHaveBeenCalled()
    await book.choose('b')
    expect(sent.mock.calls).toMatchObject([['a', { found: { notes: 'springy' } }]])
  })
})

describe('a zone that worked', () => {
  it('is offered first where its block is looked at', async () => {
    opened({ zones: [zoneInfo({ key: 'a', name: 'Star', drawings: [drawing()] }), zoneInfo({ key: 'b', name: 'Border', drawings: [drawing()] })] })
    vi.spyOn(api, 'swatches').mockResolvedValue(view([]))
    await useSwatches().show('b')
    const board = mounted(SwatchBook)
    expect((byId(board, 'swatch-zone').element as HTMLSelectElement).value).toBe('b')
    expect(board.text()).toContain('No swatches yet')
  })
})

describe('a swatch', () => {
  async function chosen(list = [swatch('a'), swatch('b')]) {
    vi.spyOn(api, 'swatches').mockResolvedValue(view(list))
    const book = useSwatches()
    await book.show()
    await book.choose('a')
    return { book, card: mounted(SwatchCard), sent: vi.spyOn(api, 'changeSwatch').mockResolvedValue(view(list)) }
  }
  it('is told how it feels, and the answer is taken back by pressing it again', async () => {
    const { card, sent } = await chosen()
    await card.findAll('.chip').find((one) => one.text() === 'firm')!.trigger('click')
    await card.findAll('.chip').find((one) => one.text() === 'soft')!.trigger('click')
    await flushPromises()
    expect(sent.mock.calls.map((call) => call[1].found)).toEqual([{ felt: 'firm' }, { felt: '' }])
  })
  it('says what is wrong at its field', async () => {
    const { card, sent } = await chosen()
    sent.mockRejectedValue(new Problem(422, 'The height must be between 0 in and 3 in; 9 in was given.', 'high'))
    await byId(card, 'field-high').trigger('focus')
    await byId(card, 'field-high').setValue('9')
    await byId(card, 'field-high').trigger('blur')
    await flushPromises()
    expect(card.find('#field-high-error').text()).toContain('9 in was given')
  })
  it('stands beside another, figure by figure', async () => {
    const { card } = await chosen([swatch('a'), swatch('b', { rows: [row('Spacing', '2 in'), row('Batting', 'Cotton'), row('Feels', 'loose')] })])
    await byId(card, 'swatch-beside').setValue('b')
    expect(card.findAll('tbody tr').map((one) => one.text())).toEqual(['Spacing1 in2 in', 'BattingWoolCotton', 'Feelssoftloose'])
  })
  it('fills a zone of the quilt as one change, or says why it cannot', async () => {
    opened({ zones: [zoneInfo({ key: 'star', name: 'Star' })] })
    const { card, book } = await chosen()
    vi.spyOn(api, 'change').mockRejectedValueOnce(new Problem(422, 'It needs two straight edges.', 'fill'))
    await byId(card, 'swatch-use').trigger('click')
    await flushPromises()
    expect(card.find('[role=alert]').text()).toContain('two straight edges')
    expect(book.open).toBe(true)
    const sent = changes()
    await byId(card, 'swatch-use').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'fill', zone: 'star', place: null, fill: { kind: 'lines' } }])
    expect(book.open).toBe(false)
  })
  it('is taken out only when she is sure', async () => {
    const { card } = await chosen()
    const out = vi.spyOn(api, 'deleteSwatch').mockResolvedValue(view([]))
    await byId(card, 'swatch-out').trigger('click')
    expect(out).not.toHaveBeenCalled()
    await byId(card, 'swatch-out-sure').trigger('click')
    expect(out.mock.calls[0]![0]).toBe('a')
  })
})

describe('what was learnt', () => {
  const learnt = (more: Partial<Views['LearntRow']> = {}): Views['LearntRow'] => ({
    key: 'straight', name: 'Along a ruler', value: '45 in a minute', range: '40 to 50 in a minute', used: '60 in a minute', evidence: '30 lines timed', sure: 'sure', differs: true,
    change: { stitching: { pace: { straight: '45 in' } } } as never, thing: null, thing_key: '', ...more,
  })
  it('is offered only where it differs, and taken as one change', async () => {
    const sent = changes()
    vi.spyOn(useLog(), 'look').mockResolvedValue()
    const list = mounted(LearntList, { rows: [learnt(), learnt({ key: 'curved', differs: false })] })
    expect(byId(list, 'take-curved').exists()).toBe(false)
    await byId(list, 'take-straight').trigger('click')
    await flushPromises()
    expect(sent).toMatchObject([{ kind: 'stitching', stitching: { pace: { straight: '45 in' } } }])
    expect(list.find('[role=status]').text()).toContain('now 45 in a minute')
  })
  it('says why it could not be taken', async () => {
    vi.spyOn(api, 'change').mockRejectedValue(new Problem(422, 'A pace must be between 4 in and 400 in.', 'pace.straight'))
    const list = mounted(LearntList, { rows: [learnt()] })
    await byId(list, 'take-straight').trigger('click')
    await flushPromises()
    expect(list.find('[role=alert]').text()).toContain('A pace must be')
  })
})

describe('a block measured with a tape', () => {
  const taped = (id: string, place: string): Views['TapeRow'] => ({ id, place, name: 'Star', when: 'Monday', truth: 'out', words: ['10 lines: 1/4 in too wide'] })
  function looked() {
    opened({ zones: [zoneInfo({ key: 'star', name: 'Star', drawings: [drawing({ places: ['1-1'] })] }), zoneInfo({ key: 'sky', name: 'Sky', drawings: [drawing({ places: ['2-1'] })] })] })
    const log = useLog()
    log.place = '1-1'
    log.view = { taped: [] } as never
    return log
  }
  it('offers the zones of that block, and keeps what she typed', async () => {
    looked()
    const sent = vi.spyOn(api, 'keepTape').mockResolvedValue({ taped: [taped('a', '1-1'), taped('b', '2-1')] } as never)
    const card = mounted(TapeCard)
    expect(card.findAll('option').map((one) => one.text())).toEqual(['Star'])
    await byId(card, 'tape-lines').setValue('10')
    await byId(card, 'tape-span').setValue('7')
    await card.find('form').trigger('submit')
    await flushPromises()
    expect(sent.mock.calls[0]![1]).toMatchObject({ place: '1-1', zone: 'star', lines: 10, span: '7', gap: '' })
    expect(card.findAll('li')).toHaveLength(1)
    expect((byId(card, 'tape-span').element as HTMLInputElement).value).toBe('')
  })
  it('says what is wrong and keeps what was typed in its fields', async () => {
    looked()
    vi.spyOn(api, 'keepTape').mockRejectedValue(new Problem(422, 'Count the lines again.', 'span'))
    const card = mounted(TapeCard)
    await byId(card, 'tape-lines').setValue('10')
    await byId(card, 'tape-span').setValue('70')
    await card.find('form').trigger('submit')
    await flushPromises()
    expect(card.find('[role=alert]').text()).toBe('Count the lines again.')
    expect(byId(card, 'tape-span').attributes('aria-invalid')).toBe('true')
    expect((byId(card, 'tape-span').element as HTMLInputElement).value).toBe('70')
  })
})

describe('the log of another quilt', () => {
  it('is not shown while that of the quilt just opened is read, or when it cannot be read', async () => {
    const quilt = opened()
    const first = { places: [], remarks: [] } as unknown as Views['LogView']
    const read = vi.spyOn(api, 'log').mockResolvedValue(first)
    vi.spyOn(api, 'inspections').mockResolvedValue({ inspections: [] })
    const log = useLog()
    log.open = true
    await flushPromises()
    log.choose('3-2')
    expect([log.view, log.place]).toEqual([first, '3-2'])
    read.mockRejectedValue(new Problem(500, 'The log cannot be read.'))
    quilt.id = 'other'
    expect([log.view, log.place]).toEqual([undefined, ''])
    await flushPromises()
    expect([log.view, log.trouble]).toEqual([undefined, 'The log cannot be read.'])
  })
  it('is not put there by an answer that comes late', async () => {
    const quilt = opened()
    let answer: (view: Views['LogView']) => void = () => undefined
    vi.spyOn(api, 'remark').mockReturnValue(new Promise((done) => (answer = done)))
    const log = useLog()
    const said = log.say('place:3-2', 'note', 'Loosen the tension.')
    quilt.id = 'other'
    answer({ remarks: [] } as unknown as Views['LogView'])
    await said
    expect(log.view).toBeUndefined()
  })
})
