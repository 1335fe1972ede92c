/** The sewing of one quilt: the next steps, what was done, and undoing it; it continues while the server is unreachable. */
import { computed, ref, shallowRef } from 'vue'
import { api, Problem, type Unit, type Views } from '../api/client'
import { event, type Step, type Told } from '../sewing/machine'
import { inOrder } from './unsent'

const NEARLY_DONE = 12
const LOOK_MS = 3000
const FOLLOW_MS = 400
const LOOK_AGAIN_MS = 4000

interface Cached {
  view: Views['SewingView']
  /** how many of its steps are done */
  index: number
  /** events since then, the newest last; with `step` if it was one of its steps */
  since: { id: string; step: boolean }[]
}

/** `unit` is a function, as the unit may change while sewing. */
export function useSewing(quilt: string, unit: () => Unit) {
  const cacheKey = `kenzet.sewing.2.${quilt}`
  const view = shallowRef<Views['SewingView']>()
  const index = ref(0)
  const since = ref<Cached['since']>([])
  const trouble = ref('')
  const busy = ref(false)
  /** the last request was not answered */
  const away = ref(false)
  /** a connected machine */
  const machine = shallowRef<Views['MachineHeard']>()
  let known = 0
  let looked = 0
  /** the newest event from elsewhere that needed no new request */
  let newest = ''
  let stopped = false
  let asked = 0
  let timer: ReturnType<typeof setTimeout> | undefined

  const queue = inOrder<Told>(
    `sewing.${quilt}`,
    async (events) => {
      const taken = await api.sendEvents(quilt, { events })
      known += events.length - taken.refused.length
      if (taken.refused.length) trouble.value = taken.refused[0]!.why
      if (taken.refused.length || taken.count > known) void look()
    },
    (problem) => {
      trouble.value = problem.message
      void look()
    },
  )
  const steps = computed<Step[]>(() => view.value?.here?.steps.slice(index.value) ?? [])
  const step = computed(() => steps.value[0])
  /** there is more left here than is known in advance */
  const moreToCome = computed(() => (view.value?.here?.coming.length ?? 0) > 0)

  function cache() {
    if (view.value) localStorage.setItem(cacheKey, JSON.stringify({ view: view.value, index: index.value, since: since.value } satisfies Cached))
  }
  /** Request everything again, for another place if one is given; waiting events are sent first. */
  async function look(place = '', visit?: number): Promise<void> {
    const mine = (asked += 1)
    busy.value = true
    try {
      for (let tries = 0; tries < 5; tries += 1) {
        await queue.flush()
        if (queue.kept() !== undefined) return
        const found = await api.sewing(quilt, { unit: unit(), place, visit: visit ?? null })
        away.value = false
        if (mine !== asked || stopped) return
        if (queue.kept() !== undefined) continue // something was done meanwhile
        view.value = found
        known = found.count
        newest = ''
        looked = Date.now()
        index.value = 0
        since.value = []
        cache()
        return
      }
    } catch (error) {
      if (error instanceof Problem && !error.status) away.value = true
      if (error instanceof Problem && mine === asked) trouble.value = error.status ? error.message : ''
      if (error instanceof Problem && !view.value) trouble.value = error.message
    } finally {
      if (mine === asked) busy.value = false
    }
  }
  function put(one: Told, isStep: boolean) {
    trouble.value = ''
    since.value = [...since.value, { id: one.id, step: isStep }]
    queue.put(one)
    cache()
  }
  /** The present step is done: the next one is shown at once. */
  function on(one: Told) {
    index.value += 1
    put(one, true)
    if (steps.value.length === 0 || (steps.value.length < NEARLY_DONE && moreToCome.value)) void look()
  }
  /** An event that changes what is next. */
  async function tell(one: Told) {
    put(one, false)
    await look()
  }
  /** Undo the newest event. */
  async function back() {
    const mine = since.value[since.value.length - 1]
    const id = mine?.id ?? (newest || view.value?.last[0])
    if (!id) return
    trouble.value = ''
    queue.put(event('undone', { target: id }))
    if (mine?.step) {
      since.value = since.value.slice(0, -1)
      index.value -= 1
      cache()
      return
    }
    since.value = since.value.slice(0, -1)
    await look()
  }
  /** Another device or a machine may have reported something: if it is within the known steps, follow it. */
  async function watchOthers() {
    if (stopped) return
    try {
      if (document.visibilityState === 'visible' && queue.kept() === undefined && view.value && !busy.value) {
        const mine = known
        const found = await api.follow(quilt)
        away.value = false
        if (stopped) return
        machine.value = found.machine ?? undefined
        if (queue.kept() === undefined && known === mine && found.count !== known) {
          const at = machine.value && machine.value.place === view.value.here?.place && machine.value.line ? view.value.here.steps.findIndex((one, k) => k >= index.value && one.number === machine.value!.line) : -1
          if (at < 0 || view.value.here!.steps.length - at < NEARLY_DONE || Date.now() - looked > LOOK_AGAIN_MS) await look()
          else {
            index.value = at
            newest = found.last
            known = found.count
          }
        }
      }
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      if (!error.status) away.value = true
    }
    timer = setTimeout(() => void watchOthers(), machine.value ? FOLLOW_MS : LOOK_MS)
  }
  async function open(place = '') {
    const said = localStorage.getItem(cacheKey)
    if (said !== null) {
      const cached = JSON.parse(said) as Cached
      view.value = cached.view
      index.value = cached.index
      since.value = cached.since
      known = cached.view.count
    }
    await look(place)
    timer = setTimeout(() => void watchOthers(), LOOK_MS)
  }
  function stop() {
    stopped = true
    clearTimeout(timer)
    queue.stop()
  }
  const canGoBack = computed(() => since.value.length > 0 || (view.value?.last.length ?? 0) > 0)
  return { view, index, machine, steps, step, moreToCome, trouble, busy, lost: computed(() => queue.waiting.value || away.value), canGoBack, open, look, on, tell, back, stop }
}
