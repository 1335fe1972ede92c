/** Fills side by side in the chosen zone: the gallery of all that suit it, and the variants that are pinned. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'
import { useZone } from './zone'

export const MOST_PINS = 3
export type Sort = 'minutes' | 'density' | 'marks' | 'ease'
type Fill = Record<string, unknown>

export const useVariants = defineStore('variants', () => {
  const quilt = useQuilt()
  const zone = useZone()
  const open = ref<'' | 'gallery' | 'pins'>('')
  const sort = ref<Sort>('minutes')
  const gallery = shallowRef<Views['GalleryView']>()
  const pinned = shallowRef<Views['VariantsView']>()
  const trouble = ref('')
  let asking: AbortController | undefined

  const cards = computed(() => [...(gallery.value?.cards ?? [])].sort((a, b) => a.cost[sort.value] - b.cost[sort.value] || a.cost.minutes - b.cost.minutes))
  /** Pins that may still wait to be kept, by zone: a plan that is answered meanwhile does not know them. */
  const own = ref<Record<string, Fill[]>>({})
  watch(() => quilt.taken, () => { own.value = {} })
  const pins = computed<Fill[]>(() => own.value[zone.key] ?? zone.plan?.pins ?? [])
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
  const isPinned = computed(() => pins.value.some((pin) => same(pin, zone.plan?.fill)))

  async function show(what: 'gallery' | 'pins') {
    open.value = what
    trouble.value = ''
    gallery.value = undefined
    pinned.value = undefined
    await quilt.flush()
    await ask(what)
  }

  async function ask(what: 'gallery' | 'pins') {
    asking?.abort()
    asking = new AbortController()
    const body = { zone: zone.key, place: zone.place, unit: quilt.unit }
    try {
      if (what === 'gallery') gallery.value = await api.gallery(quilt.id, body, asking.signal)
      else pinned.value = await api.variants(quilt.id, body, asking.signal)
    } catch (error) {
      if (error instanceof Problem) trouble.value = error.message
    }
  }

  function close() {
    asking?.abort()
    open.value = ''
  }

  /** Make a fill the zone's own. */
  async function take(fill: Fill) {
    close()
    await zone.setWhole(fill)
  }

  async function setPins(fills: Fill[]) {
    quilt.keep(`${zone.key} pins`, { kind: 'pins', zone: zone.key, pins: fills })
    own.value = { ...own.value, [zone.key]: fills }
    if (open.value === 'pins') {
      if (!fills.length) return close()
      await quilt.flush()
      await ask('pins')
    }
  }
  const pin = (fill: Fill) => setPins([...pins.value.filter((one) => !same(one, fill)), fill].slice(-MOST_PINS))
  const unpin = (index: number) => setPins(pins.value.filter((_, k) => k !== index))

  /** The next pinned variant on the quilt itself. */
  async function cycle() {
    if (!pins.value.length || zone.layer) return
    const now = pins.value.findIndex((one) => same(one, zone.plan?.fill))
    await zone.setWhole(pins.value[(now + 1) % pins.value.length]!)
  }

  return { open, sort, gallery, pinned, trouble, cards, pins, isPinned, show, close, take, pin, unpin, cycle }
})
