<script setup lang="ts">
/** Zones ranked by a figure, each with a bar; a click selects the zone. */
import type { Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'

defineProps<{ rows: Views['ZoneRow'][]; chosen: string; colours?: Record<string, string> }>()
const emit = defineEmits<{ choose: [zone: string] }>()
</script>

<template>
  <ol class="bars">
    <li v-for="row in rows" :key="row.zone">
      <button :aria-pressed="row.zone === chosen" @click="emit('choose', row.zone)">
        <span class="name">{{ row.name }}</span><b v-if="row.words.length"><WordsText :words="row.words" /></b>
        <i class="bar" aria-hidden="true"><i :style="{ width: `${Math.max(100 * row.share, 1)}%`, background: (row.hand && colours?.[row.hand]) || undefined }" /></i>
        <small>{{ row.note }}</small>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.bars { list-style: none; margin: 0; padding: 0; display: grid; gap: 2px; }
button { width: 100%; display: grid; grid-template-columns: minmax(min-content, 1fr) fit-content(70%); gap: 2px 10px; border: 1px solid transparent; border-radius: 8px; background: none; padding: 5px 8px; text-align: left; cursor: pointer; font-size: 14px; }
button:hover { background: var(--field); }
button[aria-pressed='true'] { background: var(--indigo-wash); border-color: var(--indigo); }
.name { overflow-wrap: anywhere; }
b { font-weight: 600; max-width: 60vw; text-align: right; }
.bar { grid-column: 1 / -1; height: 8px; border-radius: 4px; background: var(--rule); overflow: hidden; }
.bar i { display: block; height: 100%; border-radius: 4px; background: var(--indigo-fill); }
small { grid-column: 1 / -1; color: var(--soft); font-size: 13px; }
</style>
