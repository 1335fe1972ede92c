/** The swatch book: swatches, observations, and the two that are shown. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'

type Swatch = Views['SwatchRow']
const PAUSE_MS = 500

export const useSwatches = defineStore('swatches', () => {
  const quilt = useQuilt()
  const list = shallowRef<Swatch[]>()
  const open = ref(false)
  const sought = ref('')
  const key = ref('')
  /** another one for comparison with the chosen one */
  const beside = ref('')
  /** a zone of the quilt that can be added to the book */
  const zone = ref('')
  const wrong = ref<{ field: string; message: string }>()
  const busy = ref(false)
  /** notes and a name that are typed and not stored yet, with their swatch */
  let typed: { id: string; found: Record<string, unknown> } | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  const words = computed(() => sought.value.trim().toLowerCase())
  const shown = computed(() => (list.value ?? []).filter((one) => one.search.includes(words.value)))
  const chosen = computed(() => list.value?.find((one) => one.id === key.value))
  const other = computed(() => list.value?.find((one) => one.id === beside.value && one.id !== key.value))

  /** An error is shown at `field`, and the book does not change. */
  async function told(field: string, call: () => Promise<Views['SwatchesView']>) {
    busy.value = true
    wrong.value = undefined
    try {
      const found = await call()
      list.value = found.swatches
      if (!chosen.value) key.value = ''
      if (found.added) key.value = found.added
      return true
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      wrong.value = { field: error.field || field, message: error.message }
      return false
    } finally {
      busy.value = false
    }
  }
  const load = () => told('book', () => api.swatches(quilt.unit))
  /** `of` is the zone that can be added. */
  async function show(of = '') {
    zone.value = of
    open.value = true
    await load()
  }
  async function close() {
    await settle()
    open.value = false
    key.value = beside.value = sought.value = ''
  }
  async function choose(id: string) {
    await settle()
    wrong.value = undefined
    key.value = key.value === id ? '' : id
  }
  const add = (name: string) => told('zone', () => api.addSwatch(quilt.id, { zone: zone.value, place: '', name, unit: quilt.unit }))
  const set = (field: string, value: unknown) => chosen.value && send(chosen.value.id, { [field]: value }, field)
  const send = (id: string, found: Record<string, unknown>, field: string) => told(field, () => api.changeSwatch(id, { found, unit: quilt.unit }))
  /** Typed text is stored after a pause. */
  function type(field: 'name' | 'notes', text: string) {
    if (!chosen.value) return
    typed = { id: chosen.value.id, found: { ...(typed?.id === chosen.value.id ? typed.found : {}), [field]: text } }
    clearTimeout(timer)
    timer = setTimeout(() => void settle(), PAUSE_MS)
  }
  async function settle() {
    clearTimeout(timer)
    const now = typed
    typed = undefined
    if (now) await send(now.id, now.found, Object.keys(now.found)[0]!)
  }
  async function addPhoto(file: File) {
    const one = chosen.value
    if (!one) return
    wrong.value = undefined
    try {
      const photo = await api.addPhoto(file)
      await send(one.id, { photos: [...one.photos, photo.id] }, 'photos')
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      wrong.value = { field: 'photos', message: error.message }
    }
  }
  const dropPhoto = (photo: string) => chosen.value && send(chosen.value.id, { photos: chosen.value.photos.filter((one) => one !== photo) }, 'photos')
  const takeOut = (id: string) => told('book', () => api.deleteSwatch(id, quilt.unit))
  const bring = (file: Blob) => told('book', () => api.importSwatches(file, quilt.unit))
  /** Give a zone of the open quilt the fill of a swatch: one change, which can be undone. */
  async function use(one: Swatch, target: string) {
    wrong.value = undefined
    const refused = await quilt.fillZone(target, one.fill)
    if (refused) wrong.value = { field: 'use', message: refused }
    return !refused
  }
  return { list, open, sought, key, beside, zone, wrong, busy, shown, chosen, other, load, show, close, choose, add, set, type, settle, addPhoto, dropPhoto, takeOut, bring, use }
})
