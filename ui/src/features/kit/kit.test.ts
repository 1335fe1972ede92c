/** Kit: things typed, taken out and measured; the quilt's own kit. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { useKit } from '../../state/kit'
import { field, kitView, thingView } from '../../testing/answers'
import { byId, changes, mounted, opened } from '../../testing/mounting'
import QuiltKit from './QuiltKit.vue'
import StripCard from './StripCard.vue'
import ItemPanel from './ItemPanel.vue'

const groups = (...things: Views['ThingView'][]): Views['InventoryView'] => ({ groups: [{ key: 'machine', label: 'Machine and feet', things, kinds: [{ kind: 'ruler foot', label: 'Ruler foot' }] }] })
const foot = { ...thingView({ offset: '1/4 in' }), fields: [field({ name: 'offset', label: 'Needle to rim' })] }

beforeEach(async () => {
  opened()
  vi.spyOn(api, 'things').mockResolvedValue(groups(foot))
  vi.spyOn(api, 'kit').mockResolvedValue(kitView({ fields: [field({ name: 'tolerance', label: 'A line may be off by', text: '1/8' })] }))
  await useKit().look()
})
afterEach(() => vi.restoreAllMocks())

describe('the kit of the quilt', () => {
  it('changes its foot in one request, and shows what comes of it', async () => {
    const part = mounted(QuiltKit)
    const sent = changes(() => ({ kit: kitView({ sew_with: 'walking foot' }) }))
    await byId(part, 'sew-walking-foot').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kit: { sew_with: 'walking foot' } }])
    expect(byId(part, 'sew-walking-foot').attributes('aria-pressed')).toBe('true')
  })
  it('says at its field what cannot be, and keeps the last good one', async () => {
    const part = mounted(QuiltKit)
    vi.spyOn(api, 'change').mockRejectedValue(new Problem(422, 'The tolerance must be at most 1 in; 5 in was given.', 'kit.tolerance'))
    await useKit().change({ values: { tolerance: '5 in' } })
    await flushPromises()
    expect(part.find('[role=alert]').text()).toContain('5 in was given')
  })
  it('makes two numbers that are typed quickly one after the other, and loses neither', async () => {
    const sent = changes()
    await Promise.all([useKit().change({ values: { tolerance: '1/16 in' } }), useKit().change({ values: { hand: '4 in' } })])
    expect(sent).toEqual([{ kit: { values: { tolerance: '1/16 in' } } }, { kit: { values: { hand: '4 in' } } }])
  })
  it('tells how the tools differ from the kit, and updates it at one click', async () => {
    useKit().view = kitView({ changed: ['Ruler foot'], away: ['Wave'] })
    const part = mounted(QuiltKit)
    expect(byId(part, 'behind').text()).toContain('Ruler foot')
    const sent = changes(() => ({ kit: kitView() }))
    await byId(part, 'take-over').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kit: { take_over: true } }])
    expect(byId(part, 'behind').exists()).toBe(false)
  })
})

describe('a thing', () => {
  it('is taken out for good only when she is sure', async () => {
    useKit().choose('foot')
    const part = mounted(ItemPanel)
    const gone = vi.spyOn(api, 'deleteThing').mockResolvedValue(groups())
    changes()
    await byId(part, 'remove-thing').trigger('click')
    expect(gone).not.toHaveBeenCalled()
    await byId(part, 'remove-sure').trigger('click')
    await flushPromises()
    expect(gone).toHaveBeenCalledWith('foot', 'in')
    expect(part.find('h2').exists()).toBe(false)
  })
  it('says beside the field what is wrong with it, and elsewhere above all', async () => {
    const kit = useKit()
    kit.choose('foot')
    const part = mounted(ItemPanel)
    kit.wrong = { field: 'offset', message: 'too large' }
    await flushPromises()
    expect(part.find('.length [role=alert]').text()).toBe('too large')
    kit.wrong = { field: 'thickness', message: 'not for this foot' }
    await flushPromises()
    expect(part.find('p.madder').text()).toBe('not for this foot')
  })
})

describe('a strip of lines', () => {
  it('tells the offset while she types, and is kept at one click', async () => {
    useKit().choose('foot')
    const part = mounted(StripCard)
    const read = vi.spyOn(api, 'readStrip').mockImplementation(async (_, body) => thingView({ offset: body.span === '48 mm' ? '6 mm' : '' }))
    changes()
    await byId(part, 'strip').trigger('click')
    await byId(part, 'strip-span').setValue('48 mm')
    await flushPromises()
    expect(byId(part, 'strip-tells').text()).toBe('6 mm')
    await byId(part, 'strip-keep').trigger('click')
    await flushPromises()
    expect(read.mock.calls.map((call) => call[1].keep)).toEqual([false, true])
    expect(byId(part, 'strip-span').exists()).toBe(false)
  })
  it('that cannot be is told, and a late answer of what was typed before is not shown', async () => {
    useKit().choose('foot')
    const part = mounted(StripCard)
    const late = vi.spyOn(api, 'readStrip')
    late.mockImplementationOnce(() => new Promise((done) => setTimeout(() => done(thingView({ offset: '9 mm' })), 20)))
    late.mockRejectedValueOnce(new Problem(422, 'That would be more than an inch.', 'span'))
    await byId(part, 'strip').trigger('click')
    await byId(part, 'strip-span').setValue('72 mm')
    await byId(part, 'strip-span').setValue('720 mm')
    await new Promise((done) => setTimeout(done, 40))
    await flushPromises()
    expect(part.find('[role=alert]').text()).toBe('That would be more than an inch.')
    expect(byId(part, 'strip-tells').exists()).toBe(false)
  })
})
