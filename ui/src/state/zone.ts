/** The chosen zone and what is tried on it: reckoned at every key, kept when it holds. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'

type Fill = Record<string, unknown>

export const useZone = defineStore('zone', () => {
  const quilt = useQuilt()
  const key = ref('')
  const placing = ref(0)
  /** The last good plan; it stays drawn while something wrong is typed. */
  const plan = shallowRef<Views['ZoneView']>()
  const wrong = ref<{ field: string; message: string }>()
  const line = ref<{ number: number; side: number }>()
  const ruler = shallowRef<Views['RulerView']>()
  const busy = ref(false)

  let steps: { field: string; by: number } | undefined
  let typed: Fill | undefined
  let asking: AbortController | undefined
  let laying: AbortController | undefined

  const info = computed(() => quilt.zones.find((zone) => zone.key === key.value))
  const lines = computed(() => {
    const drawing = plan.value?.drawings.find((d) => d.placings.includes(placing.value))
    return drawing ? drawing.lines.length + drawing.rings.length : 0
  })

  async function choose(zone: string, at = 0) {
    if (zone !== key.value) {
      await quilt.flush()
      plan.value = undefined
    }
    key.value = zone
    placing.value = at
    forget()
    if (zone) await ask({})
  }

  function forget() {
    line.value = undefined
    ruler.value = undefined
    wrong.value = undefined
    steps = undefined
    typed = undefined
  }

  const base = (): Fill => typed ?? plan.value?.fill ?? {}

  /** Try a value; empty text means left out. */
  function set(field: string, value: unknown) {
    typed = { ...base(), [field]: value === '' ? (field === 'spacing' ? '' : null) : value }
    steps = undefined
    return ask({ fill: typed }, field)
  }

  function setAll(values: Fill) {
    typed = { ...base(), ...values }
    steps = undefined
    return ask({ fill: typed }, Object.keys(values).join())
  }

  /** Step a parameter; presses that come faster than the answer add up. */
  function step(field: string, by: number) {
    if (!plan.value?.fill) return Promise.resolve()
    if (wrong.value) typed = undefined
    steps = { field, by: (steps?.field === field ? steps.by : 0) + by }
    return ask({ fill: base(), step: steps }, field)
  }

  function change(kind: string) {
    typed = undefined
    steps = undefined
    return ask({ fill: plan.value?.fill ?? undefined, switch: kind }, `kind ${kind}`)
  }

  /** Take the fill away: the zone is left open on purpose. */
  async function leaveOpen() {
    forget()
    quilt.keep(`${key.value} open`, { kind: 'fill', zone: key.value, fill: null })
    await quilt.flush()
    await quilt.take()
  }

  /** Reckon; what holds is kept, one undo step with the tries on the same `subject` just before. */
  async function ask(body: Partial<Views['PlanRequest']>, subject?: string) {
    asking?.abort()
    const mine = (asking = new AbortController())
    const asked = { zone: key.value, placing: placing.value, unit: quilt.unit, ...body } as Views['PlanRequest']
    busy.value = true
    try {
      const found = await api.plan(quilt.id, asked, mine.signal)
      if (mine !== asking) return
      take(found)
      if (subject) quilt.keep(`${key.value} ${subject}`, { kind: 'fill', zone: key.value, fill: found.fill })
    } catch (error) {
      if (mine === asking && error instanceof Problem) {
        steps = undefined
        wrong.value = { field: error.field, message: error.message }
      }
    } finally {
      if (mine === asking) busy.value = false
    }
  }

  function take(found: Views['ZoneView']) {
    plan.value = found
    typed = undefined
    steps = undefined
    wrong.value = undefined
    quilt.tally(found.totals)
    if (info.value) {
      info.value.drawings = found.drawings
      info.value.fill = quilt.view?.fills.find((f) => f.kind === found.fill?.kind)?.label ?? ''
    }
    if (line.value && line.value.number < lines.value) void lay(line.value.number, line.value.side)
    else {
      line.value = undefined
      ruler.value = undefined
    }
  }

  /** Lay the ruler for a line. */
  async function lay(number?: number, side = -1) {
    if (number !== undefined) line.value = { number, side }
    laying?.abort()
    const mine = (laying = new AbortController())
    const body = { zone: key.value, placing: placing.value, unit: quilt.unit, fill: plan.value?.fill ?? undefined, line: number ?? null, side }
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

  /** Reckon again what is kept: after undo, redo, a change of unit or of the kit. */
  async function again() {
    if (!key.value) return
    if (!quilt.zones.some((zone) => zone.key === key.value)) return choose('')
    const held = line.value
    forget()
    line.value = held
    await ask({})
  }

  return { key, placing, plan, wrong, line, ruler, busy, info, lines, choose, set, setAll, step, change, leaveOpen, lay, next, drop, again }
})
