<script setup lang="ts">
/** A small drawing of a zone: its fabrics, its surroundings faintly, and its lines as sewn. */
import { computed } from 'vue'
import type { Views } from '../api/client'
import { closedPath, linesPath, openPath } from '../canvas/paths'

const props = defineProps<{ rings: number[][]; patches: Views['PatchView'][]; drawing: Views['DrawingView']; fabrics: Record<string, Record<string, string>> }>()

const box = computed(() => {
  const xs = props.rings.flatMap((ring) => ring.filter((_, k) => k % 2 === 0))
  const ys = props.rings.flatMap((ring) => ring.filter((_, k) => k % 2 === 1))
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const pad = Math.max(right - left, high - low) * 0.03
  return { left: left - pad, low: low - pad, wide: right - left + 2 * pad, high: high - low + 2 * pad }
})
const outline = computed(() => closedPath(props.rings))
const veil = computed(() => {
  const { left, low, wide, high } = box.value
  return `M${left} ${low}h${wide}v${high}h${-wide}Z${outline.value}`
})
const lines = computed(() => linesPath(props.drawing))
const hints = computed(() => props.drawing.hints.map(openPath).join(''))
</script>

<template>
  <svg :viewBox="`0 0 ${box.wide} ${box.high}`" preserveAspectRatio="xMidYMid meet" aria-hidden="true">
    <g :transform="`matrix(1 0 0 -1 ${-box.left} ${box.low + box.high})`" fill="none">
      <path v-for="patch in patches" :key="patch.key" :d="closedPath(patch.rings)" :fill="fabrics[patch.fabric]?.colour ?? '#ccc'" fill-rule="evenodd" />
      <path :d="veil" fill="#fffcf6" fill-opacity=".8" fill-rule="evenodd" />
      <path :d="outline" class="outline" vector-effect="non-scaling-stroke" />
      <path :d="hints" class="hints" vector-effect="non-scaling-stroke" />
      <path :d="lines" class="sewn" vector-effect="non-scaling-stroke" />
    </g>
  </svg>
</template>

<style scoped>
svg { display: block; width: 100%; height: 100%; }
.outline { stroke: #6e685a; stroke-width: 1; }
.sewn { stroke: #2b3a67; stroke-width: 1.3; stroke-linejoin: round; }
.hints { stroke: #2b3a67; stroke-width: 1; stroke-opacity: .45; stroke-dasharray: 3 3; }
</style>
