/** Her cupboard, and what the open quilt takes from it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useAsk } from './ask'
import { useQuilt } from './quilt'
import { tr } from '../texts'

type Thing = Record<string, unknown>
const PAUSE_MS = 350

export const useKit = defineStore('kit', () => {
  const quilt = useQuilt()
  const shelves = shallowRef<Views['ShelfView'][]>([])
  const view = shallowRef<Views['KitView']>()
  const key = ref('')
  /** The chosen thing with what is typed into it; the last good one stays while something wrong is typed. */
  const thing = shallowRef<Views['ThingView']>()
  const wrong = ref<{ field: string; message: string }>()
  /** Why the quilt could not take over what the cupboard says. */
  const refused = ref('')

  const behind = computed(() => !!view.value && (view.value.changed.length > 0 || view.value.new.length > 0 || view.value.away.length > 0))

  const looking = useAsk()
  async function look() {
    if (!quilt.view) return
    const found = await looking.ask((signal) => Promise.all([api.things(quilt.unit), api.kit(quilt.id, quilt.unit, signal)]))
    if (looking.fault.value) quilt.trouble = looking.fault.value.message
    if (!found) return
    shelves.value = found[0].shelves
    view.value = found[1]
    if (!typed) choose(key.value)
  }
  quilt.shows({
    ask: () => (view.value ? { kit: true } : undefined),
    take: ({ kit }) => {
      if (kit) view.value = kit
      if (kit && looking.pending.value) void look() // what was asked for before the change would come over it
    },
  })

  function choose(wanted: string) {
    const found = shelves.value.flatMap((shelf) => shelf.things).find((one) => one.key === wanted)
    key.value = found?.key ?? ''
    thing.value = found
    typed = undefined
    wrong.value = undefined
  }

  let typed: Thing | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let keeping: AbortController | undefined
  let owed: (() => Promise<void>) | undefined
  /** What is typed into the chosen thing: checked and kept once she pauses. */
  function set(field: string, value: unknown) {
    if (!thing.value) return
    typed = { ...(typed ?? thing.value.thing), [field]: value }
    const [mine, sent] = [key.value, typed]
    clearTimeout(timer)
    owed = () => keep(mine, sent)
    timer = setTimeout(() => void settle(), PAUSE_MS)
  }
  /** Keep at once what waits for a pause. */
  async function settle() {
    clearTimeout(timer)
    const now = owed
    owed = undefined
    await now?.()
  }
  async function keep(mine: string, sent: Thing) {
    keeping?.abort()
    const signal = (keeping = new AbortController())
    try {
      const found = await quilt.trying(api.keepThing({ key: mine, thing: sent as Views['ThingRequest']['thing'], unit: quilt.unit, keep: true }, signal.signal))
      if (signal === keeping) await kept(found, sent)
    } catch (error) {
      if (signal === keeping && error instanceof Problem) wrong.value = { field: error.field.replace(/^thing\.?/, ''), message: error.message }
    }
  }
  /** A thing was kept: it stands on its shelf, and the open quilt plans with it; what was typed since then stays. */
  async function kept(found: Views['ThingView'], sent?: Thing) {
    shelves.value = shelves.value.map((shelf) => ({ ...shelf, things: shelf.things.map((one) => (one.key === found.key ? found : one)) }))
    if (key.value === found.key && (!typed || typed === sent)) {
      thing.value = found
      typed = undefined
      wrong.value = undefined
    }
    await takeOver()
  }

  async function add(kind: string) {
    await settle()
    const found = await api.keepThing({ thing: { kind } as Views['ThingRequest']['thing'], unit: quilt.unit, keep: true })
    shelves.value = shelves.value.map((shelf) => (shelf.kinds.some((one) => one.kind === kind) ? { ...shelf, things: [...shelf.things, found] } : shelf))
    choose(found.key)
    await takeOver()
  }
  async function remove(gone: string) {
    owed = undefined
    clearTimeout(timer)
    shelves.value = (await api.deleteThing(gone, quilt.unit)).shelves
    choose('')
    await takeOver()
  }
  async function bring(file: Blob): Promise<string> {
    try {
      shelves.value = (await api.importThings(file, quilt.unit)).shelves
      await takeOver()
      return ''
    } catch (error) {
      return error instanceof Problem ? error.message : tr('That file could not be read.')
    }
  }
  /** r from a strip; what is wrong with it, at its field. */
  async function strip(body: Partial<Views['StripRequest']>): Promise<Views['ThingView'] | Problem> {
    try {
      const found = await api.readStrip(key.value, { ...body, unit: quilt.unit })
      if (body.keep) await kept(found)
      return found
    } catch (error) {
      if (error instanceof Problem) return error
      throw error
    }
  }

  /** Change the quilt's kit: other things, other numbers, or all that the cupboard says. */
  async function change(kit: Partial<Views['KitChange']>): Promise<boolean> {
    try {
      await quilt.make({ kit })
      refused.value = ''
      wrong.value = undefined
      return true
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      if (kit.values) wrong.value = { field: error.field.replace(/^kit\.?/, ''), message: error.message }
      else refused.value = error.message
      return false
    }
  }
  const takeOver = () => change({ take_over: true })

  return { shelves, view, key, thing, wrong, refused, behind, look, choose, set, settle, add, remove, bring, strip, change, takeOver }
})
