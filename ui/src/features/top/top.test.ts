/** Top: numbers that are typed quickly, zones made and given up, cuts that are tried. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { useTop } from '../../state/top'
import { useZone } from '../../state/zone'
import { blockView, field, quiltView, topView, touched, views, zoneInfo, zoneView } from '../../testing/answers'
import { byId, changes, mounted, opened } from '../../testing/mounting'
import BlockNumbers from './BlockNumbers.vue'
import CutCard from './CutCard.vue'
import LayoutPage from './LayoutPage.vue'
import MeasuredCard from './MeasuredCard.vue'
import QuiltPage from './QuiltPage.vue'
import ZonesPage from './ZonesPage.vue'

type Pattern = Record<string, unknown>
const peel = (pattern: Pattern) =>
  blockView({
    key: 'peel', fields: ['width', 'height', 'pattern.chord', 'pattern.rise'].map((name) => field({ name, label: name })),
    doc: { name: 'Peel', width: '6 in', height: '6 in', art: { kind: 'pattern', pattern: { kind: 'melon', ...pattern }, fabrics: {} } } as unknown as Views['Block'],
  })
const doc = { use: 'wall', edge: '1/4 in', batting_overhang: '0 in', backing_overhang: '0 in', backing: null, layout: { sashing: { width: '2 in', fabric: 'a', cornerstones: null, outer: true } }, borders: [{ width: '3 in', fabric: 'a', corners: 'mitred', corner_fabric: null }] }

beforeEach(() => {
  opened({ zones: [zoneInfo()] })
})
afterEach(() => vi.restoreAllMocks())
async function top(view = topView({ doc })) {
  vi.spyOn(api, 'top').mockResolvedValue(view)
  const store = useTop()
  await flushPromises()
  return store
}

describe('numbers that are typed quickly', () => {
  it('a chord, Tab, a rise: neither is lost, and each change holds what the one before made', async () => {
    await top(topView({ doc, blocks: [peel({ chord: '4 in', rise: '1 in' })] }))
    const sent: Pattern[] = []
    vi.spyOn(api, 'change').mockImplementation(async (_, body) => {
      const { pattern } = (body.changes[0] as { change: { pattern: Pattern } }).change
      sent.push(pattern)
      await new Promise((done) => setTimeout(done, 20))
      return touched({ version: body.version + 1, views: views({ top: topView({ doc, blocks: [peel(pattern)] }) }) })
    })
    const part = mounted(BlockNumbers, { block: useTop().view!.blocks[0] })
    const [chord, rise] = part.findAll('.length input')
    await chord!.trigger('focus')
    await chord!.setValue('5')
    await chord!.trigger('blur')
    await rise!.trigger('focus')
    await rise!.setValue('1 1/2')
    await rise!.trigger('blur')
    await vi.waitFor(() => expect(sent).toHaveLength(2))
    expect(sent).toEqual([{ kind: 'melon', chord: '5', rise: '1 in' }, { kind: 'melon', chord: '5', rise: '1 1/2' }])
  })
  it('what one field is refused harms no other', async () => {
    const store = await top()
    const sent = changes()
    vi.mocked(api.change).mockRejectedValueOnce(new Problem(422, 'The edge is at most 2 in.', 'change.edge'))
    const part = mounted(QuiltPage)
    const first = store.change('edge', { kind: 'quilt', edge: '9 in' })
    await part.findAll('.chip').find((one) => one.text() === 'lap')!.trigger('click')
    expect(await first).toBe(false)
    await flushPromises()
    expect(sent).toMatchObject([{ kind: 'quilt', use: 'lap', edge: '1/4 in' }])
    expect(store.errorAt('edge')).toBeUndefined() // the next good one has the last word
  })
  it('borders are changed one by one, from what is kept then', async () => {
    const withBorders = (borders: Views['Border'][]) => topView({ doc: { ...doc, borders }, fabrics: [{ key: 'a', name: 'Oat', colour: '#fff', print: 'calm', tone: 'light', used: 1 }], border_widths: borders.map((_, k) => field({ name: `border-${k + 1}` })), sash_width: field({ name: 'sash' }) })
    await top(withBorders(doc.borders as Views['Border'][]))
    const sent = changes((change) => ({ top: withBorders(change.borders as Views['Border'][]) }))
    const part = mounted(LayoutPage)
    const add = byId(part, 'add-border')
    await Promise.all([add.trigger('click'), add.trigger('click')])
    await flushPromises()
    expect(sent.map((change) => (change.borders as unknown[]).length)).toEqual([2, 3])
  })
})

describe('zones', () => {
  it('a zone is made of the patches that are chosen, and is chosen then', async () => {
    const store = await top()
    store.patches = ['1-1/a', '1-1/b']
    const part = mounted(ZonesPage, { place: '1-1' })
    vi.spyOn(api, 'preview').mockResolvedValue(zoneView({ zone: 'new' }))
    vi.spyOn(api, 'change').mockResolvedValue(touched({ zones: [zoneInfo({ key: 'new', name: 'Petals' })], order: ['a', 'new'] }))
    await byId(part, 'new-zone-name').setValue('Petals')
    await byId(part, 'make-zone').trigger('click')
    await flushPromises()
    const [, body] = vi.mocked(api.change).mock.calls[0]!
    expect(body.changes[0]).toMatchObject({ change: { kind: 'zone', refs: ['1-1/a', '1-1/b'], name: 'Petals' } })
    expect(useZone().key).toBe('new')
  })
  it('what cannot be one zone is said, and the patches stay chosen', async () => {
    const store = await top()
    store.patches = ['1-1/a']
    const part = mounted(ZonesPage, { place: '1-1' })
    vi.spyOn(api, 'change').mockRejectedValue(new Problem(422, 'These patches lie in another zone.', 'change.refs'))
    await byId(part, 'make-zone').trigger('click')
    await flushPromises()
    expect(part.find('[role=alert]').text()).toContain('another zone')
    expect(store.patches).toEqual(['1-1/a'])
  })
  it('a zone is given up at one click', async () => {
    await top()
    vi.spyOn(api, 'preview').mockResolvedValue(zoneView())
    await useZone().choose('a')
    const part = mounted(ZonesPage, { place: '' })
    vi.spyOn(api, 'change').mockResolvedValue(touched({ order: [] }))
    await byId(part, 'remove-zone').trigger('click')
    await flushPromises()
    expect(useZone().key).toBe('')
    expect(part.text()).toContain('There are none yet')
  })
})

describe('a cut', () => {
  it('is shown before it is made, and the newest answer counts', async () => {
    await top()
    const part = mounted(CutCard, { zone: zoneInfo() })
    const tried = vi.spyOn(api, 'cut')
    tried.mockImplementationOnce(() => new Promise((done) => setTimeout(() => done({ names: ['late'], part: 'star', rings: [] }), 20)))
    tried.mockResolvedValueOnce({ names: ['Upper', 'Lower'], part: 'star', rings: [[0, 0, 1, 1]] })
    const buttons = part.findAll('.chip')
    await buttons[0]!.trigger('click')
    await buttons[1]!.trigger('click')
    await new Promise((done) => setTimeout(done, 40))
    await flushPromises()
    expect(part.text()).toContain('Upper')
    expect(part.text()).not.toContain('late')
    expect(part.emitted('tried')!.at(-1)).toEqual([{ part: 'star', place: '', rings: [[0, 0, 1, 1]] }])
  })
  it('that is refused is said, and nothing is shown of it', async () => {
    await top()
    const part = mounted(CutCard, { zone: zoneInfo() })
    vi.spyOn(api, 'cut').mockRejectedValue(new Problem(422, 'This cut leaves nothing to divide.', 'cut'))
    await part.findAll('.chip')[0]!.trigger('click')
    await flushPromises()
    expect(part.find('[role=alert]').text()).toContain('nothing to divide')
    expect(part.emitted('tried')!.at(-1)).toEqual([undefined])
  })
})

describe('a block as it was measured', () => {
  it('takes the nominal size for what is left empty, and goes back to it', async () => {
    await top(topView({ doc, blocks: [peel({})] }))
    const part = mounted(MeasuredCard, { block: useTop().view!.blocks[0] })
    const sent = changes()
    await byId(part, 'measure').trigger('click')
    await byId(part, 'measured-width').setValue('6 1/8')
    await byId(part, 'measured-keep').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'measured', key: 'peel', place: null, measured: { width: '6 1/8', height: '6 in', diagonals: null } }])
  })
  it('says at the card what cannot be', async () => {
    await top(topView({ doc, blocks: [peel({})] }))
    const part = mounted(MeasuredCard, { block: useTop().view!.blocks[0] })
    vi.spyOn(api, 'change').mockRejectedValue(new Problem(422, '“wide” is not a length.', 'change.measured.width'))
    await byId(part, 'measure').trigger('click')
    await byId(part, 'measured-width').setValue('wide')
    await byId(part, 'measured-keep').trigger('click')
    await flushPromises()
    expect(part.find('[role=alert]').text()).toBe('“wide” is not a length.')
    expect((byId(part, 'measured-width').element as HTMLInputElement).value).toBe('wide')
  })
  it('is not shown of another quilt', async () => {
    const store = await top()
    expect(store.view).toBeDefined()
    const quilt = (await import('../../state/quilt')).useQuilt()
    quilt.view = quiltView()
    quilt.id = 'other'
    await flushPromises()
    expect(store.block).toBe('')
  })
})
