/** Fills: the panel of a zone, its spacing and offers, recipes, what must be met. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { useMeeting } from '../../state/meeting'
import { useQuilt } from '../../state/quilt'
import { useZone } from '../../state/zone'
import { drawing, field, figure, fill, zoneInfo, zoneView, topView } from '../../testing/answers'
import { byId, changes, mounted, opened } from '../../testing/mounting'
import FillChooser from './FillChooser.vue'
import FillGallery from './FillGallery.vue'
import FillPanel from './FillPanel.vue'
import FillsStation from './FillsStation.vue'
import MeetCard from './MeetCard.vue'
import RecipesCard from './RecipesCard.vue'
import VariantsBoard from './VariantsBoard.vue'
import { useVariants } from '../../state/variants'

const sum: Views['SumView'] = { kind: 'etched', terms: [{ words: [figure()], label: 'mark on your last line' }], total: { words: [figure()], label: 'apart' }, sentence: [], instead: [], offers: [], ruler: 'Long one' }
const kinds: Views['FillKind'][] = [
  { kind: 'lines', label: 'Lines', group: 'straight', help: 'One after another.', tile: '' },
  { kind: 'echo', label: 'Echo', group: 'echoes', help: 'Rings.', tile: '' },
]
const planned = (some: Partial<Views['ZoneView']> = {}) => zoneView({ fields: [field()], sum, ...some })

beforeEach(() => {
  opened({ zones: [zoneInfo({ drawings: [drawing({ lines: [[0, 0, 1, 1]] })] })], fills: kinds })
})
afterEach(async () => {
  changes() // what is still waiting is sent now, and not in the middle of the next test
  await useQuilt().flush()
  vi.restoreAllMocks()
})
async function shown(view: Views['ZoneView']) {
  vi.spyOn(api, 'preview').mockResolvedValue(view)
  await useZone().choose('a')
  const part = mounted(FillPanel)
  await flushPromises()
  return part
}

describe('the panel of a zone', () => {
  it('shows the fill, its spacing and the sum that lays it', async () => {
    const part = await shown(planned())
    expect(part.find('h2').text()).toBe('Star points')
    expect(part.text()).toContain('mark on your last line')
  })
  it('that could not be looked at says so, and can be tried again', async () => {
    vi.spyOn(api, 'top').mockResolvedValue(topView())
    vi.spyOn(api, 'preview').mockRejectedValueOnce(new Problem(500, 'Something went wrong in Kenzet.'))
    const part = mounted(FillsStation)
    await useZone().choose('a')
    await flushPromises()
    expect(byId(part, 'zone-trouble').text()).toContain('Something went wrong')
    vi.mocked(api.preview).mockResolvedValue(planned())
    await byId(part, 'zone-trouble').find('button').trigger('click')
    await flushPromises()
    expect(byId(part, 'zone-trouble').exists()).toBe(false)
    expect(part.find('h2').text()).toBe('Star points')
  })
  it('tries what is typed and keeps it when it holds', async () => {
    vi.useFakeTimers()
    const part = await shown(planned())
    const sent = changes()
    vi.mocked(api.preview).mockImplementation(async (_, body) => planned({ fill: body.fill }))
    await part.find('input').trigger('focus')
    await part.find('input').setValue('1/2')
    await vi.advanceTimersByTimeAsync(500)
    expect(vi.mocked(api.preview).mock.calls.at(-1)![1].fill).toMatchObject({ spacing: '1/2' })
    expect(sent).toMatchObject([{ kind: 'fill', zone: 'a', fill: { spacing: '1/2' } }])
    vi.useRealTimers()
  })
  it('says at the field what is wrong, and the last good drawing stays', async () => {
    const part = await shown(planned())
    vi.mocked(api.preview).mockRejectedValueOnce(new Problem(422, '“x” is not a length.', 'fill.spacing'))
    await part.find('input').trigger('focus')
    await part.find('input').setValue('x')
    await flushPromises()
    expect(part.find('.length [role=alert]').text()).toBe('“x” is not a length.')
    expect(useZone().plan?.fill).toEqual(fill())
  })
  it('says above all what belongs to no field', async () => {
    const part = await shown(planned())
    vi.mocked(api.preview).mockRejectedValueOnce(new Problem(422, 'That would be 300,000 lines.', 'fill.rows'))
    await useZone().set('rows', 9)
    await flushPromises()
    expect(part.find('p.madder').text()).toContain('300,000 lines')
  })
  it('takes an offer with everything that it sets', async () => {
    const part = await shown(planned({ offers: [{ value: '49/64 in', values: { spacing: '49/64 in', origin: 'centre gap' }, words: ['49/64'], label: 'even', now: false }] }))
    vi.mocked(api.preview).mockImplementation(async (_, body) => planned({ fill: body.fill }))
    await byId(part, 'offer').trigger('click')
    await flushPromises()
    expect(vi.mocked(api.preview).mock.calls.at(-1)![1].fill).toMatchObject({ spacing: '49/64 in', origin: 'centre gap' })
  })
  it('of an open zone offers fills, and nothing that needs one', async () => {
    const part = await shown(planned({ fill: null, fields: [], sum: null }))
    expect(part.text()).toContain('unquilted')
    expect(byId(part, 'show-ruler').exists()).toBe(false)
    expect(part.findAll('.tiles button').length).toBeGreaterThan(0)
  })
  it('is told apart at one place, and put with the others again', async () => {
    const part = await shown(planned({ times: 12, place: '1-1' }))
    const sent = changes(() => ({ zone: planned({ times: 12, place: '1-1', here_apart: true, where: 'row 1, block 1' }) }))
    await byId(part, 'apart').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'apart', zone: 'a', places: ['1-1'] }])
    await byId(part, 'join').trigger('click')
    await flushPromises()
    expect(sent.at(-1)).toEqual({ kind: 'join', zone: 'a', places: ['1-1'] })
  })
  it('is sewn in another order, and what was chosen before stays', async () => {
    const part = await shown(planned({ orders: ['the first set', 'the second set'], begin_other: true }))
    const sent = changes(() => ({ zone: planned({ orders: ['the first set', 'the second set'], begin_other: true, second_first: true }) }))
    await byId(part, 'set-second').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'sewing order', zone: 'a', begin_other: true, second_first: true }])
    expect(byId(part, 'set-second').attributes('aria-pressed')).toBe('true')
  })
  it('is laid with the other foot in one request', async () => {
    const part = await shown(planned())
    const sent = changes(() => ({ zone: planned({ sew_with: 'walking foot' }) }))
    await byId(part, 'zone-walking-foot').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'laying', zone: 'a', ruler: null, sew_with: 'walking foot' }])
    expect(byId(part, 'zone-walking-foot').attributes('aria-pressed')).toBe('true')
  })
})

describe('the chooser', () => {
  it('opens on the group of the fill, and another is tried at one click', async () => {
    vi.spyOn(api, 'preview').mockImplementation(async (_, body) => planned({ fill: fill(body.switch ? { kind: body.switch } : {}) }))
    await useZone().choose('a')
    const part = mounted(FillChooser)
    await byId(part, 'other-fill').trigger('click')
    await byId(part, 'group-echoes').trigger('click')
    await part.find('.tiles button').trigger('click')
    await flushPromises()
    expect(useZone().plan?.fill?.kind).toBe('echo')
    expect(byId(part, 'other-fill').text()).toContain('Echo')
  })
})

describe('side by side', () => {
  const card = (kind: string): Views['Card'] => ({ kind, label: kind, group: 'straight', help: '', fill: fill({ kind }), drawing: drawing(), cost: { minutes: 1, density: 1, marks: 1, ease: 1 }, said: [] })
  it('a fill of the gallery becomes the zone’s own', async () => {
    vi.spyOn(api, 'preview').mockImplementation(async (_, body) => planned({ fill: body.fill ?? fill() }))
    vi.spyOn(api, 'gallery').mockResolvedValue({ rings: [[0, 0, 1, 0, 1, 1]], patches: [], cards: [card('lines'), card('echo')] })
    await useZone().choose('a')
    await useVariants().show('gallery')
    const part = mounted(FillGallery)
    await flushPromises()
    await part.findAll('li button').find((one) => one.text().includes('echo'))!.trigger('click')
    await flushPromises()
    expect([useZone().plan?.fill?.kind, useVariants().open]).toEqual(['echo', ''])
  })
  it('says where there is nothing to show', async () => {
    vi.spyOn(api, 'variants').mockRejectedValue(new Problem(404, 'This quilt has no zone called a.'))
    await useVariants().show('pins')
    const part = mounted(VariantsBoard)
    expect(part.find('[role=alert]').text()).toContain('no zone called a')
  })
})

describe('recipes', () => {
  const book = (...names: string[]): Views['RecipesView'] => ({ recipes: names.map((name) => ({ name, label: 'Lines', spacing: '3/4 in', tile: '', fill: fill() })) })
  it('keeps the settings at hand under a name', async () => {
    vi.spyOn(api, 'recipes').mockResolvedValue(book('Ripple'))
    const kept = vi.spyOn(api, 'keepRecipe').mockResolvedValue(book('Ripple', 'Rain'))
    vi.spyOn(api, 'preview').mockResolvedValue(planned())
    await useZone().choose('a')
    const part = mounted(RecipesCard)
    await flushPromises()
    await byId(part, 'recipe-name').setValue('Ripple')
    expect(byId(part, 'recipe-keep').text()).toBe('Replace')
    await byId(part, 'recipe-name').setValue('Rain')
    await part.find('form').trigger('submit')
    await flushPromises()
    expect(kept.mock.calls[0]![0]).toMatchObject({ name: 'Rain', fill: fill() })
    expect(part.findAll('li')).toHaveLength(2)
    expect((byId(part, 'recipe-name').element as HTMLInputElement).value).toBe('')
    expect(byId(part, 'recipe-keep').attributes('type')).toBe('submit')
  })
  it('loses no name that was refused', async () => {
    vi.spyOn(api, 'recipes').mockResolvedValue(book())
    vi.spyOn(api, 'keepRecipe').mockRejectedValue(new Problem(422, 'At most 500 recipes are kept.'))
    vi.spyOn(api, 'preview').mockResolvedValue(planned())
    await useZone().choose('a')
    const part = mounted(RecipesCard)
    await byId(part, 'recipe-name').setValue('Rain')
    await part.find('form').trigger('submit')
    await flushPromises()
    expect(part.find('[role=alert]').text()).toContain('At most 500')
    expect((byId(part, 'recipe-name').element as HTMLInputElement).value).toBe('Rain')
  })
})

describe('meeting the piecing', () => {
  it('tells which ways hit all and which miss, and lays one', async () => {
    const features = [0, 1].map((k) => ({ points: [k, 0], name: `corner ${k}`, share: [k, 0] }))
    vi.spyOn(api, 'preview').mockImplementation(async (_, body) => planned({ features, can_meet: true, fill: body.fill ?? fill() }))
    vi.spyOn(api, 'spacingFits').mockResolvedValue({ ways: [{ values: { spacing: '1 in' }, words: ['1 in'], label: '3 steps', exact: true }, { values: {}, words: ['2 in'], label: 'misses corner 1', exact: false }], said: '' })
    await useZone().choose('a')
    const part = mounted(MeetCard)
    await byId(part, 'meet').trigger('click')
    for (const k of [0, 1]) await useMeeting().take(k)
    await flushPromises()
    const ways = part.findAll('[data-testid=way]')
    expect(ways.map((way) => way.classes('miss'))).toEqual([false, true])
    await ways[0]!.trigger('click')
    await flushPromises()
    expect(useZone().plan?.fill).toMatchObject({ spacing: '1 in' })
    expect(useQuilt().saving).toBe('saving')
  })
})
