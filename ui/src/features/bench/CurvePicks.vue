<script setup lang="ts">
/** Picking a curve on the block: two ends, then its top. */
import { computed } from 'vue'
import { placed, toQuilt, toScreen, unplaced, type Placing, type View } from '../../canvas/view'
import { useBench } from '../../state/bench'

const props = defineProps<{ view: View; placing: Placing; local: (event: { clientX: number; clientY: number }) => [number, number]; width: number; height: number }>()
const bench = useBench()
const SNAP_PX = 11
const dots = computed(() => bench.picked.map(([x, y]) => toScreen(props.view, ...placed(props.placing, x, y))))

const pick = (event: PointerEvent) =>
  bench.point(...unplaced(props.placing, ...toQuilt(props.view, ...props.local(event))), SNAP_PX / props.view.scale)
</script>

<template>
  <g data-testid="curve-picks">
    <rect v-if="bench.picking" :width="width" :height="height" fill="transparent" class="over" @pointerdown.stop @pointerup.stop="pick" />
    <path v-if="dots.length > 1" :d="`M${dots[0]!.join(' ')}L${dots[1]!.join(' ')}`" class="chord" />
    <circle v-for="(dot, k) in dots" :key="k" :cx="dot[0]" :cy="dot[1]" r="6" class="dot" />
  </g>
</template>

<style scoped>
.over { cursor: crosshair; }
.chord { stroke: var(--ink); stroke-width: 1.5; stroke-dasharray: 3 3; pointer-events: none; }
.dot { fill: #fff; stroke: var(--ink); stroke-width: 2.5; pointer-events: none; }
</style>
