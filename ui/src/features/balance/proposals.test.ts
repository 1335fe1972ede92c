/** Whole plans: asked for one after another, taken as one change, and left alone when she goes. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { useProposals } from '../../state/proposals'
import { useQuilt } from '../../state/quilt'
import { zoneInfo } from '../../testing/answers'
import { byId, changes, mounted, opened } from '../../testing/mounting'
import ProposalsBoard from './ProposalsBoard.vue'

const plan = (aim: Views['ProposalView']['aim'], key: string = aim): Views['ProposalView'] => ({ key, aim, title: aim, sentence: `says ${aim}`, rows: [], zones: [{ zone: 'star', name: 'Star', words: ['Lines'] }] })
const figures = { rows: [{ label: ['Sewing time, about'], words: ['2 h'], typed: false }] }
let asked: Partial<Views['ProposalRequest']>[]

beforeEach(() => {
  localStorage.clear()
  opened()
  asked = []
  vi.spyOn(api, 'propose').mockImplementation(async (_, body) => {
    asked.push(body)
    return plan(body.aim ?? 'quick', body.move ? `${body.base}-${body.move}` : body.aim)
  })
  vi.spyOn(api, 'proposalFigures').mockResolvedValue(figures)
  vi.spyOn(api, 'proposalFills').mockResolvedValue({ fills: { star: { kind: 'lines' } as never } })
})
afterEach(() => vi.restoreAllMocks())

describe('proposals', () => {
  it('asks for each aim in turn, leaving behind what was shown, and then for what each takes', async () => {
    const part = mounted(ProposalsBoard)
    useProposals().hours = '8'
    await part.find('form').trigger('submit')
    await flushPromises()
    expect(asked.map((one) => one.aim)).toEqual(['quick', 'texture', 'straight', 'soft'])
    expect(asked.map((one) => one.shown?.length)).toEqual([0, 1, 2, 3])
    expect(asked.every((one) => one.hours === 8)).toBe(true)
    expect(part.findAll('.cards > li')).toHaveLength(4)
    expect(part.text().match(/2 h/g)).toHaveLength(4)
    expect(part.find('img').attributes('alt')).toContain('says quick')
  })
  it('gives a fill to the zones that she picks, and asks for one where she picks none', async () => {
    opened({ zones: [zoneInfo({ key: 'star', name: 'Star' }), zoneInfo({ key: 'sky', name: 'Sky' })] })
    const part = mounted(ProposalsBoard)
    await byId(part, 'scope-some').trigger('click')
    await part.find('form').trigger('submit')
    expect(part.find('[role=alert]').text()).toContain('at least one zone')
    expect(asked).toEqual([])
    await byId(part, 'pick-sky').setValue(true)
    await part.find('form').trigger('submit')
    await flushPromises()
    expect(asked[0]).toMatchObject({ scope: 'some', zones: ['sky'] })
  })
  it('goes on from one of them, and says where it came from', async () => {
    const part = mounted(ProposalsBoard)
    await part.find('form').trigger('submit')
    await flushPromises()
    await byId(part, 'move-quicker').trigger('click')
    await flushPromises()
    expect(asked.at(-1)).toMatchObject({ base: 'quick', move: 'quicker' })
    expect(part.findAll('.cards > li').at(-1)!.text()).toContain('quicker, from “quick”')
  })
  it('takes one as one change and goes back to the quilt', async () => {
    const part = mounted(ProposalsBoard)
    const sent = changes()
    useProposals().show()
    await useProposals().all()
    await byId(part, 'take-plan').trigger('click')
    await flushPromises()
    expect(sent).toEqual([{ kind: 'fills', fills: { star: { kind: 'lines' } } }])
    expect(useProposals().open).toBe(false)
  })
  it('says why there is none, and asks for no other', async () => {
    vi.spyOn(api, 'propose').mockRejectedValue(new Problem(422, 'No plan fits into 1 hours.', 'hours'))
    const part = mounted(ProposalsBoard)
    await part.find('form').trigger('submit')
    await flushPromises()
    expect(api.propose).toHaveBeenCalledTimes(1)
    expect(byId(part, 'proposals-trouble').text()).toBe('No plan fits into 1 hours.')
  })
  it.each(['3/0', '-1', '0', 'many', '1e9'])('says at the field that %s is no number of hours, and asks nothing', async (typed) => {
    const part = mounted(ProposalsBoard)
    await byId(part, 'hours').setValue(typed)
    await part.find('form').trigger('submit')
    await flushPromises()
    expect(asked).toEqual([])
    expect(byId(part, 'hours').attributes('aria-invalid')).toBe('true')
    expect(byId(part, 'proposals-trouble').text()).toContain('Hours')
  })
  it('lets go of plans where the quilt has changed meanwhile', async () => {
    const plans = useProposals()
    plans.show()
    await plans.all()
    useQuilt().view = { ...useQuilt().view!, version: 9 }
    await flushPromises()
    expect(plans.cards).toEqual([])
    expect(plans.trouble).toContain('The quilt has changed')
  })
  it('keeps at least one skill ticked', async () => {
    const part = mounted(ProposalsBoard)
    for (const skill of ['straight', 'curves']) await byId(part, `skill-${skill}`).trigger('click')
    expect(useProposals().skills).toEqual(['curves'])
    await byId(part, 'skill-freehand').trigger('click')
    expect(useProposals().skills).toEqual(['curves', 'freehand'])
  })
  it('shows no late plan when she has gone', async () => {
    const plans = useProposals()
    let done: (view: Views['ProposalView']) => void = () => {}
    vi.spyOn(api, 'propose').mockImplementation(() => new Promise((resolve) => (done = resolve)))
    const all = plans.all()
    await flushPromises()
    plans.close()
    done(plan('quick'))
    await all
    expect(plans.cards).toEqual([])
  })
})
