/** The message catalog of the pages. English is written where it is used; `tools/texts` collects it with the server's in one file. */
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
  keySeparator: false, // a text is its own key, and contains full stops and colons
  nsSeparator: false,
  interpolation: { prefix: '{', suffix: '}', escapeValue: false },
})

/** The locale of dates and numbers. */
export const locale = (): string => catalogue.language

/** Sets the language; called before any other part of the pages is loaded. */
export function speak(language: string, texts: Views['TextsView']['texts']): void {
  for (const [text, said] of Object.entries(texts)) {
    if (typeof said === 'string') catalogue.addResource(language, TEXTS, text, said)
    else for (const [form, one] of Object.entries(said)) catalogue.addResource(language, TEXTS, `${text}_${form}`, one)
  }
  void catalogue.changeLanguage(language)
}

/** The text of a missing value is empty. */
const known = (values: Record<string, unknown>) => Object.fromEntries(Object.entries(values).map(([name, value]) => [name, value ?? '']))

/** A text in the language of the pages with its values filled in: `tr('Step {at} of {all}', { at: 2, all: 9 })`. */
export function tr(text: string, values: Record<string, unknown> = {}): string {
  return catalogue.t(text, { defaultValue: text, replace: known(values) })
}

/** A text with a count: `one` for a count of one, `other` for others; `{count}` is the formatted count. */
export function counted(count: number, one: string, other: string, values: Record<string, unknown> = {}): string {
  return catalogue.t(one, { count, defaultValue_one: one, defaultValue_other: other, replace: known({ count: count.toLocaleString(locale()), ...values }) })
}

/** A text without its values filled in, for `ToldText`. */
export const whole = (text: string): string => catalogue.t(text, { defaultValue: text, skipInterpolation: true })

/** The pieces of a text, alternating with the names of its values. */
export const pieces = (text: string): string[] => text.split(/\{(\w+)\}/)

/** A text with figures among its values. */
export const told = (text: string, values: Record<string, Words[number]>): Words => pieces(whole(text)).map((piece, k) => (k % 2 ? values[piece]! : piece)).filter((piece) => piece !== '')
