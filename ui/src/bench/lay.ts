/** A ruler somewhere on the cloth. As in the core: mm of the part, y up; the plastic lies at the left of the working
 * edge, the needle at its right. Flat lists are x, y in turn. */

/** The middle of the working edge at (x, y), the edge at `angle` degrees. */
export interface Lay {
  x: number
  y: number
  angle: number
}

export interface Edge {
  straight: boolean
  edge: number[]
  needle: number[]
  etched: { at: number }[]
  /** for an arc: the distance of its center behind the middle of its edge, negative in front */
  centre: number | null
}

export interface Reference {
  kind: string
  points: number[]
}

const turn = (angle: number): [number, number] => [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)]

/** Points of the ruler in the part's coordinates. */
export function put(lay: Lay, flat: readonly number[]): number[] {
  const [c, s] = turn(lay.angle)
  const out: number[] = []
  for (let k = 0; k < flat.length; k += 2) out.push(lay.x + flat[k]! * c - flat[k + 1]! * s, lay.y + flat[k]! * s + flat[k + 1]! * c)
  return out
}

/** A point of the part in the ruler's own coordinates: along the edge, and behind it into the plastic. */
export function seen(lay: Lay, x: number, y: number): [number, number] {
  const [c, s] = turn(lay.angle)
  return [(x - lay.x) * c + (y - lay.y) * s, (y - lay.y) * c - (x - lay.x) * s]
}

/** Moved along its edge, and across it towards the plastic. */
export function shifted(lay: Lay, along: number, across: number): Lay {
  const [x, y] = put(lay, [along, across])
  return { ...lay, x: x!, y: y! }
}

/** Turned by `degrees` about a point of the part. */
export function turned(lay: Lay, degrees: number, x: number, y: number): Lay {
  const [c, s] = turn(degrees)
  return {
    x: x + (lay.x - x) * c - (lay.y - y) * s,
    y: y + (lay.x - x) * s + (lay.y - y) * c,
    angle: (((lay.angle + degrees) % 360) + 360) % 360,
  }
}

/** The ruler on the other side of its sewn line, `foot` mm from it. */
export function otherSide(lay: Lay, foot: number): Lay {
  const [x, y] = put(lay, [0, -foot])
  return turned(lay, 180, x!, y!)
}

/** The matrix from the ruler's own coordinates to the part's. */
export function layMatrix(lay: Lay): string {
  const [c, s] = turn(lay.angle)
  return `matrix(${c} ${s} ${-s} ${c} ${lay.x} ${lay.y})`
}

/** The length of a flat list of points, mm. */
export function lengthOf(flat: readonly number[]): number {
  let sum = 0
  for (let k = 2; k < flat.length; k += 2) sum += Math.hypot(flat[k]! - flat[k - 2]!, flat[k + 1]! - flat[k - 1]!)
  return sum
}

/** The foot's place at `share` of the needle's line. */
export function along(flat: readonly number[], share: number): [number, number] {
  let left = Math.min(Math.max(share, 0), 1) * lengthOf(flat)
  for (let k = 2; k < flat.length; k += 2) {
    const long = Math.hypot(flat[k]! - flat[k - 2]!, flat[k + 1]! - flat[k - 1]!)
    if (left <= long && long > 0) return [flat[k - 2]! + ((flat[k]! - flat[k - 2]!) * left) / long, flat[k - 1]! + ((flat[k + 1]! - flat[k - 1]!) * left) / long]
    left -= long
  }
  return [flat.at(-2) ?? 0, flat.at(-1) ?? 0]
}

/** The share of `flat` at which it is nearest to a point, and the distance. */
export function nearestShare(flat: readonly number[], x: number, y: number): { share: number; away: number } {
  let gone = 0
  let best = { at: 0, away: Infinity }
  for (let k = 2; k < flat.length; k += 2) {
    const [ax, ay, bx, by] = [flat[k - 2]!, flat[k - 1]!, flat[k]!, flat[k + 1]!]
    const long = Math.hypot(bx - ax, by - ay)
    const t = long ? Math.min(Math.max(((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / long ** 2, 0), 1) : 0
    const away = Math.hypot(ax + t * (bx - ax) - x, ay + t * (by - ay) - y)
    if (away < best.away) best = { at: gone + t * long, away }
    gone += long
  }
  return { share: gone ? best.at / gone : 0, away: best.away }
}
