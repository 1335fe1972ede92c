<script setup lang="ts">
/** Advice, the most harmful first: three sentences, the others behind a button. Each has its remedy, or shows its place. */
import { computed, ref, watch } from 'vue'
import type { Views } from '../api/client'
import WordsText from './WordsText.vue'
import { tr } from '../texts'

const MOST = 3
type Told = Omit<Views['Known'], 'mend'> & { mend?: Views['Known']['mend']; steps?: Views['BalanceStep'][] }
const props = defineProps<{ known: Told[]; busy?: boolean }>()
const emit = defineEmits<{ mend: [values: Record<string, string | null>]; step: [step: Views['BalanceStep']]; show: [at: number[]] }>()
const all = ref(false)
const shown = computed(() => (all.value ? props.known : props.known.slice(0, MOST)))
watch(() => props.known, () => { if (props.known.length <= MOST) all.value = false })
</script>

<template>
  <div v-if="known.length" class="known" data-testid="known">
    <div v-for="(one, k) in shown" :key="k" class="card" :class="one.tone === 'warns' ? 'weld' : 'tip'">
      <p><WordsText :words="one.words" /></p>
      <div v-if="one.mend || one.steps?.length || one.at" class="chips">
        <v-btn v-if="one.mend" class="chip" data-testid="mend" @click="emit('mend', one.mend!.values)">{{ one.mend.label }}</v-btn>
        <v-btn v-for="step in one.steps" :key="step.label" class="chip" :disabled="busy" data-testid="mend" @click="emit('step', step)">{{ step.label }}</v-btn>
        <v-btn v-if="one.at" class="plain" data-testid="show-place" @click="emit('show', one.at!)">{{ tr('Show the place') }}</v-btn>
      </div>
    </div>
    <v-btn v-if="known.length > MOST" class="plain more" data-testid="known-more" @click="all = !all">{{ all ? tr('Show less') : tr('{known} more to know', { known: known.length - MOST }) }}</v-btn>
  </div>
</template>

<style scoped>
.known { display: grid; gap: 8px; }
.card { padding: 8px 12px; }
.chips { margin-top: 6px; align-items: center; }
.more { justify-self: start; }
</style>
