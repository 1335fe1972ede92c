/** Pins that wait to be kept are not lost by a plan that is answered meanwhile; features are chosen one by one. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem } from '../api/client'
import { useMeeting } from './meeting'
import { useQuilt } from './quilt'
import { useRecipes } from './recipes'
import { MOST_PINS, useVariants } from './variants'
import { useZone } from './zone'

const plan = (kind: string) => ({ zone: 'a', place: '', fill: { kind }, pins: [], fields: [], drawings: [], totals: [], edges: [], corners: [], features: [] }) as never

beforeEach(() => {
  setActivePinia(createPinia())
  vi.spyOn(useQuilt(), 'flush').mockResolvedValue()
})

describe('variants', () => {
  it('keeps pins that the newest plan does not know yet, each once and at most three', async () => {
    const kept: unknown[] = []
    vi.spyOn(useQuilt(), 'keep').mockImplementation((_, change) => void kept.push((change as { pins: unknown }).pins))
    const zone = useZone()
    const variants = useVariants()
    zone.key = 'a'
    for (const kind of ['echo', 'grid', 'grid', 'fan', 'waves']) {
      zone.plan = plan(kind)
      await variants.pin({ kind })
    }
    expect(variants.pins).toEqual([{ kind: 'grid' }, { kind: 'fan' }, { kind: 'waves' }])
    expect(variants.pins).toHaveLength(MOST_PINS)
    expect(variants.isPinned).toBe(true)
    await variants.unpin(0)
    expect(kept.at(-1)).toEqual([{ kind: 'fan' }, { kind: 'waves' }])
  })
  it('sorts the gallery by what she asks for', async () => {
    const card = (kind: string, minutes: number, marks: number) => ({ kind, cost: { minutes, marks, density: marks, ease: 1 } })
    vi.spyOn(api, 'gallery').mockResolvedValue({ cards: [card('b', 2, 0), card('a', 1, 9)] } as never)
    const variants = useVariants()
    await variants.show('gallery')
    expect(variants.cards.map((one) => one.kind)).toEqual(['a', 'b'])
    variants.sort = 'marks'
    expect(variants.cards.map((one) => one.kind)).toEqual(['b', 'a'])
  })
  it('says what went wrong', async () => {
    vi.spyOn(api, 'gallery').mockRejectedValue(new Problem(404, 'There is no such zone.'))
    const variants = useVariants()
    await variants.show('gallery')
    expect(variants.trouble).toBe('There is no such zone.')
  })
})

describe('meeting', () => {
  it('asks from the second feature on and lets go of one that is clicked again', async () => {
    const asked: number[][] = []
    vi.spyOn(api, 'meet').mockImplementation(async (_, body) => {
      asked.push(body.features)
      return { ways: [], said: '' } as never
    })
    const meeting = useMeeting()
    meeting.begin()
    for (const index of [3, 7, 9, 7]) await meeting.take(index)
    expect(asked).toEqual([[3, 7], [3, 7, 9], [3, 9]])
    meeting.end()
    expect([meeting.choosing, meeting.chosen]).toEqual([false, []])
  })
})

describe('recipes', () => {
  it('refuses a file that is not JSON without asking', async () => {
    const ask = vi.spyOn(api, 'bringRecipes')
    const recipes = useRecipes()
    expect(await recipes.bring(new File(['not a book'], 'x.json'))).toBe(false)
    expect(recipes.trouble).toContain('no recipes')
    expect(ask).not.toHaveBeenCalled()
  })
})
