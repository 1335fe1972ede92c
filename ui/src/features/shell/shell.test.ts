/** The frame: the list of quilts, saving and undo as they are shown. */
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../../api/client'
import { useQuilt } from '../../state/quilt'
import { mounted, byId, opened } from '../../testing/mounting'
import AppHeader from './AppHeader.vue'
import HomePage from './HomePage.vue'
import TallyBar from '../../parts/TallyBar.vue'

const push = vi.fn()
vi.mock('vue-router', async (real) => ({ ...(await real<object>()), useRouter: () => ({ push, replace: push }), useRoute: () => ({ params: { quilt: 'q' }, query: {}, name: 'fills', meta: {} }) }))

const listed = (id: string, name: string, put_away = false): Views['Listed'] => ({
  id, name, put_away, revision: 1, changed: Date.now() / 1000, size: ['12 in'], zones: 2, filled: 1, sewn: false, next: 'fills', next_says: 'Choose a fill for 1 zone',
})
const home = (...quilts: Views['Listed'][]): Views['Home'] => ({ unit: 'in', quilts, exports: [] })

beforeEach(() => {
  opened()
  push.mockReset()
})
afterEach(() => vi.restoreAllMocks())
async function list(answer: Views['Home']) {
  vi.spyOn(api, 'home').mockResolvedValue(answer)
  const part = mounted(HomePage)
  await flushPromises()
  return part
}

describe('the list of quilts', () => {
  it('goes straight on where there is one, and shows them where there are several', async () => {
    await list(home(listed('1', 'Harbour')))
    expect(push).toHaveBeenCalledTimes(1)
    const part = await list(home(listed('1', 'Harbour'), listed('2', 'Kelp')))
    expect(part.findAll('.open').map((one) => one.text())).toEqual(['Harbour', 'Kelp'])
  })
  it('a deleted one comes back at one click', async () => {
    const part = await list(home(listed('1', 'Harbour'), listed('2', 'Kelp')))
    const state = vi.spyOn(api, 'setState').mockImplementation(async (_, to) => home(...(to === 'deleted' ? [listed('2', 'Kelp')] : [listed('1', 'Harbour'), listed('2', 'Kelp')])))
    await part.find('[aria-label="More for Harbour"]').trigger('click')
    await part.find('[aria-label="Delete Harbour"]').trigger('click')
    await flushPromises()
    expect(part.findAll('.open')).toHaveLength(1)
    await byId(part, 'bring-back').trigger('click')
    await flushPromises()
    expect(state.mock.calls.map((call) => call[1])).toEqual(['deleted', 'at hand'])
    expect(part.findAll('.open')).toHaveLength(2)
  })
  it('says what to do first where none is here', async () => {
    const part = await list(home())
    expect(part.text()).toContain('No quilts yet')
    expect(part.findAll('button').some((one) => one.text().includes('example quilts'))).toBe(true)
  })
  it('says that Kenzet does not answer', async () => {
    vi.spyOn(api, 'home').mockRejectedValue(new Problem(0, 'Kenzet does not answer.'))
    const part = mounted(HomePage)
    await flushPromises()
    expect(part.find('[role=alert]').text()).toBe('Kenzet does not answer.')
  })
  it('says at its field what a new quilt was refused', async () => {
    const part = await list(home(listed('1', 'Harbour'), listed('2', 'Kelp')))
    await byId(part, 'new-quilt').trigger('click')
    vi.spyOn(api, 'addQuilts').mockRejectedValue(new Problem(422, '“big” is not a length.', 'wish.block'))
    await byId(part, 'new-block-size').setValue('big')
    await part.find('form').trigger('submit')
    await flushPromises()
    expect(part.findAll('form [role=alert]').map((one) => one.text())).toContain('“big” is not a length.')
    expect((byId(part, 'new-block-size').element as HTMLInputElement).value).toBe('big')
  })
})

describe('the header', () => {
  it('says whether all is saved, and undoes', async () => {
    const quilt = useQuilt()
    quilt.view!.undo = 'Star: Lines 1/2 in'
    const part = mounted(AppHeader)
    expect(part.text()).toContain('Saved')
    vi.spyOn(api, 'walk').mockImplementation(() => new Promise(() => {}))
    await byId(part, 'undo').trigger('click')
    await flushPromises()
    expect(part.text()).not.toContain('Saved')
    expect(vi.mocked(api.walk).mock.calls[0]!.slice(0, 2)).toEqual(['q', 'undo'])
  })
  it('reads in another unit', async () => {
    const part = mounted(AppHeader)
    vi.spyOn(api, 'setUnit').mockResolvedValue({ unit: 'mm' })
    vi.spyOn(api, 'quilt').mockResolvedValue(useQuilt().view!)
    await byId(part, 'unit-mm').trigger('click')
    await flushPromises()
    expect(useQuilt().unit).toBe('mm')
    expect(vi.mocked(api.quilt).mock.calls[0]).toEqual(['q', 'mm'])
  })
})

describe('the tally', () => {
  it('shows what the last step changed', async () => {
    const quilt = useQuilt()
    const total = (amount: number): Views['Total'] => ({ label: 'Marks to make', words: [`${amount}`], amount, how: '' })
    quilt.totals = [total(96)]
    quilt.tally([total(80)])
    const part = mounted(TallyBar)
    expect(part.text()).toContain('80')
    expect(part.text()).toContain('▼')
  })
})
