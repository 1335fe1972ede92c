/** Tools and supplies: what is typed is stored together, and a late answer removes nothing. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type Views } from '../api/client'
import { kitView, quiltView, thingView as thing } from '../testing/answers'
import { useKit } from './kit'
import { useQuilt } from './quilt'

const offsetOf = (one: unknown) => (one as { offset?: string } | undefined)?.offset
const group = (one: Views['ThingView']): Views['InventoryView'] => ({ groups: [{ key: 'machine', label: '', things: [one], kinds: [{ kind: 'ruler foot', label: '' }] }] })

describe('the kit', () => {
  const sent: unknown[] = []
  const kept: unknown[] = []
  beforeEach(() => {
    setActivePinia(createPinia())
    vi.useFakeTimers()
    sent.length = kept.length = 0
    useQuilt().view = quiltView()
    vi.spyOn(useQuilt(), 'make').mockImplementation(async (change) => void kept.push(change))
    vi.spyOn(api, 'things').mockImplementation(async () => group(thing({ offset: '1/4 in' })))
    vi.spyOn(api, 'kit').mockImplementation(async () => kitView())
    vi.spyOn(api, 'keepThing').mockImplementation(async ({ thing: values }) => {
      sent.push(values!)
      if (offsetOf(values) === '9 in') throw new Problem(422, 'too large', 'thing.offset')
      return thing(values!)
    })
  })

  it('keeps what is typed into two fields as one, once she pauses, and the quilt plans with it', async () => {
    const kit = useKit()
    await kit.look()
    kit.choose('foot')
    kit.set('offset', '5 mm')
    kit.set('name', 'Small')
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent).toEqual([{ kind: 'ruler foot', offset: '5 mm', name: 'Small' }])
    expect(kept).toEqual([{ kit: { take_over: true } }])
  })
  it('keeps at once when she leaves, and not twice', async () => {
    const kit = useKit()
    await kit.look()
    kit.choose('foot')
    kit.set('offset', '6 mm')
    await kit.settle()
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent).toHaveLength(1)
  })
  it('says what is wrong at its field; the last good one stays, and a look in between takes nothing away', async () => {
    const kit = useKit()
    await kit.look()
    kit.choose('foot')
    kit.set('offset', '9 in')
    await vi.advanceTimersByTimeAsync(1000)
    expect(kit.wrong).toEqual({ field: 'offset', message: 'too large' })
    expect(offsetOf(kit.thing?.thing)).toBe('1/4 in')
    await kit.look()
    kit.set('name', 'Small')
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent.at(-1)).toEqual({ kind: 'ruler foot', offset: '9 in', name: 'Small' })
    expect(kept).toEqual([])
  })
  it('gives up a look that another one follows without a fault', async () => {
    vi.spyOn(api, 'kit').mockImplementationOnce((_, __, signal) => new Promise((_, fail) => signal.addEventListener('abort', () => fail(new DOMException('', 'AbortError')))))
    const kit = useKit()
    const first = kit.look()
    await kit.look()
    await expect(first).resolves.toBeUndefined()
    expect(kit.groups).toHaveLength(1)
  })
  it('loses nothing that is typed while the last is on its way', async () => {
    const kit = useKit()
    await kit.look()
    kit.choose('foot')
    let arrive = () => {}
    vi.mocked(api.keepThing).mockImplementationOnce(({ thing: values }) => {
      sent.push(values!)
      return new Promise((done) => (arrive = () => done(thing(values!))))
    })
    kit.set('name', 'Small')
    await vi.advanceTimersByTimeAsync(400)
    kit.set('offset', '5 mm')
    arrive()
    await vi.advanceTimersByTimeAsync(10)
    kit.set('state', 'lent')
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent.at(-1)).toEqual({ kind: 'ruler foot', offset: '5 mm', name: 'Small', state: 'lent' })
  })
})
