<script setup lang="ts">
/** A curve by its chord and its rise: the radius, and which ruler's edge sews it. */
import { ref, shallowRef, watch } from 'vue'
import { api, type Views } from '../../api/client'
import { figure, FINE } from '../../bench/figure'
import FigureRows from '../../parts/FigureRows.vue'
import WordsText from '../../parts/WordsText.vue'
import { useAsk } from '../../state/ask'
import { useBench } from '../../state/bench'
import { useQuilt } from '../../state/quilt'
import { tr } from '../../texts'

const quilt = useQuilt()
const bench = useBench()
const chord = ref('')
const rise = ref('')
const found = shallowRef<Views['FoundCurve']>()
const { ask, drop, fault: wrong } = useAsk()

/** Points picked on the block fill the fields. */
watch(() => bench.picked, ([a, b, top]) => {
  if (!a || !b || !top) return
  const long = Math.hypot(b[0] - a[0], b[1] - a[1])
  const off = Math.abs((b[0] - a[0]) * (top[1] - a[1]) - (b[1] - a[1]) * (top[0] - a[0])) / Math.max(long, 1e-6)
  chord.value = figure(long, quilt.unit, FINE[quilt.unit], true).text
  rise.value = figure(off, quilt.unit, FINE[quilt.unit], true).text
  void look()
})
function pick() {
  bench.picked = []
  bench.picking = true
}

async function look() {
  drop()
  if (!chord.value.trim() || !rise.value.trim()) return
  const now = await ask((signal) => api.curve(quilt.id, { chord: chord.value, rise: rise.value, unit: quilt.unit }, signal))
  if (now) found.value = now
}
</script>

<template>
  <details data-testid="curve">
    <summary>{{ tr('A ruler for a curve …') }}</summary>
    <div class="stack">
      <p class="quiet">{{ tr('Hold a ruler from end to end of the curve. Its length is the chord; the widest gap to the curve is the rise.') }}</p>
      <v-btn class="chip" :aria-pressed="bench.picking" data-testid="pick-curve" @click="pick()">{{ tr('Pick the curve on the quilt') }}</v-btn>
      <div class="two">
        <label><span class="label">{{ tr('Chord') }}</span><input v-model="chord" class="text" :aria-invalid="wrong?.field === 'chord'" data-testid="chord" @input="look()" /></label>
        <label><span class="label">{{ tr('Rise') }}</span><input v-model="rise" class="text" :aria-invalid="wrong?.field === 'rise'" data-testid="rise" @input="look()" /></label>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong.message }}</p>
      <template v-if="found && chord && rise">
        <p class="card weld" data-testid="radius"><WordsText :words="found.words" /></p>
        <FigureRows :rows="found.rows" />
        <button v-for="(curve, k) in found.curves" :key="k" class="fit" :class="curve.verdict.replaceAll(' ', '-')" :data-testid="`fit-${k}`" @click="bench.layCurve(found.rulers[k]!, found.edges[k]!)">
          <b>{{ curve.name }}</b><em>{{ tr(curve.verdict) }}</em><span><WordsText :words="curve.words" /></span>
        </button>
      </template>
    </div>
  </details>
</template>

<style scoped>
summary { cursor: pointer; color: var(--indigo); text-decoration: underline; text-underline-offset: 3px; font-size: 14px; }
.stack { margin-top: 8px; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
.two label { display: grid; gap: 4px; }
.two input { width: 100%; }
.fit { display: grid; grid-template-columns: 1fr auto; gap: 0 8px; text-align: left; border: 1px solid var(--rule); border-radius: 8px; background: var(--field); padding: 6px 10px; cursor: pointer; font-size: 14px; }
.fit span { grid-column: 1 / -1; }
.fit em { font-style: normal; font-weight: 700; color: var(--madder); }
.fit.fits em { color: var(--leaf); }
.fit.can-be-nudged em { color: var(--weld-ink); }
</style>
