/** Coordinates to SVG path text, and the line nearest to a point. */

export interface Lines {
  lines: number[][]
  rings: number[][]
}

const r = (value: number) => Math.round(value * 100) / 100

export function openPath(points: number[]): string {
  let path = ''
  for (let k = 0; k < points.length; k += 2) path += `${k ? 'L' : 'M'}${r(points[k]!)} ${r(points[k + 1]!)}`
  return path
}

export const closedPath = (rings: number[][]) => rings.map((ring) => `${openPath(ring)}Z`).join('')

/** One path for all lines of a drawing, or for those in `only`. */
export function linesPath(drawing: Lines, only?: Set<number>): string {
  let path = ''
  drawing.lines.forEach((line, k) => {
    if (!only || only.has(k)) path += openPath(line)
  })
  drawing.rings.forEach((ring, k) => {
    if (!only || only.has(drawing.lines.length + k)) path += `${openPath(ring)}Z`
  })
  return path
}

/** Distance from (x, y) to the segment. */
export function distance(x: number, y: number, x0: number, y0: number, x1: number, y1: number): number {
  const dx = x1 - x0
  const dy = y1 - y0
  const length = dx * dx + dy * dy
  const share = length ? Math.min(Math.max(((x - x0) * dx + (y - y0) * dy) / length, 0), 1) : 0
  return Math.hypot(x - x0 - share * dx, y - y0 - share * dy)
}

export interface Hit {
  number: number
  side: number
  away: number
}

/** The line nearest to (x, y), and for a ring which of its sides. */
export function nearest(drawing: Lines, x: number, y: number): Hit | undefined {
  let best: Hit | undefined
  const offer = (number: number, side: number, away: number) => {
    if (!best || away < best.away) best = { number, side, away }
  }
  drawing.lines.forEach((l, k) => offer(k, -1, distance(x, y, l[0]!, l[1]!, l[2]!, l[3]!)))
  drawing.rings.forEach((ring, k) => {
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length
      offer(drawing.lines.length + k, i / 2, distance(x, y, ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!))
    }
  })
  return best
}
