/** The screen transform, hit-testing and the tape measures. */
import { inside, lay, ringsOf, seatAt, spotAt } from './scene'
import { describe, expect, it } from 'vitest'
import { closedPath, linesPath, nearest, openPath } from './paths'
import { tapeTicks } from './tape'
import { boxOf, fit, LEAST_SCALE, MOST_SCALE, placed, toQuilt, toScreen, unplaced, zoomed } from './view'

const TURNED = [0, 1, -1, 0, 304.8, 50]
const MIRRORED = [-1, 0, 0, 1, 100, 0]

describe('the view', () => {
  it('fits a box into the middle of the pane', () => {
    const view = fit({ left: 0, bottom: 0, right: 200, top: 100 }, 500, 500, 50)
    expect(view.scale).toBe(2)
    expect(toScreen(view, 100, 50)).toEqual([250, 250])
    expect(toScreen(view, 0, 100)).toEqual([50, 150])
  })
  it('never leaves its limits and takes a box of no size', () => {
    expect(fit({ left: 5, bottom: 5, right: 5, top: 5 }, 500, 500, 20).scale).toBe(MOST_SCALE)
    expect(zoomed({ scale: 1, x: 0, y: 0 }, 1e-9, 10, 10).scale).toBe(LEAST_SCALE)
  })
  it.each([0.3, 1.7, 40])('keeps the point under the pointer still when zoomed by %f', (factor) => {
    const view = { scale: 0.8, x: 31, y: 440 }
    const before = toQuilt(view, 120, 77)
    const after = toQuilt(zoomed(view, factor, 120, 77), 120, 77)
    expect(after[0]).toBeCloseTo(before[0], 6)
    expect(after[1]).toBeCloseTo(before[1], 6)
  })
  it.each([[TURNED], [MIRRORED]])('goes into a part and back', (placing) => {
    const [x, y] = placed(placing, 12, 34)
    expect(unplaced(placing, x, y)).toEqual([12, 34])
  })
  it('boxes a turned part', () => {
    expect(boxOf(TURNED, 304.8, 100)).toEqual({ left: 204.8, right: 304.8, bottom: 50, top: 354.8 })
  })
})

describe('paths', () => {
  const drawing = { lines: [[0, 0, 10, 0], [0, 5, 10, 5]], paths: [[20, 0, 30, 0, 30, 10, 20, 10, 20, 0]] }
  it('writes lines and rings, or only some of them', () => {
    expect(openPath([0, 0, 1.239, 2])).toBe('M0 0L1.24 2')
    expect(closedPath([[0, 0, 1, 0, 1, 1]])).toBe('M0 0L1 0L1 1Z')
    expect(linesPath(drawing).match(/M/g)).toHaveLength(3)
  })
  it('finds the nearest line, and the side of a ring', () => {
    expect(nearest(drawing, 4, 4)).toMatchObject({ number: 1, side: -1, away: 1 })
    expect(nearest(drawing, 31, 5)).toMatchObject({ number: 2, side: 1, away: 1 })
    expect(nearest(drawing, 19, 5)).toMatchObject({ number: 2, side: 3 })
    expect(nearest({ lines: [], paths: [] }, 0, 0)).toBeUndefined()
  })
})

describe('the tape measure', () => {
  it.each([0.05, 0.4, 1.8, 12])('numbers whole inches that do not touch at %f px a mm', (scale) => {
    const ticks = tapeTicks('in', scale, 100, 900)
    const labelled = ticks.filter((tick) => tick.label)
    expect(labelled.length).toBeGreaterThan(0)
    for (const tick of labelled) expect((tick.at - 100) / scale / 25.4).toBeCloseTo(Number(tick.label), 6)
    for (let k = 1; k < labelled.length; k++) expect(labelled[k]!.at - labelled[k - 1]!.at).toBeGreaterThan(30)
  })
  it.each([0.05, 0.4, 1.8, 12])('numbers every tick of rank 0 in millimetres at %f px a mm', (scale) => {
    const ticks = tapeTicks('mm', scale, -50, 900)
    expect(ticks.filter((tick) => tick.rank === 0).every((tick) => tick.label !== '')).toBe(true)
    expect(ticks.every((tick) => tick.at >= -1e-6 && tick.at <= 900 + 1e-6)).toBe(true)
  })
})

describe('what lies where', () => {
  const patch = (key: string, x: number, w: number) => ({ key, fabric: 'a', rings: [[x, 0, x + w, 0, x + w, 10, x, 10]] })
  const part = {
    key: 'b', kin: 'b', name: 'B', width: 10, height: 10, patches: [patch('left', 0, 4), patch('right', 4, 6)],
    places: [{ id: '1-1', at: [1, 0, 0, 1, 0, 0] }, { id: '1-2', at: [-1, 0, 0, 1, 20, 0] }],
  }
  const border = { ...part, key: 'border-1', name: 'Border', patches: [patch('top', 20, 5)], places: [{ id: 'border-1', at: [1, 0, 0, 1, 0, 0] }], width: 25 }
  const zone = { key: 'z', part: 'b', shapes: [{ part: 'b', places: ['1-2'], rings: [[4, 0, 10, 0, 10, 10, 4, 10]] }] } as never
  const laid = lay([part, border])

  it('finds the patch under a point, mirrored too, and the zone only where it lies', () => {
    expect(spotAt(laid, [zone], 1, 5)).toEqual({ place: '1-1', patch: 'left', ref: '1-1/left', zone: '' })
    expect(spotAt(laid, [zone], 19, 5)).toEqual({ place: '1-2', patch: 'left', ref: '1-2/left', zone: '' })
    expect(spotAt(laid, [zone], 12, 5)).toEqual({ place: '1-2', patch: 'right', ref: '1-2/right', zone: 'z' })
    expect(spotAt(laid, [zone], 22, 5)?.patch).toBe('top')
    expect(spotAt(laid, [zone], 30, 5)).toBeUndefined()
  })
  it('lays blocks at their places only', () => {
    expect(seatAt(laid, 15, 5)).toBe('1-2')
    expect(seatAt(laid, 22, 5)).toBeUndefined()
  })
  it('counts holes out', () => {
    const frame = [[0, 0, 9, 0, 9, 9, 0, 9], [3, 3, 6, 3, 6, 6, 3, 6]]
    expect([inside(frame, 1, 1), inside(frame, 4, 4), inside(frame, 8, 5)]).toEqual([true, false, true])
  })
  it('finds the rings of named patches with their placing', () => {
    expect(ringsOf(laid, ['1-2/right', '9-9/right', '1-1/none'])).toEqual([{ at: [-1, 0, 0, 1, 20, 0], rings: part.patches[1]!.rings }])
  })
})
