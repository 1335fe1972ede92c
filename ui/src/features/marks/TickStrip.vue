<script setup lang="ts">
/** The ticks of one edge on a tape, counted from its corner; labels that would touch are in two rows. */
import { computed } from 'vue'
import type { Views } from '../../api/client'
import FigureText from '../../parts/FigureText.vue'
import WordsText from '../../parts/WordsText.vue'
import { tr } from '../../texts'

const props = defineProps<{ edge: Views['EdgeView'] }>()
const length = computed(() => {
  const [x0, y0, x1, y1] = props.edge.points as [number, number, number, number]
  return Math.hypot(x1 - x0, y1 - y0)
})
const ticks = computed(() => {
  const [x0, y0] = props.edge.points as [number, number, number, number]
  return props.edge.ticks.map((tick, k) => ({
    ...tick,
    low: k % 2 === 1,
    share: (Math.hypot(tick.points[0]! - x0, tick.points[1]! - y0) / length.value) * 100,
  }))
})
const crowded = computed(() => ticks.value.length > 26)
</script>

<template>
  <section class="strip" :aria-label="tr('Ticks along the {name}', { name: edge.name })">
    <p class="name"><b>{{ edge.name }}</b>{{ tr(', from the {from_corner} corner', { from_corner: edge.from_corner }) }} <span class="quiet"><WordsText :words="edge.note" /></span></p>
    <div class="tape">
      <div class="inner">
        <span v-for="(tick, k) in ticks" :key="k" class="tick" :class="{ low: tick.low }" :style="{ left: `${tick.share}%` }">
          <i /><b v-if="!crowded"><FigureText :shown="tick.shown" /></b>
        </span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.strip { background: var(--paper); border-top: 1px solid var(--rule); padding: 8px 24px 12px; }
.name { font-size: 14px; margin-bottom: 6px; }
.name b { text-transform: capitalize; }
.tape { border: 1px solid var(--weld); background: var(--weld-ground); border-radius: 8px; padding: 0 26px; height: 74px; overflow: hidden; }
.inner { position: relative; height: 100%; border-left: 2px solid var(--weld-ink); border-right: 2px solid var(--weld-ink); }
.tick { position: absolute; top: 0; transform: translateX(-50%); display: grid; justify-items: center; }
.tick i { width: 2px; height: 12px; background: var(--madder-fill); }
.tick.low i { height: 38px; }
.tick b { font-size: 14px; background: var(--weld-ground); line-height: 1.1; }
</style>
