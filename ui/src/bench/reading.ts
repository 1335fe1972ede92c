/** The reading of a ruler: the same figures as the core's, sixty times a second. */
import { inside } from '../canvas/scene'
import { lengthOf, put, seen, type Edge, type Lay, type Reference } from './lay'

/** Reference number `reference` lies parallel to the edge, `away` mm from the needle's line (negative: passed), under the
 * etched line at `etched` (0 the edge) or none; it shows `bare` mm before the edge. */
export interface Held {
  reference: number
  away: number
  etched: number | null
  bare: number
}

/** Where the sewn line ends: the needle, where the working edge crosses that seam, how far along it (null: no seam). */
export interface Stop {
  needle: [number, number]
  edge: [number, number]
  along: number | null
}

export interface Reading {
  held: Held[]
  /** flat x, y; empty if no line is sewn */
  sewn: number[]
  stops: Stop[]
}

/** Within this a reference is parallel to the edge. */
export const LEVEL = (0.02 * Math.PI) / 180
const ON_IT = 0.05
const BESIDE = 6
const FAR = 1e5

export function read(edge: Edge, lay: Lay, rings: number[][], references: Reference[], foot: number, whole: boolean): Reading {
  const held = edge.straight ? heldBy(edge, lay, references, foot) : []
  const sewn = sewnLine(edge, lay, rings, whole)
  const stops = sewn.length ? [false, true].map((last) => stopAt(edge, lay, sewn, references, foot, last)) : []
  return { held, sewn, stops }
}

/** The parallel references beside the ruler: those under an etched line first, then the nearest. */
function heldBy(edge: Edge, lay: Lay, references: Reference[], foot: number): Held[] {
  const half = edge.edge.at(-2)!
  const held: Held[] = []
  references.forEach(({ points }, reference) => {
    const [u0, v0] = seen(lay, points[0]!, points[1]!)
    const [u1, v1] = seen(lay, points[2]!, points[3]!)
    if (Math.abs(v1 - v0) > LEVEL * Math.abs(u1 - u0)) return
    if (Math.min(Math.max(u0, u1), half) - Math.max(Math.min(u0, u1), -half) < BESIDE) return
    const behind = (v0 + v1) / 2
    const near = edge.etched.reduce((best, { at }) => (Math.abs(at - behind) < Math.abs(best - behind) ? at : best), 0)
    const etched = Math.abs(near - behind) <= ON_IT ? near : null
    held.push({ reference, away: behind + foot, etched, bare: etched === null && -foot < behind && behind < 0 ? -behind : 0 })
  })
  return held.sort((a, b) => Number(a.etched === null) - Number(b.etched === null) || Math.abs(a.away) - Math.abs(b.away))
}

/** The part of the needle's line inside the zone; of several the one nearest to the ruler's middle. */
function sewnLine(edge: Edge, lay: Lay, rings: number[][], whole: boolean): number[] {
  if (!edge.needle.length) return []
  const own = edge.straight && whole ? [-FAR, edge.needle[1]!, FAR, edge.needle[1]!] : edge.needle
  const ranked = clipped(put(lay, own), rings).map((run) => {
    const [u0] = seen(lay, run[0]!, run[1]!)
    const [u1] = seen(lay, run.at(-2)!, run.at(-1)!)
    return { run, off: Math.round(Math.max(u0, -u1, 0) * 100) / 100, long: Math.round(lengthOf(run) * 10) / 10, u0 }
  })
  ranked.sort((a, b) => a.off - b.off || b.long - a.long || b.u0 - a.u0)
  return ranked[0]?.run ?? []
}

/** The runs of a polyline inside `rings` (holes excluded), in order. */
export function clipped(line: number[], rings: number[][]): number[][] {
  const last = line.length / 2 - 1
  const cuts = [0, last]
  for (let k = 0; k < last; k++) {
    const [ax, ay, dx, dy] = [line[2 * k]!, line[2 * k + 1]!, line[2 * k + 2]! - line[2 * k]!, line[2 * k + 3]! - line[2 * k + 1]!]
    for (const ring of rings) {
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
        const [ex, ey] = [ring[i]! - ring[j]!, ring[i + 1]! - ring[j + 1]!]
        const cross = dx * ey - dy * ex
        if (Math.abs(cross) < 1e-12) continue
        const [fx, fy] = [ring[j]! - ax, ring[j + 1]! - ay]
        const mine = (fx * ey - fy * ex) / cross
        const its = (fx * dy - fy * dx) / cross
        if (mine >= 0 && mine <= 1 && its >= 0 && its <= 1) cuts.push(k + mine)
      }
    }
  }
  cuts.sort((a, b) => a - b)
  const at = (q: number): [number, number] => {
    const k = Math.min(Math.floor(q), last - 1)
    return [line[2 * k]! + (q - k) * (line[2 * k + 2]! - line[2 * k]!), line[2 * k + 1]! + (q - k) * (line[2 * k + 3]! - line[2 * k + 1]!)]
  }
  const spans: [number, number][] = []
  for (let k = 1; k < cuts.length; k++) {
    const [from, to] = [cuts[k - 1]!, cuts[k]!]
    if (to - from < 1e-9 || !inside(rings, ...at((from + to) / 2))) continue
    const before = spans.at(-1)
    if (before && from - before[1] < 1e-9) before[1] = to
    else spans.push([from, to])
  }
  return spans.map(([from, to]) => {
    const run = [...at(from)]
    for (let k = Math.floor(from) + 1; k < to - 1e-9; k++) run.push(line[2 * k]!, line[2 * k + 1]!)
    return [...run, ...at(to)]
  })
}

/** F7: how the line ends, at its last point or its first. */
function stopAt(edge: Edge, lay: Lay, sewn: number[], references: Reference[], foot: number, last: boolean): Stop {
  const end = last ? sewn.length - 2 : 0
  const [x, y] = [sewn[end]!, sewn[end + 1]!]
  const way = goes(edge, lay, sewn, end)
  const body = [-way[1], way[0]] as const
  const beside: Stop = { needle: [x, y], edge: [x + body[0] * foot, y + body[1] * foot], along: null }
  const seam = references.find(({ kind, points }) => kind === 'seam' && away(points, x, y) < ON_IT)
  if (!seam) return beside
  const [x0, y0, x1, y1] = seam.points as [number, number, number, number]
  const [ex, ey] = [(x1 - x0) / Math.hypot(x1 - x0, y1 - y0), (y1 - y0) / Math.hypot(x1 - x0, y1 - y0)]
  const toward = ex * body[0] + ey * body[1]
  if (Math.abs(way[0] * ey - way[1] * ex) < 0.05 || Math.abs(toward) < 1e-9) return beside
  return { needle: [x, y], edge: [x + (ex * foot) / toward, y + (ey * foot) / toward], along: Math.abs(foot / toward) }
}

/** The direction of the sewn line at its point number `end` / 2, a unit vector; for an arc perpendicular to its radius. */
function goes({ centre }: Edge, lay: Lay, sewn: number[], end: number): [number, number] {
  let [dx, dy] = [sewn[end || 2]! - sewn[(end || 2) - 2]!, sewn[(end || 2) + 1]! - sewn[(end || 2) - 1]!]
  if (centre !== null) {
    const [cx, cy] = put(lay, [0, centre])
    const turns = centre > 0 ? 1 : -1
    ;[dx, dy] = [-(sewn[end + 1]! - cy!) * turns, (sewn[end]! - cx!) * turns]
  }
  const long = Math.hypot(dx, dy)
  return [dx / long, dy / long]
}

function away([x0, y0, x1, y1]: number[], x: number, y: number): number {
  const [dx, dy] = [x1! - x0!, y1! - y0!]
  const t = Math.min(Math.max(((x - x0!) * dx + (y - y0!) * dy) / (dx * dx + dy * dy), 0), 1)
  return Math.hypot(x0! + t * dx - x, y0! + t * dy - y)
}
