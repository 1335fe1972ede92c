/** The ruler bench: one of her rulers on the zone at hand. It moves and is read here; the core says where it lies for a
 * planned line, and keeps what she keeps. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, Problem, type Change, type Views } from '../api/client'
import { otherSide, shifted, turned, type Lay } from '../bench/lay'
import { read } from '../bench/reading'
import { snapShift, snapTurn, throughEnds } from '../bench/snap'
import { useAsk } from './ask'
import { useQuilt } from './quilt'
import { useZone } from './zone'

export const useBench = defineStore('bench', () => {
  const quilt = useQuilt()
  const zone = useZone()
  const view = shallowRef<Views['BenchView']>()
  const ruler = ref('')
  const number = ref(0)
  const lay = shallowRef<Lay>({ x: 0, y: 0, angle: 90 })
  /** the place of the foot along the needle's line, 0 to 1 */
  const foot = ref(0.5)
  /** a straight ruler is moved along from edge to edge of the zone, or sews only its own length */
  const whole = ref(true)
  /** the planned line to place it for */
  const line = ref<{ number: number; side: number }>()
  const wrong = ref<{ field: string; message: string }>()
  /** how well a curved edge fits the line it is placed for */
  const fit = shallowRef<Views['CurveView']>()

  const chosen = computed(() => view.value?.rulers.find((one) => one.key === ruler.value))
  const edge = computed(() => chosen.value?.edges[number.value])
  const reading = computed(() =>
    view.value && edge.value ? read(edge.value, lay.value, view.value.rings, view.value.references, view.value.foot, whole.value) : undefined,
  )
  const key = computed(() => `${quilt.id} ${zone.key} ${view.value?.place}`)
  let laidFor = ''

  const { ask, drop, fault } = useAsk()
  /** The contents of the present zone, and the rulers; a zone new to the bench gets a ruler. */
  async function look() {
    drop()
    if (!zone.key) return void (view.value = undefined)
    const found = await ask(async (signal) => {
      await quilt.flush()
      return api.bench(quilt.id, { zone: zone.key, place: zone.place, unit: quilt.unit }, signal)
    })
    if (!found) return said('')
    view.value = found
    if (!edge.value) pick(found.rulers.find((one) => !one.fault)?.key ?? '')
    if (laidFor === key.value) return
    laidFor = key.value
    picked.value = []
    picking.value = false
    upright()
    line.value = undefined
    await layFor()
    wrong.value = undefined // this was not asked for: if no line is planned, or no ruler fits, the ruler is put in the middle
  }
  /** An error at its field, or else at `where`. */
  function said(where: string) {
    if (fault.value) wrong.value = { field: fault.value.field || where, message: fault.value.message }
  }

  /** Upright on the zone, if no planned line suggests better. */
  function upright() {
    const [x, y] = view.value!.at
    lay.value = { x: x!, y: y!, angle: 90 }
  }

  function pick(wanted: string, its = 0) {
    ruler.value = wanted
    number.value = its
    wrong.value = undefined
    fit.value = undefined
  }

  /** Place a ruler for a planned line: the present one if asked for, else the best one. */
  async function layFor(own = '') {
    const at = line.value
    const body = { zone: zone.key, place: view.value?.place ?? '', layer: zone.layer, unit: quilt.unit, line: at?.number ?? null, side: at?.side ?? -1, ruler: own || null }
    const found = await ask((signal) => api.layRuler(quilt.id, body as Views['LayRequest'], signal))
    if (!found) return said('line')
    line.value = { number: found.line, side: at?.side ?? -1 }
    pick(found.ruler, found.edge)
    lay.value = { x: found.x, y: found.y, angle: found.angle }
    fit.value = found.fit ?? undefined
  }
  const layWith = () => layFor(ruler.value)

  /** Another planned line, with the ruler placed for it. */
  function next(by: number) {
    if (!zone.lines) return
    line.value = { number: ((line.value?.number ?? -by) + by + zone.lines) % zone.lines, side: -1 }
    return layFor()
  }
  const choose = (wanted: number, side: number) => {
    line.value = { number: wanted, side }
    return layFor()
  }

  const ground = (reach: number) => ({ references: view.value!.references, corners: view.value!.corners, foot: view.value!.foot, reach })
  /** Moved to `to`, and snapped to what is within `reach` mm. */
  function move(to: Lay, reach: number) {
    if (!edge.value) return
    lay.value = reach ? snapShift(edge.value, to, ground(reach)) : to
  }
  function turnTo(to: Lay, reach: number) {
    if (!edge.value) return
    lay.value = reach ? snapShift(edge.value, snapTurn(edge.value, to, ground(reach)), ground(reach)) : to
  }
  const nudge = (dx: number, dy: number) => (lay.value = { ...lay.value, x: lay.value.x + dx, y: lay.value.y + dy })
  const turn = (degrees: number) => (lay.value = turned(lay.value, degrees, lay.value.x, lay.value.y))
  const slide = (mm: number) => (lay.value = shifted(lay.value, mm, 0))
  const flip = () => view.value && (lay.value = otherSide(lay.value, view.value.foot))

  /** A curve by three points of the part: its two ends, then its top. */
  const picked = ref<[number, number][]>([])
  const picking = ref(false)
  function point(x: number, y: number, reach: number) {
    const corner = view.value?.corners.find(([cx, cy]) => Math.hypot(cx! - x, cy! - y) < reach)
    picked.value = [...(picked.value.length === 3 ? [] : picked.value), [corner?.[0] ?? x, corner?.[1] ?? y]]
    if (picked.value.length === 3) picking.value = false
  }
  /** A curved edge through the two picked ends, on the side on which it curves like them. */
  function layCurve(wanted: string, its: number) {
    pick(wanted, its)
    const [a, b, top] = picked.value
    if (!edge.value || !top) return
    lay.value = throughEnds(edge.value, a!, b!, top)
  }

  /** The line becomes part of the plan. */
  async function keep() {
    if (!edge.value || !view.value) return
    const { x, y, angle } = lay.value
    await change({ kind: 'keep line', zone: zone.key, place: view.value.place, ruler: ruler.value, edge: number.value, x, y, angle, whole: whole.value })
  }
  const takeUp = (hand: number) => change({ kind: 'take up line', zone: zone.key, number: hand })
  async function change(wish: Change) {
    try {
      await quilt.make(wish)
      wrong.value = undefined
    } catch (error) {
      if (error instanceof Problem && error.status !== 409) wrong.value = { field: error.field, message: error.message }
    }
  }

  return { view, ruler, number, lay, foot, whole, line, wrong, fit, picked, picking, point, layCurve, chosen, edge, reading, look, pick, layFor, layWith, next, choose, move, turnTo, nudge, turn, slide, flip, keep, takeUp }
})
