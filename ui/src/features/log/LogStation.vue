<script setup lang="ts">
/** Log: what was sewn, how accurate it is, and what is left. */
import { computed, onBeforeUnmount, nextTick, onMounted, ref, watch } from 'vue'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import { useCanvasKeys } from '../../canvas/keys'
import CornerBoard from '../../parts/CornerBoard.vue'
import FigureRows from '../../parts/FigureRows.vue'
import FoldCard from '../../parts/FoldCard.vue'
import StationPage from '../../parts/StationPage.vue'
import { useExports } from '../../state/exports'
import { useLog } from '../../state/log'
import { useQuilt } from '../../state/quilt'
import { useSwatches } from '../../state/swatches'
import BlockCard from './BlockCard.vue'
import FitsCard from './FitsCard.vue'
import InspectBoard from './InspectBoard.vue'
import InspectCard from './InspectCard.vue'
import LearntList from './LearntList.vue'
import RemarkCard from './RemarkCard.vue'
import ScheduleCard from './ScheduleCard.vue'
import StatusOverlay from './StatusOverlay.vue'
import SwatchBook from './SwatchBook.vue'
import SwatchCard from './SwatchCard.vue'
import ThereList from './ThereList.vue'
import { counted, tr } from '../../texts'

const SHOWN = 4
const quilt = useQuilt()
const log = useLog()
const exports = useExports()
const book = useSwatches()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()
const side = ref('')
const sought = ref('')
const all = ref(false)
const view = computed(() => log.view)
const words = computed(() => sought.value.trim().toLowerCase())
const sittings = computed(() => (view.value?.sittings ?? []).filter((one) => one.search.includes(words.value) || log.remarks(one.key).some((note) => note.told.toLowerCase().includes(words.value))))
const blocks = computed(() => (view.value?.blocks ?? []).filter((one) => one.search.includes(words.value) || log.remarks(`place:${one.place}`).some((note) => note.told.toLowerCase().includes(words.value))))
const open = computed(() => (view.value?.todo ?? []).filter((one) => !one.done))
const spots = computed(() => (view.value?.todo ?? []).filter((one) => !one.done && one.place === log.place).flatMap((one) => one.at))

useCanvasKeys(canvas)
onMounted(() => {
  log.open = true
  void log.look()
  void book.load()
})
onBeforeUnmount(() => {
  log.close()
  void book.close()
})
watch(() => book.open, (now) => { if (!now) void log.look() }) // swatches may have taught something
const top = ref<HTMLElement>()
watch([() => log.place, () => log.inspection?.id], async () => {
  side.value = ''
  await nextTick()
  top.value?.scrollIntoView?.({ block: 'end' })
})
const learns = computed(() => {
  const rows = view.value?.learnt ?? []
  const news = rows.filter((one) => one.differs).length
  return !rows.length ? tr('nothing yet') : news ? tr('{news} to use', { news }) : tr('as in your settings')
})
function bring(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void log.bring(file)
}
const leftOut = (key: string) => log.remarks(key).some((one) => one.kind === 'left out' && one.told === '1')
const tick = (key: string, many: number, done: boolean) => log.say(key, 'done', done ? '0' : String(Math.max(many, 1)))
</script>

<template>
  <StationPage v-if="quilt.view" :wide="book.open && !book.chosen">
    <SwatchBook v-if="book.open" />
    <InspectBoard v-else-if="log.inspection" :quilt="quilt.id" :view="log.inspection" :chosen="side" @choose="(key) => (side = side === key ? '' : key)" />
    <CornerBoard v-else-if="log.taken" :photo="log.taken" :corners="log.corners" :prompt="tr('Drag each corner onto that corner of the block')" @move="log.move" />
    <QuiltCanvas v-else ref="canvas" :quilt="quilt.view" :unit="quilt.unit" :held="log.held" open pointing @point="(spot) => log.choose(spot.place)" @none="log.place = ''">
      <template #whole="{ view: seen }"><StatusOverlay v-if="view" :places="view.places" :view="seen" :chosen="log.place" :spots="spots" /></template>
      <template #key><p v-if="view?.stages.length" class="legend" data-testid="log-key"><span v-for="one in view.stages" :key="one.stage"><i :class="one.stage" /> <b>{{ one.words }}</b> {{ one.many }}</span></p></template>
    </QuiltCanvas>
    <template #panel>
      <p v-if="log.trouble" class="card madder" role="alert">{{ log.trouble }} <v-btn class="plain" @click="log.look()">{{ tr('Try again') }}</v-btn></p>
      <SwatchCard v-if="book.open" />
      <InspectCard v-else-if="log.inspection" :chosen="side" @choose="(key) => (side = key)" />
      <template v-else-if="view">
        <h2 ref="top">{{ tr('Log') }}</h2>
        <dl class="sums">
          <div><dt>{{ tr('Sewn') }}</dt><dd data-testid="log-sewn">{{ view.sewn }}</dd></div>
          <div><dt>{{ tr('At the needle') }}</dt><dd>{{ view.time }}</dd></div>
          <div><dt>{{ tr('Still to sew') }}</dt><dd :title="view.range">{{ view.left }}</dd><dd v-if="view.range" class="range">{{ view.range }}</dd></div>
        </dl>
        <BlockCard v-if="log.place" />
        <template v-else>
          <p v-if="!view.places.length">{{ tr('No fills are planned yet. Choose fills first; what you sew is then recorded here.') }}</p>
          <router-link v-else-if="view.next" class="go" :to="{ name: 'machine', params: { quilt: quilt.id } }" data-testid="go-on"><b>{{ view.sittings.length ? tr('Go on sewing') : tr('Begin sewing') }}</b><span>{{ view.next }}</span></router-link>
          <FitsCard v-if="view.next" />
          <p v-else-if="view.places.length" class="card leaf">{{ tr('Every planned line is sewn. {open}', { open: open.length ? tr('A few things are left to finish.') : '' }) }}</p>
          <p v-if="view.places.length" class="quiet">{{ tr('Click a block to see what happened there, to judge it, or to measure it from a photo.') }}</p>
          <input v-if="view.sittings.length" v-model="sought" class="text" :placeholder="tr('Find in the log')" :aria-label="tr('Find in the log')" data-testid="log-find" />
          <div class="settings">
            <FoldCard name="log-sittings" :title="tr('Sittings')" :says="[view.sittings[0]?.day ?? tr('none yet')]" open>
              <p v-if="!sittings.length" class="quiet">{{ words ? tr('Nothing with “{sought}”.', { sought }) : tr('Each sitting is recorded here as you sew at the machine screen.') }}</p>
              <article v-for="one in all ? sittings : sittings.slice(0, SHOWN)" :key="one.key" class="sitting" data-testid="sitting">
                <b>{{ one.day }}</b><small>{{ one.times }} · {{ one.words }}</small>
                <FigureRows :rows="one.rows" />
                <ThereList :there="one.there" where />
                <p v-for="(bad, k) in one.mishaps" :key="k" class="bad">{{ bad.words }}</p>
                <RemarkCard :about="one.key" />
                <v-btn class="plain leave" :aria-pressed="leftOut(one.key)" @click="log.say(one.key, 'left out', leftOut(one.key) ? '0' : '1')">{{ leftOut(one.key) ? tr('Learn from this sitting again') : tr('Do not learn from this sitting') }}</v-btn>
              </article>
              <v-btn v-if="sittings.length > SHOWN" class="plain" @click="all = !all">{{ all ? tr('Show fewer') : counted(sittings.length - SHOWN, 'One earlier sitting', '{count} earlier sittings') }}</v-btn>
            </FoldCard>
            <FoldCard name="log-blocks" :title="tr('Blocks')" :says="[tr('{blocks} begun', { blocks: view.blocks.length })]">
              <ul class="list"><li v-for="one in blocks" :key="one.place"><v-btn class="plain" :data-testid="`block-${one.place}`" @click="log.choose(one.place)">{{ one.name }}</v-btn><span>{{ view.places.find((p) => p.place === one.place)?.words }}</span></li></ul>
            </FoldCard>
            <FoldCard name="log-todo" :title="tr('To finish')" :says="[open.length ? tr('{open} left', { open: open.length }) : 'nothing']">
              <ul class="list"><li v-for="one in view.todo" :key="one.key">
                <label v-if="!one.key.startsWith('marks:') && !one.key.startsWith('ditch:')" :class="{ done: one.done }"><input type="checkbox" :checked="one.done" @change="tick(one.key, one.at.length, one.done)"> {{ one.words }}<small>{{ one.note }}</small></label>
                <span v-else>{{ one.words }}<small>{{ one.note }}</small></span>
                <v-btn v-if="one.place" class="plain" :aria-label="tr('Show {words}', { words: one.words })" @click="log.choose(one.place)">{{ tr('Show') }}</v-btn>
              </li></ul>
            </FoldCard>
            <FoldCard name="log-learnt" :title="tr('What it teaches')" :says="[learns]"><LearntList :rows="view.learnt" /></FoldCard>
            <FoldCard name="log-swatches" :title="tr('Swatch book')" :says="[book.list?.length ? counted(book.list.length, '{count} swatch', '{count} swatches') : tr('none yet')]">
              <p>{{ tr('Test pieces from all your quilts, beside each other: how they look, feel and wash.') }}</p>
              <v-btn class="chip" data-testid="open-swatches" @click="book.show()">{{ tr('Open the swatch book') }}</v-btn>
            </FoldCard>
            <FoldCard v-if="view.next" name="log-schedule" :title="tr('Schedule')" :says="[tr('sessions to a date')]"><ScheduleCard /></FoldCard>
            <FoldCard name="log-zones" :title="tr('Zones')" :says="view.zones.map((one) => one.name).join(', ') ? [view.zones.map((one) => one.name).join(', ')] : []"><ThereList :there="view.zones" /></FoldCard>
            <FoldCard name="log-tools" :title="tr('Tools and thread')" :says="[view.tools[0]?.name ?? tr('none yet')]">
              <ul class="list"><li v-for="one in view.tools" :key="one.name + one.note"><span>{{ one.name }}<small>{{ one.note }}</small></span><b>{{ one.words }}</b></li></ul>
            </FoldCard>
            <FoldCard name="log-files" :title="tr('Print and save')" :says="[tr('the whole log')]">
              <p class="links"><a v-for="key in ['log-pdf', 'log-csv', 'log-json']" :key="key" class="plain" :href="exports.href(key, { quilt: quilt.id })" :data-testid="key">{{ exports.label(key) }}</a><a class="plain" :href="exports.href('corner-cards')" data-testid="corner-cards">{{ exports.label('corner-cards') }}</a><label class="plain">{{ tr('Bring a saved log back') }}<input type="file" accept=".json,application/json" class="sr" data-testid="bring-log" @change="bring"></label></p>
              <p v-if="log.wrong && ['bring', 'file'].includes(log.wrong.field)" class="wrong" role="alert">{{ log.wrong.message }}</p>
            </FoldCard>
          </div>
        </template>
      </template>
      <p v-else-if="!log.trouble" role="status">{{ tr('Opening the log …') }}</p>
    </template>
  </StationPage>
</template>

<style scoped>
.sums { display: grid; grid-template-columns: 1fr 1fr 1fr; gap: 6px; margin: 0; }
.sums div { border: 1px solid var(--rule); border-radius: 10px; padding: 6px 10px; background: var(--field); }
dt { font-size: 13px; color: var(--soft); }
dd { margin: 0; }
.sums dt + dd { font-size: 18px; font-weight: 700; color: var(--indigo); }
dd.range { font-size: 12.5px; font-weight: 400; color: var(--soft); }
.go { display: grid; padding: 10px 16px; border-radius: 10px; background: var(--indigo-fill); color: #fff; text-decoration: none; }
.go span { font-size: 13px; opacity: .9; }
.text { flex: none; }
.settings { display: flex; flex-direction: column; gap: 12px; }
.sitting { display: grid; gap: 6px; border: 1px solid var(--rule); border-radius: 10px; padding: 10px 12px; background: var(--field); }
small { display: block; color: var(--soft); font-size: 13px; }
.leave { justify-self: start; }
.bad { margin: 0; font-size: 14px; color: var(--madder); }
.list { list-style: none; margin: 0; padding: 0; display: grid; gap: 6px; font-size: 14px; }
.list li { display: flex; justify-content: space-between; gap: 10px; align-items: baseline; }
.list label { cursor: pointer; }
.list label small { padding-left: 22px; }
.done { color: var(--soft); text-decoration: line-through; }
.links label { cursor: pointer; }
.links { display: flex; flex-wrap: wrap; gap: 4px 16px; margin: 0; }
.legend { display: flex; flex-wrap: wrap; gap: 2px 14px; padding: 4px 12px; border: 1px solid var(--rule); border-radius: 10px; background: var(--paper); font-size: 13px; width: fit-content; }
.legend i { display: inline-block; width: 16px; height: 14px; border-radius: 3px; border: 1px solid var(--rule); vertical-align: -2px; }
.legend .marked { border: 2px dotted #b9820f; }
.legend .begun, .legend .filled { background: repeating-linear-gradient(45deg, #3f6b56 0 2px, #e2eee6 2px 6px); }
.legend .filled { background: repeating-linear-gradient(45deg, #3f6b56 0 2px, #b9cdbf 2px 4px); }
.legend .anchored { background: repeating-linear-gradient(45deg, #3f6b56 0 2px, #e2eee6 2px 6px); border: 3px solid #3f6b56; }
.legend .finished, .legend .inspected { background: #8ea898; }
.legend .inspected { border: 2px solid #3f6b56; }
</style>
