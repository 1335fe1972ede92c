<script setup lang="ts">
/** The figures of a panel, one in each row. */
import type { Views } from '../api/client'
import WordsText from './WordsText.vue'
import { tr } from '../texts'

defineProps<{ rows: Views['Row'][] }>()
</script>

<template>
  <dl class="rows">
    <div v-for="(row, k) in rows" :key="k">
      <dt><WordsText :words="row.label" /><span v-if="row.typed" class="typed">{{ ' ' + tr('your setting') }}</span></dt>
      <dd><WordsText :words="row.words" /></dd>
    </div>
  </dl>
</template>

<style scoped>
.typed { color: var(--madder); font-size: 12px; }
</style>
