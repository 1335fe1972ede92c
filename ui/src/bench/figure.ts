/** A length computed by the screen, shown as on a ruler: the core's `figure`, for figures that change while dragging. */
import type { Unit, Views } from '../api/client'
import { tr } from '../texts'

const MM_PER: Record<Unit, number> = { in: 25.4, mm: 1 }
/** Rounding steps: of figures to measure off, and of those to read only. */
export const FINE: Record<Unit, number> = { in: 1 / 64, mm: 0.1 }
export const COARSE: Record<Unit, number> = { in: 1 / 16, mm: 0.5 }
const SAME = 1 / 5000

/** `mm` to the nearest `grain` (in `unit`); `about` omits scant and generous. */
export function figure(mm: number, unit: Unit, grain = FINE[unit], about = false): Views['Shown'] {
  const exact = Math.abs(mm) / MM_PER[unit]
  const steps = Math.floor(exact / grain + 0.5 + 1e-9)
  const near = steps * grain
  const off = exact - near
  const hair = about || unit === 'mm' || Math.abs(off) < SAME ? 0 : off > 0 ? 1 : -1
  const minus = mm < 0 && steps !== 0
  let [whole, num, den] = [String(Math.round(near * 100) / 100), 0, 1]
  if (unit === 'in') {
    den = Math.round(1 / grain)
    const floor = Math.floor(steps / den)
    num = steps - floor * den
    while (num && num % 2 === 0 && den % 2 === 0) [num, den] = [num / 2, den / 2]
    if (!num) den = 1
    whole = String(floor)
  }
  const body = !num ? whole : whole === '0' ? `${num}/${den}` : `${whole} ${num}/${den}`
  const said = hair < 0 ? `${tr('scant')} ` : hair > 0 ? `${tr('generous')} ` : ''
  return { minus, whole, num, den, hair, unit, text: `${said}${minus ? '-' : ''}${body}` }
}
