/** At the machine: what a finished step reports, and what can be predicted without the server. No drawing, no clock. */
import type { Views } from '../api/client'
import { partOf } from './walk'
import { tr } from '../texts'

export type Step = Views['SewingStepView']
export type Told = Views['SewingEvent']

let told = 0
/** An event with a new id. */
export function event(kind: Told['kind'], more: Partial<Told> = {}, now = Date.now()): Told {
  const id = `${now.toString(36)}-${Math.random().toString(36).slice(2, 10)}-${(told += 1)}`
  return { id, kind, when: now / 1000, place: '', at: null, sewn: [], taken_out: [], length_mm: 0, stitches: 0, freehand: false, target: '', ...more }
}

/** The event of a finished step. */
export function doneOf(step: Step, place: string, freehand = false): Told {
  const kind = step.kind === 'begin' ? 'begun' : step.kind === 'go' ? 'gone' : 'sewn'
  return event(kind, { place, at: step.at, sewn: [...step.sewn, ...step.also_sewn], length_mm: step.length_mm, freehand })
}

/** The length of the line itself, mm. */
export const lineLength = (step: Step) => step.sewn.reduce((sum, one) => sum + one.ends - one.begins, 0)

/** What of a step's line is sewn after `far` mm, and where the needle is then. */
export function sewnUntil(step: Step, far: number): { sewn: Views['SewnStretch'][]; at: number[] } {
  const sewn: Views['SewnStretch'][] = []
  let left = far
  let at = step.start
  for (const [k, one] of step.sewn.entries()) {
    if (left <= 0.2) break
    const long = Math.min(one.ends - one.begins, left)
    sewn.push(long < one.ends - one.begins ? (one.reversed ? { ...one, begins: one.ends - long } : { ...one, ends: one.begins + long }) : one)
    at = partOf(step.points[k]!, long).slice(-2)
    left -= long
  }
  return { sewn, at }
}

/** Thread left on the bobbin after `steps`, mm. */
export const bobbinAfter = (bobbin: Views['BobbinView'], steps: readonly Step[]) =>
  steps.reduce((left, step) => left - step.length_mm * bobbin.per_mm - (step.kind === 'begin' ? bobbin.per_thread : 0), bobbin.left)

/** The number of `steps` until the bobbin runs out, and until the last thread cut before that; undefined if there is none. */
export function runsOut(bobbin: Views['BobbinView'], steps: readonly Step[]): { after: number; stop?: number } | undefined {
  let left = bobbin.left
  let stop: number | undefined
  for (const [k, step] of steps.entries()) {
    left -= step.length_mm * bobbin.per_mm + (step.kind === 'begin' ? bobbin.per_thread : 0)
    if (left < 0) return { after: k, stop }
    if (step.stops) stop = k + 1
  }
  return undefined
}

/** The number of the known step after which the thread is cut next. */
export function nextStop(steps: readonly Step[]): Step | undefined {
  return steps.find((step) => step.stops)
}

/** Hours and minutes at the needle. */
export function clock(seconds: number): string {
  const whole = Math.floor(Math.max(seconds, 0) / 60)
  const [hours, minutes] = [Math.floor(whole / 60), whole % 60]
  if (!hours) return tr('{minutes} min', { minutes })
  return minutes ? tr('{hours} h {minutes} min', { hours, minutes }) : tr('{hours} h', { hours })
}

/** The lines sewn here, the newest first: those done since the last answer, then those known to the server. */
export function doneLines(here: Views['SewHere'], done: readonly Step[]): Pick<Views['RecentLine'], 'words' | 'at' | 'sewn'>[] {
  const mine = done.filter((one) => one.kind === 'line').map((one) => ({ words: [tr('{zone}, line {line}', { zone: one.zone, line: one.sewn[0]!.line + 1 })], at: one.at, sewn: one.sewn }))
  return [...mine.reverse(), ...here.recent]
}
