/** The needle on its route: its position after a given length, and the piece it is on. No drawing, no clock. */

export interface Piece {
  points: number[]
  length: number
  sews: boolean
  begins: boolean
}

export interface Needle {
  /** index of the piece; the number of pieces when everything is sewn */
  piece: number
  x: number
  y: number
}

/** The distance (mm) from the beginning to the start of every piece, and to the end of the last. */
export function marksAlong(pieces: readonly Piece[]): number[] {
  const found = [0]
  for (const piece of pieces) found.push(found[found.length - 1]! + piece.length)
  return found
}

/** The length (mm) of a line of flat x, y. */
export function lengthOf(points: readonly number[]): number {
  let far = 0
  for (let k = 2; k < points.length; k += 2) far += Math.hypot(points[k]! - points[k - 2]!, points[k + 1]! - points[k - 1]!)
  return far
}

/** The first point of `points` and the part of the line up to `far` mm. */
export function partOf(points: readonly number[], far: number): number[] {
  const found = [points[0]!, points[1]!]
  let left = far
  for (let k = 2; k < points.length && left > 0; k += 2) {
    const [x0, y0, x1, y1] = [points[k - 2]!, points[k - 1]!, points[k]!, points[k + 1]!]
    const long = Math.hypot(x1 - x0, y1 - y0)
    const share = long > 0 ? Math.min(left / long, 1) : 1
    found.push(x0 + (x1 - x0) * share, y0 + (y1 - y0) * share)
    left -= long
  }
  return found
}

/** mm: a slider rounds its end value by less */
const END = 0.01

/** The position of the needle after `far` mm. */
export function needleAt(pieces: readonly Piece[], marks: readonly number[], far: number): Needle {
  const all = marks[marks.length - 1] ?? 0
  if (!pieces.length) return { piece: 0, x: 0, y: 0 }
  if (far >= all - END) {
    const [x, y] = pieces[pieces.length - 1]!.points.slice(-2) as [number, number]
    return { piece: pieces.length, x, y }
  }
  let low = 0
  let high = pieces.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (marks[middle]! <= far) low = middle
    else high = middle - 1
  }
  const [x, y] = partOf(pieces[low]!.points, far - marks[low]!).slice(-2) as [number, number]
  return { piece: low, x, y }
}

/** The indices of the pieces before which the thread is cut. */
export const stopsOf = (pieces: readonly Piece[]) => pieces.flatMap((piece, k) => (piece.begins && k ? [k] : []))
