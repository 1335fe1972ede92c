<script setup lang="ts">
/** The chosen line: what it is laid from, its sum, its stops. */
import type { Views } from '../../api/client'
import FigureRows from '../../parts/FigureRows.vue'
import SumCard from '../../parts/SumCard.vue'
import WordsText from '../../parts/WordsText.vue'
import { useZone } from '../../state/zone'

defineProps<{ ruler: Views['RulerView'] }>()
const zone = useZone()
</script>

<template>
  <section class="line" data-testid="line-slip">
    <div class="top">
      <b>Line {{ ruler.line + 1 }} of {{ zone.lines }}</b>
      <span>
        <button class="chip" aria-label="The line before" title="The line before (,)" @click="zone.next(-1)">‹</button>
        <button class="chip" aria-label="The next line" title="The next line (.)" @click="zone.next(1)">›</button>
        <button class="chip" aria-label="Let go of the line" title="Let go (Esc)" @click="zone.drop()">×</button>
      </span>
    </div>
    <SumCard v-if="ruler.sum" :sum="ruler.sum" heading="Where the ruler goes" @choose="zone.set('spacing', $event)" />
    <p v-else class="card weld"><WordsText :words="ruler.laid" /></p>
    <ul v-if="ruler.curves.length" class="curves" data-testid="curves">
      <li v-for="(curve, k) in ruler.curves" :key="k" :class="curve.verdict.replaceAll(' ', '-')"><b>{{ curve.name }}</b> <WordsText :words="curve.words" /><em>{{ curve.verdict }}</em></li>
    </ul>
    <ul>
      <li v-for="(stop, k) in ruler.stops.filter((s) => s.words.length)" :key="k"><WordsText :words="stop.words" /></li>
    </ul>
    <FigureRows :rows="ruler.rows" />
    <p class="quiet">{{ ruler.caution }}</p>
  </section>
</template>

<style scoped>
.line { display: grid; gap: 10px; border: 1px solid var(--rule); border-radius: 10px; padding: 12px; background: #fff; }
.top { display: flex; justify-content: space-between; align-items: center; color: var(--madder); }
.top span { display: flex; gap: 6px; }
ul.curves { padding: 0; list-style: none; gap: 6px; }
.curves li { display: grid; grid-template-columns: 1fr auto; gap: 0 8px; border-top: 1px dashed var(--rule); padding-top: 5px; }
.curves b { grid-column: 1 / -1; }
.curves em { font-style: normal; font-weight: 700; color: var(--madder); }
.curves .fits em { color: var(--leaf, #3f6b56); }
.curves .can-be-nudged em { color: var(--weld-ink); }
ul { padding-left: 18px; font-size: 14px; display: grid; gap: 4px; }
</style>
