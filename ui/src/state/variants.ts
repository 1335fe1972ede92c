/** Fills side by side in the chosen zone: the gallery of all that suit it, and the kept variants. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Views } from '../api/client'
import { useAsk } from './ask'
import { useQuilt } from './quilt'
import { useZone } from './zone'

export const MOST_PINS = 3
export type Sort = 'minutes' | 'density' | 'marks' | 'ease'
type Fill = Views['Card']['fill']

export const useVariants = defineStore('variants', () => {
  const quilt = useQuilt()
  const zone = useZone()
  const open = ref<'' | 'gallery' | 'pins'>('')
  const sort = ref<Sort>('minutes')
  const gallery = shallowRef<Views['GalleryView']>()
  const pinned = shallowRef<Views['VariantsView']>()
  const { ask, drop, fault } = useAsk()
  const trouble = computed(() => fault.value?.message ?? '')

  const cards = computed(() => [...(gallery.value?.cards ?? [])].sort((a, b) => a.cost[sort.value] - b.cost[sort.value] || a.cost.minutes - b.cost.minutes))
  /** The variants of each zone shown so far, updated by the answer to a change. */
  const known: Record<string, Fill[]> = {}
  watch(() => zone.plan, (plan) => { if (plan) known[plan.zone] = plan.pins }, { flush: 'sync' })
  const pins = computed<Fill[]>(() => zone.plan?.pins ?? [])
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
  const isPinned = computed(() => pins.value.some((pin) => same(pin, zone.plan?.fill)))

  async function show(what: 'gallery' | 'pins') {
    open.value = what
    drop()
    gallery.value = undefined
    pinned.value = undefined
    await quilt.flush()
    await look(what)
  }

  async function look(what: 'gallery' | 'pins') {
    const body = { zone: zone.key, place: zone.place, unit: quilt.unit }
    if (what === 'gallery') gallery.value = (await ask((signal) => api.gallery(quilt.id, body, signal))) ?? gallery.value
    else pinned.value = (await ask((signal) => api.variants(quilt.id, body, signal))) ?? pinned.value
  }

  function close() {
    drop()
    open.value = ''
  }

  /** Use a fill in the zone. */
  async function take(fill: Fill) {
    close()
    await zone.setWhole(fill)
  }

  /** Change the variants, based on those the zone has then, however quick the requests are. */
  async function setPins(others: (now: Fill[]) => Fill[]) {
    const key = zone.key
    await quilt.set(() => ({ kind: 'pins', zone: key, pins: others(known[key] ?? []) }))
    if (open.value !== 'pins') return
    if (!pins.value.length) return close()
    await look('pins')
  }
  const pin = (fill: Fill) => setPins((now) => [...now.filter((one) => !same(one, fill)), fill].slice(-MOST_PINS))
  const unpin = (index: number) => setPins((now) => now.filter((_, k) => k !== index))

  /** Show the next kept variant on the quilt itself. */
  async function cycle() {
    if (!pins.value.length || zone.layer) return
    const now = pins.value.findIndex((one) => same(one, zone.plan?.fill))
    await zone.setWhole(pins.value[(now + 1) % pins.value.length]!)
  }

  return { open, sort, gallery, pinned, trouble, cards, pins, isPinned, show, close, take, pin, unpin, cycle }
})
