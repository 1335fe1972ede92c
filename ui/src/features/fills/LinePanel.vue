<script setup lang="ts">
/** The chosen line: what it is placed from, its sum, its stops. */
import type { Views } from '../../api/client'
import FigureRows from '../../parts/FigureRows.vue'
import SumCard from '../../parts/SumCard.vue'
import WordsText from '../../parts/WordsText.vue'
import { useZone } from '../../state/zone'
import { tr } from '../../texts'

defineProps<{ ruler: Views['RulerView'] }>()
const zone = useZone()
</script>

<template>
  <section class="line" data-testid="line-panel">
    <div class="top">
      <b>{{ tr('Line {line} of {lines}', { line: ruler.line + 1, lines: zone.lines }) }}</b>
      <span>
        <v-btn class="chip" :aria-label="tr('The line before')" :title="tr('The line before (,)')" @click="zone.next(-1)">‹</v-btn>
        <v-btn class="chip" :aria-label="tr('The next line')" :title="tr('The next line (.)')" @click="zone.next(1)">›</v-btn>
        <v-btn class="chip" :aria-label="tr('Deselect the line')" :title="tr('Deselect (Esc)')" @click="zone.drop()">×</v-btn>
      </span>
    </div>
    <SumCard v-if="ruler.sum" :sum="ruler.sum" :heading="zone.plan?.sew_with === 'walking foot' ? tr('How this line is placed') : tr('Where the ruler goes')" @choose="zone.set('spacing', $event)" />
    <p v-else class="card weld"><WordsText :words="ruler.laid" /></p>
    <div v-if="ruler.rulers.length > 1 || zone.plan?.own_ruler" class="rulers" role="group" :aria-label="tr('Rulers for this line, the best first')" data-testid="rulers">
      <span class="label">{{ tr('Your rulers, best first') }}</span>
      <v-btn
        v-for="one in ruler.rulers" :key="one.key" class="chip" :class="{ off: !one.fits }" :disabled="!!one.fault" :title="one.fault" :aria-pressed="one.key === ruler.ruler"
        :data-testid="`lay-${one.key}`" @click="zone.layWith(one.key, null)"
      ><b>{{ one.name }}</b> <WordsText v-if="one.words.length" :words="one.words" /><template v-else>{{ tr('not safe with this foot') }}</template></v-btn>
      <v-btn v-if="zone.plan?.own_ruler" class="plain" data-testid="lay-best" @click="zone.layWith(null, null)">{{ tr('Your choice. Use the recommended ruler') }}</v-btn>
    </div>
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
.line { display: grid; gap: 10px; border: 1px solid var(--rule); border-radius: 10px; padding: 12px; background: var(--field); }
.top { display: flex; justify-content: space-between; align-items: center; color: var(--madder); }
.top span { display: flex; gap: 6px; }
.rulers { display: grid; gap: 5px; justify-items: stretch; }
.rulers .chip { display: flex; justify-content: space-between; gap: 8px; text-align: left; }
.rulers .off { color: var(--soft); }
ul.curves { padding: 0; list-style: none; gap: 6px; }
.curves li { display: grid; grid-template-columns: 1fr auto; gap: 0 8px; border-top: 1px dashed var(--rule); padding-top: 5px; }
.curves b { grid-column: 1 / -1; }
.curves em { font-style: normal; font-weight: 700; color: var(--madder); }
.curves .fits em { color: var(--leaf, #3f6b56); }
.curves .can-be-nudged em { color: var(--weld-ink); }
ul { padding-left: 18px; font-size: 14px; display: grid; gap: 4px; }
</style>
