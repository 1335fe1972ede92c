/** The top as it is edited: its contents, the selected block, the selected patches. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Change, type Views } from '../api/client'
import { useQuilt } from './quilt'

export interface Brush {
  block: string
  turns: number
  mirrored: boolean
}

export const useTop = defineStore('top', () => {
  const quilt = useQuilt()
  const view = shallowRef<Views['TopView']>()
  /** an error, and the control (`where`) it belongs to */
  const wrong = ref<{ where: string; message: string }>()
  const brush = ref<Brush>()
  /** places of a drag with the selected block, or the one chosen place */
  const stroke = ref<string[]>([])
  const place = ref('')
  /** the block shown in the panel */
  const block = ref('')
  /** patches selected to become a zone: place/patch */
  const patches = ref<string[]>([])
  const everywhere = ref(true)
  const fabric = ref('')

  const blocks = computed(() => new Map((view.value?.blocks ?? []).map((b) => [b.key, b])))
  const cell = computed(() => view.value?.cells.find((c) => c.place === place.value))
  /** whether the selected patches are all at one place, so that they may stand for every block of the kind */
  const onePlace = computed(() => new Set(patches.value.map((ref) => ref.slice(0, ref.indexOf('/')))).size === 1)

  let asked = 0
  let loading: Promise<void> = Promise.resolve()
  async function load() {
    if (!quilt.view) return
    const mine = (asked += 1)
    const found = await api.top(quilt.id, quilt.unit)
    if (mine === asked) put(found)
  }
  function put(found: Views['TopView']) {
    asked += 1
    view.value = found
    if (brush.value && !found.blocks.some((b) => b.key === brush.value?.block)) brush.value = undefined
    if (block.value && !found.blocks.some((b) => b.key === block.value)) block.value = ''
    if (!found.cells.some((c) => c.place === place.value)) place.value = ''
    if (!found.fabrics.some((f) => f.key === fabric.value)) fabric.value = ''
  }
  watch(() => [quilt.read, quilt.unit], () => { loading = load() }, { immediate: true, flush: 'sync' })
  quilt.shows({ ask: () => (quilt.view && view.value ? { top: true } : undefined), take: ({ top }) => { if (top) put(top) } })
  watch(() => quilt.id, () => {
    asked += 1
    view.value = undefined // nothing of the quilt that was left is shown or changed
    brush.value = undefined
    drop()
    block.value = place.value = fabric.value = ''
  })

  /** Make a change, computed after those before it are done; returns whether it succeeded. An error is shown at `where`. */
  async function change(where: string, made: Change | (() => Change)): Promise<boolean> {
    try {
      await quilt.make(made)
      await loading
      wrong.value = undefined
      return true
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      if (error.status !== 409) wrong.value = { where, message: error.message }
      return false
    }
  }
  /** Make a change that adds something to a list, and return what is new in it; undefined if it was refused. */
  async function adds<T extends { key: string }>(where: string, made: Change, list: () => readonly T[]): Promise<T[] | undefined> {
    let before = new Set<string>()
    const held = await change(where, () => {
      before = new Set(list().map((one) => one.key)) // read when its turn has come: a change before it may add something too
      return made
    })
    return held ? list().filter((one) => !before.has(one.key)) : undefined
  }
  const errorAt = (where: string) => (wrong.value?.where === where ? wrong.value.message : undefined)

  async function paint() {
    const places = stroke.value
    if (!brush.value || !places.length) return
    await change('paint', { kind: 'paint', places, ...brush.value })
    stroke.value = []
  }

  let picking = Promise.resolve(true)
  let underWay = 0
  let drops = 0
  /** Select patches by clicks: alone, in addition, or all that are alike; in turn, however quick the clicks are. */
  function point(ref: string, how: Views['PickRequest']['how'], adds: boolean) {
    const mine = drops
    underWay += 1
    picking = picking.then(() => pick(ref, how, adds, () => mine !== drops)).finally(() => (underWay -= 1))
    return picking
  }
  async function pick(ref: string, how: Views['PickRequest']['how'], adds: boolean, dropped: () => boolean): Promise<boolean> {
    if (dropped()) return false
    try {
      const { refs } = await api.hitTest(quilt.id, { ref, how })
      if (dropped()) return false
      const had = adds ? patches.value : []
      const all = refs.every((one) => had.includes(one))
      patches.value = all && adds ? had.filter((one) => !refs.includes(one)) : [...had, ...refs.filter((one) => !had.includes(one))]
      everywhere.value = onePlace.value && how !== 'background across'
      wrong.value = undefined
      return true
    } catch (error) {
      if (error instanceof Problem && !dropped()) wrong.value = { where: 'zone', message: error.message }
      return false
    }
  }
  /** Deselect all patches, including clicks that are not answered yet. */
  function drop() {
    drops += 1
    patches.value = []
  }
  /** Waits for clicks under way; returns whether the selected patches are the intended ones. */
  async function pointed(): Promise<boolean> {
    const waits = underWay > 0
    const held = await picking
    return held || !waits
  }

  return { view, wrong, brush, stroke, place, block, patches, everywhere, fabric, blocks, cell, onePlace, change, adds, errorAt, paint, point, pointed, drop }
})
