<script setup lang="ts">
/** A small drawing of a fill in the chooser. */
import type { Views } from '../../api/client'

defineProps<{ fill: Views['FillKind']; chosen: boolean }>()
</script>

<template>
  <button class="tile" :aria-pressed="chosen" :title="fill.help" :data-testid="`fill-${fill.kind}`">
    <svg viewBox="0 0 72 39" preserveAspectRatio="xMidYMid slice" aria-hidden="true"><path :d="fill.tile" /></svg>
    <span>{{ fill.label }}</span>
  </button>
</template>

<style scoped>
.tile { border: 1px solid var(--rule); border-radius: 10px; background: var(--field); padding: 5px 5px 4px; cursor: pointer; display: grid; gap: 3px; font-size: 13px; line-height: 1.2; align-content: start; }
.tile:hover { border-color: var(--indigo); }
.tile[aria-pressed='true'] { border: 2px solid var(--indigo); padding: 4px 4px 3px; font-weight: 700; color: var(--indigo); }
svg { height: 40px; background: #efe9dc; border-radius: 6px; width: 100%; }
path { fill: none; stroke: #2b3a67; stroke-width: 1.5; stroke-dasharray: 4 1.6; stroke-linejoin: round; }
</style>
