<script setup lang="ts">
/** A tape measure along the top or the left of the drawing. */
import { computed } from 'vue'
import type { Unit } from '../api/client'
import { tapeTicks } from './tape'

const props = defineProps<{ unit: Unit; scale: number; zero: number; length: number; side: 'top' | 'left' }>()
const LONG = [10, 8, 6, 4]
const ticks = computed(() => tapeTicks(props.unit, props.scale, props.zero, props.length))
const labelled = computed(() => ticks.value.filter((tick) => tick.label))
const path = computed(() =>
  ticks.value
    .map(({ at, rank }) => (props.side === 'top' ? `M${at} 36v${-LONG[rank]!}` : `M36 ${at}h${-LONG[rank]!}`))
    .join(''),
)
</script>

<template>
  <svg class="tape" :class="side" aria-hidden="true">
    <path :d="path" />
    <template v-for="tick in labelled" :key="tick.label">
      <text v-if="tick.at > 42 && side === 'top'" :x="tick.at" y="18" text-anchor="middle">{{ tick.label }}</text>
      <text v-else-if="side === 'left' && tick.at > 46" x="13" :y="tick.at + 4.5" text-anchor="middle" :textLength="tick.label.length > 2 ? 20 : undefined" lengthAdjust="spacingAndGlyphs">{{ tick.label }}</text>
    </template>
  </svg>
</template>

<style scoped>
.tape { position: absolute; background: var(--paper); pointer-events: none; overflow: hidden; }
.top { left: 0; top: 0; width: 100%; height: 36px; border-bottom: 1px solid var(--rule); }
.left { left: 0; top: 0; width: 36px; height: 100%; border-right: 1px solid var(--rule); }
path { stroke: #8f8a7d; stroke-width: 1; fill: none; }
text { font-size: 13px; fill: var(--soft); }
</style>
