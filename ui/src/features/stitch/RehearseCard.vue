<script setup lang="ts">
/** The needle runs along the route at a chosen speed; it can be paused, stepped, or dragged. */
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'
import { typed, usePressed } from '../../parts/pressed'
import { marksAlong, needleAt, stopsOf, type Needle } from '../../sewing/walk'
import { tr } from '../../texts'

const props = defineProps<{ here: Views['HereView'] }>()
const emit = defineEmits<{ at: [needle: Needle, into: number] }>()

const SPEEDS = [[tr('slow'), 40], [tr('as sewn'), 120], [tr('quick'), 480]] as const
const WAIT_MS = 350
const far = ref(0)
const running = ref(false)
const speed = ref<number>(120)
const marks = computed(() => marksAlong(props.here.legs))
const all = computed(() => marks.value[marks.value.length - 1] ?? 0)
const needle = computed(() => needleAt(props.here.legs, marks.value, far.value))
const leg = computed(() => props.here.legs[needle.value.piece])
const next = computed(() => props.here.legs[needle.value.piece + 1])
const stops = computed(() => stopsOf(props.here.legs))
let frame = 0
let before = 0
let waits = 0

watch([needle, far], () => emit('at', needle.value, far.value - (marks.value[needle.value.piece] ?? 0)), { immediate: true })
watch(() => props.here.place + props.here.legs.length, () => halt(0))

function run(now: number) {
  const since = Math.min(now - before, 100)
  before = now
  waits -= since
  if (waits <= 0) {
    const piece = needle.value.piece
    const goes = Math.min(far.value + (since / 1000) * speed.value, all.value)
    // stops, needle down, at the end of a piece
    far.value = goes
    if (needle.value.piece !== piece) waits = WAIT_MS * Math.min(1, 120 / speed.value)
  }
  if (far.value >= all.value) return void (running.value = false)
  frame = requestAnimationFrame(run)
}
function go() {
  if (running.value) return halt()
  if (far.value >= all.value) far.value = 0
  running.value = true
  before = performance.now()
  frame = requestAnimationFrame(run)
}
function halt(to?: number) {
  running.value = false
  cancelAnimationFrame(frame)
  if (to !== undefined) far.value = to
}
function step(by: number) {
  const at = needle.value.piece
  const back = by < 0 && far.value > (marks.value[at] ?? 0) + 1e-6 ? at : at + by
  halt(marks.value[Math.min(Math.max(back, 0), props.here.legs.length)] ?? 0)
}
function keys(event: KeyboardEvent) {
  const target = event.target as HTMLElement
  if (typed(event)) return
  const does: Record<string, () => void> = { ' ': go, ArrowRight: () => step(1), ArrowLeft: () => step(-1) }
  if (!does[event.key] || (event.key === ' ' && target.closest('button, a'))) return
  event.preventDefault()
  event.stopImmediatePropagation()
  does[event.key]!()
}
usePressed(keys, true)
onBeforeUnmount(() => halt())
</script>

<template>
  <section class="rehearse" :aria-label="tr('Rehearse')">
    <div class="between"><p class="label">{{ tr('Rehearse') }}</p><span class="quiet" data-testid="piece">{{ tr('{piece} of {legs}', { piece: Math.min(needle.piece + 1, here.legs.length), legs: here.legs.length }) }}</span></div>
    <div class="keys">
      <v-btn class="chip" :aria-label="tr('One piece back')" data-testid="leg-back" @click="step(-1)">‹</v-btn>
      <button class="do" data-testid="run" @click="go">{{ running ? tr('Stop') : far >= all ? tr('Play again') : tr('Run the needle') }}</button>
      <v-btn class="chip" :aria-label="tr('One piece on')" data-testid="leg-on" @click="step(1)">›</v-btn>
    </div>
    <input type="range" min="0" :max="all" step="any" :value="far" :aria-label="tr('Along the route')" data-testid="scrub" @input="halt(Number(($event.target as HTMLInputElement).value))" />
    <div class="chips" role="group" :aria-label="tr('Speed')">
      <v-btn v-for="[name, mm] in SPEEDS" :key="name" class="chip" :aria-pressed="speed === mm" @click="speed = mm">{{ name }}</v-btn>
    </div>
    <p class="now" aria-live="polite" data-testid="now"><WordsText v-if="leg" :words="leg.words" /><template v-else>{{ tr('End of this route.') }}</template></p>
    <p v-if="next" class="quiet">{{ tr('Then: {begins}', { begins: next.begins ? tr('end the thread, and start again. ') : '' }) }}<WordsText :words="next.words" /></p>
    <div v-if="stops.length" class="chips" role="group" :aria-label="tr('Thread cuts')">
      <span class="quiet">{{ tr('Thread cuts') }}</span>
      <v-btn v-for="(piece, k) in stops" :key="piece" class="chip" :class="{ flash: needle.piece === piece }" @click="halt(marks[piece])">{{ k + 1 }}</v-btn>
    </div>
  </section>
</template>

<style scoped>
.rehearse { display: grid; gap: 9px; }
.keys { display: grid; grid-template-columns: 48px 1fr 48px; gap: 8px; }
.keys .chip { min-height: 48px; font-size: 20px; }
.do { min-height: 48px; border-radius: 10px; background: var(--indigo-fill); color: #fff; font-size: 17px; font-weight: 700; cursor: pointer; border: 0; }
input { width: 100%; accent-color: var(--madder); }
.now { font: 400 21px/1.3 var(--v-font-heading); color: var(--indigo); min-height: 2.6em; }
.chips { align-items: center; }
.flash { border-color: var(--madder); color: var(--madder); font-weight: 700; }
</style>
