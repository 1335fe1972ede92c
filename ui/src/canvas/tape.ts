/** The tape measures: where ticks are, how long they are, and which have a number. */
import type { Unit } from '../api/client'

export interface TapeTick {
  /** pixels along the tape */
  at: number
  /** 0 the longest */
  rank: number
  label: string
}

/** Divisions from coarse to fine, in mm, each a whole multiple of the next; labels count in `per` mm. */
const DIVISIONS: Record<Unit, { steps: number[]; per: number }> = {
  in: { steps: [609.6, 304.8, 152.4, 50.8, 25.4, 12.7, 6.35, 3.175], per: 25.4 },
  mm: { steps: [500, 100, 50, 10, 5, 1], per: 1 },
}
const LABEL_PX = 34
const TICK_PX = 5

/** The ticks of a tape of `length` pixels with its zero at `zero` pixels. */
export function tapeTicks(unit: Unit, scale: number, zero: number, length: number): TapeTick[] {
  const { steps, per } = DIVISIONS[unit]
  const labelled = steps.filter((step) => step * scale >= LABEL_PX && step >= per).at(-1) ?? steps[0]!
  const finest = steps.filter((step) => step * scale >= TICK_PX).at(-1) ?? labelled
  const ranks = steps.filter((step) => step <= labelled && step >= finest)
  const first = Math.ceil((0 - zero) / scale / finest)
  const last = Math.floor((length - zero) / scale / finest)
  const ticks: TapeTick[] = []
  for (let k = first; k <= last; k++) {
    const mm = k * finest
    const rank = ranks.findIndex((step) => Math.abs(mm / step - Math.round(mm / step)) < 1e-6)
    if (rank < 0) continue
    ticks.push({ at: zero + mm * scale, rank: Math.min(rank, 3), label: rank === 0 ? String(Math.round(mm / per)) : '' })
  }
  return ticks
}
