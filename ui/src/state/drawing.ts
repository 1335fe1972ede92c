/** The block being drawn, and what is under way: a seam from its first point, a fabric, an appliqué so far. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Change, type Views } from '../api/client'
import { useQuilt } from './quilt'
import { useTop } from './top'

export type Tool = 'seam' | 'colour' | 'applique'
type Spot = Views['GridSpot']
interface Side {
  start: number[]
  end: number[]
  rise: string | null
  left: boolean
}

export const useDrawing = defineStore('drawing', () => {
  const quilt = useQuilt()
  const top = useTop()
  const open = ref(false)
  const key = ref('')
  const view = shallowRef<Views['BlockDrawing']>()
  const tool = ref<Tool>('seam')
  const rise = ref('')
  const left = ref(true)
  const fabric = ref('')
  const start = shallowRef<Spot>()
  /** corners of the appliqué so far */
  const corners = shallowRef<Spot[]>([])
  const sides = shallowRef<Side[]>([])
  const seam = ref<number>()

  const chosen = computed(() => (seam.value === undefined ? undefined : view.value?.seams[seam.value]))

  let asked = 0
  async function load() {
    if (!key.value) return void (view.value = undefined)
    const mine = (asked += 1)
    try {
      const found = await api.blockDrawing(quilt.id, key.value, quilt.unit)
      if (mine !== asked) return
      view.value = found
      if (seam.value !== undefined && seam.value >= found.seams.length) seam.value = undefined
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      close() // the block was removed by an undo
    }
  }
  watch(() => [quilt.taken, quilt.unit], () => { if (key.value) void load() })

  async function begin(block: string) {
    open.value = true
    key.value = block
    drop()
    tool.value = 'seam'
    await load()
  }
  function close() {
    asked += 1 // an answer still under way is no longer needed
    open.value = false
    key.value = ''
    view.value = undefined
    drop()
  }
  /** Cancel what is under way. */
  function drop() {
    start.value = undefined
    corners.value = []
    sides.value = []
    seam.value = undefined
  }
  /** A change of the present block. */
  const make = (change: Change) => top.change('draw', { key: key.value, ...change } as Change)

  function side(from: Spot, to: Spot): Side {
    return { start: from.grid, end: to.grid, rise: rise.value.trim() || null, left: left.value }
  }
  async function point(spot: Spot) {
    seam.value = undefined
    const from = start.value
    if (!from) {
      start.value = spot
      if (tool.value === 'applique') corners.value = [spot]
      return
    }
    if (tool.value === 'seam') {
      start.value = undefined
      if (from !== spot) await make({ kind: 'seams', sides: [side(from, spot)] })
      return
    }
    if (from.name === spot.name && String(from.grid) === String(spot.grid)) return
    sides.value = [...sides.value, side(from, spot)]
    if (String(spot.grid) !== String(corners.value[0]!.grid)) {
      start.value = spot
      corners.value = [...corners.value, spot]
      return
    }
    const outline = sides.value
    drop()
    await make({ kind: 'applique', sides: outline, fabric: fabric.value || top.view!.fabrics[0]!.key })
  }
  async function patch(name: string) {
    if (fabric.value) await make({ kind: 'recolour', patches: { [name]: fabric.value } })
  }

  return { open, key, view, tool, rise, left, fabric, start, corners, seam, chosen, begin, close, drop, make, point, patch }
})
