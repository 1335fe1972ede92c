/** Where a ruler snaps to when it is near: lines on lines, angles, points. */
import { along, nearestShare, put, seen, shifted, turned, type Edge, type Lay, type Reference } from './lay'
import { LEVEL } from './reading'

export interface Ground {
  references: Reference[]
  corners: number[][]
  foot: number
  /** mm within which it snaps */
  reach: number
}

/** Angles to a seam or a line that rulers have marks for; the straight ones pull more. */
const LEANS = [0, 90, 45, 135, 60, 120, 30, 150]
const PULL = 3
const WEAK = 1.2

/** Turned to the nearest such angle, if one is near enough. */
export function snapTurn(edge: Edge, lay: Lay, ground: Ground): Lay {
  const half = edge.edge.at(-2)!
  let best = { off: PULL, by: 0 }
  for (const { points } of ground.references) {
    if (nearestShare(points, lay.x, lay.y).away > half + ground.foot) continue
    const its = (Math.atan2(points[3]! - points[1]!, points[2]! - points[0]!) * 180) / Math.PI
    LEANS.forEach((lean, k) => {
      const by = (((its + lean - lay.angle + 90) % 180) + 180) % 180 - 90
      const off = Math.abs(by) * (k < 2 ? 1 : WEAK)
      if (off < best.off - 1e-9) best = { off, by }
    })
  }
  return best.by ? turned(lay, best.by, lay.x, lay.y) : lay
}

/** Shifted so that an etched line lies on a seam or a line, or the needle passes through a corner. */
export function snapShift(edge: Edge, lay: Lay, ground: Ground): Lay {
  return edge.straight ? snapStraight(edge, lay, ground) : snapCurve(edge, lay, ground)
}

function snapStraight(edge: Edge, lay: Lay, { references, corners, foot, reach }: Ground): Lay {
  const half = edge.edge.at(-2)!
  let best = { off: reach, by: 0 }
  const offer = (by: number, pull: number) => {
    if (Math.abs(by) * pull < best.off) best = { off: Math.abs(by) * pull, by }
  }
  for (const { points } of references) {
    const [u0, v0] = seen(lay, points[0]!, points[1]!)
    const [u1, v1] = seen(lay, points[2]!, points[3]!)
    if (Math.abs(v1 - v0) > LEVEL * Math.abs(u1 - u0)) continue
    if (Math.min(Math.max(u0, u1), half) < Math.max(Math.min(u0, u1), -half)) continue
    const behind = (v0 + v1) / 2
    for (const { at } of edge.etched) offer(behind - at, 1)
    offer(behind + foot, WEAK)
  }
  for (const [x, y] of corners) {
    const [u, v] = seen(lay, x!, y!)
    if (Math.abs(u) < half + 2 * foot) offer(v + foot, WEAK * WEAK)
  }
  return best.by ? shifted(lay, 0, best.by) : lay
}

/** A curve's needle line through a near corner, through both if two are near. */
function snapCurve(edge: Edge, lay: Lay, { corners, reach }: Ground): Lay {
  if (!edge.needle.length) return lay
  const near = corners
    .map(([x, y]) => ({ x: x!, y: y!, ...nearestShare(put(lay, edge.needle), x!, y!) }))
    .filter((one) => one.away < reach)
    .sort((a, b) => a.away - b.away)
  if (!near.length) return lay
  const through = (from: Lay, { x, y }: { x: number; y: number }): Lay => {
    const line = put(from, edge.needle)
    const [nx, ny] = along(line, nearestShare(line, x, y).share)
    return { ...from, x: from.x + x - nx, y: from.y + y - ny }
  }
  const [first, second] = [near[0]!, near.find((one) => Math.abs(one.share - near[0]!.share) > 0.1)]
  let found = through(lay, first)
  for (let k = 0; second && k < 12; k++) {
    // turn about the first so that the line passes through the second, then shift it back onto the first
    const line = put(found, edge.needle)
    const [nx, ny] = along(line, nearestShare(line, second.x, second.y).share)
    const by = Math.atan2(second.y - first.y, second.x - first.x) - Math.atan2(ny - first.y, nx - first.x)
    found = through(turned(found, (by * 180) / Math.PI, first.x, first.y), first)
  }
  return found
}

/** A curved edge with its needle through `a` and `b`, bulging the way in which `top` lies from them. */
export function throughEnds(edge: Edge, a: [number, number], b: [number, number], top: [number, number]): Lay {
  const left = (b[0] - a[0]) * (top[1] - a[1]) - (b[1] - a[1]) * (top[0] - a[0]) > 0
  const bulgesLeft = (edge.centre ?? 1) < 0 // an inside edge curves towards its plastic
  const [from, to] = left === bulgesLeft ? [a, b] : [b, a]
  const angle = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI
  const middle = { x: (from[0] + to[0]) / 2, y: (from[1] + to[1]) / 2, angle }
  return snapCurve(edge, middle, { references: [], corners: [from, to], foot: 0, reach: Infinity })
}
