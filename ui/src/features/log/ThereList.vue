<script setup lang="ts">
/** What was sewn, zone by zone, with the tools used in a fold. */
import { ref } from 'vue'
import type { Views } from '../../api/client'
import FigureRows from '../../parts/FigureRows.vue'

defineProps<{ there: Views['ThereRow'][]; where?: boolean }>()
const opened = ref(-1)
</script>

<template>
  <ul>
    <li v-for="(one, k) in there" :key="k">
      <button :aria-expanded="opened === k" @click="opened = opened === k ? -1 : k"><b>{{ one.name }}<small v-if="where">{{ one.where }}</small></b><span>{{ one.words }}</span></button>
      <FigureRows v-if="opened === k" :rows="one.rows" />
    </li>
  </ul>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 2px; }
button { width: 100%; display: flex; justify-content: space-between; gap: 12px; border: 0; background: none; padding: 5px 0; color: inherit; font: inherit; font-size: 14px; text-align: left; cursor: pointer; }
button:hover b { text-decoration: underline; }
b { font-weight: 600; color: var(--indigo); }
small { display: block; font-weight: 400; color: var(--soft); font-size: 13px; }
span { color: var(--soft); white-space: nowrap; }
:deep(.rows dd) { white-space: normal; }
</style>
