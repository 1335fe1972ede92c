<script setup lang="ts">
/** Stitch: the order in which the quilt is sewn, and a preview of the needle on its route. */
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { api, Problem, type Views, type Words } from '../../api/client'
import CanvasKey from '../../canvas/CanvasKey.vue'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import { useCanvasKeys } from '../../canvas/keys'
import type { Spot } from '../../canvas/scene'
import FieldControl from '../../parts/FieldControl.vue'
import FigureRows from '../../parts/FigureRows.vue'
import FoldCard from '../../parts/FoldCard.vue'
import KnownList from '../../parts/KnownList.vue'
import StationPage from '../../parts/StationPage.vue'
import { summary } from '../../parts/summary'
import { useAsk } from '../../state/ask'
import { useExports } from '../../state/exports'
import { useQuilt } from '../../state/quilt'
import LongerCard from './LongerCard.vue'
import PaceCard from './PaceCard.vue'
import RehearseCard from './RehearseCard.vue'
import RouteOverlay from './RouteOverlay.vue'
import RouteSettings from './RouteSettings.vue'
import type { Needle } from '../../sewing/walk'
import { counted, tr } from '../../texts'

type Stitching = Views['RouteView']['doc']

const exports = useExports()
const quilt = useQuilt()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()
const route = shallowRef<Views['RouteView']>()
const trouble = ref('')
const fault = ref<{ name: string; message: string }>()
/** what is shown: a number of the order, 0 for the whole quilt */
const number = ref(0)
const place = computed(() => route.value?.visits[number.value - 1]?.place ?? '')
/** a hand-made order while it is dragged over the quilt */
const drawn = ref<string[]>()
const needle = shallowRef<Needle>()
const into = ref(0)
/** the place to show after the order has changed, or is first known */
let follows = ''
const { ask, drop, fault: refused, pending: busy } = useAsk()
const wanted = (quick: boolean) => ({ unit: quilt.unit, number: number.value, quick })
/** A quick route at once, and the shorter one when it is found. */
async function look() {
  const found = await ask(async (signal) => {
    await quilt.flush()
    return api.route(quilt.id, wanted(true), signal)
  })
  if (found) put(found)
  else if (refused.value) refuse(refused.value.message, refused.value.status)
  if (found?.quick) await shorten()
}
async function shorten() {
  const found = await ask((signal) => api.route(quilt.id, wanted(false), signal))
  if (found) put(found)
}
function put(found: Views['RouteView']) {
  const before = follows || place.value
  route.value = found
  trouble.value = ''
  const moved = !!before && found.visits[number.value - 1]?.place !== before
  const there = moved ? found.visits.findIndex((visit) => visit.place === before) + 1 : 0
  follows = ''
  if (there) number.value = there
  else if (number.value && !found.here) number.value = 0
}
function refuse(why: string, status: number) {
  if (status) route.value = undefined
  trouble.value = why
}
/** the place sent with a change under way; another may be shown by now */
let sent = 0
onBeforeUnmount(
  quilt.shows({
    ask: () => {
      sent = number.value
      return { route: wanted(true) }
    },
    take: ({ route: found, faults }) => {
      if (sent !== number.value) return void look()
      if (found || faults?.route) drop() // an older answer would overwrite this route
      if (!found) return faults?.route && refuse(faults.route.detail, faults.route.status)
      put(found)
      if (found.quick) void shorten()
    },
  }),
)
const places = computed(() => new Set(route.value?.visits.map((visit) => visit.place)).size)
const LOOKING = tr('Looking for a shorter route …')
const KEPT_WAYS = 40
/** the values of a closed fold in one line */
const BRIEF = ['order', 'ends', 'retrace', 'rest']
const THEMES = [tr('Order'), tr('Threads'), tr('Travelling'), tr('Limits')]
/** Changes some settings, based on those stored at that time; an error is shown at its field. */
async function change(some: (now: Stitching) => Partial<Stitching>, name = '') {
  try {
    await quilt.make(() => ({ kind: 'stitching', stitching: { ...route.value!.doc, ...some(route.value!.doc) } }))
    fault.value = undefined
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    if (name) fault.value = { name, message: error.message }
    else trouble.value = error.message
  }
}
function set(name: string, value: unknown) {
  if (!route.value) return
  if (name.startsWith('pace.')) return void change((now) => ({ pace: { ...now.pace, [name.slice('pace.'.length)]: value } }), name)
  route.value = { ...route.value, fields: route.value.fields.map((field) => (field.name === name ? { ...field, text: String(value) } : field)) }
  void change(() => ({ [name]: value }) as Partial<Stitching>, name)
}
const stepped = (field: Views['FieldView'], by: number) => set(field.name, Number(field.text) + by * (field.name === 'rest' ? 5 : 1))
/** a place sewn in several passes shows one after the other */
function point(spot: Spot) {
  if (!route.value) return void (follows = spot.place)
  const all = route.value.visits
  const at = (where: string) => all.flatMap((visit, k) => (visit.place === where ? [k + 1] : []))
  const some = at(spot.place).length ? at(spot.place) : at('top')
  if (some.length) number.value = some[(some.indexOf(number.value) + 1) % some.length]!
}
function pin(end: 'start' | 'end', corner: string | null) {
  const { part, start, end: last } = route.value!.here!
  void change((now) => ({ pins: { ...now.pins, [part]: { start: start || null, end: last || null, [end]: corner } as Views['PinnedEnds'] } }))
}
function turn(zone: string, when: string) {
  follows = place.value
  void change((now) => {
    const others = Object.fromEntries(Object.entries(now.turns ?? {}).filter(([other]) => other !== zone))
    return { turns: when ? { ...others, [zone]: when as 'first' | 'last' } : others }
  })
}
function avoid(how: 'bulky' | 'never') {
  const { part } = route.value!.here!
  const [x, y] = leg.value!.spot as [number, number]
  void change((now) => ({ avoided: [...now.avoided, { part, x, y, how }] }))
}
const forget = (which: number) => void change((now) => ({ avoided: now.avoided.filter((_, k) => k !== which) }))
/** results of a longer search are added to the saved routes; of many, the oldest are dropped */
const take = (ways: Record<string, number[]>) => void change((now) => ({ ways: Object.fromEntries(Object.entries({ ...now.ways, ...ways }).slice(-KEPT_WAYS)) }))
const forgetWay = (word: string) => void change((now) => ({ ways: Object.fromEntries(Object.entries(now.ways ?? {}).filter(([other]) => other !== word)) }))
const leg = computed(() => (needle.value ? route.value?.here?.legs[needle.value.piece] : undefined))
function over(where: string, first: boolean) {
  if (!drawn.value) return
  if (first && !route.value!.visits.some((visit) => visit.place === where)) return
  if (!drawn.value.includes(where) && route.value!.visits.some((visit) => visit.place === where)) drawn.value = [...drawn.value, where]
}
function keepOrder() {
  const own = drawn.value ?? []
  drawn.value = undefined
  if (own.length) void change(() => ({ order: 'my own', own }))
}
function at(where: Needle, mm: number) {
  needle.value = where
  into.value = mm
}
/** the next place in the order */
function on(by: number) {
  number.value = Math.min(Math.max(number.value + by, 1), route.value?.visits.length ?? 0)
}
/** the settings, by theme, in the order in which the themes come */
const themes = computed(() => [...new Set(route.value?.fields.map((field) => field.theme))].map((theme) => ({ theme, fields: route.value!.fields.filter((field) => field.theme === theme) })).sort((one, other) => THEMES.indexOf(one.theme) - THEMES.indexOf(other.theme)))
const MAIN = [tr('Sewing time, about'), tr('Travelling'), tr('Thread cuts on the way'), tr('Thread to buy (incl. 10 % spare)')]
const main = computed(() => route.value?.rows.filter((row) => MAIN.includes(String(row.label[0]))) ?? [])
const changed = computed((): Words => {
  const here = route.value!.here!
  const ends = [here.start && tr('from {start}', { start: here.start }), here.end && tr('to {end}', { end: here.end })].filter(Boolean).join(' ')
  const avoided = here.avoided.length ? tr('{avoided} avoided', { avoided: here.avoided.length }) : ''
  return [[ends, avoided].filter(Boolean).join(' · ') || tr('begins and ends anywhere')]
})
const keys = computed(() => (route.value?.here ? ['done', ...(route.value.here.legs.some((one) => one.sews && !one.freehand) ? ['coming'] : []), ...(route.value.here.legs.some((one) => one.freehand) ? ['freehand'] : []), 'travel', 'thread', ...(leg.value?.ruler.length ? ['ruler'] : []), ...(leg.value?.hands.length ? ['hand'] : [])] : ['travel', ...(route.value?.visits.some((visit) => visit.stop) ? ['new thread'] : [])]) as InstanceType<typeof CanvasKey>['$props']['shows'])
watch(() => [quilt.read, quilt.unit, number.value], () => void look(), { immediate: true })
watch(number, () => (needle.value = undefined))
useCanvasKeys(canvas)
</script>

<template>
  <StationPage v-if="quilt.view">
    <QuiltCanvas ref="canvas" :quilt="quilt.view" :unit="quilt.unit" open :pointing="!drawn" :painting="!!drawn" :held="drawn" :seen="place" :faint="!!route?.here" @point="point" @over="over">
      <template #whole="{ view }"><RouteOverlay v-if="route" :route="route" :drawn="drawn" :view="view" :needle="needle" :into="into" /></template>
      <template #key><CanvasKey :shows="keys" /></template>
    </QuiltCanvas>
    <template #panel>
      <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
      <p v-if="busy && !route" class="quiet" role="status">{{ tr('Finding a sewing order …') }}</p>
      <template v-if="route?.here">
        <header>
          <div class="top"><h2>{{ route.here.name }}</h2><v-btn class="plain" data-testid="whole" @click="number = 0">{{ tr('Whole quilt') }}</v-btn></div>
          <p class="quiet">{{ route.here.occurs }}<span v-if="busy" role="status"> · {{ LOOKING }}</span></p>
        </header>
        <p class="card leaf" data-testid="sentence">{{ route.here.sentence }}</p>
        <router-link class="go" :to="{ name: 'machine', params: { quilt: quilt.id }, query: { place: route.here.place } }" data-testid="to-machine">{{ tr('Sew here') }}<small>{{ tr('at the machine') }}</small></router-link>
        <RehearseCard :here="route.here" @at="at" />
        <FigureRows :rows="route.here.rows.slice(0, 4)" />
        <div class="chips">
          <v-btn class="chip" :disabled="route.here.number === 1" data-testid="before" @click="on(-1)">{{ tr('‹ Previous block') }}</v-btn>
          <v-btn class="chip" :disabled="route.here.number === route.visits.length" data-testid="after" @click="on(1)">{{ tr('Next block ›') }}</v-btn>
        </div>
        <p class="card weld">{{ tr('Stop with the needle down before you move the ruler or a hand. Take pins out first. Follow your machine’s manual.') }}</p>
        <LongerCard :number="route.here.number" :kept="route.here.kept" @ways="take" @forget="forgetWay" />
        <div class="settings">
          <FoldCard name="Change this route" :title="tr('Change this route')" :says="changed"><RouteSettings :here="route.here" :leg="leg" @pin="pin" @avoid="avoid" @forget="forget" @turn="turn" /></FoldCard>
          <FoldCard name="More figures" :title="tr('More figures')" :says="[tr('turns, needle, thread')]"><FigureRows :rows="route.here.rows.slice(4)" /></FoldCard>
          <FoldCard name="Save" :title="tr('Save')" :says="[tr('the route as a drawing')]"><a class="chip" :href="exports.href('route-svg', { quilt: quilt.id }, { number: route.here.number, unit: quilt.unit })" data-testid="route-svg">{{ exports.label('route-svg') }}</a></FoldCard>
        </div>
      </template>
      <template v-else-if="route && drawn">
        <header><h2>{{ tr('Your own order') }}</h2><p class="quiet">{{ tr('Drag across the blocks in your sewing order. Blocks that you leave out follow, from the center outward.') }}</p></header>
        <p class="card tip" data-testid="dragged">{{ tr('{drawn} of {visits} places', { drawn: drawn.length, visits: route.visits.length }) }}</p>
        <div class="chips">
          <v-btn class="chip offer" :disabled="!drawn.length" data-testid="own-keep" @click="keepOrder">{{ tr('Use this order') }}</v-btn>
          <v-btn class="chip" @click="drawn = []">{{ tr('Start over') }}</v-btn>
          <v-btn class="chip" @click="drawn = undefined">{{ tr('Cancel') }}</v-btn>
        </div>
      </template>
      <template v-else-if="route">
        <header><h2>{{ tr('The order') }}</h2><p class="quiet">{{ places < route.visits.length ? counted(places, 'One place to sew, {visits} passes in total.', '{count} places to sew, {visits} passes in total.', { visits: route.visits.length }) : counted(places, 'One place to sew.', '{count} places to sew.') }} <span v-if="busy" role="status">{{ LOOKING }}</span><template v-else>{{ tr('Click a block to see its route.') }}</template></p></header>
        <router-link class="go" :to="{ name: 'machine', params: { quilt: quilt.id } }" data-testid="to-machine">{{ tr('At the machine') }}<small>{{ tr('line by line, in large type') }}</small></router-link>
        <FigureRows :rows="main" />
        <KnownList :known="route.notes" />
        <LongerCard :number="0" @ways="take" />
        <div class="settings">
          <FoldCard v-for="one in themes" :key="one.theme" :name="one.theme" :title="tr(one.theme)" :says="summary(one.fields.filter((field) => BRIEF.includes(field.name)))">
            <FieldControl v-for="field in one.fields" :key="field.name" :field="field" :unit="quilt.unit" :picked="{}" :error="fault?.name === field.name ? fault.message : undefined" @set="field.name === 'order' && $event === 'my own' ? (drawn = []) : set(field.name, $event)" @step="stepped(field, $event)" />
          </FoldCard>
          <FoldCard name="Your speed" :title="tr('Your speed')" :says="[tr('how much you sew in a minute')]"><PaceCard :fields="route.paces" :unit="quilt.unit" :fault="fault" @set="set" /></FoldCard>
          <FoldCard name="More figures" :title="tr('More figures')" :says="[tr('thread, bobbins, turns')]"><FigureRows :rows="route.rows.filter((row) => !main.includes(row))" /></FoldCard>
        </div>
      </template>
    </template>
  </StationPage>
</template>

<style scoped>
.go { min-height: 56px; border-radius: 12px; background: var(--madder-fill); color: #fff; text-decoration: none; font-size: 19px; font-weight: 700; display: flex; align-items: center; justify-content: center; gap: 12px; }
.go small { font-size: 14px; font-weight: 400; }
a.chip { text-decoration: none; color: var(--indigo); justify-self: start; }
.settings { display: flex; flex-direction: column; gap: 12px; }
.top { display: flex; justify-content: space-between; align-items: baseline; gap: 10px; }
</style>
