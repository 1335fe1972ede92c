<script setup lang="ts">
/** At the machine: one step at a time in large type; finished steps are stored at once, even while the server is unreachable. */
import { useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import CanvasKey from '../../canvas/CanvasKey.vue'
import QuiltCanvas from '../../canvas/QuiltCanvas.vue'
import { useCanvasKeys } from '../../canvas/keys'
import type { Spot } from '../../canvas/scene'
import WordsText from '../../parts/WordsText.vue'
import { storeQuilt } from '../../away/stored'
import { usePressed } from '../../parts/pressed'
import { useQuilt } from '../../state/quilt'
import { useSewing } from '../../state/sewing'
import BrokeCard from './BrokeCard.vue'
import LeftCard from './LeftCard.vue'
import MachineBar from './MachineBar.vue'
import MachineOverlay from './MachineOverlay.vue'
import UnpickCard from './UnpickCard.vue'
import { doneOf, event, lineLength, type Told } from '../../sewing/machine'
import { lengthOf, partOf } from '../../sewing/walk'
import { say, spoken } from '../../sewing/aloud'
import { useAwake } from './awake'
import { counted, tr } from '../../texts'

const quilt = useQuilt()
const router = useRouter()
const asked = useRoute().query.place
const sewing = useSewing(quilt.id, () => quilt.unit)
const { view, machine, step, steps, index, trouble, lost, busy, canGoBack } = sewing
const main = ref<HTMLButtonElement>()
const canvas = ref<InstanceType<typeof QuiltCanvas>>()
/** a question or a list in place of the step */
const asks = ref<'' | 'broke' | 'unpicked' | 'left' | 'pause'>('')
const brokeAt = ref<number[]>()
/** each step is read aloud, if wanted */
const aloud = useLocalStorage('kenzet-aloud', false)
watch([step, aloud, asks], () => {
  if (!aloud.value) return
  if (asks.value || !step.value) return say('')
  say([step.value.lay, step.value.sew, step.value.then].filter((words) => words.length).map(spoken).join(' '))
}, { immediate: true })
onBeforeUnmount(() => aloud.value && say(''))
/** by touch: a swipe left or a tap goes on, a swipe right goes back */
let touched: { x: number; y: number } | undefined
function press(event: PointerEvent) {
  const onControl = (event.target as HTMLElement).closest('button, a, input, select, summary')
  touched = event.pointerType === 'mouse' || onControl || asks.value ? undefined : { x: event.clientX, y: event.clientY }
}
function release(event: PointerEvent) {
  if (!touched) return
  const [dx, dy] = [event.clientX - touched.x, event.clientY - touched.y]
  touched = undefined
  if (Math.abs(dx) < 10 && Math.abs(dy) < 10) next()
  else if (Math.abs(dx) > 60 && Math.abs(dx) > 2 * Math.abs(dy)) void (dx < 0 ? next() : back())
}
/** on a phone, details that are not always needed */
const more = ref(false)
const awake = useAwake()
useCanvasKeys(canvas)

const here = computed(() => view.value?.here)
/** the needle of the connected machine */
const needle = computed(() => {
  if (!machine.value || !step.value || machine.value.line !== step.value.number || machine.value.place !== here.value?.place) return undefined
  let far = machine.value.mm
  for (const piece of [...step.value.points, ...step.value.travels]) {
    const long = lengthOf(piece)
    if (far <= long) return partOf(piece, far).slice(-2)
    far -= long
  }
  return step.value.at
})
const done = computed(() => here.value?.steps.slice(0, index.value) ?? [])
const coming = computed(() => steps.value.slice(1, 4))
const mmDone = computed(() => done.value.reduce((sum, one) => sum + lineLength(one), 0))
const key = computed(() => ['done', 'line', 'travel', 'coming', ...(steps.value.some((one) => one.freehand) ? ['freehand'] : []), ...(step.value?.ruler.length ? ['ruler'] : []), ...(step.value?.hands.length ? ['hand'] : [])] as InstanceType<typeof CanvasKey>['$props']['shows'])
const finished = computed(() => !!view.value && !here.value)
/** the instruction is always whole and readable from a distance: a long one has smaller letters */
const told = ref<HTMLElement>()
const order = ref<HTMLElement>()
const smaller = ref(0)
watch([step, told], async () => {
  for (smaller.value = 0; smaller.value < 2; smaller.value++) {
    await nextTick()
    if (!told.value || !order.value || order.value.offsetTop + order.value.offsetHeight <= told.value.offsetTop + told.value.clientHeight) return
  }
}, { flush: 'post' })
const button = computed(() => ({ begin: tr('Begun, next'), go: tr('There, next'), line: step.value?.stops ? tr('Done, thread ended') : tr('Done, next line') })[step.value?.kind ?? 'line'])

function next() {
  if (asks.value === 'pause') return goOn()
  if (finished.value && view.value?.skipped && !asks.value) return void tell(event('taken up'))
  if (asks.value || !step.value || !here.value) return
  sewing.on(doneOf(step.value, here.value.place))
}
function otherwise() {
  if (step.value?.kind === 'line' && !step.value.freehand && here.value) sewing.on(doneOf(step.value, here.value.place, true))
}
async function skip() {
  if (step.value?.kind === 'line' && here.value) await sewing.tell(event('skipped', { place: here.value.place, taken_out: step.value.sewn }))
}
async function tell(one: Told) {
  asks.value = ''
  brokeAt.value = undefined
  await sewing.tell(one)
}
async function back() {
  if (asks.value) return void (asks.value = '')
  await sewing.back()
}
async function bobbin() {
  await sewing.tell(event('bobbin'))
}
function goOn() {
  asks.value = ''
  void sewing.tell(event('rested'))
}
async function goTo(place: string, visit?: number) {
  asks.value = ''
  await sewing.look(place, visit)
}
function look(spot: Spot) {
  if (asks.value === '' && spot.place && spot.place !== here.value?.place) void goTo(spot.place)
}
const leave = () => void router.push({ name: 'stitch', params: { quilt: quilt.id } })
const ask = (what: typeof asks.value) => (asks.value = asks.value === what ? '' : what)

const DOES: Record<string, () => void> = {
  b: () => void back(), Backspace: () => void back(), ArrowLeft: () => void back(), PageUp: () => void back(),
  t: () => ask('broke'), s: () => void skip(), h: otherwise, u: () => ask('unpicked'), l: () => ask('left'), p: () => ask('pause'), w: () => void bobbin(),
}
/** keys of the whole app */
const OTHERS = /^([1-7?fg+\-=c]|Tab|Shift|Control|Alt|Meta|CapsLock|F\d|F1[0-2])$/
function keys(pressed: KeyboardEvent) {
  if (pressed.ctrlKey || pressed.metaKey || pressed.altKey || OTHERS.test(pressed.key)) return
  const target = pressed.target as HTMLElement
  if (target.tagName === 'INPUT' && pressed.key !== 'Escape') return
  if (pressed.key === 'Escape') {
    if (asks.value) asks.value = ''
    else leave()
  } else if (['Enter', ' '].includes(pressed.key) && target.closest('button, a') && target !== main.value) return
  else if (pressed.repeat) return void pressed.preventDefault()
  else (DOES[pressed.key] ?? next)()
  pressed.preventDefault()
  pressed.stopImmediatePropagation()
}
/** so that a pedal's space bar never presses the button clicked last */
const home = () => void nextTick(() => main.value?.focus({ preventScroll: true }))
watch([asks, index, view], home)
watch(
  () => quilt.taken,
  () => void (quilt.view && !quilt.away && storeQuilt(quilt.id, { view: quilt.view, unit: quilt.unit })),
  { immediate: true },
)
watch([lost, view], () => void (!lost.value && quilt.away && quilt.open(quilt.id, true)))
watch(() => quilt.unit, () => void sewing.look(here.value?.place))
usePressed(keys, true)
onMounted(async () => {
  await sewing.open(typeof asked === 'string' ? asked : '')
  home()
})
onBeforeUnmount(() => sewing.stop())
</script>

<template>
  <div v-if="quilt.view" class="machine">
    <div class="table">
      <QuiltCanvas ref="canvas" :quilt="quilt.view" :unit="quilt.unit" open pointing faint :seen="here?.place" @point="look">
        <template #whole="{ view: camera }"><MachineOverlay v-if="here" :here="here" :view="camera" :spots="view?.spots ?? []" :steps="steps" :done="done" :needle="needle" :broke="asks === 'broke' ? brokeAt : undefined" /></template>
        <template #key><CanvasKey :shows="key" /></template>
      </QuiltCanvas>
    </div>
    <section class="say" :aria-label="tr('What to do now')" @pointerdown="press" @pointerup="release" @pointercancel="touched = undefined">
      <p v-if="lost" class="card weld" role="status" data-testid="lost">{{ tr('Kenzet does not answer. Keep sewing: what you sew is stored in this browser and sent when Kenzet is back.') }}</p>
      <p v-if="trouble" class="card madder" role="alert">{{ trouble }}</p>
      <p v-if="machine?.faults.length" class="card weld" data-testid="faults">“{{ machine.name }}”: {{ machine.faults[machine.faults.length - 1] }}</p>
      <template v-if="asks === 'pause'">
        <h2 class="line">{{ tr('Rest') }}</h2>
        <p class="lay">{{ tr('Shake out your hands and look at something far away. Your place is kept.') }}</p>
        <button ref="main" class="go" data-testid="next" @click="goOn">{{ tr('Go on') }}<small>{{ tr('space bar · foot pedal') }}</small></button>
      </template>
      <BrokeCard v-else-if="asks === 'broke' && here" :here="here" :step="step" :done="done" @at="brokeAt = $event" @tell="tell" @close="asks = ''" />
      <UnpickCard v-else-if="asks === 'unpicked' && here" :here="here" :done="done" @tell="tell" @close="asks = ''" />
      <LeftCard v-else-if="asks === 'left' && view" :view="view" @go="goTo" @take-up="tell(event('taken up'))" @close="asks = ''" />
      <template v-else-if="step && here && view">
        <div ref="told" class="told" :class="{ snug: smaller > 0, small: smaller > 1 }">
          <p class="where" data-testid="where">{{ here.where }}<template v-if="step.zone && !here.where.startsWith(step.zone)"> · {{ step.zone }}</template></p>
          <h2 class="line" data-testid="line">{{ step.kind === 'line' ? `${step.freehand ? tr('Freehand') : 'Line'} ${step.number} of ${here.many}` : step.kind === 'begin' ? tr('A new thread') : tr('On the way') }}</h2>
          <div ref="order" aria-live="polite">
            <p class="lay" data-testid="lay"><WordsText :words="step.lay" /></p>
            <p v-if="step.sum?.terms.length" class="sum" data-testid="sum-line">
              <template v-for="(term, k) in step.sum.terms" :key="k"><i v-if="k"> + </i><b><WordsText :words="term.words" /></b> {{ term.label }}</template>
              <i> = </i><b><WordsText :words="step.sum.total.words" /></b> {{ step.sum.total.label }}
            </p>
            <ol v-if="step.legs.length" class="legs" data-testid="legs"><li v-for="(leg, k) in step.legs" :key="k"><WordsText :words="leg" /></li></ol>
            <p v-if="step.sew.length" class="lay" data-testid="sew"><WordsText :words="step.sew" /></p>
            <p v-if="step.then.length" class="then" data-testid="then"><WordsText :words="step.then" /></p>
            <p v-if="step.hand.length" class="then">{{ tr('Stop needle-down and move your hand at') }} <WordsText :words="step.hand" /></p>
          </div>
          <p v-if="step.kind !== 'line' && here.bulk.length" class="then" data-testid="bulk"><WordsText :words="here.bulk" /></p>
          <p v-for="note in view.notes" :key="note" class="card weld">{{ note }}</p>
          <p v-if="!awake" class="quiet">{{ tr('This browser cannot keep the screen on. Turn off sleep in your device’s settings.') }}</p>
        </div>
        <button ref="main" class="go" data-testid="next" @click="next">{{ button }}<small>{{ tr('space bar · foot pedal') }}</small></button>
        <div class="keys">
          <button :disabled="!canGoBack" title="b" data-testid="back" @click="back">{{ tr('Back') }}</button>
          <button title="t" data-testid="broke" @click="ask('broke')">{{ tr('Thread broke') }}</button>
          <button class="pause" title="p" data-testid="pause" @click="ask('pause')">{{ tr('Pause') }}</button>
          <button class="more" :aria-expanded="more" data-testid="more" @click="more = !more">{{ more ? tr('Less') : tr('More') }}</button>
        </div>
        <div class="fold" :class="{ open: more }">
        <div class="keys small">
          <button class="pause phone" title="p" @click="ask('pause')">{{ tr('Pause') }}</button>
          <button :disabled="step.kind !== 'line'" :title="tr('Skip this line for now (s)')" data-testid="skip" @click="skip">{{ tr('Skip') }}</button>
          <button :disabled="step.kind !== 'line' || step.freehand" :title="tr('Sewn by eye, without the ruler (h)')" data-testid="otherwise" @click="otherwise">{{ tr('Sew by eye') }}</button>
          <button :title="tr('Unpicked lines (u)')" data-testid="unpicked" @click="ask('unpicked')">{{ tr('Unpick') }}</button>
          <button :title="tr('New bobbin (w)')" data-testid="bobbin" @click="bobbin">{{ tr('New bobbin') }}</button>
          <button :title="tr('Lines left (l)')" data-testid="left" @click="ask('left')">{{ tr('Lines left') }}</button>
        </div>
        <ol class="coming" :aria-label="tr('Coming up')">
          <li v-if="coming.length" class="quiet">{{ tr('Next') }}</li>
          <li v-for="(one, k) in coming" :key="k"><b v-if="one.number">{{ one.number }}</b><WordsText :words="one.short" /></li>
        </ol>
        <p class="caution" data-testid="caution">{{ view.caution }}</p>
        </div>
      </template>
      <template v-else-if="finished && view">
        <h2 class="line" data-testid="finished">{{ view.skipped ? tr('All but what you skipped') : tr('All of it is sewn') }}</h2>
        <p class="lay">{{ view.skipped ? counted(view.skipped, 'One line waits.', '{count} lines wait.') : tr('Bury the last threads, remove the marks, and look at your quilt from across the room.') }}</p>
        <button v-if="view.skipped" ref="main" class="go" data-testid="next" @click="tell(event('taken up'))">{{ tr('Sew the skipped lines') }}</button>
        <dl class="rows"><div v-for="(row, k) in view.tally" :key="k"><dt><WordsText :words="row.label" /></dt><dd><WordsText :words="row.words" /></dd></div></dl>
        <div class="keys"><button data-testid="back" @click="back">{{ tr('Back') }}</button><button data-testid="unpicked-end" @click="leave">{{ tr('To the plan') }}</button></div>
      </template>
      <p v-else-if="busy" class="lay" role="status">{{ tr('Looking for the next line …') }}</p>
      <p v-else-if="view && lost" class="lay">{{ tr('No more steps are stored here. Reconnect to Kenzet to go on.') }}</p>
    </section>
    <MachineBar v-if="view" v-model:aloud="aloud" class="bar" :view="view" :steps="steps" :done="done" :mm-done="mmDone" :machine="machine" :paused="asks === 'pause'" @leave="leave" />
  </div>
</template>

<style scoped>
.machine { display: grid; grid-template: minmax(0, 1fr) auto / minmax(0, 1fr) 452px; height: 100%; }
.table { position: relative; min-width: 0; min-height: 0; }
.say { background: var(--paper); border-left: 1px solid var(--rule); padding: 14px 24px 10px; overflow-y: auto; display: flex; flex-direction: column; gap: 10px; }
.bar { grid-column: 1 / -1; }
/* what goes on below fades out */
.told { flex: 1 1 0; min-height: 120px; overflow-y: auto; display: flex; flex-direction: column; gap: 8px; padding-bottom: 22px; mask-image: linear-gradient(#000 calc(100% - 26px), transparent); }
.told > * { flex: none; }
.snug .line { font-size: 30px; } .snug .lay { font-size: 21px; line-height: 1.3; } .snug .then { font-size: 17px; }
.small .line { font-size: 26px; } .small .lay { font-size: 18px; } .small .then, .small .legs { font-size: 16px; line-height: 1.35; }
.where { font-size: 16px; color: var(--soft); }
.line { font-size: 38px; line-height: 1.15; }
.lay { font-size: 25px; line-height: 1.36; }
.sum { font-size: 16px; color: var(--weld-ink); background: var(--weld-ground); border-radius: 6px; padding: 0 10px; margin: 3px 0; }
.sum i { font-style: normal; }
.legs { list-style: none; margin: 2px 0; padding: 0; font-size: 17px; line-height: 1.5; color: var(--soft); display: flex; flex-wrap: wrap; gap: 0 10px; }
.legs li:not(:last-child)::after { content: ' ·'; }
.then { font-size: 19px; line-height: 1.4; color: var(--soft); margin-top: 4px; }
.go { flex: none; min-height: 78px; border: 0; border-radius: 14px; background: var(--madder-fill); color: #fff; font-size: 25px; font-weight: 700; cursor: pointer; display: flex; flex-wrap: wrap; align-items: center; justify-content: center; gap: 0 16px; }
.go small { font-size: 15px; font-weight: 400; white-space: nowrap; }
.keys { display: grid; grid-template-columns: repeat(3, 1fr); gap: 10px; }
.keys button { min-height: 48px; border: 1px solid var(--rule); border-radius: 12px; background: var(--field); font-size: 18px; cursor: pointer; }
.keys button:disabled { opacity: .45; cursor: default; }
.keys.small { grid-template-columns: repeat(5, auto); gap: 7px; }
.say { touch-action: pan-y; }
.keys.small button { min-height: 44px; font-size: 15px; padding: 0 4px; }
.coming { list-style: none; padding: 0; margin: 0; font-size: 17px; display: flex; gap: 18px; align-items: center; flex: none; height: 34px; white-space: nowrap; overflow: hidden; }
.caution { flex: none; font-size: 13.5px; line-height: 1.35; color: var(--weld-ink); border-left: 4px solid var(--weld); padding-left: 10px; }
.coming li { display: flex; gap: 8px; align-items: center; }
@media (max-height: 760px) { .line { font-size: 30px; } .lay { font-size: 21px; } .then { font-size: 17px; } .where { font-size: 15px; } .go { min-height: 62px; font-size: 23px; } .keys button { min-height: 44px; } .say { gap: 7px; } }
.fold { display: contents; }
.more, .phone { display: none; }
@media (max-width: 900px) {
  .machine { grid-template: minmax(150px, 1fr) auto auto / minmax(0, 1fr); }
  .say { border-left: 0; border-top: 1px solid var(--rule); max-height: 68dvh; }
  .told { flex: 0 1 auto; }
}
/* on a phone the step, its sum and one button; the rest folds away */
@media (max-width: 600px) {
  .say { padding: 10px 16px; gap: 8px; max-height: none; }
  .told { max-height: 42dvh; }
  .line { font-size: 27px; } .lay { font-size: 22px; line-height: 1.28; } .then { font-size: 16px; }
  .where { font-size: 14px; }
  .keys button { font-size: 16px; }
  .go { min-height: 76px; }
  .go small { display: none; }
  .more { display: block; }
  .fold:not(.open) { display: none; }
  .fold.open .keys.small { grid-template-columns: repeat(3, 1fr); }
  .pause { display: none; }
  .fold.open .pause { display: block; }
}
</style>
