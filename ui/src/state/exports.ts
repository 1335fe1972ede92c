/** The files that can be kept or printed, as the app lists them: a link is made from its address, and says what its row says. */
import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Views } from '../api/client'

type At = { quilt?: string; zone?: string }
type Query = Record<string, string | number | boolean | null | undefined>

export const useExports = defineStore('exports', () => {
  const list = ref<Views['ExportLink'][]>([])

  /** The address of an export; what is left empty in the query is left out. */
  function href(key: string, at: At = {}, query: Query = {}) {
    const url = list.value.find((one) => one.key === key)?.url ?? ''
    const filled = url.replace('{quilt}', at.quilt ?? '').replace('{zone}', at.zone ?? '')
    const said = Object.entries(query).filter(([, value]) => value !== '' && value !== null && value !== undefined)
    return said.length ? `${filled}?${new URLSearchParams(said.map(([name, value]) => [name, String(value)]))}` : filled
  }
  const label = (key: string) => list.value.find((one) => one.key === key)?.label ?? ''

  return { list, href, label }
})
