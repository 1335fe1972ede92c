/** Clicks that come faster than the answers, and quilts that are left. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { blockView, quiltView, topView, touched, zoneInfo } from '../testing/answers'
import { useQuilt } from './quilt'
import { useTop } from './top'

const view = (name: string) => topView({ blocks: [blockView({ key: name })] })

describe('the top', () => {
  beforeEach(() => setActivePinia(createPinia()))

  it('adds a patch to the one before even if that is answered later', async () => {
    const waits: Record<string, number> = { 'a/1': 20, 'b/2': 1 }
    vi.spyOn(api, 'hitTest').mockImplementation((_, { ref }) => new Promise((done) => setTimeout(() => done({ refs: [ref] }), waits[ref])))
    const top = useTop()
    await Promise.all([top.point('a/1', 'patch', false), top.point('b/2', 'patch', true)])
    expect(top.patches).toEqual(['a/1', 'b/2'])
  })
  it('is not made a zone before what she pointed at is answered, nor of what was refused', async () => {
    let answer: (found: Views['PickView']) => void = () => {}
    let refuse: (problem: Problem) => void = () => {}
    vi.spyOn(api, 'hitTest').mockImplementation(() => new Promise((done, fail) => ([answer, refuse] = [done, fail])))
    const top = useTop()
    void top.point('a/1', 'background across', false)
    let made = top.pointed()
    await nextTick()
    answer({ refs: ['a/1', 'b/1'] })
    expect(await made).toBe(true)
    expect(top.patches).toEqual(['a/1', 'b/1'])
    void top.point('a/1', 'block', false)
    made = top.pointed()
    await nextTick()
    refuse(new Problem(422, 'No block here.'))
    expect(await made).toBe(false)
    expect(top.errorAt('zone')).toBe('No block here.')
    expect(await top.pointed()).toBe(true) // she has read it, and means the patches that are chosen
  })
  it('does not take up a patch that is answered after she let go', async () => {
    let answer: (found: Views['PickView']) => void = () => {}
    vi.spyOn(api, 'hitTest').mockImplementation(() => new Promise((done) => (answer = done)))
    const top = useTop()
    const pointing = top.point('a/1', 'patch', false)
    await nextTick()
    top.drop()
    answer({ refs: ['a/1'] })
    await pointing
    expect(top.patches).toEqual([])
  })
  it('takes for new only what its own change has added, not what one before it adds meanwhile', async () => {
    const quilt = useQuilt()
    vi.spyOn(api, 'home').mockResolvedValue({ unit: 'in', quilts: [], exports: [] })
    vi.spyOn(api, 'quilt').mockImplementation(async () => quiltView({ zones: [zoneInfo({ key: 'whole' })] }))
    vi.spyOn(api, 'top').mockImplementation(async () => topView({}))
    await quilt.open('q')
    const made = ['cut', 'own']
    vi.spyOn(api, 'change').mockImplementation(async (_, body) => {
      await new Promise((done) => setTimeout(done, 10))
      const key = made.shift()!
      return touched({ version: body.version + 1, zones: [{ ...zoneInfo({ key }), drawings: [] }], order: [...quilt.zones.map((one) => one.key), key] })
    })
    const top = useTop()
    const zones = () => quilt.zones
    const both = await Promise.all(['cut', 'own'].map((name) => top.adds('zone', { kind: 'name', name }, zones)))
    expect(both.map((added) => added?.map((one) => one.key))).toEqual([['cut'], ['own']])
  })
  it('forgets the top of a quilt that is left, also one that is answered late', async () => {
    const quilt = useQuilt()
    let answer: (found: Views['TopView']) => void = () => {}
    vi.spyOn(api, 'top').mockImplementation(() => new Promise((done) => (answer = done)))
    quilt.view = quiltView()
    quilt.id = 'old'
    const top = useTop()
    await nextTick()
    answer(view('old'))
    await vi.waitFor(() => expect(top.view).toBeDefined())
    quilt.read += 1
    quilt.id = 'new'
    await nextTick()
    expect(top.view).toBeUndefined()
    answer(view('old'))
    await new Promise((done) => setTimeout(done))
    expect(top.view).toBeUndefined()
  })
})
