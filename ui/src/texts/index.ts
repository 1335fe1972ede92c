/** The message catalogue of the pages. English is written where it is used; `tools/texts` collects it with the server's in one file. */
import { createInstance } from 'i18next'
import type { Views, Words } from '../api/client'

export const ENGLISH = 'en'
const TEXTS = 'texts'

const catalogue = createInstance()
void catalogue.init({
  lng: ENGLISH,
  initAsync: false,
  ns: TEXTS,
  defaultNS: TEXTS,
  resources: {},
  keySeparator: false, // a text is its own key, and holds stops and colons
  nsSeparator: false,
  interpolation: { prefix: '{', suffix: '}', escapeValue: false },
})

/** By what dates and numbers are written. */
export const locale = (): string => catalogue.language

/** From here on all is said in this language: called before any other part of the pages is loaded. */
export function speak(language: string, texts: Views['TextsView']['texts']): void {
  for (const [text, said] of Object.entries(texts)) {
    if (typeof said === 'string') catalogue.addResource(language, TEXTS, text, said)
    else for (const [form, one] of Object.entries(said)) catalogue.addResource(language, TEXTS, `${text}_${form}`, one)
  }
  void catalogue.changeLanguage(language)
}

/** What is not there yet is said with nothing. */
const known = (values: Record<string, unknown>) => Object.fromEntries(Object.entries(values).map(([name, value]) => [name, value ?? '']))

/** A text in the language of the pages, its values in their places: `tr('Step {at} of {all}', { at: 2, all: 9 })`. */
export function tr(text: string, values: Record<string, unknown> = {}): string {
  return catalogue.t(text, { defaultValue: text, replace: known(values) })
}

/** A text of a count: `one` for a single one, `other` for more; `{count}` is the count as it is read. */
export function counted(count: number, one: string, other: string, values: Record<string, unknown> = {}): string {
  return catalogue.t(one, { count, defaultValue_one: one, defaultValue_other: other, replace: known({ count: count.toLocaleString(locale()), ...values }) })
}

/** A text with its values still open, for `ToldText`. */
export const whole = (text: string): string => catalogue.t(text, { defaultValue: text, skipInterpolation: true })

/** The pieces of a text and, at every other place, the names of its values. */
export const pieces = (text: string): string[] => text.split(/\{(\w+)\}/)

/** A text with figures in it: each value in its place. */
export const told = (text: string, values: Record<string, Words[number]>): Words => pieces(whole(text)).map((piece, k) => (k % 2 ? values[piece]! : piece)).filter((piece) => piece !== '')
