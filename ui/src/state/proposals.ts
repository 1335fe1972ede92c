/** Proposed plans: requested one after another, each shown as soon as it is found; its figures follow. */
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'
import { tr } from '../texts'

export type Aim = Views['ProposalRequest']['aim']
export type Move = NonNullable<Views['ProposalRequest']['move']>
export type Skill = NonNullable<Views['ProposalRequest']['skills']>[number]
export interface Card {
  view: Views['ProposalView']
  /** time, thread cuts and marks, once its route is found */
  figures?: Views['Row'][]
  /** the move by which it was made from another one, as shown on the card */
  from: string
}
const AIMS: Aim[] = ['quick', 'texture', 'straight', 'soft']
const SAYS: Record<Move, string> = { another: tr('another like it'), quicker: 'quicker', softer: 'softer', contrast: tr('more contrast') }

export const useProposals = defineStore('proposals', () => {
  const quilt = useQuilt()
  const open = ref(false)
  const cards = shallowRef<Card[]>([])
  const looking = ref('')
  const trouble = ref('')
  /** the field of the error */
  const field = ref('')
  const scope = ref<'open' | 'all' | 'some'>('open')
  /** the zones that get a fill, if they are picked */
  const picked = ref<string[]>([])
  const zones = computed(() => quilt.zones.filter((zone) => !zone.on_top))
  const hours = ref('')
  const kinds = useLocalStorage('kenzet-kinds', 3)
  const skills = useLocalStorage<Skill[]>('kenzet-skills', ['straight', 'curves'])
  const some = computed(() => quilt.zones.some((zone) => !zone.drawings.length))
  let asking: AbortController | undefined

  const wish = () => ({
    scope: scope.value, zones: scope.value === 'some' ? picked.value : [], kinds: kinds.value, skills: skills.value, unit: quilt.unit,
    hours: hours.value.trim() ? Number(hours.value) : null, shown: cards.value.map((card) => card.view.key),
  })

  function say(message: string, at = '') {
    trouble.value = message
    field.value = at
  }
  /** An invalid value, shown at its field before anything is requested. */
  function typedWrong(): boolean {
    const [number, many] = [Number(hours.value), Number(kinds.value)]
    if (hours.value.trim() && !(number > 0 && number <= 1000)) say(tr('Hours: enter a number over 0 and up to 1,000, like 8 or 7.5. Leave it empty for any.'), 'hours')
    else if (scope.value === 'some' && !picked.value.length) say(tr('Choose at least one zone that is to get a fill.'), 'zones')
    else if (!Number.isInteger(many) || many < 1 || many > 12) say(tr('Kinds of fill: enter a whole number from 1 to 12.'), 'kinds')
    else return false
    return true
  }

  /** Request one more plan; false if there is none, with the reason. */
  async function one(body: Partial<Views['ProposalRequest']>, from: string, signal: AbortSignal): Promise<boolean> {
    try {
      const view = await api.propose(quilt.id, { ...wish(), ...body }, signal)
      if (signal.aborted) return false
      if (!cards.value.some((card) => card.view.key === view.key)) cards.value = [...cards.value, { view, from }]
      return true
    } catch (error) {
      if (signal.aborted || !(error instanceof Problem)) return false
      say(error.message, error.field)
      return false
    }
  }
  /** Routes take longer than plans: they are requested when all plans are there, one after another. */
  async function figures(signal: AbortSignal) {
    for (const { view, figures: known } of cards.value) {
      if (known || signal.aborted) continue
      try {
        const { rows } = await api.proposalFigures(quilt.id, view.key)
        cards.value = cards.value.map((card) => (card.view.key === view.key ? { ...card, figures: rows } : card))
      } catch (error) {
        if (!(error instanceof Problem)) throw error // about an earlier plan: its card disappears at the next request
      }
    }
  }

  /** Request a plan for each aim, one after another. */
  async function all() {
    stop()
    if (typedWrong()) return
    const mine = (asking = new AbortController())
    cards.value = []
    say('')
    await quilt.flush()
    for (const [k, aim] of AIMS.entries()) {
      looking.value = tr('Looking for plan {k} of {aims} …', { k: k + 1, aims: AIMS.length })
      if (!(await one({ aim }, '', mine.signal)) && !cards.value.length) break
      if (mine.signal.aborted) return
    }
    if (mine !== asking) return
    looking.value = ''
    await figures(mine.signal)
  }
  async function next(card: Card, move: Move) {
    stop()
    const mine = (asking = new AbortController())
    say('')
    looking.value = tr('Looking for one that is {says} …', { says: SAYS[move] })
    await one({ aim: card.view.aim, base: card.view.key, move }, tr('{says}, from “{title}”', { says: SAYS[move], title: card.view.title }), mine.signal)
    if (mine !== asking) return
    looking.value = ''
    await figures(mine.signal)
  }
  /** One change, which can be undone. */
  async function take(card: Card) {
    stop()
    try {
      const { fills } = await api.proposalFills(quilt.id, card.view.key)
      open.value = false
      await quilt.set({ kind: 'fills', fills })
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      say(error.message)
    }
  }
  watch(() => quilt.view?.version, () => {
    if (!open.value || !cards.value.length) return
    stop() // undone, or changed in another window: these plans are for the quilt as it was
    cards.value = []
    say(tr('The quilt has changed. Propose again.'))
  })
  function stop() {
    asking?.abort()
    asking = undefined
    looking.value = ''
  }
  function show() {
    open.value = true
    scope.value = some.value ? 'open' : 'all'
    picked.value = zones.value.filter((zone) => !zone.drawings.length).map((zone) => zone.key)
    cards.value = []
    say('')
  }
  function close() {
    stop()
    open.value = false
  }
  return { open, cards, looking, trouble, field, scope, hours, kinds, skills, some, zones, picked, all, next, take, stop, show, close }
})
