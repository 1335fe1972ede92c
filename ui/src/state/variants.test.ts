/** Pins that wait to be kept are not lost by a plan that is answered meanwhile; features are chosen one by one. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem } from '../api/client'
import { drawing, quiltView, touched, views, zoneInfo, zoneView, type Fill } from '../testing/answers'
import { useMeeting } from './meeting'
import { useQuilt } from './quilt'
import { useRecipes } from './recipes'
import { MOST_PINS, useVariants } from './variants'
import { useZone } from './zone'

const of = (kind: string) => ({ kind }) as Fill
const plan = (kind: string) => zoneView({ fill: of(kind) })

beforeEach(() => {
  setActivePinia(createPinia())
  vi.spyOn(useQuilt(), 'flush').mockResolvedValue()
})

describe('variants', () => {
  it('pins each once and at most three, however quickly, and takes one off again', async () => {
    const quilt = useQuilt()
    const zone = useZone()
    const variants = useVariants()
    quilt.view = quiltView({ zones: [zoneInfo()] })
    zone.key = 'a'
    zone.plan = plan('echo')
    const sent = vi.spyOn(api, 'change').mockImplementation(async (_, body) => {
      const { pins } = (body.changes[0] as { change: { pins: Fill[] } }).change
      return touched({ version: body.version + 1, views: views({ zone: { ...plan('echo'), pins } }) })
    })
    await Promise.all(['echo', 'grid', 'grid', 'fan', 'waves'].map((kind) => variants.pin(of(kind))))
    expect(variants.pins).toEqual([of('grid'), of('fan'), of('waves')])
    expect(variants.pins).toHaveLength(MOST_PINS)
    expect(sent.mock.calls.map((call) => call[1].version)).toEqual([1, 2, 3, 4, 5])
    await variants.unpin(0)
    expect(variants.pins).toEqual([of('fan'), of('waves')])
  })
  it('sorts the gallery by what she asks for', async () => {
    const card = (kind: string, minutes: number, marks: number) => ({ kind, label: kind, group: '', help: '', fill: of(kind), drawing: drawing(), said: [], cost: { minutes, marks, density: marks, ease: 1 } })
    vi.spyOn(api, 'gallery').mockResolvedValue({ rings: [], patches: [], cards: [card('b', 2, 0), card('a', 1, 9)] })
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
    vi.spyOn(api, 'spacingFits').mockImplementation(async (_, body) => {
      asked.push(body.features)
      return { ways: [], said: '' }
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
    const ask = vi.spyOn(api, 'importRecipes')
    const recipes = useRecipes()
    expect(await recipes.bring(new File(['not a book'], 'x.json'))).toBe(false)
    expect(recipes.trouble).toContain('no recipes')
    expect(ask).not.toHaveBeenCalled()
  })
})
