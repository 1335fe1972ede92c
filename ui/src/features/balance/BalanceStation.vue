<script setup lang="ts">
/** Balance: how the quilted cloth will look and feel, before it is sewn. */
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import CanvasKey from '../../canvas/CanvasKey.vue'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import { useCanvasKeys } from '../../canvas/keys'
import FigureRows from '../../parts/FigureRows.vue'
import FoldCard from '../../parts/FoldCard.vue'
import KnownList from '../../parts/KnownList.vue'
import StationPage from '../../parts/StationPage.vue'
import WordsText from '../../parts/WordsText.vue'
import type { Views } from '../../api/client'
import { useBalance } from '../../state/balance'
import { useExports } from '../../state/exports'
import { useKit } from '../../state/kit'
import { useQuilt } from '../../state/quilt'
import { useZone } from '../../state/zone'
import { useProposals } from '../../state/proposals'
import BarRows from './BarRows.vue'
import ProposalsBoard from './ProposalsBoard.vue'
import ThreadTable from './ThreadTable.vue'
import TryPlace from './TryPlace.vue'
import { tr } from '../../texts'

const LIGHTS = [['upper left', tr('window, upper left')], ['left', tr('window, left')], ['right', tr('window, right')], ['above', tr('lamp above')]] as const

const quilt = useQuilt()
const zone = useZone()
const balance = useBalance()
const kit = useKit()
const exports = useExports()
const plans = useProposals()
const route = useRoute()
const router = useRouter()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()
const raised = ref<'' | 'relief' | 'density'>('relief')
const back = ref(false)
const busy = ref(false)
const ring = ref<{ x: number; y: number; radius: number }>()
const view = computed(() => balance.view)
const colours = computed(() => Object.fromEntries(view.value?.hands.map((one) => [one.hand, one.colour]) ?? []))
const backUrl = computed(() => `/api/quilts/${quilt.id}/relief.jpg?long=1320&back=true&light=${encodeURIComponent(balance.light)}&revision=${quilt.view?.version}`)
const firmest = computed(() => view.value?.densities[0])

useCanvasKeys(canvas)
onMounted(() => {
  balance.open = true
  void balance.look()
  if ('propose' in route.query) plans.show()
})
onBeforeUnmount(() => {
  balance.close()
  plans.close()
})

const gapRadius = (at: number[]) => view.value?.gaps.find((gap) => gap.at[0] === at[0] && gap.at[1] === at[1])?.radius ?? 40
function show(at: number[]) {
  back.value = false
  ring.value = { x: at[0]!, y: at[1]!, radius: gapRadius(at) }
  canvas.value?.close(at[0]!, at[1]!, 2.4 * gapRadius(at))
}
/** where the center of a kind of fill would be */
function middle(at: number[]) {
  back.value = false
  ring.value = { x: at[0]!, y: at[1]!, radius: 40 }
}
function choose(key: string) {
  ring.value = undefined
  void zone.choose(zone.key === key ? '' : key)
}
async function step(one: Views['BalanceStep']) {
  busy.value = true
  try {
    if (one.zone) await zone.choose(one.zone)
    if (one.change) await quilt.set(one.change as never)
    else if (one.values) await zone.setAll(one.values)
    else if (one.station) await router.push({ name: one.station, params: { quilt: quilt.id }, query: one.station === 'top' ? { page: 'zones' } : {} })
  } finally {
    busy.value = false
  }
}
async function use(thread: string) {
  busy.value = true
  try {
    await kit.change({ picks: { thread } })
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <StationPage v-if="quilt.view" :wide="plans.open">
    <figure v-if="back" class="back">
      <img :src="backUrl" :alt="tr('The back of the quilt, mirrored, as it will look')" data-testid="back-picture">
      <figcaption>{{ tr('The back, mirrored') }} <v-btn class="plain" data-testid="to-front" @click="back = false">{{ tr('Turn to the front') }}</v-btn></figcaption>
    </figure>
    <QuiltCanvas
      v-else ref="canvas" v-model:raised="raised" cloth mapped :quilt="quilt.view" :unit="quilt.unit" :zone="zone.key" :place="zone.place" :light="balance.light" :ring="ring" open pointing
      @patch="(key) => zone.choose(key)" @none="zone.choose('')"
    >
      <template #key>
        <p v-if="raised === 'density' && view" class="legend" data-testid="firmness-key">
          <span v-for="one in view.hands" :key="one.hand"><i :style="{ background: one.colour }" /> <b>{{ tr(one.hand) }}</b> {{ one.words }}</span><span>{{ view.measure }}</span>
        </p>
        <CanvasKey v-else-if="!raised" :shows="['stitches']" />
      </template>
    </QuiltCanvas>
    <ProposalsBoard v-if="plans.open" />
    <template #panel>
      <h2>{{ tr('Balance') }}</h2>
      <v-btn class="chip propose" data-testid="propose-open" @click="plans.show()">{{ tr('Propose whole plans …') }}</v-btn>
      <p v-if="balance.trouble" class="card madder" role="alert">{{ balance.trouble }} <v-btn class="plain" @click="balance.look()">{{ tr('Try again') }}</v-btn></p>
      <p v-if="!view && !balance.trouble" role="status">{{ tr('Computing the balance …') }}</p>
      <template v-if="view">
        <dl class="sums">
          <div><dt>{{ tr('On the whole') }}</dt><dd data-testid="hand">{{ tr(view.hand) }}</dd><dd><WordsText :words="view.mean" /></dd></div>
          <div><dt>{{ tr('Widest gap') }}</dt><dd><WordsText :words="view.widest" /></dd><dd>{{ tr('of') }} <WordsText :words="view.limit" /></dd></div>
          <div><dt>{{ tr('Sewing time') }}</dt><dd>{{ view.time }}</dd></div>
        </dl>
        <KnownList :known="view.known" :busy="busy" @step="step" @show="show" />
        <p v-if="zone.wrong" class="card madder" role="alert">{{ zone.wrong.message }}</p>
        <div class="settings">
          <FoldCard name="balance-firmness" :title="tr('Firmness')" :says="firmest ? [`${firmest.name}: ${firmest.note}`] : [tr('nothing quilted')]">
            <BarRows :rows="view.densities" :chosen="zone.key" :colours="colours" @choose="choose" />
            <p class="small">{{ view.even }}</p>
          </FoldCard>
          <FoldCard name="balance-gaps" :title="tr('Widest gaps')" :says="view.widest">
            <ol class="plainlist">
              <li v-for="(gap, k) in view.gaps" :key="k" :class="{ over: gap.over }">
                <span><b>{{ gap.name }}</b> <WordsText :words="gap.words" /><small>{{ gap.note }}{{ gap.over ? tr(': more than the batting allows') : '' }}</small></span>
                <v-btn class="plain" :aria-label="tr('Show the gap of {name}, {note}', { name: gap.name, note: gap.note })" @click="show(gap.at)">{{ tr('Show') }}</v-btn>
              </li>
            </ol>
          </FoldCard>
          <FoldCard name="balance-standing" :title="tr('Flat and puffy')" :says="view.standings.length ? [`highest: ${view.standings[0]!.name}`] : []">
            <p class="small">{{ tr('How high each zone stands, as a share of the batting’s full rise.') }}</p>
            <BarRows :rows="view.standings" :chosen="zone.key" @choose="choose" />
            <table v-if="view.pairs.length">
              <caption>{{ tr('Beside each other: how many times as densely the first is quilted') }}</caption>
              <tbody><tr v-for="(pair, k) in view.pairs" :key="k"><td>{{ pair.dense }}</td><td>{{ pair.loose }}</td><td><b><WordsText :words="pair.words" /></b><small v-if="pair.alike">{{ ' ' + tr('look alike') }}</small></td></tr></tbody>
            </table>
            <label class="small">{{ tr('Zones look different from a ratio of') }} <input v-model.lazy.number="balance.reads" type="number" min="1.1" max="10" step="0.1" data-testid="reads"> {{ tr('to 1') }}</label>
          </FoldCard>
          <FoldCard name="balance-seen" :title="tr('What the eye sees first')" :says="view.seen.length ? [view.seen[0]!.name] : []">
            <BarRows :rows="view.seen" :chosen="zone.key" @choose="choose" />
          </FoldCard>
          <FoldCard name="balance-accents" :title="tr('Kinds of fill')" :says="[view.accents.length ? view.accents.map((one) => one.name).join(', ') : tr('none yet')]">
            <ol class="plainlist"><li v-for="one in view.accents" :key="one.name"><span><b>{{ one.name }}</b> <WordsText :words="one.words" /><small>{{ one.note }}</small><TryPlace :name="one.name" @show="middle" /></span></li></ol>
          </FoldCard>
          <FoldCard name="balance-thread" :title="tr('Thread')" :says="[view.by_zone[0] ?? '']">
            <ThreadTable :threads="view.threads" :busy="busy" @use="use" />
            <p v-for="line in view.by_zone" :key="line" class="small">{{ line }}</p>
          </FoldCard>
          <FoldCard name="balance-time" :title="tr('Time')" :says="view.times.length ? [`most: ${view.times[0]!.name}`] : []">
            <BarRows :rows="view.times" :chosen="zone.key" @choose="choose" />
            <p class="small">{{ tr('Time at the needle, without travelling and thread cuts. With both, block by block:') }}</p>
            <FigureRows :rows="view.blocks" />
          </FoldCard>
          <FoldCard name="balance-light" :title="tr('Light and back')" :says="[LIGHTS.find(([key]) => key === balance.light)?.[1] ?? '']">
            <div class="chips"><v-btn v-for="[key, label] in LIGHTS" :key="key" class="chip" :aria-pressed="balance.light === key" :data-testid="`light-${key.replace(' ', '-')}`" @click="balance.light = key">{{ label }}</v-btn></div>
            <div class="chips"><v-btn class="chip" :aria-pressed="back" data-testid="see-back" @click="back = !back">{{ tr('See the back') }}</v-btn></div>
            <p class="links"><a class="plain" :href="exports.href('relief-png', { quilt: quilt.id }, { light: balance.light, back })" data-testid="relief-png">{{ exports.label('relief-png') }}</a> <a class="plain" :href="exports.href('density-csv', { quilt: quilt.id })" data-testid="density-csv">{{ exports.label('density-csv') }}</a></p>
          </FoldCard>
          <FoldCard name="balance-wash" :title="tr('After the wash')" :says="view.washed.slice(0, 1)">
            <p class="small"><WordsText :words="view.washed" /></p>
          </FoldCard>
        </div>
      </template>
    </template>
  </StationPage>
</template>

<style scoped>
.propose { justify-self: start; }
.sums { display: grid; grid-template-columns: 1fr 1fr 1fr; gap: 6px; margin: 0; }
.sums div { border: 1px solid var(--rule); border-radius: 10px; padding: 6px 10px; background: var(--field); }
dt { font-size: 13px; color: var(--soft); }
dd { margin: 0; font-size: 13px; }
dt + dd { font-size: 18px; font-weight: 700; color: var(--indigo); }
.settings { display: flex; flex-direction: column; gap: 12px; }
.small { font-size: 13px; color: var(--soft); margin: 0; }
.plainlist { list-style: none; margin: 0; padding: 0; display: grid; gap: 6px; font-size: 14px; }
.plainlist li { display: flex; gap: 10px; justify-content: space-between; align-items: start; }
.plainlist small { display: block; color: var(--soft); font-size: 13px; }
.over b { color: var(--madder); }
table { border-collapse: collapse; font-size: 14px; width: 100%; }
caption { text-align: left; font-size: 13px; color: var(--soft); padding: 4px 0; }
td { border-top: 1px solid var(--rule); padding: 4px 8px 4px 0; vertical-align: top; }
td:last-child { white-space: nowrap; padding-right: 0; }
input { width: 64px; border: 1px solid var(--rule); border-radius: 8px; padding: 4px 6px; background: var(--field); color: inherit; font: inherit; }
.legend { display: flex; flex-wrap: wrap; gap: 2px 14px; padding: 4px 12px; border: 1px solid var(--rule); border-radius: 10px; background: var(--paper); font-size: 13px; width: fit-content; }
.legend i { display: inline-block; width: 14px; height: 14px; border-radius: 3px; border: 1px solid var(--rule); vertical-align: -2px; }
.links { display: flex; flex-wrap: wrap; gap: 4px 16px; margin: 0; }
.back { margin: 0; height: 100%; display: grid; grid-template-rows: minmax(0, 1fr) auto; place-items: center; padding: 14px; background: var(--cloth); }
.back img { max-width: 100%; max-height: 100%; object-fit: contain; min-height: 0; }
figcaption { font-size: 14px; }
</style>
