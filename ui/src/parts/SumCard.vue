<script setup lang="ts">
/** The sum in the order in which the hands do it, or why no etched line fits. */
import type { Views } from '../api/client'
import WordsText from './WordsText.vue'
import { tr } from '../texts'

defineProps<{ sum: Views['SumView']; heading: string }>()
defineEmits<{ choose: [value: string] }>()
</script>

<template>
  <section class="card weld" data-testid="sum">
    <div class="head"><span>{{ heading }}<span v-if="sum.ruler && sum.kind !== 'none'" data-testid="with-ruler">{{ tr(', with “{ruler}”', { ruler: sum.ruler }) }}</span></span><slot /></div>
    <div v-if="sum.terms.length" class="sum">
      <template v-for="(term, k) in sum.terms" :key="k">
        <b v-if="k" class="sign">+</b>
        <span class="term"><strong><WordsText :words="term.words" /></strong><small>{{ term.label }}</small></span>
      </template>
      <b class="sign">=</b>
      <span class="term"><strong><WordsText :words="sum.total.words" /></strong><small>{{ sum.total.label }}</small></span>
    </div>
    <p v-if="sum.sentence.length"><WordsText :words="sum.sentence" /></p>
    <div v-if="sum.offers.length" class="chips near">
      <v-btn v-for="offer in sum.offers" :key="offer.value" class="chip" :title="offer.label" @click="$emit('choose', offer.value)">
        <WordsText :words="offer.words" />
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
.head { display: flex; justify-content: space-between; align-items: baseline; gap: 8px; font-size: 14px; }
.sum { display: flex; align-items: flex-start; gap: 8px; margin-top: 6px; }
.term { display: grid; justify-items: center; text-align: center; gap: 2px; }
.term strong { font-size: 19px; line-height: 1.25; min-height: 34px; display: grid; align-items: center; }
.term small { font-size: 13px; color: var(--weld-ink); line-height: 1.2; }
.sign { font-size: 20px; line-height: 34px; }
.near { margin-top: 8px; }
</style>
