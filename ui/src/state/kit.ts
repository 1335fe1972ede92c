/** The quilter's tools and supplies, and what the open quilt copies from them. */
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
  const groups = shallowRef<Views['ThingGroupView'][]>([])
  const view = shallowRef<Views['KitView']>()
  const key = ref('')
  /** The chosen item as typed; the last valid one stays while something invalid is typed. */
  const thing = shallowRef<Views['ThingView']>()
  const wrong = ref<{ field: string; message: string }>()
  /** Why the quilt could not be updated to the present tools and supplies. */
  const refused = ref('')

  const behind = computed(() => !!view.value && (view.value.changed.length > 0 || view.value.new.length > 0 || view.value.away.length > 0))

  const looking = useAsk()
  async function look() {
    if (!quilt.view) return
    const found = await looking.ask((signal) => Promise.all([api.things(quilt.unit), api.kit(quilt.id, quilt.unit, signal)]))
    if (looking.fault.value) quilt.trouble = looking.fault.value.message
    if (!found) return
    groups.value = found[0].groups
    view.value = found[1]
    if (!typed) choose(key.value)
  }
  quilt.shows({
    ask: () => (view.value ? { kit: true } : undefined),
    take: ({ kit }) => {
      if (kit) view.value = kit
      if (kit && looking.pending.value) void look() // an older answer would overwrite it
    },
  })

  function choose(wanted: string) {
    const found = groups.value.flatMap((group) => group.things).find((one) => one.key === wanted)
    key.value = found?.key ?? ''
    thing.value = found
    typed = undefined
    wrong.value = undefined
  }

  let typed: Thing | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let keeping: AbortController | undefined
  let owed: (() => Promise<void>) | undefined
  /** Typed values of the chosen item: checked and stored after a pause. */
  function set(field: string, value: unknown) {
    if (!thing.value) return
    typed = { ...(typed ?? thing.value.thing), [field]: value }
    const [mine, sent] = [key.value, typed]
    clearTimeout(timer)
    owed = () => keep(mine, sent)
    timer = setTimeout(() => void settle(), PAUSE_MS)
  }
  /** Store at once what waits for a pause. */
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
  /** An item was stored: it is in the list, and the open quilt uses it; values typed since then stay. */
  async function kept(found: Views['ThingView'], sent?: Thing) {
    groups.value = groups.value.map((group) => ({ ...group, things: group.things.map((one) => (one.key === found.key ? found : one)) }))
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
    groups.value = groups.value.map((group) => (group.kinds.some((one) => one.kind === kind) ? { ...group, things: [...group.things, found] } : group))
    choose(found.key)
    await takeOver()
  }
  async function remove(gone: string) {
    owed = undefined
    clearTimeout(timer)
    groups.value = (await api.deleteThing(gone, quilt.unit)).groups
    choose('')
    await takeOver()
  }
  async function bring(file: Blob): Promise<string> {
    try {
      groups.value = (await api.importThings(file, quilt.unit)).groups
      await takeOver()
      return ''
    } catch (error) {
      return error instanceof Problem ? error.message : tr('That file could not be read.')
    }
  }
  /** r from a test strip; an error is shown at its field. */
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

  /** Change the quilt's kit: other items, other numbers, or an update of everything. */
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

  return { groups, view, key, thing, wrong, refused, behind, look, choose, set, settle, add, remove, bring, strip, change, takeOver }
})
