/** Reads a step aloud with the browser's own voice: short, with fractions as they are spoken. */
import type { Views, Words } from '../api/client'
import { tr } from '../texts'

const PARTS: Record<number, [string, string]> = { 2: ['half', 'halves'], 4: ['quarter', 'quarters'], 8: ['eighth', 'eighths'], 16: ['sixteenth', 'sixteenths'], 32: ['thirty-second', 'thirty-seconds'], 64: ['sixty-fourth', 'sixty-fourths'] }
const UNITS: Record<string, [string, string]> = { in: ['inch', 'inches'], mm: ['millimeter', 'millimeters'] }

/** "1 and 3 eighths inches", "half an inch", "18 millimeters" */
export function spokenFigure(shown: Views['Shown']): string {
  const whole = shown.num && shown.whole === '0' ? '' : shown.whole
  const name = PARTS[shown.den]
  const part = !shown.num ? '' : name ? (shown.num === 1 ? `${shown.den === 2 ? 'a' : 'one'} ${name[0]}` : `${shown.num} ${name[1]}`) : tr('{num} over {den}', { num: shown.num, den: shown.den })
  const unit = UNITS[shown.unit]
  const said = [shown.hair < 0 ? tr('scant') : shown.hair > 0 ? tr('generous') : '', [whole, part].filter(Boolean).join(tr(' and '))].filter(Boolean).join(' ')
  if (!unit) return said
  if (!whole) return part === 'a half' ? tr('half an {unit}', { unit: unit[0] }) : tr('{said} of an {unit}', { said, unit: unit[0] })
  return `${said} ${whole === '1' && !part ? unit[0] : unit[1]}`
}
export const spoken = (words: Words) => words.map((word) => (typeof word === 'string' ? word : spokenFigure(word))).join('').replace(/\s+/g, ' ').trim()

export const canSpeak = () => typeof window !== 'undefined' && 'speechSynthesis' in window

/** Interrupts what was being said. */
export function say(text: string) {
  if (!canSpeak()) return
  window.speechSynthesis.cancel()
  if (text) window.speechSynthesis.speak(new SpeechSynthesisUtterance(text))
}
