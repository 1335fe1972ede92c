/** The files that can be saved or printed, as listed by the app: links are made from their addresses and labels. */
import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Views } from '../api/client'

type At = { quilt?: string; zone?: string }
type Query = Record<string, string | number | boolean | null | undefined>

export const useExports = defineStore('exports', () => {
  const list = ref<Views['ExportLink'][]>([])

  /** The address of an export; empty values are left out of the query. */
  function href(key: string, at: At = {}, query: Query = {}) {
    const url = list.value.find((one) => one.key === key)?.url ?? ''
    const filled = url.replace('{quilt}', at.quilt ?? '').replace('{zone}', at.zone ?? '')
    const said = Object.entries(query).filter(([, value]) => value !== '' && value !== null && value !== undefined)
    return said.length ? `${filled}?${new URLSearchParams(said.map(([name, value]) => [name, String(value)]))}` : filled
  }
  const label = (key: string) => list.value.find((one) => one.key === key)?.label ?? ''

  return { list, href, label }
})
