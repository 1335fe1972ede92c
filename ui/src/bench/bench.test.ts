import { describe, expect, it } from 'vitest'
import table from '../../../tests/bench-table.json'
import { inside } from '../canvas/scene'
import { figure } from './figure'
import { along, nearestShare, otherSide, put, seen, turned, type Edge, type Lay } from './lay'
import { clipped, read } from './reading'
import { snapShift, snapTurn, throughEnds } from './snap'

// a table that the core wrote and is held to by its own tests
const parts = table.parts as Record<string, Edge & { foot: number }>
const regions = table.regions as Record<string, { rings: number[][]; references: { kind: string; points: number[] }[]; corners: number[][] }>
const near = (mine: number | null, its: number | null, within = 0.01) =>
  mine === null || its === null ? expect(mine).toBe(its) : expect(Math.abs(mine - its), `${mine} for ${its}`).toBeLessThan(within)

describe('a reading is the core’s', () => {
  it.each(table.cases.map((one, k) => [k, one.part, one.region, one] as const))('%i: %s on %s', (_, name, where, one) => {
    const part = parts[name]!
    const { rings, references } = regions[where]!
    const found = read(part, one.lay, rings, references, part.foot, one.whole)
    expect(found.held.map((held) => held.reference)).toEqual(one.held.map((held) => held[0]))
    found.held.forEach((held, k) => [held.away, held.etched, held.bare].forEach((value, n) => near(value, one.held[k]![n + 1]!)))
    expect(found.sewn.length > 0).toBe(one.sewn.length > 0)
    const within = part.straight ? 0.01 : 0.15 // the core cuts arcs, the screen their chords
    if (found.sewn.length) [0, 1, -2, -1].forEach((k) => near(found.sewn.at(k)!, one.sewn.at(k)!, within))
    found.stops.forEach((stop, k) => [...stop.needle, ...stop.edge, stop.along].forEach((value, n) => near(value, one.stops[k]![n]!, within * 2)))
  })
  it('holds cases of every sort', () => {
    expect(table.cases.filter((one) => one.held.some((held) => held[2] !== null)).length).toBeGreaterThan(3)
    expect(table.cases.filter((one) => one.held.some((held) => held[3]! > 0)).length).toBeGreaterThan(2)
    expect(table.cases.filter((one) => one.stops.some((stop) => stop[4] !== null)).length).toBeGreaterThan(8)
    expect(table.cases.filter((one) => !one.sewn.length).length).toBeGreaterThan(0)
  })
  it.each(table.figures.map((one) => [one.mm, one.unit, one.shown] as const))('%f mm in %s reads the same', (mm, unit, shown) => {
    expect(figure(mm, unit as 'in' | 'mm')).toEqual(shown)
  })
})

describe('clipping', () => {
  const L = [[0, 0, 60, 0, 60, 20, 20, 20, 20, 60, 0, 60]]
  it('keeps what lies inside, in order and once', () => {
    const runs = clipped([-5, 10, 70, 10], L)
    expect(runs).toEqual([[0, 10, 60, 10]])
    for (const run of clipped([-5, -5, 70, 50], L)) expect(inside(L, (run[0]! + run.at(-2)!) / 2, (run[1]! + run.at(-1)!) / 2)).toBe(true)
  })
  it('is cut into two by a hole', () => {
    expect(clipped([-1, 5, 11, 5], [[0, 0, 10, 0, 10, 10, 0, 10], [4, 4, 4, 6, 6, 6, 6, 4]]).length).toBe(2)
  })
})

describe('moving a ruler', () => {
  const lay: Lay = { x: 3, y: 4, angle: 30 }
  it('sees what it put', () => {
    const [x, y] = put(lay, [7, -2])
    const [u, v] = seen(lay, x!, y!)
    expect([u, v].map((n) => Math.round(n * 1e9) / 1e9)).toEqual([7, -2])
  })
  it('turns about a point that stands still', () => {
    const before = seen(lay, 10, 10)
    const after = seen(turned(lay, 77, 10, 10), 10, 10)
    near(Math.hypot(...before), Math.hypot(...after), 1e-9)
  })
  it('turned to the other side it sews the same line', () => {
    const [line, back] = [put(lay, [-5, -6, 5, -6]), put(otherSide(lay, 6), [-5, -6, 5, -6])]
    back.forEach((value, k) => near(value, line[(k + 2) % 4]!, 1e-9))
  })
  it('finds a share again', () => {
    const line = [0, 0, 10, 0, 10, 10]
    const [x, y] = along(line, 0.7)
    near(nearestShare(line, x, y).share, 0.7, 1e-9)
  })
})

describe('snapping', () => {
  const { rings, references, corners } = regions.square!
  const ground = { references, corners, reach: 4 }
  const part = parts['quarters 0']!
  it.each([[2.2, 1.4], [-2.9, 0.6], [1, -1.9]])('a ruler that lies %f degrees and %f mm askew is laid on the seam', (degrees, off) => {
    // the half-inch mark on the left edge, nearly
    const askew: Lay = { x: 12.7 + off, y: 95, angle: 90 + degrees }
    const laid = snapShift(part, snapTurn(part, askew, { ...ground, foot: part.foot }), { ...ground, foot: part.foot })
    const { held } = read(part, laid, rings, references, part.foot, true)
    const on = held.find((one) => one.etched !== null)!
    near(on.away, on.etched! + part.foot, 1e-9)
    expect(laid.angle).toBeCloseTo(90)
  })
  it('leaves alone what is far from everything', () => {
    const lay: Lay = { x: 100, y: 80, angle: 17 }
    expect(snapTurn(part, lay, { ...ground, foot: part.foot })).toEqual(lay)
    expect(snapShift(part, lay, { ...ground, foot: part.foot, reach: 0.5 })).toEqual(lay)
  })
  it.each([['arc 0', 8], ['arc 1', 8], ['arc 0', -8], ['arc 1', -8]])('%s is laid through two picked ends, its top %f mm off the chord', (which, high) => {
    const part = parts[which as string]!
    const line = put(throughEnds(part, [10, 10], [90, 10], [50, 10 + (high as number)]), part.needle)
    for (const [x, y] of [[10, 10], [90, 10]]) near(nearestShare(line, x!, y!).away, 0, 1e-3)
    const [, top] = along(line, (nearestShare(line, 10, 10).share + nearestShare(line, 90, 10).share) / 2)
    expect(Math.sign(top - 10)).toBe(Math.sign(high as number))
  })
  it('an arc comes to go through two corners', () => {
    const arc = parts['arc 0']!
    const two = { references: [], corners: [[0, 0], [90, 12]], foot: arc.foot, reach: 9 }
    const line = put(snapShift(arc, { x: 42, y: 12, angle: 5 }, two), arc.needle)
    for (const [x, y] of two.corners) near(nearestShare(line, x!, y!).away, 0, 1e-3)
  })
})
