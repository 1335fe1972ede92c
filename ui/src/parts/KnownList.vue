<script setup lang="ts">
/** What she ought to know, the most harmful first: three sentences, the rest behind a button. Each mends itself, or shows its place. */
import { computed, ref, watch } from 'vue'
import type { Views } from '../api/client'
import WordsText from './WordsText.vue'

const MOST = 3
const props = defineProps<{ known: Views['Known'][] }>()
const emit = defineEmits<{ mend: [values: Record<string, string | null>]; show: [at: number[]] }>()
const all = ref(false)
const shown = computed(() => (all.value ? props.known : props.known.slice(0, MOST)))
watch(() => props.known, () => { if (props.known.length <= MOST) all.value = false })
</script>

<template>
  <div v-if="known.length" class="known" data-testid="known">
    <div v-for="(one, k) in shown" :key="k" class="card" :class="one.tone === 'warns' ? 'weld' : 'tip'">
      <p><WordsText :words="one.words" /></p>
      <div v-if="one.mend || one.at" class="chips">
        <v-btn v-if="one.mend" class="chip" data-testid="mend" @click="emit('mend', one.mend!.values)">{{ one.mend.label }}</v-btn>
        <v-btn v-if="one.at" class="plain" data-testid="show-place" @click="emit('show', one.at!)">Show the place</v-btn>
      </div>
    </div>
    <v-btn v-if="known.length > MOST" class="plain more" data-testid="known-more" @click="all = !all">{{ all ? 'Show less' : `${known.length - MOST} more to know` }}</v-btn>
  </div>
</template>

<style scoped>
.known { display: grid; gap: 8px; }
.card { padding: 8px 12px; }
.chips { margin-top: 6px; align-items: center; }
.more { justify-self: start; }
</style>
