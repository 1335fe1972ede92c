/** What is where in the quilt, for drawing and for clicks. Coordinates are the quilt's, mm, y up. */
import type { Views } from '../api/client'
import { boxOf, unplaced, type Box, type Placing } from './view'

/** A part at one of its places. */
export interface Laid {
  place: string
  at: Placing
  box: Box
  part: Views['PartView']
}

export interface Spot {
  place: string
  patch: string
  /** place/patch */
  ref: string
  /** the zone at that point, or '' */
  zone: string
}

/** Every part at every place, in drawing order. */
export function lay(parts: Views['PartView'][]): Laid[] {
  return parts.flatMap((part) =>
    part.places.map(({ id, at }) => ({ place: id, at, part, box: boxOf(at, part.width, part.height) })),
  )
}

/** Whether (x, y) is inside flat rings, not counting holes. */
export function inside(rings: number[][], x: number, y: number): boolean {
  let within = false
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [xi, yi, xj, yj] = [ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!]
      if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) within = !within
    }
  }
  return within
}

const holds = (box: Box, x: number, y: number) => x >= box.left && x <= box.right && y >= box.bottom && y <= box.top

/** The patch under (x, y), and the zone at that point. */
export function spotAt(laid: Laid[], zones: Views['ZoneInfo'][], x: number, y: number): Spot | undefined {
  for (const item of laid) {
    if (!holds(item.box, x, y)) continue
    const [px, py] = unplaced(item.at, x, y)
    const patch = item.part.patches.find((p) => inside(p.rings, px, py))
    if (!patch) continue
    const zone = zones.find((z) =>
      z.shapes.some((s) =>
        z.part === 'top' ? inside(s.rings, x, y) : s.part === item.part.key && s.places.includes(item.place) && inside(s.rings, px, py),
      ),
    )
    return { place: item.place, patch: patch.key, ref: `${item.place}/${patch.key}`, zone: zone?.key ?? '' }
  }
  return undefined
}

/** The block's place under (x, y), for placing blocks: its name is row-column. */
export function seatAt(laid: Laid[], x: number, y: number): string | undefined {
  return laid.find((item) => {
    if (!/^\d/.test(item.place) || !holds(item.box, x, y)) return false
    const [px, py] = unplaced(item.at, x, y)
    return px >= 0 && py >= 0 && px <= item.part.width && py <= item.part.height
  })?.place
}

/** The rings of patches named place/patch, with the placing that maps them to the quilt. */
export function ringsOf(laid: Laid[], refs: Iterable<string>): { at: Placing; rings: number[][] }[] {
  const byPlace = new Map(laid.map((item) => [item.place, item]))
  const found: { at: Placing; rings: number[][] }[] = []
  for (const ref of refs) {
    const cut = ref.indexOf('/')
    const item = byPlace.get(ref.slice(0, cut))
    const patch = item?.part.patches.find((p) => p.key === ref.slice(cut + 1))
    if (item && patch) found.push({ at: item.at, rings: patch.rings })
  }
  return found
}
