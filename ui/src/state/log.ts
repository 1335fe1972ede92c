/** The log of the open quilt, what is shown of it, and a sewn block being measured from a photograph. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useAsk } from './ask'
import { useQuilt } from './quilt'

type Corner = [number, number]
const BEGINNING: Corner[] = [[0.12, 0.12], [0.88, 0.12], [0.88, 0.88], [0.12, 0.88]]
const newId = () => `r-${crypto.randomUUID?.() ?? Math.random().toString(36).slice(2).padEnd(8, '0')}`.slice(0, 38)

export const useLog = defineStore('log', () => {
  const quilt = useQuilt()
  const view = shallowRef<Views['LogView']>()
  const cards = shallowRef<Views['InspectionCard'][]>([])
  const place = ref('')
  const open = ref(false)
  /** places of a session in the schedule, highlighted on the quilt */
  const held = ref<string[]>([])
  /** a photograph whose corners are being set */
  const taken = shallowRef<Views['PhotoView']>()
  const corners = ref<Corner[]>([])
  const inspection = shallowRef<Views['InspectionView']>()
  const busy = ref('')
  const wrong = ref<{ field: string; message: string }>()
  const { ask, drop, fault } = useAsk()
  const trouble = computed(() => fault.value?.message ?? '')

  async function look() {
    if (!open.value || !quilt.id || !quilt.view) return
    const id = quilt.id
    const found = await ask((signal) => Promise.all([api.log(id, quilt.unit, signal), api.inspections(id, signal)]))
    if (!found || quilt.id !== id) return
    view.value = found[0]
    cards.value = found[1].inspections
  }
  watch(() => quilt.id, forget, { flush: 'sync' })
  watch(() => [open.value, quilt.id, quilt.view?.version, quilt.unit], () => void look())

  /** What is shown belongs to one quilt: nothing of it stays when another is opened. */
  function forget() {
    drop()
    view.value = undefined
    cards.value = []
    place.value = ''
    held.value = []
    closePicture()
  }

  const row = computed(() => view.value?.places.find((one) => one.place === place.value))
  const block = computed(() => view.value?.blocks.find((one) => one.place === place.value))
  const about = computed(() => `place:${place.value}`)
  const remarks = (of: string) => (view.value?.remarks ?? []).filter((one) => one.about === of)
  const verdict = computed(() => remarks(about.value).find((one) => one.kind === 'verdict'))
  const pictures = computed(() => cards.value.filter((one) => one.place === place.value))

  function choose(wanted: string) {
    place.value = place.value === wanted ? '' : wanted
    held.value = []
    closePicture()
  }
  /** An error is shown beside what caused it, and nothing is lost. */
  async function guarded<T>(what: string, call: () => Promise<T>): Promise<T | undefined> {
    const id = quilt.id
    busy.value = what
    wrong.value = undefined
    try {
      const found = await call()
      return quilt.id === id ? found : undefined // of another quilt by now
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      if (quilt.id !== id) return undefined
      wrong.value = { field: error.field || what, message: error.message }
      return undefined
    } finally {
      busy.value = ''
    }
  }
  async function say(of: string, kind: Views['RemarkRequest']['kind'], told: string) {
    const found = await guarded('remark', () => api.remark(quilt.id, { id: newId(), about: of, kind, told, unit: quilt.unit }))
    if (found) view.value = found
    return !!found
  }
  /** Use a fill that worked in another zone: one change, which can be undone. */
  async function copyFill(fill: Record<string, unknown>, zone: string) {
    wrong.value = undefined
    const refused = await quilt.fillZone(zone, fill)
    if (refused) wrong.value = { field: 'copy', message: refused }
    return !refused
  }
  /** Import a log from a file. */
  async function bring(file: Blob) {
    const found = await guarded('bring', () => api.importLog(quilt.id, file, quilt.unit))
    if (found) view.value = found
  }
  /** Store a tape reading of the chosen block. */
  async function tape(zone: string, lines: number, span: string, gap: string) {
    const found = await guarded('tape', () => api.keepTape(quilt.id, { id: newId(), place: place.value, zone, lines, span, gap, unit: quilt.unit }))
    if (found) view.value = found
    return !!found
  }
  async function strike(id: string) {
    const found = await guarded('remark', () => api.strikeRemark(quilt.id, { id, unit: quilt.unit }))
    if (found) view.value = found
  }
  async function addPicture(of: string, file: File) {
    const found = await guarded('remark', () => api.addPhoto(file))
    if (found) await say(of, 'photo', found.id)
  }
  async function addPhoto(file: File) {
    const found = await guarded('photo', () => api.addPhoto(file))
    if (!found) return
    inspection.value = undefined
    taken.value = found
    corners.value = BEGINNING.map(([x, y]) => [x, y])
  }
  function move(index: number, x: number, y: number) {
    const within = (v: number) => Math.round(Math.min(Math.max(v, 0), 1) * 1e5) / 1e5
    corners.value = corners.value.map((corner, k) => (k === index ? [within(x), within(y)] : corner))
  }
  async function measure(byCards: boolean) {
    const photo = taken.value
    if (!photo) return
    const body = { photo: photo.id, place: place.value, corners: byCards ? null : (corners.value as never), all_lines: false, unit: quilt.unit }
    const found = await guarded('measure', () => api.inspect(quilt.id, body))
    if (!found) return
    taken.value = undefined
    inspection.value = found
    void look()
  }
  async function show(id: string) {
    taken.value = undefined
    inspection.value = await guarded('measure', () => api.inspection(quilt.id, id, quilt.unit))
  }
  async function changeSide(side: string, change: { nudged?: number | null; back?: boolean }) {
    const id = inspection.value?.id
    if (!id) return
    const found = await guarded('side', () => api.changeSide(quilt.id, id, { side, nudged: change.nudged ?? null, back: !!change.back, unit: quilt.unit }))
    if (found) inspection.value = found
  }
  async function strikePicture(id: string) {
    const found = await guarded('measure', () => api.strikeInspection(quilt.id, id))
    if (!found) return
    cards.value = found.inspections
    closePicture()
    void look()
  }
  function closePicture() {
    taken.value = undefined
    inspection.value = undefined
    wrong.value = undefined
  }
  function close() {
    drop()
    open.value = false
    closePicture()
  }
  return {
    view, cards, place, open, held, taken, corners, inspection, busy, wrong, trouble, row, block, about, verdict, pictures,
    look, remarks, choose, say, copyFill, bring, tape, strike, addPicture, addPhoto, move, measure, show, changeSide, strikePicture, closePicture, close,
  }
})
