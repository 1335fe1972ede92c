import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { useExports } from './exports'

describe('links to files', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    useExports().list = [{ key: 'sheet-pdf', label: 'Print mark sheet (PDF)', url: '/api/quilts/{quilt}/zones/{zone}/sheet.pdf', of_sheet: false, needs: '' }]
  })
  it('are made from the address that the app gives, with what is asked for', () => {
    const { href, label } = useExports()
    expect(href('sheet-pdf', { quilt: 'q', zone: 'star' }, { paper: 'a4', back: false, printer: '', edge: 0, method: null })).toBe('/api/quilts/q/zones/star/sheet.pdf?paper=a4&back=false&edge=0')
    expect(label('sheet-pdf')).toBe('Print mark sheet (PDF)')
  })
  it('lead nowhere where the app has no such file', () => {
    expect(useExports().href('sheet-gif', { quilt: 'q' })).toBe('')
  })
})
