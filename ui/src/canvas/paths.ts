/** Coordinates to SVG path text, and the line nearest to a point. */

/** Straight lines, and others as points; a closed one ends with its first point. */
export interface Lines {
  lines: number[][]
  paths: number[][]
}

const r = (value: number) => Math.round(value * 100) / 100

export function openPath(points: number[]): string {
  let path = ''
  for (let k = 0; k < points.length; k += 2) path += `${k ? 'L' : 'M'}${r(points[k]!)} ${r(points[k + 1]!)}`
  return path
}

export const closedPath = (rings: number[][]) => rings.map((ring) => `${openPath(ring)}Z`).join('')

/** One path for all lines of a drawing. */
export const linesPath = (drawing: Lines) => [...drawing.lines, ...drawing.paths].map((line) => openPath(line)).join('')

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

/** The line nearest to a point and, if it has several sides, which of them. */
export function nearest(drawing: Lines, x: number, y: number): Hit | undefined {
  let best: Hit | undefined
  const offer = (number: number, side: number, away: number) => {
    if (!best || away < best.away) best = { number, side, away }
  }
  drawing.lines.forEach((l, k) => offer(k, -1, distance(x, y, l[0]!, l[1]!, l[2]!, l[3]!)))
  drawing.paths.forEach((path, k) => {
    for (let i = 0; i + 3 < path.length; i += 2) {
      offer(drawing.lines.length + k, i / 2, distance(x, y, path[i]!, path[i + 1]!, path[i + 2]!, path[i + 3]!))
    }
  })
  return best
}
