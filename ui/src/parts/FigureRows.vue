<script setup lang="ts">
/** The figures of a slip, a line each. */
import type { Views } from '../api/client'
import WordsText from './WordsText.vue'

defineProps<{ rows: Views['Row'][] }>()
</script>

<template>
  <dl class="rows">
    <div v-for="(row, k) in rows" :key="k">
      <dt><WordsText :words="row.label" /></dt>
      <dd><WordsText :words="row.words" /></dd>
    </div>
  </dl>
</template>
