<script setup lang="ts">
/** At the marking table: one step at a time, in large type; finished steps are stored. */
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, Problem, type Views } from '../../api/client'
import { NOTHING_MARKED } from '../../canvas/marked'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import WordsText from '../../parts/WordsText.vue'
import { usePressed } from '../../parts/pressed'
import { useQuilt } from '../../state/quilt'
import { newest } from '../../state/unsent'
import { useZone } from '../../state/zone'
import ToldText from '../../parts/ToldText.vue'
import { tr, whole } from '../../texts'

const quilt = useQuilt()
const zone = useZone()
const router = useRouter()
const view = shallowRef<Views['TableView']>()
const trouble = ref('')
/** Finished steps, over all places; kept here until the server has them. */
const done = ref(0)
const mine = { zone: zone.key, place: zone.place, layer: zone.layer }
const kept = newest<number>(`table.${quilt.id}.${mine.zone}`, async (value) => void (view.value = await api.table(quilt.id, { ...mine, unit: quilt.unit, done: value })), (problem) => (trouble.value = problem.message))

const here = computed(() => view.value?.steps.length ?? 0)
const all = computed(() => here.value * (view.value?.times ?? 0))
const over = computed(() => !!here.value && done.value >= all.value)
const at = computed(() => (here.value ? done.value % here.value : 0))
const block = computed(() => (here.value ? Math.floor(done.value / here.value) : 0))
const step = computed(() => (over.value ? undefined : view.value?.steps[at.value]))
const marks = computed(() => {
  const before = view.value?.steps.slice(0, over.value ? here.value : at.value).filter((one) => one.kind !== 'strips') ?? []
  return { ...NOTHING_MARKED, strokes: before.flatMap((one) => one.lines), dots: before.flatMap((one) => one.dots) }
})
const begins = computed(() => at.value === 0 && block.value > 0)
const VERBS = { stroke: tr('Marked, next'), ticks: tr('Ticked, next'), dots: tr('Dotted, next'), signs: tr('Marked, next'), strips: tr('Sewn and peeled, next'), stencil: tr('Powdered, next') }

async function look(body: Partial<Views['TableRequest']> = {}) {
  if (!mine.zone) return void router.replace({ name: 'marks', params: { quilt: quilt.id } })
  try {
    view.value = await api.table(quilt.id, { ...mine, unit: quilt.unit, ...body })
    trouble.value = ''
  } catch (error) {
    if (error instanceof Problem) trouble.value = error.message
  }
}
onMounted(async () => {
  await look()
  done.value = Math.min(kept.kept() ?? view.value?.done ?? 0, all.value)
  if (kept.kept() !== undefined) kept.put(done.value)
})
watch(() => quilt.unit, () => void look())
function go(by: number) {
  const now = Math.min(Math.max(done.value + by, 0), all.value)
  if (now === done.value) return
  done.value = now
  kept.put(now)
}
const nextBlock = () => go(here.value - at.value)
function takeOff(faded = false) {
  done.value = 0
  void look({ off: true, faded })
}
const still = computed(() => view.value?.still_on.find((one) => one.zone === view.value?.zone))
function keys(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.key === 'Tab') return
  if (event.key === 'Escape') return void router.push({ name: 'marks', params: { quilt: quilt.id } })
  const does: Record<string, () => void> = { ' ': () => go(1), Enter: () => go(1), PageDown: () => go(1), ArrowRight: () => go(1), Backspace: () => go(-1), PageUp: () => go(-1), ArrowLeft: () => go(-1) }
  if (!does[event.key] || (event.key === 'Enter' && (event.target as HTMLElement).closest('button, a'))) return
  event.preventDefault()
  event.stopImmediatePropagation()
  does[event.key]!()
}
usePressed(keys, true)
onBeforeUnmount(() => kept.stop())
</script>

<template>
  <div v-if="quilt.view" class="page">
    <QuiltCanvas :quilt="quilt.view" :unit="quilt.unit" :zone="zone.key" :place="zone.place" :layer="zone.layer" :marks="marks" :now="step" />
    <section class="say" :aria-label="tr('What to mark now')" aria-live="polite">
      <router-link class="plain" :to="{ name: 'marks', params: { quilt: quilt.id } }" data-testid="to-marks">‹ {{ view?.name }}</router-link>
      <p v-if="kept.waiting.value" class="card weld" role="status" data-testid="unsent">{{ tr('Kenzet does not answer. Keep marking: what you do is stored in this browser and sent when Kenzet is back.') }}</p>
      <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
      <template v-if="step">
        <p class="which" data-testid="stroke-count">{{ tr('Step {at} of {here}', { at: at + 1, here }) }}<template v-if="(view?.times ?? 1) > 1">{{ ' ' + tr('· block {block} of {times}', { block: block + 1, times: view?.times }) }}</template></p>
        <p v-if="begins" class="turn">{{ tr('On to the next block.') }}</p>
        <p v-if="step.turn" class="turn" data-testid="turn">{{ tr('Turn the quilt for the next direction.') }}</p>
        <p class="lay" data-testid="lay"><WordsText :words="step.lay" /></p>
        <p v-if="step.begins.length" class="from"><ToldText :text="whole('From {start} to {end}.')"><template #start><b><WordsText :words="step.begins" /></b></template><template #end><b><WordsText :words="step.ends" /></b></template></ToldText></p>
        <ul v-if="step.figures.length" class="figures" data-testid="figures"><li v-for="(one, k) in step.figures" :key="k"><WordsText :words="[one]" /></li></ul>
      </template>
      <template v-else-if="over">
        <p class="lay" data-testid="all-drawn">{{ tr('All of it is done.') }}</p>
        <p class="from">{{ tr('Take the marks off before you put the quilt away.') }}</p>
      </template>
      <p v-else-if="view && !here" class="lay">{{ tr('Nothing to mark here: every line can be placed from a seam or from the line before.') }}</p>
      <div v-if="here" class="keys">
        <button class="back" :disabled="!done" :title="tr('back (Backspace)')" data-testid="stroke-back" @click="go(-1)">{{ tr('Back') }}</button>
        <button class="next" :disabled="over" :title="tr('next (space)')" data-testid="stroke-next" @click="go(1)">{{ VERBS[step?.kind ?? 'stroke'] }}</button>
      </div>
      <v-btn v-if="step && block + 1 < (view?.times ?? 0)" class="plain" @click="nextBlock()">{{ tr('This block is done') }}</v-btn>
      <section v-if="view?.still_on.length" class="card weld" data-testid="still-on">
        <p class="label">{{ tr('Marks on the quilt') }}</p>
        <p v-for="one in view.still_on" :key="one.zone">{{ tr('{name}, since {since}: {off}', { name: one.name, since: one.since, off: one.off }) }}</p>
        <div v-if="still" class="chips">
          <v-btn class="chip" data-testid="marks-off" @click="takeOff()">{{ tr('Marks removed from {name}', { name: view.name }) }}</v-btn>
          <v-btn v-if="still.fades" class="chip" :title="tr('The log learns how long marks of this tool stay')" data-testid="marks-faded" @click="takeOff(true)">{{ tr('They have faded') }}</v-btn>
        </div>
      </section>
      <p v-if="view?.pins" class="card weld" data-testid="pins">{{ view.pins }}</p>
    </section>
  </div>
</template>

<style scoped>
.page { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); height: 100%; }
.say { background: var(--paper); border-left: 1px solid var(--rule); padding: 18px 28px; overflow-y: auto; display: flex; flex-direction: column; gap: 16px; }
.which { font-size: 20px; color: var(--soft); }
.turn { font-size: 24px; font-weight: 700; color: var(--madder); }
.lay { font: 400 34px/1.25 var(--v-font-heading); color: var(--indigo); }
.from { font-size: 24px; line-height: 1.45; }
.figures { display: grid; grid-template-columns: repeat(auto-fill, minmax(86px, 1fr)); gap: 8px; list-style: none; padding: 0; font-size: 27px; font-weight: 700; }
.figures li { display: grid; place-items: center; min-height: 60px; border-bottom: 2px solid var(--rule); }
.keys { display: grid; grid-template-columns: 1fr 2.4fr; gap: 12px; margin-top: auto; }
.keys button { min-height: 76px; border-radius: 14px; font-size: 24px; font-weight: 700; cursor: pointer; border: 2px solid var(--indigo); }
.keys [disabled] { opacity: .45; cursor: default; }
.back { background: var(--field); color: var(--indigo); }
.next { background: var(--indigo-fill); color: #fff; }
.say > .plain { align-self: flex-start; }
@media (max-width: 900px) { .page { grid-template: minmax(0, 1fr) minmax(0, 55%) / minmax(0, 1fr); } .say { border-left: 0; border-top: 1px solid var(--rule); } }
</style>
