<script setup lang="ts">
/** A figure as on a ruler: whole number, stacked fraction, scant or generous, unit. */
import type { Views } from '../api/client'
import { tr } from '../texts'

defineProps<{ shown: Views['Shown'] }>()
const hairs: Record<number, string> = { [-1]: tr('scant'), 1: tr('generous') }
</script>

<template>
  <span class="figure">
    <span class="sr">{{ shown.text }} {{ shown.unit }}</span>
    <span aria-hidden="true">
      <i v-if="shown.hair" class="hair">{{ hairs[shown.hair] }}</i>
      <span v-if="shown.minus">−</span>
      <span v-if="!shown.num || shown.whole !== '0'" class="whole">{{ shown.whole }}</span>
      <span v-if="shown.num" class="fraction"><b>{{ shown.num }}</b><b>{{ shown.den }}</b></span>
      <span v-if="shown.unit" class="unit">{{ shown.unit }}</span>
    </span>
  </span>
</template>

<style scoped>
.figure { position: relative; }
.figure > span[aria-hidden] { display: inline-flex; align-items: center; gap: .14em; line-height: 1; vertical-align: middle; white-space: nowrap; margin-top: -.1em; }
/* lining digits fill a line of .74em: the bar has the same air above and below, and the whole is as high as a line of text */
.fraction { display: inline-grid; font-size: .7em; font-variant-numeric: lining-nums; text-align: center; }
.fraction b { font-weight: inherit; line-height: .74; padding: .13em .1em; }
.fraction b:first-child { border-bottom: .1em solid currentColor; }
.unit { margin-left: .15em; }
.hair { font-size: .8em; font-weight: 400; margin-right: .15em; }
</style>
