/** The chosen zone and the settings being tried: planned at every key, stored if they are valid. */
import { defineStore } from 'pinia'
import { computed, markRaw, ref, shallowRef } from 'vue'
import { api, Problem, type Change, type Views } from '../api/client'
import { useQuilt } from './quilt'

type Fill = Record<string, unknown>
type Typed = Views['PlanRequest']['fill']

const PAUSE_MS = 400

export const useZone = defineStore('zone', () => {
  const quilt = useQuilt()
  const key = ref('')
  const place = ref('')
  /** 0 the zone's fill, 1 the one sewn on top of it */
  const layer = ref(0)
  /** The last good plan; it stays on the screen while something invalid is typed. */
  const plan = shallowRef<Views['ZoneView']>()
  const wrong = ref<{ field: string; message: string }>()
  const line = ref<{ number: number; side: number }>()
  const ruler = shallowRef<Views['RulerView']>()

  let steps = 0
  let typed: Fill | undefined
  let asking: AbortController | undefined
  let flight: { sort: string; done: Promise<void> } | undefined
  let dispatch: Promise<void> = Promise.resolve()
  let laying: AbortController | undefined

  const info = computed(() => quilt.zones.find((zone) => zone.key === key.value))
  const lines = computed(() => {
    const drawing = plan.value?.drawings.find((d) => d.places.includes(place.value) && d.layer === layer.value)
    return drawing ? drawing.lines.length + drawing.paths.length : 0
  })

  let choosing = 0
  async function choose(zone: string, at = '') {
    const mine = (choosing += 1)
    if (flight?.sort !== 'look') await flight?.done // a try under way in the present zone is stored, not lost
    if (mine !== choosing) return
    if (zone !== key.value) {
      await quilt.flush()
      if (mine !== choosing) return // another zone was chosen meanwhile
      plan.value = undefined
    }
    asking?.abort() // an answer about the zone that was left is no longer needed
    asking = undefined
    if (zone !== key.value) layer.value = 0
    key.value = zone
    place.value = at
    forget()
    if (zone) await ask('look', {})
  }

  function forget() {
    line.value = undefined
    ruler.value = undefined
    wrong.value = undefined
    typed = undefined
  }

  const base = (): Fill => typed ?? plan.value?.fill ?? {}

  /** One try at a time: one of another kind waits for the answer, one of the same kind replaces it. */
  async function turn(sort: string, begin: () => Promise<void>) {
    let done: Promise<void> | undefined
    const mine = (dispatch = dispatch.then(async () => {
      while (flight && flight.sort !== sort) await flight.done
      done = begin()
    }))
    await mine
    await done
  }

  /** Try values; an empty text is the default. */
  const setAll = (values: Fill) =>
    turn('set', () => {
      typed = { ...base(), ...values }
      return ask('set', { fill: typed as Typed }, Object.keys(values).join())
    })
  /** A step along the edge, as typed: the spacing follows from it. */
  const setStep = (text: string) => turn('along edge', () => ask('along edge', { fill: base() as Typed, along_edge: text }, 'along edge'))
  /** Try another fill as a whole: from the gallery, a kept variant, a recipe. */
  const setWhole = (fill: Fill) =>
    turn('whole', () => {
      typed = undefined
      return ask('whole', { fill: fill as Typed }, 'whole')
    })
  const set = (field: string, value: unknown) => setAll({ [field]: value === '' && field !== 'spacing' ? null : value })

  /** Step a parameter; presses faster than the answers add up. */
  function step(field: string, by: number) {
    const sort = `step ${field}`
    return turn(sort, async () => {
      if (!plan.value?.fill) return
      typed = undefined
      steps = (flight?.sort === sort ? steps : 0) + by
      await ask(sort, { fill: plan.value.fill, step: { field, by: steps } }, field)
    })
  }

  const change = (kind: string) =>
    turn(`kind ${kind}`, () => {
      typed = undefined
      return ask(`kind ${kind}`, { fill: plan.value?.fill ?? undefined, switch: kind }, `kind ${kind}`)
    })

  /** Give the present place its own fill, or the common one again. */
  const setApart = (apart: boolean) => quilt.set({ kind: apart ? 'apart' : 'join', zone: key.value, places: [place.value] })

  /** Use a chosen ruler, or the other foot, for the zone; undefined for the best choice. */
  const sewInOrder = (more: Partial<Pick<Views['SetSewingOrder'], 'begin_other' | 'second_first'>>) =>
    quilt.set({ kind: 'sewing order', zone: key.value, begin_other: plan.value?.begin_other ?? false, second_first: plan.value?.second_first ?? false, ...more })
  /** Where this zone's lines end at the quilt's edge; omitted values do not change. */
  const endLines = (more: Partial<Pick<Views['SetLineEnds'], 'line_ends' | 'edge'>>) => {
    const [ends, edge] = plan.value?.ends ?? []
    return quilt.set({ kind: 'line ends', zone: key.value, line_ends: (ends?.text || null) as Views['SetLineEnds']['line_ends'], edge: edge?.text ? `${edge.text} ${quilt.unit}` : null, ...more })
  }
  /** The same fill in all zones of this outline, rotated to match. */
  const fillAlike = () => quilt.set({ kind: 'fill alike', zone: key.value, others: plan.value?.alike ?? [] })
  const layWith = (ruler: string | null, sewWith: Views['SetLaying']['sew_with']) => quilt.set({ kind: 'laying', zone: key.value, ruler, sew_with: sewWith })

  /** Remove the fill: the zone is left unquilted on purpose. */
  function leaveOpen() {
    forget()
    return quilt.set({ kind: 'fill', zone: key.value, place: place.value || null, fill: null })
  }

  /** Plan the try; if it is valid it is stored, as one undo step with recent tries on the same `subject`. */
  async function ask(sort: string, body: Partial<Views['PlanRequest']>, subject?: string) {
    asking?.abort()
    asking = new AbortController()
    const mine = { sort, done: answered(asking, body, subject) }
    flight = mine
    await mine.done
    if (flight === mine) flight = undefined
  }

  const looked = () => ({ zone: key.value, place: place.value, unit: quilt.unit, layer: layer.value }) as Views['PlanRequest']

  async function answered(mine: AbortController, body: Partial<Views['PlanRequest']>, subject?: string) {
    const asked = { ...looked(), ...body }
    try {
      const reckoned = api.preview(quilt.id, asked, mine.signal)
      const found = await (subject ? quilt.trying(reckoned) : reckoned)
      if (mine !== asking) return
      take(found)
      if (subject) quilt.keep(`${key.value} ${layer.value} ${subject}`, kept(found), key.value)
      if (found.measuring) void measure(mine, asked, found)
    } catch (error) {
      if (mine === asking && error instanceof Problem) wrong.value = { field: error.field, message: error.message }
    }
  }

  /** With thousands of lines, the widest gap is requested after them, during a pause. */
  async function measure(mine: AbortController, asked: Views['PlanRequest'], found: Views['ZoneView']) {
    await new Promise((done) => setTimeout(done, PAUSE_MS))
    if (mine !== asking || plan.value !== found) return
    const { zone, place, unit, layer } = asked
    const body = { zone, place, unit, layer, fill: found.fill, cells: layer ? found.cells : null, gap: true } as Views['PlanRequest']
    try {
      const measured = await api.preview(quilt.id, body, mine.signal)
      if (mine === asking && plan.value === found) plan.value = { ...measured, drawings: found.drawings }
    } catch {
      return // replaced by a later try, which makes its own request
    }
  }

  function kept(found: Views['ZoneView']): Change {
    if (layer.value) return { kind: 'over', zone: key.value, over: { fill: found.fill!, cells: found.cells as Views['Over']['cells'] } }
    return { kind: 'fill', zone: key.value, place: place.value || null, fill: found.fill }
  }

  /** Show the zone's fill, or the one on top of it. */
  async function turnTo(to: number) {
    if (flight?.sort !== 'look') await flight?.done
    layer.value = to
    forget()
    await ask('look', {})
  }
  /** Where the fill on top is. */
  const setCells = (cells: Views['PlanRequest']['cells']) => turn('cells', () => ask('cells', { fill: plan.value?.fill ?? undefined, cells }, 'cells'))
  function takeOff() {
    layer.value = 0
    forget()
    return quilt.set({ kind: 'over', zone: key.value, over: null })
  }

  function take(found: Views['ZoneView']) {
    plan.value = found
    place.value = found.place
    typed = undefined
    wrong.value = undefined
    quilt.tally(found.totals)
    if (info.value) {
      info.value.drawings = markRaw(found.drawings)
      if (!layer.value) info.value.fill = quilt.view?.fills.find((f) => f.kind === found.fill?.kind)?.label ?? ''
    }
    if (line.value && line.value.number < lines.value) void lay(line.value.number, line.value.side)
    else {
      line.value = undefined
      ruler.value = undefined
    }
  }

  /** Place the ruler for a line. */
  async function lay(number?: number, side = -1) {
    if (number !== undefined) line.value = { number, side }
    laying?.abort()
    const mine = (laying = new AbortController())
    while (flight) await flight.done // the ruler is placed in the plan that is coming, not in the one before
    if (mine !== laying) return
    const body = { zone: key.value, place: place.value, layer: layer.value, unit: quilt.unit, fill: plan.value?.fill ?? undefined, line: number ?? null, side }
    try {
      const found = await api.ruler(quilt.id, body as Views['RulerRequest'], mine.signal)
      if (mine !== laying) return
      line.value = { number: found.line, side }
      ruler.value = found
    } catch (error) {
      if (error instanceof Problem) ruler.value = undefined
    }
  }

  function next(by: number) {
    if (!lines.value) return
    void lay(line.value ? (line.value.number + by + lines.value) % lines.value : undefined)
  }

  function drop() {
    laying?.abort()
    line.value = undefined
    ruler.value = undefined
  }

  /** Plan the stored state again: after another quilt was loaded, or a change of unit. */
  async function again() {
    if (!key.value) return
    if (!quilt.zones.some((zone) => zone.key === key.value)) return choose('')
    const held = line.value
    forget()
    line.value = held
    await ask('look', {})
  }

  /** the zone was answered while a try was not stored yet: it is requested again with the try */
  let owed = false
  /** A change made elsewhere (of the kit, the batting, the marks, by undo) is answered with the zone after it. */
  function follow(found: Views['ZoneView'] | null) {
    if (!key.value) return
    if (!quilt.zones.some((zone) => zone.key === key.value)) return void choose('')
    if (!found || found.zone !== key.value) return
    owed = !!flight || quilt.waits(key.value)
    if (owed) {
      // something was tried since: that stays, and is answered with the zone when it is stored
      if (plan.value) plan.value = { ...plan.value, pins: found.pins }
      return
    }
    const held = line.value
    forget()
    line.value = held
    take(found)
    if (found.measuring) void measure((asking = new AbortController()), looked(), found)
  }
  quilt.shows({ ask: (knows) => (key.value && (owed || !knows.includes(key.value)) ? { zone: looked() } : undefined), take: ({ zone }) => follow(zone) })

  return { key, place, layer, turnTo, setCells, takeOff, plan, wrong, line, ruler, info, lines, choose, set, setAll, setStep, setWhole, step, change, leaveOpen, setApart, layWith, sewInOrder, endLines, fillAlike, lay, next, drop, again }
})
