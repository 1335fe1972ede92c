import { describe, expect, it } from 'vitest'
import { marksAlong, needleAt, partOf, stopsOf, type Piece } from './walk'

const L: Piece[] = [
  { points: [0, 0, 0, 10], length: 10, sews: true, begins: true },
  { points: [0, 10, 5, 10], length: 5, sews: false, begins: false },
  { points: [5, 10, 5, 4, 9, 4], length: 10, sews: true, begins: false },
  { points: [20, 0, 20, 8], length: 8, sews: true, begins: true },
]
const marks = marksAlong(L)

describe('a needle on its way', () => {
  it('goes through every piece in turn', () => {
    expect(marks).toEqual([0, 10, 15, 25, 33])
    expect(needleAt(L, marks, 0)).toEqual({ piece: 0, x: 0, y: 0 })
    expect(needleAt(L, marks, 10)).toEqual({ piece: 1, x: 0, y: 10 })
    const all = marks[marks.length - 1]!
    expect(needleAt(L, marks, all - 0.005)).toEqual(needleAt(L, marks, all))
    expect(needleAt(L, marks, all).piece).toBe(L.length)
    expect(needleAt(L, marks, 12)).toEqual({ piece: 1, x: 2, y: 10 })
    expect(needleAt(L, marks, 23)).toEqual({ piece: 2, x: 7, y: 4 })
    expect(needleAt(L, marks, 25)).toEqual({ piece: 3, x: 20, y: 0 })
  })

  it('rests at the end of the last', () => {
    expect(needleAt(L, marks, 99)).toEqual({ piece: 4, x: 20, y: 8 })
    expect(needleAt([], [0], 3)).toEqual({ piece: 0, x: 0, y: 0 })
  })

  it('cuts a line where it has come to', () => {
    expect(partOf([0, 0, 0, 10, 6, 10], 12)).toEqual([0, 0, 0, 10, 2, 10])
    expect(partOf([0, 0, 0, 10], 0)).toEqual([0, 0])
  })

  it('knows where the thread begins again', () => {
    expect(stopsOf(L)).toEqual([3])
  })
})
