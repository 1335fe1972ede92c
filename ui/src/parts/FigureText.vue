<script setup lang="ts">
/** A figure in the lettering of a ruler: whole number, stacked fraction, scant or generous, unit. */
import type { Views } from '../api/client'

defineProps<{ shown: Views['Shown'] }>()
const hairs: Record<number, string> = { [-1]: 'scant', 1: 'generous' }
</script>

<template>
  <span class="figure">
    <span class="sr">{{ shown.text }} {{ shown.unit }}</span>
    <span aria-hidden="true">
      <i v-if="shown.hair" class="hair">{{ hairs[shown.hair] }}</i>
      <span v-if="shown.minus">−</span>
      <span v-if="!shown.num || shown.whole !== '0'" class="whole">{{ shown.whole }}</span>
      <span v-if="shown.num" class="stack"><b>{{ shown.num }}</b><b>{{ shown.den }}</b></span>
      <span v-if="shown.unit" class="unit">{{ shown.unit }}</span>
    </span>
  </span>
</template>

<style scoped>
.figure { position: relative; }
.figure > span[aria-hidden] { display: inline-flex; align-items: center; gap: .16em; vertical-align: middle; white-space: nowrap; }
.stack { display: inline-grid; font-size: .74em; line-height: 1.08; text-align: center; }
.stack b { font-weight: inherit; padding: 0 .12em; }
.stack b:first-child { border-bottom: .09em solid currentColor; }
.unit { margin-left: .15em; }
.hair { font-size: .8em; font-weight: 400; margin-right: .15em; }
</style>
