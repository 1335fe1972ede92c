/** The open quilt as it is kept: loading, saving as she goes, undo and redo, the unit. */
import { defineStore } from 'pinia'
import { computed, markRaw, ref } from 'vue'
import { shelved } from '../away/shelf'
import { api, Problem, type Unit, type Views } from '../api/client'

interface Pending {
  subject: string
  key: string
  joins: boolean
  change: Record<string, unknown>
}

const JOIN_MS = 1500
const SETTLE_MS = 350
const RETRY_MS = 2000

export const useQuilt = defineStore('quilt', () => {
  const id = ref('')
  const view = ref<Views['QuiltView']>()
  const unit = ref<Unit>('in')
  const trouble = ref('')
  /** this is the quilt as it was last seen: Kenzet does not answer */
  const away = ref(false)
  const kept = ref<'saved' | 'saving' | 'waiting'>('saved')
  /** tries that are being reckoned, and will be kept if they hold */
  const tries = ref(0)
  const saving = computed(() => (kept.value === 'saved' && tries.value ? 'saving' : kept.value))
  const before = ref<Views['Total'][]>()
  const totals = ref<Views['Total'][]>([])
  /** Grows whenever the kept quilt was taken anew, so that what hangs on it is reckoned again. */
  const taken = ref(0)

  const waiting: Pending[] = []
  let timer: ReturnType<typeof setTimeout> | undefined
  let flight: Promise<void> | undefined
  let walking: Promise<void> = Promise.resolve()
  let last = { subject: '', at: 0 }

  const zones = computed(() => view.value?.zones ?? [])
  const parts = computed(() => new Map((view.value?.parts ?? []).map((part) => [part.key, part])))

  /** Without an answer the quilt is as it lies on the shelf, where `fromShelf` allows it. */
  async function open(quilt: string, fromShelf = false) {
    await flush() // what waits belongs to the quilt that is left
    if (id.value !== quilt) view.value = undefined
    id.value = quilt
    try {
      unit.value = (await api.home()).unit
      await take()
      trouble.value = ''
    } catch (error) {
      if (fromShelf && error instanceof Problem && error.status === 0) {
        const found = await shelved(quilt)
        if (found && id.value === quilt) {
          unit.value = found.unit
          put(found.view)
          away.value = true
          return
        }
      }
      trouble.value = said(error)
    }
  }

  async function take() {
    put(await api.quilt(id.value, unit.value))
    away.value = false
  }

  function put(found: Views['QuiltView']) {
    for (const zone of found.zones) markRaw(zone.drawings) // thousands of lines, only ever taken anew as a whole
    markRaw(found.parts)
    view.value = found
    before.value = undefined
    totals.value = view.value.totals
    taken.value += 1
  }

  /** The tally after a try; the one before stays beside it. */
  function tally(now: Views['Total'][]) {
    if (now.some((total, k) => total.amount !== totals.value[k]?.amount)) before.value = totals.value
    totals.value = now
  }

  /** Reckon a try that will be kept if it holds: until then not everything is saved. */
  async function trying<T>(reckoned: Promise<T>): Promise<T> {
    tries.value += 1
    try {
      return await reckoned
    } finally {
      tries.value -= 1
    }
  }

  /** Keep a change soon; one that follows on the same subject within moments is one step with it. */
  function keep(subject: string, change: Record<string, unknown>) {
    const now = Date.now()
    const follows = subject === last.subject && now - last.at < JOIN_MS
    last = { subject, at: now }
    const newest = waiting.at(-1)
    if (newest?.subject === subject) newest.change = change
    else waiting.push({ subject, key: crypto.randomUUID(), joins: follows, change })
    kept.value = 'saving'
    clearTimeout(timer)
    timer = setTimeout(() => void flush(), SETTLE_MS)
  }

  /** Send what waits, in order; what could not be sent is tried again under the same keys. */
  async function flush(): Promise<void> {
    clearTimeout(timer)
    if (flight) return flight
    flight = sendAll()
    await flight
    flight = undefined
  }

  async function sendAll() {
    while (waiting.length && view.value) {
      const sent = waiting.splice(0)
      const changes = sent.map(({ key, joins, change }) => ({ key, joins, change }))
      try {
        Object.assign(view.value, await api.change(id.value, { version: view.value.version, unit: unit.value, changes }))
        trouble.value = ''
      } catch (error) {
        return notSaved(error, sent)
      }
    }
    kept.value = 'saved'
  }

  async function notSaved(error: unknown, sent: Pending[]) {
    trouble.value = said(error)
    if (error instanceof Problem && (error.status === 0 || error.status === 503)) {
      waiting.unshift(...sent)
      kept.value = 'waiting'
      timer = setTimeout(() => void flush(), RETRY_MS)
      return
    }
    waiting.length = 0
    kept.value = 'saved'
    await take()
  }

  /** Make a change of the top at once and show what came of it. Throws `Problem` where it cannot be made. */
  async function make(change: Record<string, unknown>) {
    await flush()
    if (!view.value) return
    last = { subject: '', at: 0 }
    kept.value = 'saving'
    try {
      const changes = [{ key: crypto.randomUUID(), joins: false, change }]
      Object.assign(view.value, await api.change(id.value, { version: view.value.version, unit: unit.value, changes }))
      trouble.value = ''
      await take()
    } catch (error) {
      if (error instanceof Problem && error.status === 409) {
        trouble.value = error.message
        await take()
      }
      throw error
    } finally {
      kept.value = 'saved'
    }
  }

  /** One after the other, however quickly they are pressed. */
  function walk(way: 'undo' | 'redo') {
    return (walking = walking.then(() => step(way)))
  }

  async function step(way: 'undo' | 'redo') {
    await flush()
    if (!view.value || !view.value[way]) return
    last = { subject: '', at: 0 }
    try {
      Object.assign(view.value, await api[way](id.value, view.value.version))
      trouble.value = ''
      await take()
    } catch (error) {
      trouble.value = said(error)
      if (error instanceof Problem && error.status === 409) await take()
    }
  }

  async function read(chosen: Unit) {
    await flush()
    unit.value = chosen
    try {
      await api.setUnit(chosen)
      await take()
    } catch (error) {
      trouble.value = said(error)
    }
  }

  function said(error: unknown) {
    return error instanceof Problem ? error.message : 'Something went wrong here; please try again.'
  }

  return { id, view, unit, trouble, away, saving, before, totals, taken, zones, parts, open, take, tally, trying, keep, make, flush, walk, read }
})
