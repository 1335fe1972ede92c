<script setup lang="ts">
/** What she ought to know of the whole quilt, the most harmful first: three sentences, the rest behind a button. */
import { computed, ref } from 'vue'
import type { Views } from '../../api/client'
import WordsText from '../../parts/WordsText.vue'

const MOST = 3
const props = defineProps<{ told: Views['BalanceTold'][]; busy: boolean }>()
const emit = defineEmits<{ step: [step: Views['BalanceStep']]; show: [at: number[]] }>()
const all = ref(false)
const shown = computed(() => (all.value ? props.told : props.told.slice(0, MOST)))
</script>

<template>
  <div class="told" data-testid="balance-known">
    <div v-for="(one, k) in shown" :key="k" class="card" :class="one.tone === 'warns' ? 'weld' : 'tip'">
      <p><WordsText :words="one.words" /></p>
      <div v-if="one.steps.length || one.at" class="chips">
        <v-btn v-for="step in one.steps" :key="step.label" class="chip" :disabled="busy" data-testid="balance-step" @click="emit('step', step)">{{ step.label }}</v-btn>
        <v-btn v-if="one.at" class="plain" data-testid="show-gap" @click="emit('show', one.at!)">Show the place</v-btn>
      </div>
    </div>
    <v-btn v-if="told.length > MOST" class="plain more" :aria-expanded="all" @click="all = !all">{{ all ? 'Show less' : `${told.length - MOST} more to know` }}</v-btn>
  </div>
</template>

<style scoped>
.told { display: grid; gap: 8px; }
.card { padding: 8px 12px; }
.chips { margin-top: 6px; align-items: center; }
.more { justify-self: start; }
</style>
