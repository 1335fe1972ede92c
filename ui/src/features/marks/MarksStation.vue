<script setup lang="ts">
/** Marks: what to mark for a zone, ticks to measure, and sheets at true size. */
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { api, type Views } from '../../api/client'
import { NOTHING_MARKED } from '../../canvas/marked'
import CanvasKey from '../../canvas/CanvasKey.vue'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import { useCanvasKeys } from '../../canvas/keys'
import FigureRows from '../../parts/FigureRows.vue'
import FoldCard from '../../parts/FoldCard.vue'
import { useFold } from '../../parts/folds'
import StationPage from '../../parts/StationPage.vue'
import WordsText from '../../parts/WordsText.vue'
import ZoneList from '../../parts/ZoneList.vue'
import { useAsk } from '../../state/ask'
import { useExports } from '../../state/exports'
import { useQuilt } from '../../state/quilt'
import { useZone } from '../../state/zone'
import PrepCard from './PrepCard.vue'
import SheetCard from './SheetCard.vue'
import type { Sheet } from './sheet'
import TickStrip from './TickStrip.vue'
import { counted, tr } from '../../texts'

type Shows = InstanceType<typeof CanvasKey>['$props']['shows']

const exports = useExports()
const quilt = useQuilt()
const zone = useZone()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()
const marks = shallowRef<Views['MarksView']>()
const sheet = ref<Sheet>({ paper: 'letter', kind: 'stitched lines', scope: 'zone', back: false, printer: '' })
const edge = ref(0)
const trouble = ref('')
const here = computed(() => ({ quilt: quilt.id, zone: zone.key }))
const jobPaper = computed(() => (sheet.value.paper === 'roll' ? 'letter' : sheet.value.paper))
/** the round of tape strips that is shown */
const round = ref(0)
const ticksShown = computed(() => (marks.value?.method === 'ticks' || strips.value ? marks.value?.edges : undefined))
/** the tick strip is shown, whatever the method */
const strips = ref(false)
const { ask, drop, fault } = useAsk()
const wanted = () => ({ zone: zone.key, place: zone.place, layer: zone.layer, unit: quilt.unit, paper: sheet.value.paper, kind: sheet.value.kind, scope: sheet.value.scope, method: null }) as Views['MarksRequest']
async function look() {
  drop()
  if (!zone.key) return (marks.value = undefined)
  const found = await ask(async (signal) => {
    await quilt.flush()
    return api.marks(quilt.id, wanted(), signal)
  })
  if (found) put(found)
  else if (fault.value) refuse(fault.value.message)
}
function put(found: Views['MarksView']) {
  marks.value = found
  if (zone.layer !== found.layer) void zone.turnTo(found.layer)
  trouble.value = ''
  if (round.value >= Math.max(found.rounds, 1)) round.value = 0
  if (edge.value >= found.edges.length) edge.value = 0
}
function refuse(why: string) {
  marks.value = undefined
  trouble.value = why
}
/** the request sent with a change under way; the settings may have changed since */
let sent = ''
onBeforeUnmount(
  quilt.shows({
    ask: () => {
      sent = JSON.stringify(wanted())
      return zone.key ? { marks: wanted() } : undefined
    },
    take: ({ marks: found, faults }) => {
      if (found && sent !== JSON.stringify(wanted())) return void look()
      if (found || faults?.marks) drop() // an older answer would overwrite these marks
      if (found && found.zone === zone.key) put(found)
      else if (zone.key && faults?.marks) refuse(faults.marks.detail)
    },
  }),
)
/** Stored at once, so that it holds after leaving the station; the answer has the figures. */
function mark(marking: Views['MethodView']['key'] | null) {
  if (marks.value && marking) marks.value = { ...marks.value, method: marking }
  return quilt.set({ kind: 'marking', zone: zone.key, marking })
}
const markWith = (tool: string) => quilt.set({ kind: 'mark with', zone: zone.key, tool })
function choose(key: string, place = '') {
  edge.value = 0
  void zone.choose(key, place)
}
const choosing = useFold(() => 'Method')
const chosen = computed(() => marks.value?.methods.find((one) => one.key === marks.value?.method))
const tool = computed(() => marks.value?.tools.find((one) => one.key === marks.value?.tool))
const ticked = computed(() => (ticksShown.value ? marks.value?.edges[edge.value] : undefined))
watch(() => [zone.key, zone.place, zone.layer, quilt.read, quilt.unit, sheet.value], () => void look(), { immediate: true })
watch(() => zone.key, () => zone.drop(), { immediate: true })
onBeforeUnmount(() => zone.layer > 1 && zone.turnTo(0)) // lines placed by hand are shown on this station only
const keys = computed(() => {
  const { strokes = [], dots = [], laid = [], signs = [] } = marks.value ?? {}
  const stroke = marks.value?.stands_for === 'ruler edge' ? 'edge' : 'mark'
  const strip = marks.value?.round_is === 'Placing' ? 'stencil' : 'tape'
  return ['rest', ...(strokes.length ? [stroke] : []), ...(ticksShown.value ? ['tick'] : []), ...(dots.length ? ['dot'] : []), ...(laid.length ? [strip] : []), ...(signs.length ? ['sign'] : [])] as Shows
})
useCanvasKeys(canvas)
</script>

<template>
  <StationPage v-if="quilt.view">
    <div class="both" :class="{ strip: ticked }">
      <QuiltCanvas
        ref="canvas" :quilt="quilt.view" :unit="quilt.unit" :zone="zone.key" :place="zone.place" :layer="zone.layer"
        :marks="marks ?? NOTHING_MARKED" :round="round" :ticks="ticksShown" :ticked-edge="edge" @patch="choose" @edge="edge = $event"
      >
        <template #key><CanvasKey :shows="keys" /></template>
      </QuiltCanvas>
      <TickStrip v-if="ticked" :edge="ticked" />
    </div>
    <template #panel>
      <template v-if="marks">
        <header>
          <div class="top"><h2>{{ marks.name }}</h2><v-btn class="plain" data-testid="all-zones" @click="choose('')">{{ tr('All zones') }}</v-btn></div>
          <p class="quiet">{{ marks.occurs }}</p>
        </header>
        <div v-if="marks.layers.length > 1" class="chips" role="group" :aria-label="tr('Which fill')">
          <v-btn v-for="one in marks.layers" :key="one.layer" class="chip" :aria-pressed="marks.layer === one.layer" @click="zone.turnTo(one.layer)">{{ one.label }}</v-btn>
        </div>
        <button v-if="chosen" class="now" :aria-expanded="choosing" data-testid="methods" @click="choosing = !choosing">
          <span><b>{{ chosen.label }}</b><span class="quiet"><WordsText :words="chosen.words" />{{ marks.chosen_by_her ? '' : tr(', recommended') }}</span></span>
          <span class="link">{{ choosing ? tr('Close') : tr('Change method') }}</span>
        </button>
        <div v-show="choosing || !chosen" class="methods" role="group" :aria-label="tr('How to mark it')">
          <button v-for="method in marks.methods" :key="method.key" :aria-pressed="method.key === marks.method" :data-testid="`method-${method.key.replace(' ', '-')}`" @click="mark(method.key)">
            <b>{{ method.label }}</b><span class="quiet"><WordsText :words="method.words" /></span>
          </button>
        </div>
        <v-btn v-if="marks.chosen_by_her && marks.methods[0]?.key !== marks.method" class="plain left" data-testid="method-best" @click="mark(null)">{{ tr('Your choice. Use the recommended method') }}</v-btn>
        <p class="card leaf"><WordsText :words="marks.note" /></p>
        <p v-if="marks.drawn_too" class="quiet" data-testid="drawn-too">
          {{ counted(marks.drawn_too, '1 line is marked for a shorter route.', '{count} lines are marked for a shorter route.') }}
          <v-btn class="plain" data-testid="draw-no-more" @click="quilt.set({ kind: 'drawn too', zone: zone.key, spots: [] })">{{ tr('Mark only what the lines need') }}</v-btn>
        </p>
        <div v-if="marks.rounds > 1" class="rounds">
          <v-btn class="chip" :aria-label="tr('The one before')" :disabled="round === 0" @click="round -= 1">‹</v-btn>
          <b data-testid="round">{{ tr('{round_is} {round} of {rounds}', { round_is: marks.round_is, round: round + 1, rounds: marks.rounds }) }}</b>
          <v-btn class="chip" :aria-label="tr('The next one')" :disabled="round + 1 >= marks.rounds" data-testid="next-round" @click="round += 1">›</v-btn>
        </div>
        <FigureRows :rows="marks.rows" />
        <router-link v-if="marks.at_the_table" class="chip table" :to="{ name: 'table', params: { quilt: quilt.id } }" data-testid="to-table">{{ tr('Mark step by step, in large type ›') }}</router-link>
        <SheetCard v-model="sheet" :marks="marks" />
        <div class="settings">
          <FoldCard v-if="marks.tools.length" name="Marking tool" :title="tr('Marking tool')" :says="[tool?.label ?? '', ...(tool ? [`, ${tool.words}`] : [])]">
            <div class="chips" role="group" :aria-label="tr('What to mark with')">
              <v-btn v-for="one in marks.tools" :key="one.key" class="chip" :class="{ off: !one.fits }" :title="one.words" :aria-pressed="one.key === marks.tool" :data-testid="`tool-${one.key}`" @click="markWith(one.key)">{{ one.label }}</v-btn>
            </div>
            <p v-for="words in marks.tool_words" :key="words" class="quiet">{{ words }}</p>
          </FoldCard>
          <FoldCard v-if="marks.edges.length" name="Ticks along the edges" :title="tr('Ticks along the edges')" :says="[ticked?.name ?? tr('where every line meets an edge')]">
            <v-btn v-if="!ticksShown" class="plain left" data-testid="see-ticks" @click="strips = true">{{ tr('Show where every line meets the edges …') }}</v-btn>
            <div v-else class="top">
              <label class="label" for="edge">{{ tr('Ticks along an edge') }}</label>
              <select id="edge" v-model.number="edge"><option v-for="(e, n) in marks.edges" :key="e.name" :value="n">{{ e.name }}</option></select>
            </div>
            <a v-if="ticked" class="chip strip-link" :href="exports.href('strip-pdf', here, { unit: quilt.unit, place: zone.place, layer: zone.layer, paper: sheet.paper, printer: sheet.printer, edge })" data-testid="tick-strip">{{ exports.label('strip-pdf') }}</a>
            <table v-if="ticked" data-testid="ticks">
              <caption>{{ tr('{name}, counted from the {from_corner} corner. Click another edge on the quilt.', { name: ticked.name, from_corner: ticked.from_corner }) }}</caption>
              <tbody>
                <tr v-for="(tick, n) in ticked.ticks" :key="n"><th scope="row">{{ n + 1 }}</th><td><WordsText :words="[tick.shown]" /></td><td class="quiet"><WordsText :words="tick.error" /></td></tr>
              </tbody>
            </table>
          </FoldCard>
        </div>
      </template>
      <template v-else>
        <h2>{{ tr('Marks') }}</h2>
        <section class="card leaf job">
          <p class="label">{{ tr('The job sheet') }}</p>
          <p>{{ tr('Every block with its zones, sums, rulers and marks, to print for the sewing room.') }}</p>
          <div class="chips"><a class="chip" :href="exports.href('job-pdf', here, { unit: quilt.unit, paper: jobPaper })" data-testid="job">{{ exports.label('job-pdf') }}</a><a class="chip" :href="exports.href('job-pdf', here, { unit: quilt.unit, paper: jobPaper, large: true })" data-testid="job-large">{{ tr('In large type') }}</a></div>
        </section>
        <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
        <ZoneList :zones="quilt.zones" :chosen="zone.key" :lead="tr('Choose the zone that you want to mark: click it on the quilt, or choose it here.')" @choose="choose" />
        <PrepCard />
      </template>
    </template>
  </StationPage>
</template>

<style scoped>
.both { display: grid; height: 100%; grid-template-rows: minmax(0, 1fr); }
.both.strip { grid-template-rows: minmax(0, 1fr) auto; }
.top { display: flex; justify-content: space-between; align-items: baseline; gap: 10px; }
.now { flex: none; display: flex; justify-content: space-between; align-items: center; gap: 12px; min-height: 56px; border: 1px solid var(--indigo); border-radius: 10px; background: var(--field); padding: 6px 12px; text-align: left; cursor: pointer; }
.now > span:first-child { display: grid; }
.now b { color: var(--indigo); }
.link { color: var(--indigo); text-decoration: underline; text-underline-offset: 3px; font-size: 14px; }
.settings { display: flex; flex-direction: column; gap: 12px; }
.methods { display: grid; gap: 7px; }
.methods button { display: flex; justify-content: space-between; align-items: center; min-height: 38px; padding: 0 12px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); cursor: pointer; text-align: left; }
.methods button[aria-pressed='true'] { border: 2px solid var(--indigo); padding: 0 11px; }
section { display: grid; gap: 8px; }
table { border-collapse: collapse; font-size: 14px; width: 100%; }
caption { text-align: left; color: var(--soft); padding: 2px 0 6px; }
tr { border-bottom: 1px dashed var(--rule); }
th { width: 34px; text-align: left; font-weight: 400; color: var(--soft); }
td { height: 32px; font-weight: 700; }
td.quiet { font-weight: 400; text-align: right; }
.job { display: grid; gap: 6px; }
.job a { text-decoration: none; color: var(--indigo); }
a.strip-link { text-decoration: none; color: var(--indigo); justify-self: start; }
a.table { text-decoration: none; color: var(--indigo); border-color: var(--indigo); font-weight: 700; min-height: 44px; justify-content: center; }
.off { color: var(--soft); border-style: dashed; }
.rounds { display: flex; justify-content: space-between; align-items: center; }
.left { justify-self: start; align-self: start; text-align: left; }
select { height: 34px; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); padding: 0 8px; font: inherit; font-size: 14px; }
</style>
