/** The open quilt as it is kept: loading, changes one after another, undo and redo, the unit.
 *
 * A change is sent with what is open on the screen, and the answer holds what it touched: nothing else is read again.
 */
import { defineStore } from 'pinia'
import { computed, markRaw, ref } from 'vue'
import { storedQuilt } from '../away/stored'
import { useExports } from './exports'
import { api, Problem, type Change, type Made, type Unit, type Views } from '../api/client'
import { tr } from '../texts'

type Wanted = Partial<Views['ViewsWanted']>

/** A view on the screen that depends on the stored quilt: what it requests with each change, and how it uses the answer. */
export interface OpenView {
  /** `knows` has the zones whose change it made itself and shows already */
  ask: (knows: string[]) => Wanted | undefined
  take: (views: Views['Views']) => void
}

interface Pending {
  subject: string
  key: string
  joins: boolean
  change: Change
  knows: string
  /** it may have been made already, although its answer was lost: its key stands for this content and no other */
  sent: boolean
}

const JOIN_MS = 1500
const SETTLE_MS = 350
const RETRY_MS = 2000
const FAULT = tr('Something went wrong in Kenzet. Please try again.')

export const useQuilt = defineStore('quilt', () => {
  const id = ref('')
  const view = ref<Views['QuiltView']>()
  const unit = ref<Unit>('in')
  const trouble = ref('')
  /** this is the quilt as last seen: Kenzet does not answer */
  const away = ref(false)
  const kept = ref<'saved' | 'saving' | 'waiting'>('saved')
  /** tries that are being planned, and will be stored if they are valid */
  const tries = ref(0)
  /** changes and undo steps that are sent or waiting */
  const underWay = ref(0)
  const saving = computed(() => (kept.value === 'saved' && (tries.value || underWay.value) ? 'saving' : kept.value))
  const before = ref<Views['Total'][]>()
  const totals = ref<Views['Total'][]>([])
  /** Incremented whenever the stored quilt differs from the screen, so that everything derived from it is requested again. */
  const taken = ref(0)
  /** Zones with a fill that the last change deleted. */
  const gone = ref<string[]>([])
  /** Incremented whenever the whole quilt was loaded without the open views. */
  const read = ref(0)

  const waiting: Pending[] = []
  const openViews = new Set<OpenView>()
  let timer: ReturnType<typeof setTimeout> | undefined
  let tail: Promise<unknown> = Promise.resolve()
  let flushing: Promise<void> | undefined
  let last = { subject: '', at: 0 }

  const zones = computed(() => view.value?.zones ?? [])
  const parts = computed(() => new Map((view.value?.parts ?? []).map((part) => [part.key, part])))

  /** Runs jobs in turn, each based on the version that the one before has made. */
  function inTurn<T>(job: () => Promise<T>): Promise<T> {
    underWay.value += 1
    const mine = tail.then(job).finally(() => (underWay.value -= 1))
    tail = mine.catch(() => undefined)
    return mine
  }

  /** From now on changes are answered with this view too; call the result to end that. */
  function shows(view: OpenView): () => void {
    openViews.add(view)
    return () => void openViews.delete(view)
  }
  const wanted = (knows: string[] = []): Wanted => Object.assign({}, ...[...openViews].map((one) => one.ask(knows))) as Wanted

  /** If the server does not answer, the quilt is read from the browser, provided `fromShelf` allows it. */
  async function open(quilt: string, fromShelf = false) {
    await flush() // what waits belongs to the quilt that is being left
    if (id.value !== quilt) view.value = undefined
    id.value = quilt
    try {
      const home = await api.home()
      unit.value = home.unit
      useExports().list = home.exports
      await take()
      trouble.value = ''
    } catch (error) {
      if (fromShelf && error instanceof Problem && error.status === 0) {
        const found = await storedQuilt(quilt)
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

  /** Load the whole quilt. */
  async function take() {
    put(await api.quilt(id.value, unit.value))
    away.value = false
  }

  function put(found: Views['QuiltView']) {
    for (const zone of found.zones) markRaw(zone.drawings) // thousands of lines, only ever replaced as a whole
    markRaw(found.parts)
    view.value = found
    before.value = undefined
    totals.value = view.value.totals
    taken.value += 1
    read.value += 1
  }

  /** Updates what a change affected; `fresh` if the screen does not show it yet. */
  function touch(found: Views['Touched'], fresh: boolean) {
    const now = view.value
    if (!now) return
    const { version, undo, redo, name, use, size, width, height, ground } = found
    Object.assign(now, { version, undo, redo, name, use, size, width, height, ground })
    if (found.fabrics) now.fabrics = found.fabrics
    if (found.parts) now.parts = markRaw(found.parts)
    if (found.kit) now.kit = found.kit
    if (found.zones.length || found.order) {
      const zones = new Map(now.zones.map((zone) => [zone.key, zone]))
      for (const zone of found.zones) {
        markRaw(zone.drawings)
        zones.set(zone.key, zone)
      }
      now.zones = (found.order ?? [...zones.keys()]).map((key) => zones.get(key)!)
    }
    tally(found.totals)
    gone.value = found.gone
    if (!fresh) return
    before.value = undefined
    taken.value += 1
  }

  /** The tally after a try, with the one before for comparison. */
  function tally(now: Views['Total'][]) {
    if (now.some((total, k) => total.amount !== totals.value[k]?.amount)) before.value = totals.value
    totals.value = now
  }

  /** Plan a try that will be stored if it is valid; until then not everything is saved. */
  async function trying<T>(trial: Promise<T>): Promise<T> {
    tries.value += 1
    try {
      return await trial
    } finally {
      tries.value -= 1
    }
  }

  /** Keep a change soon; one that follows on the same subject within moments is one step with it. The screen shows it already, with
   * the lines of the zone that it `knows`.
   */
  function keep(subject: string, change: Change, knows = '') {
    const now = Date.now()
    const follows = subject === last.subject && now - last.at < JOIN_MS
    last = { subject, at: now }
    const newest = waiting.at(-1)
    if (newest?.subject === subject && !newest.sent) newest.change = change
    else waiting.push({ subject, key: crypto.randomUUID(), joins: follows, change, knows, sent: false })
    kept.value = 'saving'
    clearTimeout(timer)
    timer = setTimeout(() => void flush(), SETTLE_MS)
  }

  /** Whether a try on a zone is not stored yet. */
  const waits = (zone: string) => waiting.some((one) => one.knows === zone)

  /** Send what waits, in order; what could not be sent is sent again with the same keys. */
  function flush(): Promise<void> {
    clearTimeout(timer)
    if (!waiting.length && !flushing) return Promise.resolve()
    return (flushing ??= inTurn(sendAll).finally(() => (flushing = undefined)))
  }

  async function sendAll() {
    while (waiting.length && view.value) {
      const sent = waiting.splice(0)
      for (const one of sent) one.sent = true
      const knows = [...new Set(sent.map((one) => one.knows).filter(Boolean))]
      try {
        const found = await send(sent.map(({ key, joins, change }) => ({ key, joins, change })), knows)
        touch(found, sent.some((one) => !one.knows))
        answerViews(found)
        trouble.value = ''
      } catch (error) {
        return notSaved(error, sent)
      }
    }
    kept.value = 'saved'
  }

  const send = (changes: ({ key: string; joins: boolean } & Made)[], knows: string[]) =>
    api.change(id.value, { version: view.value!.version, unit: unit.value, changes, knows, views: wanted(knows) })

  function answerViews(found: Views['Touched']) {
    for (const one of openViews) one.take(found.views)
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

  /** Make a change at once, after all that were made before it: `change` is put together then, from what those have left. Throws
   * `Problem` where it cannot be made; a refused one harms none that follows.
   */
  function make(change: Change | Made | (() => Change | Made)) {
    void flush()
    return inTurn(async () => {
      if (!view.value) return
      last = { subject: '', at: 0 }
      const one = typeof change === 'function' ? change() : change
      const made: Made = 'kind' in one ? { change: one } : one
      try {
        const found = await send([{ key: crypto.randomUUID(), joins: false, ...made }], [])
        touch(found, true)
        answerViews(found)
        trouble.value = ''
      } catch (error) {
        if (error instanceof Problem && error.status === 409) {
          trouble.value = error.message
          await take()
        }
        throw error
      }
    })
  }

  /** Make a change from a control without an error field: an error is shown above the quilt, and the stored state again. */
  async function set(change: Change | Made | (() => Change | Made)) {
    try {
      await make(change)
    } catch (error) {
      trouble.value = said(error)
      if (error instanceof Problem && error.status && error.status !== 409) await inTurn(take)
    }
  }

  /** Give a zone a fill from elsewhere; returns the reason if it does not fit. */
  async function fillZone(zone: string, fill: Record<string, unknown>) {
    try {
      await make({ kind: 'fill', zone, place: null, fill: fill as never })
      return ''
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      return error.message
    }
  }

  /** In turn, however quickly they are pressed. */
  function walk(way: 'undo' | 'redo') {
    void flush()
    return inTurn(async () => {
      if (!view.value || !view.value[way]) return
      last = { subject: '', at: 0 }
      try {
        const found = await api.walk(id.value, way, { version: view.value.version, unit: unit.value, views: wanted() })
        touch(found, true)
        answerViews(found)
        trouble.value = ''
      } catch (error) {
        trouble.value = said(error)
        if (error instanceof Problem && error.status === 409) await take()
      }
    })
  }

  async function readIn(chosen: Unit) {
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
    return error instanceof Problem ? error.message : FAULT
  }

  return { gone, id, view, unit, trouble, away, saving, before, totals, taken, read, zones, parts, open, take, tally, trying, keep, waits, make, set, fillZone, shows, flush, walk, readIn }
})
