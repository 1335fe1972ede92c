<script setup lang="ts">
/** A fill of the chooser, drawn small. */
import type { Views } from '../../api/client'

defineProps<{ fill: Views['FillKind']; chosen: boolean }>()
const TILES: Record<string, string> = {
  lines: 'M-4 14 14 -4M-4 27 27 -4M-4 40 40 -4M6 43 53 -4M19 43 66 -4M32 43 76 -1M45 43 76 12M58 43 76 25',
  grid: 'M-4 14 14 -4M-4 40 40 -4M19 43 66 -4M45 43 76 12M-4 25 14 43M-4 -1 40 43M19 -4 66 43M45 -4 76 27',
  echo: 'M4 36 36 3 68 36ZM17 31 36 11.5 55 31ZM29 26.5 36 19.5 43 26.5Z',
}
</script>

<template>
  <button class="tile" :aria-pressed="chosen" :title="fill.help" :data-testid="`fill-${fill.kind}`">
    <svg viewBox="0 3 72 31" preserveAspectRatio="xMidYMid slice" aria-hidden="true"><path :d="TILES[fill.kind] ?? 'M6 20H66'" /></svg>
    <span>{{ fill.label }}</span>
  </button>
</template>

<style scoped>
.tile { flex: 1; max-width: 110px; border: 1px solid var(--rule); border-radius: 10px; background: #fff; padding: 5px 5px 4px; cursor: pointer; display: grid; gap: 3px; font-size: 14px; }
.tile:hover { border-color: var(--indigo); }
.tile[aria-pressed='true'] { border: 2px solid var(--indigo); padding: 4px 4px 3px; font-weight: 700; color: var(--indigo); }
svg { height: 36px; background: #efe9dc; border-radius: 6px; width: 100%; }
path { fill: none; stroke: #2b3a67; stroke-width: 1.5; stroke-dasharray: 4 1.6; stroke-linejoin: round; }
</style>
