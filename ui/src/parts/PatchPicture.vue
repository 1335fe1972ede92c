<script setup lang="ts">
/** A small drawing of a block from its patches. */
import { computed } from 'vue'
import type { Views } from '../api/client'
import { closedPath } from '../canvas/paths'

const props = defineProps<{ patches: Views['PatchView'][]; width: number; height: number; colours: Record<string, string>; size?: number }>()
const shown = computed(() => props.patches.map((p) => ({ path: closedPath(p.rings), colour: props.colours[p.fabric] ?? '#ccc' })))
const thin = computed(() => Math.max(props.width, props.height) / 90)
</script>

<template>
  <svg :width="size ?? 60" :height="size ?? 60" :viewBox="`0 0 ${width} ${height}`" aria-hidden="true">
    <g :transform="`matrix(1 0 0 -1 0 ${height})`" stroke="#6e685a" stroke-opacity=".7" :stroke-width="thin" stroke-linejoin="round">
      <path v-for="(one, k) in shown" :key="k" :d="one.path" :fill="one.colour" fill-rule="evenodd" />
    </g>
  </svg>
</template>

<style scoped>
svg { display: block; }
</style>
