import { mount } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import type { Views } from '../api/client'
import ToldText from '../parts/ToldText.vue'
import { counted, ENGLISH, locale, speak, told, tr, whole } from '.'

const HALF: Views['Shown'] = { minus: false, whole: '0', num: 1, den: 2, hair: 0, unit: 'in', text: '1/2' }

describe('texts', () => {
  afterEach(() => speak(ENGLISH, {}))

  it('are what they say, with their values', () => {
    expect(tr('Step {at} of {all}', { at: 2, all: 9 })).toBe('Step 2 of 9')
    expect(tr('A: b. {n} c?', { n: '<&>' })).toBe('A: b. <&> c?')
    expect(tr('Nothing {here}', { here: undefined })).toBe('Nothing ')
  })

  it('of a count have a form for one and one for more', () => {
    expect([0, 1, 1200].map((n) => counted(n, '{count} line of {zone}', '{count} lines of {zone}', { zone: 'Star' }))).toEqual(['0 lines of Star', '1 line of Star', '1,200 lines of Star'])
  })

  it('are said in another language, by its own forms, and in English where it has none', () => {
    speak('pl', { Undo: 'Cofnij', '{count} line': { one: '{count} linia', few: '{count} linie', many: '{count} linii' } })
    expect(locale()).toBe('pl')
    expect(tr('Undo')).toBe('Cofnij')
    expect([1, 3, 5].map((n) => counted(n, '{count} line', '{count} lines'))).toEqual(['1 linia', '3 linie', '5 linii'])
    expect(tr('Redo {what}', { what: 'x' })).toBe('Redo x')
  })

  it('hold figures in their places', () => {
    expect(told('Sew {far} of {what}.', { far: HALF, what: 'it' })).toEqual(['Sew ', HALF, ' of ', 'it', '.'])
    speak('xx', { 'Sew {far} of {what}.': '{what}: {far}' })
    expect(told('Sew {far} of {what}.', { far: HALF, what: 'it' })).toEqual(['it', ': ', HALF])
  })

  it('hold parts of a page in their places', () => {
    const part = mount(ToldText, { props: { text: whole('From {start} to {end}.') }, slots: { start: '<b>here</b>', end: 'there' } })
    expect(part.text()).toBe('From here to there.')
    expect(part.find('b').text()).toBe('here')
  })
})
