/** Figures read as on a ruler; a length field never loses what is typed. */
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { field as aField, figure } from '../testing/answers'
import FigureText from './FigureText.vue'
import LengthField from './LengthField.vue'

const shown = figure()
const field = aField({ shown })

describe('FigureText', () => {
  it('stacks a fraction and says it in a line for the ear', () => {
    const part = mount(FigureText, { props: { shown } })
    expect(part.find('.fraction').text()).toBe('38')
    expect(part.find('.sr').text()).toBe('1 3/8 in')
  })
  it.each([
    [{ whole: '0', num: 3, den: 4 }, false],
    [{ whole: '0', num: 0, den: 1 }, true],
    [{ whole: '2', num: 0, den: 1 }, true],
  ])('shows a whole number only where there is one: %o', (part, whole) => {
    expect(mount(FigureText, { props: { shown: { ...shown, ...part } } }).find('.whole').exists()).toBe(whole)
  })
  it('says scant and generous', () => {
    expect(mount(FigureText, { props: { shown: { ...shown, hair: -1 } } }).find('.hair').text()).toBe('scant')
  })
})

describe('LengthField', () => {
  it('hands on every key and the steps', async () => {
    const part = mount(LengthField, { props: { field, unit: 'in', steps: true } })
    await part.find('input').trigger('focus')
    await part.find('input').setValue('3/')
    expect(part.emitted('typed')).toEqual([['3/']])
    await part.findAll('.step')[1]!.trigger('click')
    expect(part.emitted('step')).toEqual([[1]])
  })
  it('keeps what is typed and says what is wrong at the field', async () => {
    const part = mount(LengthField, { props: { field, unit: 'in' } })
    await part.find('input').trigger('focus')
    await part.find('input').setValue('3//4')
    await part.setProps({ error: '“3//4” is not a length.' })
    await part.find('input').trigger('blur')
    expect(part.find('input').element.value).toBe('3//4')
    expect(part.find('[role=alert]').text()).toContain('not a length')
    expect(part.find('input').attributes('aria-invalid')).toBe('true')
    await part.setProps({ error: undefined })
    expect(part.find('input').element.value).toBe('1 3/8')
  })
})
