/** Clicks that come faster than the answers, and quilts that are left. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api } from '../api/client'
import { useQuilt } from './quilt'
import { useTop } from './top'

const view = (name: string) => ({ blocks: [{ key: name }], cells: [], fabrics: [] }) as never

describe('the top', () => {
  beforeEach(() => setActivePinia(createPinia()))

  it('adds a patch to the one before even if that is answered later', async () => {
    const waits: Record<string, number> = { 'a/1': 20, 'b/2': 1 }
    vi.spyOn(api, 'pick').mockImplementation((_, { ref }) => new Promise((done) => setTimeout(() => done({ refs: [ref] } as never), waits[ref])))
    const top = useTop()
    await Promise.all([top.point('a/1', 'patch', false), top.point('b/2', 'patch', true)])
    expect(top.patches).toEqual(['a/1', 'b/2'])
  })
  it('forgets the top of a quilt that is left, also one that is answered late', async () => {
    const quilt = useQuilt()
    let answer: (found: never) => void = () => {}
    vi.spyOn(api, 'top').mockImplementation(() => new Promise((done) => (answer = done as never)))
    quilt.view = { zones: [] } as never
    quilt.id = 'old'
    const top = useTop()
    await nextTick()
    answer(view('old'))
    await vi.waitFor(() => expect(top.view).toBeDefined())
    quilt.taken += 1
    quilt.id = 'new'
    await nextTick()
    expect(top.view).toBeUndefined()
    answer(view('old'))
    await new Promise((done) => setTimeout(done))
    expect(top.view).toBeUndefined()
  })
})
